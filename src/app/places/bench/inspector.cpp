#include "app/places/bench/inspector.h"

#include "app/places/bench/device_state.h"
#include "core/library/registry.h"
#include "wording/event_text.h"
#include "wording/wording.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

std::size_t at(int i)
{
    return static_cast<std::size_t>(i);
}

QLabel* labelled(const QString& text, const QFont& font, QWidget* parent)
{
    auto* label = new QLabel(text, parent);
    label->setFont(font);
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    return label;
}

} // namespace

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

void Inspector::setCircuit(const Circuit& circuit)
{
    m_circuit = circuit;
    rebuild();
}

void Inspector::show(DeviceId device, const std::string& role)
{
    if (device == m_device && role == m_role)
        return;
    m_device = device;
    m_role = role;
    rebuild();
}

void Inspector::rebuild()
{
    m_faults.clear();
    m_knobs.clear();
    m_state = nullptr;
    auto* inside = new QWidget;
    m_list = new QVBoxLayout(inside);
    m_list->setContentsMargins(12, 10, 12, 10);
    m_list->setSpacing(4);
    int device = -1;
    if (m_session.hasRun())
        for (std::size_t i = 0; i < m_session.plant().devices.size(); ++i)
            if (m_session.plant().devices[i].id == m_device)
                device = static_cast<int>(i);
    device < 0 || !m_circuit.device(m_device) ? addNothing() : addDevice(device);
    m_list->addStretch(1);
    setWidget(inside);
    refresh();
}

QLabel* Inspector::addHeading(const QString& text)
{
    m_list->addSpacing(6);
    QLabel* label = labelled(text, m_theme.bold(), this);
    m_list->addWidget(label);
    return label;
}

void Inspector::addNothing()
{
    if (!m_session.hasRun())
        return;
    m_list->addWidget(labelled(tr("Nothing selected"), m_theme.bold(), this));
    m_list->addWidget(labelled(tr("Press buttons on the door. Click a contact, coil or device to see its state, work it by hand or break it. "
                                  "Click a terminal to put a probe on it."),
        m_theme.body(), this));
    if (m_session.run().state().faults.empty())
        return;
    addHeading(tr("Faults that are on"));
    for (const Fault& f : m_session.run().state().faults)
        if (const auto site = faultFrom(m_session.plant(), faultId(m_session.plant(), f)))
            addFault(*site, wording::faultText(m_session.plant(), *site));
}

void Inspector::addDevice(int index)
{
    const PlantDevice& d = m_session.plant().devices[at(index)];
    const Device& device = *m_circuit.device(m_device);
    QString title = QString::fromStdString(d.tag);
    if (!m_role.empty())
        title += ": " + wording::word("element." + m_role);
    m_list->addWidget(labelled(title, m_theme.verdict(), this));
    QString kind = wording::word("kind." + device.kind);
    if (!device.label.empty())
        kind += ", " + QString::fromStdString(device.label);
    m_list->addWidget(labelled(kind, m_theme.body(), this));
    m_state = labelled(QString(), m_theme.body(), this);
    m_state->setObjectName("inspector.state");
    m_list->addWidget(m_state);
    addActions(index);
    addKnobs(index);
    addFaults(index);
}

void Inspector::addActions(int index)
{
    const PlantDevice& d = m_session.plant().devices[at(index)];
    const Device& device = *m_circuit.device(m_device);
    if (d.actions.empty() || standsOnDoor(device))
        return;
    addHeading(tr("By hand"));
    std::vector<std::string> done;
    for (const auto& [word, what] : d.actions) {
        if (std::find(done.begin(), done.end(), word) != done.end())
            continue;
        done.push_back(word);
        auto* button = new QPushButton(wording::doWord(word), this);
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
        auto* box = new QCheckBox(tr("%1 there").arg(QString::fromStdString(plant.knobs[k].name.substr(prefix.size()))), this);
        box->setObjectName("knob." + QString::fromStdString(plant.knobs[k].name));
        connect(box, &QCheckBox::clicked, this, [this, k](bool there) { m_session.setKnob(static_cast<int>(k), there ? 1.0 : 0.0); });
        m_list->addWidget(box);
        m_knobs.emplace_back(static_cast<int>(k), box);
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
            const bool ofOtherContact = !m_role.empty() && element != m_role && element.find_first_of("0123456789") != std::string::npos;
            if (!ofOtherContact)
                addFault(site, wording::modeWord(site));
        }
    for (const FaultSite& site : all)
        if (site.site.starts_with("wire/"))
            for (const PlantWire& w : plant.wires)
                if (site.site == "wire/" + std::to_string(w.id.value)) {
                    const Wire& wire = *m_circuit.wire(w.id);
                    const TerminalRef& here = wire.from.device == m_device ? wire.from : wire.to;
                    const TerminalRef& there = wire.from.device == m_device ? wire.to : wire.from;
                    const bool ofRole = m_role.empty() || m_role.find('-') == std::string::npos || m_role.starts_with(here.marking + "-") || m_role.ends_with("-" + here.marking);
                    if (here.device == m_device && ofRole)
                        addFault(site, tr("wire %1 comes off (%2 to %3)").arg(QString::fromStdString(w.number), QString::fromStdString(here.marking), QString::fromStdString(m_circuit.nameOf(there))));
                }
    for (const PlantTerminal& t : plant.terminals)
        if (t.device == index && !t.inner && plant.nets[at(t.net)].terminals.size() > 1) {
            const bool ofRole = m_role.empty() || m_role.starts_with(t.marking + "-") || m_role.ends_with("-" + t.marking);
            if (ofRole && t.node != network::kReference)
                if (const auto site = faultFrom(plant, d.tag + ":" + t.marking + ":to_earth"))
                    addFault(*site, tr("%1 touches earth").arg(QString::fromStdString(t.marking)));
        }
}

void Inspector::addFault(const FaultSite& site, const QString& text)
{
    if (std::any_of(m_faults.begin(), m_faults.end(), [&](const auto& f) { return f.first == site.fault; }))
        return;
    auto* box = new QCheckBox(text, this);
    box->setObjectName("fault." + QString::fromStdString(site.text()));
    box->setToolTip(text);
    box->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    connect(box, &QCheckBox::clicked, this, [this, fault = site.fault](bool on) { m_session.setFault(fault, on); });
    m_list->addWidget(box);
    m_faults.emplace_back(site.fault, box);
}

void Inspector::refresh()
{
    if (!m_session.hasRun())
        return;
    const auto& on = m_session.run().state().faults;
    for (const auto& [fault, box] : m_faults)
        box->setChecked(std::find(on.begin(), on.end(), fault) != on.end());
    for (const auto& [knob, box] : m_knobs)
        box->setChecked(m_session.run().state().knobs[at(knob)] > 0.0);
    if (!m_state)
        return;
    for (std::size_t i = 0; i < m_session.plant().devices.size(); ++i)
        if (m_session.plant().devices[i].id == m_device) {
            const DeviceState s = deviceState(m_session.plant(), m_session.frame(), static_cast<int>(i));
            QStringList lines = s.lines + s.details;
            for (const auto& light : s.indicators)
                if (light.isOn)
                    lines << light.name;
            m_state->setText(lines.join(QStringLiteral("\n")));
        }
}

} // namespace ts::app
