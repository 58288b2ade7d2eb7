#include "app/places/bench/inspector.h"

#include "app/places/bench/device_state.h"
#include "app/places/bench/offer_row_button.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/base/at.h"
#include "core/edit/device_edits.h"
#include "core/library/motor_plate.h"
#include "core/library/registry.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace ts::app {
Inspector::Inspector(BenchSession& session, const Theme& theme, QWidget* parent)
    : QScrollArea(parent)
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("inspector");
    setAccessibleName(tr("What is selected"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    connect(&session, &BenchSession::frameChanged, this, &Inspector::refresh);
    connect(&session, &BenchSession::runChanged, this, &Inspector::rebuild);
}

void Inspector::setDossier(Snapshot dossier, const wording::Habits& habits)
{
    m_habits = habits;
    m_dossier = dossier ? std::move(dossier) : std::make_shared<const Dossier>();
    rebuild();
}

void Inspector::expect(Snapshot dossier)
{
    m_dossier = std::move(dossier);
}

void Inspector::show(const offers::Picked& target)
{
    if (target == m_target)
        return;
    m_target = target;
    m_showsAll = target.role.empty();
    rebuild();
}

void Inspector::rebuild()
{
    m_faults.clear();
    m_knobs.clear();
    m_state = nullptr;
    emit gapsChanged({});
    auto* inside = new QWidget;
    m_list = new QVBoxLayout(inside);
    m_list->setContentsMargins(12, 10, 12, 10);
    m_list->setSpacing(4);
    int device = -1;
    if (m_session.hasRun())
        for (std::size_t i = 0; i < m_session.plant().devices.size(); ++i)
            if (m_session.plant().devices[i].id == m_target.device)
                device = static_cast<int>(i);
    m_offers = m_session.hasRun() ? offers::offersFor(*m_dossier, m_target) : std::vector<offers::Offer>();
    if (const Wire* wire = circuit().wire(m_target.wire))
        addWire(*wire);
    else if (device >= 0 && circuit().device(m_target.device))
        addDevice(device);
    else
        addNothing();
    m_list->addStretch(1);
    setWidget(inside);
    refresh();
}

QLabel* Inspector::addHeading(const QString& text)
{
    m_list->addSpacing(6);
    QLabel* label = plainLabel(text, m_theme.bold(), this);
    m_list->addWidget(label);
    return label;
}

void Inspector::addNothing()
{
    if (!m_session.hasRun())
        return;
    m_list->addWidget(plainLabel(tr("Nothing selected"), m_theme.bold(), this));
    m_list->addWidget(plainLabel(
        tr("Press buttons on the door. Click a contact, coil or device to see its state, work it by hand or break it. "
           "Click a terminal to put a probe on it."),
        m_theme.body(), this));
    addOffers();
    if (m_session.run().state().faults.empty())
        return;
    addHeading(tr("Faults that are on"));
    for (const Fault& f : m_session.run().state().faults)
        if (const auto site = faultFrom(m_session.plant(), faultId(m_session.plant(), f)))
            addFault(*site, words::faultText(m_session.plant(), *site));
}

void Inspector::addDevice(int index)
{
    const PlantDevice& d = m_session.plant().devices[at(index)];
    const Device& device = *circuit().device(m_target.device);
    QString title = QString::fromStdString(d.tag);
    if (!m_target.role.empty())
        title += ": " + words::word("element." + m_target.role);
    QLabel* heading = plainLabel(title, m_theme.verdict(), this);
    heading->setObjectName("inspector.title");
    m_list->addWidget(heading);
    QString kind = words::word("kind." + device.kind);
    if (!device.label.empty())
        kind += ", " + QString::fromStdString(device.label);
    m_list->addWidget(plainLabel(kind, m_theme.body(), this));
    if (!device.remark.empty())
        m_list->addWidget(
            plainLabel(tr("Remark: %1").arg(QString::fromStdString(device.remark)), m_theme.small(), this));
    if (isMotor(device))
        addMotorPlate(device);
    addContacts();
    m_state = plainLabel(QString(), m_theme.body(), this);
    m_state->setObjectName("inspector.state");
    m_list->addWidget(m_state);
    addFeeding(index);
    addOffers();
    addActions(index);
    addTripCaution(index);
    addKnobs(index);
    addFaults(index);
}

/// Of what trips by the current in its poles; a coil's own winding is none of it.
void Inspector::addTripCaution(int index)
{
    const Plant& plant = m_session.plant();
    const auto& own = plant.devices[at(index)].protections;
    if (std::none_of(own.begin(), own.end(), [&plant](int p) { return !plant.protections[at(p)].data.poles.empty(); }))
        return;
    QLabel* caution = plainLabel(QString::fromStdString(wording::tripCaution()), m_theme.small(), this);
    caution->setObjectName("inspector.caution");
    m_list->addWidget(caution);
}

void Inspector::addFeeding(int index)
{
    if (!feedingOf(m_session.plant(), m_session.run().state(), m_session.frame(), index))
        return;
    auto* view = new FeedingView(m_session, m_theme, index, this);
    connect(view, &FeedingView::gapPicked, this, [this](DeviceId device, const std::string& role) {
        emit elementPicked({device, role, {}});
    });
    connect(view, &FeedingView::gapsChanged, this, &Inspector::gapsChanged);
    m_list->addWidget(view);
    view->announce();
}

/// What it has to switch control circuits with, and what of that is left.
void Inspector::addContacts()
{
    const auto budget = edit::contactBudget(circuit(), m_target.device);
    if (!budget || budget->contacts.empty())
        return;
    QStringList free;
    for (const edit::ContactUse& use : budget->contacts)
        if (!use.isUsed)
            free << QString::fromStdString(use.role);
    QString text = tr("%1 contacts, ").arg(budget->contacts.size())
        + (free.isEmpty() ? tr("none free") : tr("free: %1").arg(free.join(QStringLiteral(", "))));
    if (free.isEmpty() && budget->takesBlocks)
        text += tr("; takes a block (K)");
    m_list->addWidget(plainLabel(text, m_theme.body(), this));
}

void Inspector::addMotorPlate(const Device& device)
{
    const auto p = parametersOf(circuit(), device);
    if (p)
        m_list->addWidget(plainLabel(tr("plate: %1, %2 V, %3 A, %4 /min")
                                         .arg(words::powerText(p->number("rated_power_w"), m_habits))
                                         .arg(p->number("voltage_v"))
                                         .arg(p->number("current_a"))
                                         .arg(p->number("speed_per_min")),
            m_theme.body(), this));
}

void Inspector::addWire(const Wire& wire)
{
    QLabel* title = plainLabel(tr("Wire %1").arg(QString::fromStdString(wire.number)), m_theme.verdict(), this);
    title->setObjectName("inspector.title");
    m_list->addWidget(title);
    m_list->addWidget(plainLabel(tr("%1 to %2")
                                     .arg(QString::fromStdString(circuit().nameOf(wire.from)),
                                         QString::fromStdString(circuit().nameOf(wire.to))),
        m_theme.body(), this));
    QStringList facts{words::wireSizeText(wire.areaMm2, m_habits), tr("%1 m").arg(wire.lengthM)};
    if (!wire.colour.empty())
        facts << QString::fromStdString(wire.colour);
    if (const Route* route = circuit().route(wire.route))
        facts << QString::fromStdString(route->name);
    m_list->addWidget(plainLabel(facts.join(QStringLiteral(", ")), m_theme.body(), this));
    addOffers();
    addHeading(tr("Break"));
    if (const auto site = faultFrom(m_session.plant(), "wire/" + std::to_string(wire.id.value) + ":open"))
        addFault(*site, tr("comes off"));
}

/// Of an element first what concerns its path; the device's own follow on demand.
void Inspector::addOffers()
{
    if (m_offers.empty())
        return;
    addHeading(tr("Do"));
    bool hidden = false;
    auto* rows = new QVBoxLayout;
    rows->setSpacing(0);
    m_list->addLayout(rows);
    for (const offers::Offer& offer : m_offers) {
        if (!m_showsAll && m_target.device && offer.about == offers::About::Device) {
            hidden = true;
            continue;
        }
        auto* row = new OfferRowButton(offer, m_theme, this);
        connect(row, &QAbstractButton::clicked, this, [this, offer] { emit offerPicked(offer); });
        rows->addWidget(row);
    }
    if (!hidden)
        return;
    auto* more = new QPushButton(
        tr("More with %1").arg(QString::fromStdString(circuit().device(m_target.device)->tag)), this);
    more->setObjectName("offers.more");
    more->setFlat(true);
    more->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    connect(more, &QPushButton::clicked, this, [this] {
        m_showsAll = true;
        QMetaObject::invokeMethod(this, &Inspector::rebuild, Qt::QueuedConnection); // the button goes with what it
                                                                                    // stood in
    });
    m_list->addWidget(more);
}

void Inspector::addActions(int index)
{
    const PlantDevice& d = m_session.plant().devices[at(index)];
    const Device& device = *circuit().device(m_target.device);
    if (d.actions.empty() || standsOnDoor(device))
        return;
    addHeading(tr("By hand"));
    std::vector<std::string> done;
    for (const auto& [word, what] : d.actions) {
        if (std::find(done.begin(), done.end(), word) != done.end())
            continue;
        done.push_back(word);
        auto* button = new QPushButton(words::doWord(word), this);
        button->setObjectName(QString::fromStdString("do." + d.tag + "." + word));
        connect(button, &QPushButton::clicked, this, [this, tag = d.tag, word = word] { m_session.act(tag, word); });
        button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        m_list->addWidget(button);
    }
}

void Inspector::addKnobs(int index)
{
    const Plant& plant = m_session.plant();
    const std::string prefix = plant.devices[at(index)].tag + ".";
    bool first = true;
    for (std::size_t k = 0; k < plant.knobs.size(); ++k) {
        if (!plant.knobs[k].name.starts_with(prefix))
            continue;
        if (first)
            addHeading(tr("Phases"));
        first = false;
        auto* box = new QCheckBox(
            tr("%1 there")
                .arg(QString::fromStdString(wording::phaseName(plant.knobs[k].name.substr(prefix.size()), m_habits))),
            this);
        box->setObjectName("knob." + QString::fromStdString(plant.knobs[k].name));
        connect(box, &QCheckBox::clicked, this,
            [this, k](bool there) { m_session.setKnob(static_cast<int>(k), there ? 1.0 : 0.0); });
        auto* level = new QSpinBox(this);
        level->setObjectName("level." + QString::fromStdString(plant.knobs[k].name));
        level->setAccessibleName(tr("Voltage of %1").arg(box->text()));
        level->setToolTip(tr("Its voltage, as a share of the rated one"));
        level->setRange(0, 130);
        level->setSuffix(tr(" %"));
        connect(level, &QSpinBox::valueChanged, this,
            [this, k](int percent) { m_session.setKnob(static_cast<int>(k), percent / 100.0); });
        auto* row = new QHBoxLayout;
        row->addWidget(box, 1);
        row->addWidget(level);
        m_list->addLayout(row);
        m_knobs.push_back({static_cast<int>(k), box, level});
    }
}

void Inspector::addFaults(int index)
{
    const Plant& plant = m_session.plant();
    const PlantDevice& d = plant.devices[at(index)];
    const std::vector<FaultSite> all = faultSites(plant);
    const std::string prefix = d.tag + "/";
    addHeading(tr("Break"));
    for (const FaultSite& site : all)
        if (site.site.starts_with(prefix)) {
            const std::string element = site.site.substr(prefix.size());
            const bool ofOtherContact = !m_target.role.empty() && element != m_target.role
                && element.find_first_of("0123456789") != std::string::npos;
            if (!ofOtherContact)
                addFault(site, words::modeWord(site));
        }
    for (const FaultSite& site : all)
        if (site.site.starts_with("wire/"))
            for (const PlantWire& w : plant.wires)
                if (site.site == "wire/" + std::to_string(w.id.value)) {
                    const Wire& wire = *circuit().wire(w.id);
                    const TerminalRef& here = wire.from.device == m_target.device ? wire.from : wire.to;
                    const TerminalRef& there = wire.from.device == m_target.device ? wire.to : wire.from;
                    const bool ofRole = m_target.role.empty() || m_target.role.find('-') == std::string::npos
                        || m_target.role.starts_with(here.marking + "-") || m_target.role.ends_with("-" + here.marking);
                    if (here.device == m_target.device && ofRole)
                        addFault(site,
                            tr("wire %1 comes off (%2 to %3)")
                                .arg(QString::fromStdString(w.number), QString::fromStdString(here.marking),
                                    QString::fromStdString(circuit().nameOf(there))));
                }
    for (const PlantTerminal& t : plant.terminals)
        if (t.device == index && !t.inner && plant.nets[at(t.net)].terminals.size() > 1) {
            const bool ofRole = m_target.role.empty() || m_target.role.starts_with(t.marking + "-")
                || m_target.role.ends_with("-" + t.marking);
            if (ofRole && t.node != network::kReference)
                if (const auto site = faultFrom(plant, d.tag + ":" + t.marking + ":to_earth"))
                    addFault(*site, tr("%1 touches earth").arg(QString::fromStdString(t.marking)));
        }
}

void Inspector::addFault(const FaultSite& site, const QString& text)
{
    if (std::any_of(m_faults.begin(), m_faults.end(), [&](const auto& f) { return f.first == site.fault; }))
        return;
    const auto outcome = m_outcomes.find(site.text());
    const QString label = outcome == m_outcomes.end()
        ? text
        : tr("%1 - %2").arg(text, words::word("outcome." + std::string(faults::nameOf(outcome->second))));
    auto* box = new QCheckBox(label, this);
    box->setObjectName("fault." + QString::fromStdString(site.text()));
    box->setToolTip(label);
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    connect(box, &QCheckBox::clicked, this, [this, fault = site.fault](bool on) { m_session.setFault(fault, on); });
    m_list->addWidget(box);
    m_faults.emplace_back(site.fault, box);
}

void Inspector::setOutcomes(std::map<std::string, faults::Outcome> outcomes)
{
    if (m_outcomes == outcomes)
        return;
    m_outcomes = std::move(outcomes);
    rebuild();
}

void Inspector::refresh()
{
    if (!m_session.hasRun())
        return;
    const auto& on = m_session.run().state().faults;
    for (const auto& [fault, box] : m_faults)
        box->setChecked(std::find(on.begin(), on.end(), fault) != on.end());
    for (const Knob& k : m_knobs) {
        const double value = m_session.run().state().knobs[at(k.slot)];
        k.isThere->setChecked(value > 0.0);
        const QSignalBlocker quiet(k.level);
        if (!k.level->hasFocus())
            k.level->setValue(static_cast<int>(std::lround(100.0 * value)));
    }
    if (!m_state)
        return;
    for (std::size_t i = 0; i < m_session.plant().devices.size(); ++i)
        if (m_session.plant().devices[i].id == m_target.device) {
            const DeviceState s = deviceState(m_session.plant(), m_session.frame(), static_cast<int>(i));
            QStringList lines = s.lines + s.details;
            for (const auto& light : s.indicators)
                if (light.isOn)
                    lines << (light.isBlinking ? tr("%1 (blinks)").arg(light.name) : light.name);
            m_state->setText(lines.join(QStringLiteral("\n")));
        }
}

} // namespace ts::app
