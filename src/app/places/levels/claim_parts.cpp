#include "app/places/levels/claim_parts.h"

#include "app/places/levels/evidence.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/library/table.h"
#include "core/safety/arithmetic.h"
#include "core/suggestions/claim_suggestion.h"

#include <QEvent>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QVBoxLayout>

#include <cmath>
#include <map>

namespace ts::app {
namespace {

constexpr double kYearS = 366.0 * 24 * 3600, kMostPerYear = 1e8;

QString tagOf(const Dossier& dossier, DeviceId id)
{
    const Device* d = dossier.circuit.device(id);
    return d ? QString::fromStdString(d->tag) : QStringLiteral("?");
}

} // namespace

ClaimParts::ClaimParts(const Theme& theme, Change change, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
    , m_change(std::move(change))
{
    m_outer = new QVBoxLayout(this);
    m_outer->setContentsMargins(0, 0, 0, 0);
}

ClaimedChannel* ClaimParts::channelOf(ClaimedSubsystem& subsystem, int channel)
{
    if (channel < 0)
        return subsystem.test ? &subsystem.test->equipment : nullptr;
    return static_cast<std::size_t>(channel) < subsystem.channels.size()
        ? &subsystem.channels[static_cast<std::size_t>(channel)]
        : nullptr;
}

void ClaimParts::changePart(const QString& label, Where where, const std::function<void(ClaimedPart&)>& what)
{
    m_change(label, [&](ClaimedSubsystem& s) {
        ClaimedChannel* c = channelOf(s, where.channel);
        if (c && where.part < c->parts.size())
            what(c->parts[where.part]);
    });
}

void ClaimParts::show(
    const Dossier& dossier, const ClaimedSubsystem& subsystem, const std::function<QString(DeviceId)>& built)
{
    m_built = built;
    m_dossier = dossier;
    std::string shape = subsystem.category == safety::Category::Two ? "tested" : "";
    for (const ClaimedChannel& c : subsystem.channels) {
        shape += "/";
        for (const ClaimedPart& p : c.parts)
            shape += std::to_string(p.device.value) + p.element + ",";
    }
    if (subsystem.test)
        for (const ClaimedPart& p : subsystem.test->equipment.parts)
            shape += "+" + std::to_string(p.device.value) + p.element;
    if (shape != m_shape || !m_column) {
        m_shape = shape;
        rebuild(dossier, subsystem);
    }
    for (const Refresh& refresh : m_refresh)
        refresh(dossier, subsystem);
}

void ClaimParts::rebuild(const Dossier& dossier, const ClaimedSubsystem& subsystem)
{
    m_refresh.clear();
    if (QLayoutItem* item = m_outer->takeAt(0)) {
        if (QWidget* old = item->widget()) {
            for (QObject* child : old->findChildren<QObject*>())
                child->disconnect(this); // a line that loses the keyboard by this has nothing more to say
            old->hide();
            old->deleteLater(); // the button that brought this about is still at work
        }
        delete item;
    }
    auto* inside = new QWidget(this);
    m_outer->addWidget(inside);
    m_column = new QVBoxLayout(inside);
    m_column->setContentsMargins(0, 0, 0, 0);
    m_column->setSpacing(4);
    for (std::size_t c = 0; c < subsystem.channels.size(); ++c) {
        addHeading(subsystem.channels.size() > 1 ? tr("Channel %1").arg(c + 1) : tr("The channel"));
        for (std::size_t p = 0; p < subsystem.channels[c].parts.size(); ++p)
            addRow(dossier, subsystem.channels[c].parts[p], {static_cast<int>(c), p});
        addAdder(
            static_cast<int>(c), tr("A part more in this channel"), [c](ClaimedSubsystem& s, const ClaimedPart& part) {
                if (c < s.channels.size())
                    s.channels[c].parts.push_back(part);
            });
    }
    if (subsystem.channels.size() < 2)
        addAdder(static_cast<int>(subsystem.channels.size()),
            subsystem.channels.empty() ? tr("A channel that begins with") : tr("A second channel that begins with"),
            [](ClaimedSubsystem& s, const ClaimedPart& part) {
                s.channels.push_back({"channel " + std::to_string(s.channels.size() + 1), {part}});
            });
    if (subsystem.category != safety::Category::Two)
        return;
    addHeading(tr("What tests it, with an output of its own"));
    if (subsystem.test)
        for (std::size_t p = 0; p < subsystem.test->equipment.parts.size(); ++p)
            addRow(dossier, subsystem.test->equipment.parts[p], {-1, p});
    addAdder(-1, tr("A part that tests"), [](ClaimedSubsystem& s, const ClaimedPart& part) {
        if (!s.test)
            s.test.emplace();
        s.test->equipment.name = "test equipment";
        s.test->equipment.parts.push_back(part);
    });
    if (subsystem.test)
        addTest();
}

void ClaimParts::addHeading(const QString& text)
{
    m_column->addSpacing(4);
    m_column->addWidget(plainLabel(text, m_theme.bold(), this));
}

void ClaimParts::addRow(const Dossier& dossier, const ClaimedPart& part, Where where)
{
    const QString tag = tagOf(dossier, part.device),
                  name = tag + ' ' + QString::fromStdString(elementWords(part.element));
    auto* flow = new WordFlow(m_theme.body(), this);
    auto* named = new QLabel(name, flow);
    named->setTextFormat(Qt::PlainText);
    named->setFont(m_theme.bold());
    flow->put(named);
    addUse(*flow, where, tag);
    if (where.channel >= 0)
        addMeasure(*flow, where, tag);
    auto* known = new QPushButton(tr("Data"), flow);
    known->setObjectName("claim.data." + where.name());
    known->setAccessibleName(tr("What is known about the reliability of %1").arg(tag));
    known->setToolTip(known->accessibleName());
    flow->put(known);
    connect(known, &QPushButton::clicked, this, [this, device = part.device] { emit dataWanted(device); });
    auto* out = new QPushButton(QStringLiteral("\u00d7"), flow);
    out->setObjectName("claim.out." + where.name());
    out->setAccessibleName(tr("Take %1 out of the claim").arg(name));
    out->setToolTip(out->accessibleName());
    out->setFixedWidth(28);
    flow->put(out);
    m_column->addWidget(flow);
    if (where.channel >= 0)
        addBuilt(where);
    for (QWidget* word : flow->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly))
        word->installEventFilter(this);
    flow->setProperty("device", part.device.value);
    connect(out, &QPushButton::clicked, this, [this, where] {
        m_change(tr("Take a part out of the claim"), [where](ClaimedSubsystem& s) {
            ClaimedChannel* c = channelOf(s, where.channel);
            if (!c || where.part >= c->parts.size())
                return;
            c->parts.erase(c->parts.begin() + static_cast<std::ptrdiff_t>(where.part));
            if (c->parts.empty() && where.channel >= 0)
                s.channels.erase(s.channels.begin() + where.channel);
            else if (c->parts.empty())
                s.test.reset();
        });
    });
}

/// Whoever answers about a part looks at it: the drawing shows it.
bool ClaimParts::eventFilter(QObject* watched, QEvent* e)
{
    if (e->type() == QEvent::FocusIn && watched->parent())
        emit lookedAt({watched->parent()->property("device").toInt()});
    return QWidget::eventFilter(watched, e);
}

/// What the wiring and the faults say to it.
void ClaimParts::addBuilt(Where where)
{
    auto* built = plainLabel({}, m_theme.small(), this);
    built->setObjectName("claim.built." + where.name());
    m_column->addWidget(built);
    m_refresh.push_back([this, where, built](const Dossier&, const ClaimedSubsystem& s) {
        built->setText(m_built(s.channels[static_cast<std::size_t>(where.channel)].parts[where.part].device));
    });
}

void ClaimParts::addMeasure(WordFlow& flow, Where where, const QString& tag)
{
    auto* measure = new ChoiceWord(m_theme, "claim.measure." + where.name(), tr("Measure for %1").arg(tag), &flow);
    measure->addItem(tr("nothing"), QString());
    const Table& table = dcMeasuresTable();
    for (std::size_t row = 0; row < table.rowCount(); ++row) {
        measure->addItem(QString::fromStdString(
                             std::string(table.cell(row, "stage")) + ": " + std::string(table.cell(row, "measure"))),
            QString::fromStdString(std::string(table.cell(row, "id"))));
    }
    auto* dc = new NumberWord(
        m_theme, "claim.dc." + where.name(), tr("Diagnostic coverage of %1 in per cent").arg(tag), &flow);
    dc->setDecimals(1);
    dc->setSuffix(QStringLiteral(" %"));
    auto* excluded = new TextWord(
        m_theme, "claim.excluded." + where.name(), tr("Why the failure of %1 is excluded").arg(tag), &flow);
    excluded->setPlaceholderText(tr("it is not excluded"));
    flow.say(tr("When it fails,"));
    flow.put(measure);
    flow.say(tr("notices it, claimed with"));
    flow.put(dc);
    flow.say(tr(". Its failure is excluded, because"));
    flow.put(excluded);
    flow.say(tr("."));
    connect(measure, &QComboBox::activated, this, [this, measure, where](int k) {
        changePart(tr("Claim a measure"), where, [&](ClaimedPart& x) {
            x.measure = measure->itemData(k).toString().toStdString();
            x.dc = k == 0 ? 0.0 : dcMeasuresTable().number(static_cast<std::size_t>(k - 1), "dc_max").value_or(0.0);
        });
    });
    connect(dc, &QDoubleSpinBox::editingFinished, this, [this, dc, where] {
        changePart(tr("Claim a coverage"), where, [&](ClaimedPart& x) {
            if (std::abs(dc->value() / 100.0 - x.dc) > 0.0005)
                x.dc = dc->value() / 100.0;
        });
    });
    connect(excluded, &QLineEdit::editingFinished, this, [this, excluded, where] {
        changePart(tr("Exclude a failure"), where,
            [&](ClaimedPart& x) { x.excludedBecause = excluded->text().trimmed().toStdString(); });
    });
    m_refresh.push_back([where, measure, dc, excluded](const Dossier&, const ClaimedSubsystem& s) {
        const ClaimedPart& x = s.channels[static_cast<std::size_t>(where.channel)].parts[where.part];
        measure->setCurrentIndex(std::max(0, measure->findData(QString::fromStdString(x.measure))));
        const auto row = static_cast<std::size_t>(std::max(0, measure->currentIndex() - 1));
        const bool isTested = measure->currentIndex() > 0;
        const auto limit = [&](const char* column) {
            return isTested ? 100.0 * dcMeasuresTable().number(row, column).value_or(0.0) : 0.0;
        };
        dc->setRange(limit("dc_min"), limit("dc_max"));
        dc->setEnabled(isTested && dc->minimum() < dc->maximum());
        dc->setValue(100.0 * x.dc);
        putWords(excluded, x.excludedBecause);
    });
}

void ClaimParts::addUse(WordFlow& flow, Where where, const QString& tag)
{
    auto* use = new NumberWord(m_theme, "claim.use." + where.name(), tr("How often %1 works").arg(tag), &flow);
    use->setSpecialValueText(tr("not entered"));
    use->setDecimals(0);
    use->setStepType(QAbstractSpinBox::AdaptiveDecimalStepType);
    auto* unit = new ChoiceWord(m_theme, "claim.use_unit." + where.name(),
        tr("Seconds from one operation of %1 to the next, or operations a year").arg(tag), &flow);
    unit->addItems({tr("s from one time to the next"), tr("times a year")});
    flow.say(tr("works"));
    flow.put(use);
    flow.put(unit);
    flow.say(tr("."));
    const auto take = [this, use, unit, where] {
        const std::optional<double> value = use->value() > 0.0 ? std::optional(use->value()) : std::nullopt;
        m_change(tr("Change switching rate"), [&](ClaimedSubsystem& s) {
            const ClaimedChannel* at = channelOf(s, where.channel);
            if (!at || where.part >= at->parts.size())
                return;
            const DeviceId device = at->parts[where.part].device;
            const auto set = [&](ClaimedChannel& c) {
                for (ClaimedPart& x : c.parts)
                    if (x.device == device) { // all contacts of one device work together
                        x.secondsPerCycle = unit->currentIndex() == 0 ? value : std::nullopt;
                        x.operationsPerYear = unit->currentIndex() == 1 ? value : std::nullopt;
                    }
            };
            std::for_each(s.channels.begin(), s.channels.end(), set);
            if (s.test)
                set(s.test->equipment);
        });
    };
    connect(use, &QDoubleSpinBox::editingFinished, this, [this, use, unit, where, take] {
        if (use->value() != use->property("shown").toDouble())
            take();
    });
    connect(unit, &QComboBox::activated, this, [this, use, unit, take] {
        // The same use in the other unit.
        const double workingS = m_dossier.machine.duty.daysPerYear * m_dossier.machine.duty.hoursPerDay * 3600.0;
        const double value = use->value();
        use->setMaximum(unit->currentIndex() == 0 ? kYearS : kMostPerYear);
        if (value > 0.0)
            use->setValue(workingS / value);
        take();
    });
    m_refresh.push_back([use, unit, where](const Dossier&, const ClaimedSubsystem& s) {
        const ClaimedChannel& c = where.channel < 0 ? s.test->equipment
                                                    : s.channels[static_cast<std::size_t>(where.channel)];
        const ClaimedPart& x = c.parts[where.part];
        if (x.secondsPerCycle || x.operationsPerYear)
            unit->setCurrentIndex(x.operationsPerYear ? 1 : 0);
        use->setRange(0, unit->currentIndex() == 0 ? kYearS : kMostPerYear);
        use->setValue(x.operationsPerYear.value_or(x.secondsPerCycle.value_or(0.0)));
        use->setProperty("shown", use->value());
    });
}

void ClaimParts::addAdder(
    int channel, const QString& text, const std::function<void(ClaimedSubsystem&, const ClaimedPart&)>& into)
{
    auto* button = new QPushButton(text, this);
    button->setObjectName(
        QStringLiteral("claim.add.%1").arg(channel < 0 ? QStringLiteral("test") : QString::number(channel)));
    auto* menu = new QMenu(button);
    button->setMenu(menu);
    connect(menu, &QMenu::aboutToShow, this, [this, menu, into] { fill(menu, into); });
    m_column->addWidget(button, 0, Qt::AlignLeft);
}

void ClaimParts::fill(QMenu* menu, const std::function<void(ClaimedSubsystem&, const ClaimedPart&)>& into)
{
    menu->clear();
    const auto plant = compile(m_dossier.circuit);
    if (!plant)
        return;
    std::map<std::string, QMenu*> groups;
    for (const ClaimedPart& part : claimableParts(m_dossier.circuit, *plant)) {
        const std::string kind = part.element.find('-') != std::string::npos ? "contact"
            : part.element == "armature"                                     ? "armature"
                                                                             : "main";
        QMenu*& group = groups[kind];
        if (!group)
            group = menu->addMenu(words::word("claimable." + kind));
        const Device* d = m_dossier.circuit.device(part.device);
        QAction* action = group->addAction(tagOf(m_dossier, part.device) + ' '
            + QString::fromStdString(elementWords(part.element))
            + (d && !d->label.empty() ? "  (" + QString::fromStdString(d->label) + ")" : QString()));
        connect(action, &QAction::triggered, this, [this, part, into] {
            m_change(tr("A part more in the claim"), [&](ClaimedSubsystem& s) { into(s, part); });
        });
    }
}

void ClaimParts::addTest()
{
    auto* flow = new WordFlow(m_theme.body(), this);
    auto* tests = new NumberWord(m_theme, QStringLiteral("claim.tests_per_demand"), tr("Tests for each demand"), flow);
    tests->setRange(0, 1e6);
    tests->setDecimals(0);
    tests->setSpecialValueText(tr("at the demand, faster than the hazard"));
    tests->setSuffix(tr(" times for each demand"));
    flow->say(tr("It tests"));
    flow->put(tests);
    flow->say(tr("."));
    auto* warns = new ToggleWord(m_theme, QStringLiteral("claim.only_warns"),
        tr("It only warns, nothing of its own stops the machine (PL c at most)."), flow);
    flow->put(warns);
    m_column->addWidget(flow);
    connect(tests, &QDoubleSpinBox::editingFinished, this, [this, tests] {
        m_change(tr("How often it is tested"), [tests](ClaimedSubsystem& s) {
            if (s.test)
                s.test->testsPerDemand = tests->value() > 0.0 ? std::optional(tests->value()) : std::nullopt;
        });
    });
    connect(warns, &QAbstractButton::clicked, this, [this](bool is) {
        m_change(tr("What the test does"), [is](ClaimedSubsystem& s) {
            if (s.test)
                s.test->onlyWarns = is;
        });
    });
    m_refresh.push_back([tests, warns](const Dossier&, const ClaimedSubsystem& s) {
        tests->setValue(s.test->testsPerDemand.value_or(0.0));
        warns->setChecked(s.test->onlyWarns);
    });
}

} // namespace ts::app
