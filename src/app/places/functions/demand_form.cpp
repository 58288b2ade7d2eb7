#include "app/places/functions/demand_form.h"

#include "app/places/functions/function_edit.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/analysis/other_triggers.h"
#include "core/library/registry.h"
#include "core/suggestions/suggestion.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QSpinBox>

#include <algorithm>

namespace ts::app {
namespace {

QString labelled(const Device* d)
{
    return d ? QString::fromStdString(d->label.empty() ? d->tag : d->tag + "  " + d->label) : QStringLiteral("?");
}

} // namespace

DemandForm::DemandForm(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
{
    auto* form = new QFormLayout(this);
    form->setContentsMargins(0, 0, 0, 0);
    form->setHorizontalSpacing(12);
    form->setVerticalSpacing(6);
    const auto named = [](auto* widget, const char* name, const QString& accessible) {
        widget->setObjectName(name);
        widget->setAccessibleName(accessible);
        return widget;
    };
    m_name = named(new QLineEdit(this), "demand.name", tr("Name of the function"));
    m_trigger = named(new QComboBox(this), "demand.trigger", tr("What demands it"));
    auto* others = new QWidget(this);
    m_otherLine = new QHBoxLayout(others);
    m_otherLine->setContentsMargins(0, 0, 0, 0);
    auto* motors = new QWidget(this);
    m_motorLine = new QHBoxLayout(motors);
    m_motorLine->setContentsMargins(0, 0, 0, 0);
    m_allowed = named(new QDoubleSpinBox(this), "demand.allowed", tr("Allowed time to rest"));
    m_allowed->setRange(0.0, 3600.0);
    m_allowed->setDecimals(2);
    m_allowed->setSuffix(QStringLiteral(" s"));
    m_allowed->setSpecialValueText(tr("not given"));
    m_category = named(new QComboBox(this), "demand.category", tr("Stop category"));
    for (const QString& text : {tr("0: power removed at once"), tr("1: brought to rest, then power removed"),
             tr("2: brought to rest, power stays on")})
        m_category->addItem(text);
    m_emergency = named(
        new QCheckBox(tr("it is an emergency stop"), this), "demand.emergency", tr("It is an emergency stop"));
    m_resetBy = named(new QComboBox(this), "demand.reset_by", tr("Reset by"));
    m_restart = named(new QComboBox(this), "demand.restart", tr("What starts it again"));
    for (const QString& text :
        {tr("a start action of its own, after the reset"), tr("the reset itself (never for an emergency stop)"),
            tr("the return of the trigger (a guard that controls the start)")})
        m_restart->addItem(text);
    m_resetRule = named(new QLineEdit(this), "demand.reset_rule", tr("Rule for the reset in words"));
    m_scenario = named(new QComboBox(this), "demand.scenario", tr("Scenario that demands it"));
    m_testDays = named(new QSpinBox(this), "demand.test_days", tr("Days between tests by hand"));
    m_testDays->setRange(0, 3660);
    m_testDays->setSpecialValueText(tr("no test by hand"));
    m_testDays->setPrefix(tr("every "));
    m_testDays->setSuffix(tr(" days"));
    m_testedOn = named(new QLineEdit(this), "demand.tested_on", tr("Day of the last test by hand"));
    m_testedOn->setPlaceholderText(tr("last on, like 2026-05-31"));
    auto* test = new QWidget(this);
    auto* testLine = new QHBoxLayout(test);
    testLine->setContentsMargins(0, 0, 0, 0);
    testLine->addWidget(m_testDays);
    testLine->addWidget(m_testedOn, 1);
    m_consequences = plainLabel({}, theme.small(), this);
    m_consequences->setObjectName("demand.consequences");
    auto* stop = new QWidget(this);
    auto* stopLine = new QHBoxLayout(stop);
    stopLine->setContentsMargins(0, 0, 0, 0);
    stopLine->addWidget(m_category, 1);
    stopLine->addWidget(m_emergency);
    form->addRow(tr("Name"), m_name);
    form->addRow(tr("Demanded by"), m_trigger);
    form->addRow(tr("or"), others);
    form->addRow(tr("these come to rest"), motors);
    form->addRow(tr("within"), m_allowed);
    form->addRow(tr("by stop category"), stop);
    form->addRow({}, m_consequences);
    form->addRow(tr("Reset by"), m_resetBy);
    form->addRow(tr("started again by"), m_restart);
    form->addRow(tr("in words"), m_resetRule);
    form->addRow(tr("as demanded in"), m_scenario);
    form->addRow(tr("tested by hand"), test);

    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        change(tr("Name a function"), [this](SafetyFunction& f) { f.name = m_name->text().trimmed().toStdString(); });
    });
    connect(m_trigger, &QComboBox::activated, this, [this](int k) {
        change(tr("Choose a trigger"),
            [this, k](SafetyFunction& f) { f.trigger = m_triggers[static_cast<std::size_t>(k)]; });
    });
    connect(m_testDays, &QSpinBox::editingFinished, this, [this] {
        change(tr("Test by hand"), [days = m_testDays->value()](SafetyFunction& f) {
            f.manualTest.everyDays = days > 0 ? std::optional<double>(days) : std::nullopt;
        });
    });
    connect(m_testedOn, &QLineEdit::editingFinished, this, [this] {
        change(tr("Day of the last test"),
            [this](SafetyFunction& f) { f.manualTest.lastOn = m_testedOn->text().trimmed().toStdString(); });
    });
    connect(m_allowed, &QDoubleSpinBox::editingFinished, this, [this] {
        change(tr("Allowed time"), [this](SafetyFunction& f) {
            if (isChanged(*m_allowed, f.allowedTimeS))
                f.allowedTimeS = m_allowed->value();
        });
    });
    connect(m_category, &QComboBox::activated, this,
        [this](int k) { change(tr("Choose a stop category"), [k](SafetyFunction& f) { f.stopCategory = k; }); });
    connect(m_emergency, &QCheckBox::clicked, this,
        [this](bool is) { change(tr("Emergency stop or not"), [is](SafetyFunction& f) { f.emergencyStop = is; }); });
    connect(m_resetBy, &QComboBox::activated, this, [this](int k) {
        change(tr("Choose the reset"), [this, k](SafetyFunction& f) { f.resetBy = {m_resetBy->itemData(k).toInt()}; });
    });
    connect(m_restart, &QComboBox::activated, this, [this](int k) {
        change(tr("What starts it again"), [k](SafetyFunction& f) { f.restart = static_cast<RestartRule>(k); });
    });
    connect(m_resetRule, &QLineEdit::editingFinished, this, [this] {
        change(tr("Rule for the reset"),
            [this](SafetyFunction& f) { f.resetRule = m_resetRule->text().trimmed().toStdString(); });
    });
    connect(m_scenario, &QComboBox::activated, this, [this](int k) {
        change(tr("Choose the scenario"),
            [this, k](SafetyFunction& f) { f.demandScenario = {m_scenario->itemData(k).toInt()}; });
    });
}

void DemandForm::change(const QString& label, const std::function<void(SafetyFunction&)>& what)
{
    if (!changeFunction(m_document, m_function, label, what))
        if (const SafetyFunction* f = m_document.dossier().function(m_function))
            show(*f); // as it was
}

void DemandForm::setConsequences(const QStringList& lines)
{
    m_consequences->setText(lines.join('\n'));
}

void DemandForm::takeTriggers(const SafetyFunction& f)
{
    const Circuit& circuit = m_document.dossier().circuit;
    const auto plant = compile(circuit);
    m_triggers = plant ? possibleTriggers(*plant) : std::vector<Trigger>{};
    if (std::find(m_triggers.begin(), m_triggers.end(), f.trigger) == m_triggers.end())
        m_triggers.push_back(f.trigger);
    m_trigger->clear();
    for (const Trigger& t : m_triggers)
        m_trigger->addItem(labelled(circuit.device(t.device)) + ": " + words::actionWord(t.action));
    m_trigger->setCurrentIndex(
        static_cast<int>(std::find(m_triggers.begin(), m_triggers.end(), f.trigger) - m_triggers.begin()));
    m_resetBy->clear();
    m_resetBy->addItem(tr("not said"), 0);
    for (const PlantDevice& d : plant ? plant->devices : std::vector<PlantDevice>{}) // whatever a hand can operate
        if (!d.movers.empty()
            && plant->movers[static_cast<std::size_t>(d.movers.front())].spec.driver == MoverSpec::Driver::Operator)
            m_resetBy->addItem(labelled(circuit.device(d.id)), d.id.value);
    m_resetBy->setCurrentIndex(std::max(0, m_resetBy->findData(f.resetBy.value)));
}

/// Devices that protect in the same way as the trigger does: each may demand the function too.
void DemandForm::takeOthers(const SafetyFunction& f)
{
    const Circuit& circuit = m_document.dossier().circuit;
    qDeleteAll(m_others);
    m_others.clear();
    while (QLayoutItem* rest = m_otherLine->takeAt(0))
        delete rest;
    const auto protectsOf = [&circuit](DeviceId id) {
        const Device* device = circuit.device(id);
        return device ? deviceKind(device->kind)->traits.protects : KindTraits::Protects::Nothing;
    };
    for (const Trigger& t : m_triggers) {
        const bool isOtherLine = isOfSupply(t) && isOfSupply(f.trigger) && t != f.trigger;
        const bool protectsAlike = t.device != f.trigger.device && protectsOf(t.device) != KindTraits::Protects::Nothing
            && protectsOf(t.device) == protectsOf(f.trigger.device);
        if (!isOtherLine && !protectsAlike)
            continue;
        const QString tag = QString::fromStdString(circuit.device(t.device)->tag);
        auto* box = new QCheckBox(
            isOtherLine ? tag + ": " + words::actionWord(t.action) : labelled(circuit.device(t.device)), this);
        box->setObjectName(
            QStringLiteral("demand.also.") + tag + (isOtherLine ? "." + QString::fromStdString(t.action) : QString()));
        box->setToolTip(words::actionWord(t.action));
        box->setChecked(std::find(f.alsoBy.begin(), f.alsoBy.end(), t) != f.alsoBy.end());
        connect(
            box, &QCheckBox::clicked, this,
            [this, t](bool is) {
                change(tr("Other triggers"), [&t, is](SafetyFunction& x) {
                    std::erase(x.alsoBy, t);
                    if (is)
                        x.alsoBy.push_back(t);
                });
            },
            Qt::QueuedConnection); // the boxes are made anew by the edit
        m_otherLine->addWidget(box);
        m_others.push_back(box);
    }
    m_otherLine->addStretch(1);
}

void DemandForm::takeMotors(const SafetyFunction& f)
{
    const Circuit& circuit = m_document.dossier().circuit;
    for (QCheckBox* box : m_motors)
        delete box;
    m_motors.clear();
    while (QLayoutItem* rest = m_motorLine->takeAt(0))
        delete rest;
    for (const Device& d : circuit.devices) {
        if (!isActuator(d))
            continue;
        auto* box = new QCheckBox(QString::fromStdString(d.tag), this);
        box->setObjectName(QStringLiteral("demand.motor.%1").arg(QString::fromStdString(d.tag)));
        box->setToolTip(QString::fromStdString(d.label));
        box->setChecked(std::find(f.mustRest.begin(), f.mustRest.end(), d.id) != f.mustRest.end());
        connect(
            box, &QCheckBox::clicked, this,
            [this, id = d.id](bool is) {
                change(tr("What comes to rest"), [id, is](SafetyFunction& x) {
                    std::erase(x.mustRest, id);
                    if (is)
                        x.mustRest.push_back(id);
                    std::sort(x.mustRest.begin(), x.mustRest.end());
                });
            },
            Qt::QueuedConnection); // the boxes are made anew by the edit
        m_motorLine->addWidget(box);
        m_motors.push_back(box);
    }
    m_motorLine->addStretch(1);
}

void DemandForm::show(const SafetyFunction& f)
{
    m_function = f.id;
    if (m_name->text().toStdString() != f.name)
        m_name->setText(QString::fromStdString(f.name));
    if (m_resetRule->text().toStdString() != f.resetRule)
        m_resetRule->setText(QString::fromStdString(f.resetRule));
    takeTriggers(f);
    takeOthers(f);
    takeMotors(f);
    m_testDays->setValue(static_cast<int>(f.manualTest.everyDays.value_or(0.0)));
    m_testedOn->setText(QString::fromStdString(f.manualTest.lastOn));
    m_testedOn->setEnabled(f.manualTest.everyDays.has_value());
    if (isChanged(*m_allowed, f.allowedTimeS))
        m_allowed->setValue(f.allowedTimeS);
    m_category->setCurrentIndex(f.stopCategory);
    m_emergency->setChecked(f.emergencyStop);
    m_restart->setCurrentIndex(static_cast<int>(f.restart));
    m_scenario->clear();
    for (const Scenario& s : m_document.dossier().scenarios)
        m_scenario->addItem(QString::fromStdString(s.name), s.id.value);
    m_scenario->setCurrentIndex(m_scenario->findData(f.demandScenario.value));
}

} // namespace ts::app
