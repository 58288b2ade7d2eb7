#include "app/places/functions/demand_sentence.h"

#include "app/places/functions/function_edit.h"
#include "app/words/words.h"
#include "core/analysis/other_triggers.h"
#include "core/library/registry.h"
#include "core/suggestions/suggestion.h"

#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

QString labelled(const Device* d)
{
    return d ? QString::fromStdString(d->label.empty() ? d->tag : d->tag + ' ' + d->label) : QStringLiteral("?");
}

KindTraits::Protects protectsOf(const Circuit& circuit, DeviceId id)
{
    const Device* device = circuit.device(id);
    return device ? deviceKind(device->kind)->traits.protects : KindTraits::Protects::Nothing;
}

} // namespace

DemandSentence::DemandSentence(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    m_name = new TextWord(theme, QStringLiteral("demand.name"), tr("Name of the function"), this);
    m_name->setFont(theme.verdict());
    m_name->setMinimumHeight(30);
    column->addWidget(m_name);
    m_flow = new WordFlow(theme.body(), this);
    m_flow->setObjectName("demand.sentence");
    column->addWidget(m_flow);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        change(tr("Name a function"), [this](SafetyFunction& f) { f.name = m_name->text().trimmed().toStdString(); });
    });
}

void DemandSentence::change(const QString& label, const std::function<void(SafetyFunction&)>& what)
{
    if (!changeFunction(m_document, m_function, label, what))
        if (const SafetyFunction* f = m_document.dossier().function(m_function))
            show(*f); // as it was
}

/// Devices that protect in the same way as the trigger does, and other lines of its supply: each may demand it too.
std::vector<Trigger> DemandSentence::othersOf(const SafetyFunction& f) const
{
    const Circuit& circuit = m_document.dossier().circuit;
    std::vector<Trigger> others;
    for (const Trigger& t : m_triggers) {
        const bool isOtherLine = isOfSupply(t) && isOfSupply(f.trigger) && t != f.trigger;
        const auto protects = protectsOf(circuit, t.device);
        const bool protectsAlike = t.device != f.trigger.device && protects != KindTraits::Protects::Nothing
            && protects == protectsOf(circuit, f.trigger.device);
        if (isOtherLine || protectsAlike)
            others.push_back(t);
    }
    return others;
}

ToggleWord* DemandSentence::toggle(const QString& name, const QString& text, const QString& label,
    const std::function<void(SafetyFunction&, bool)>& set)
{
    auto* word = new ToggleWord(m_theme, name, text, m_flow);
    connect(
        word, &QAbstractButton::clicked, this,
        [this, label, set](bool is) { change(label, [&set, is](SafetyFunction& f) { set(f, is); }); },
        Qt::QueuedConnection); // the words may be made anew by the edit
    m_flow->put(word);
    return word;
}

void DemandSentence::addDemand(const SafetyFunction& f)
{
    const Circuit& circuit = m_document.dossier().circuit;
    m_flow->say(tr("When"));
    m_trigger = new ChoiceWord(m_theme, QStringLiteral("demand.trigger"), tr("What demands it"), m_flow);
    for (const Trigger& t : m_triggers)
        m_trigger->addItem(tr("%1 is %2").arg(labelled(circuit.device(t.device)), words::actionWord(t.action)));
    m_flow->put(m_trigger);
    connect(
        m_trigger, &QComboBox::activated, this,
        [this](int k) {
            change(tr("Choose a trigger"),
                [this, k](SafetyFunction& x) { x.trigger = m_triggers[static_cast<std::size_t>(k)]; });
        },
        Qt::QueuedConnection);
    for (const Trigger& t : m_others) {
        const QString tag = QString::fromStdString(circuit.device(t.device)->tag);
        const bool isLine = isOfSupply(t) && isOfSupply(f.trigger);
        m_flow->say(tr("or"));
        auto* word = toggle(
            QStringLiteral("demand.also.") + tag + (isLine ? "." + QString::fromStdString(t.action) : QString()),
            isLine ? tag + ": " + words::actionWord(t.action) : labelled(circuit.device(t.device)),
            tr("Other triggers"), [t](SafetyFunction& x, bool is) {
                std::erase(x.alsoBy, t);
                if (is)
                    x.alsoBy.push_back(t);
            });
        word->setToolTip(words::actionWord(t.action));
        m_otherWords.push_back(word);
    }
    m_flow->say(tr(", this comes to rest:"));
    for (DeviceId id : m_actuators) {
        const Device* d = circuit.device(id);
        m_actuatorWords.push_back(toggle(QStringLiteral("demand.motor.%1").arg(QString::fromStdString(d->tag)),
            labelled(d), tr("What comes to rest"), [id](SafetyFunction& x, bool is) {
                std::erase(x.mustRest, id);
                if (is)
                    x.mustRest.push_back(id);
                std::sort(x.mustRest.begin(), x.mustRest.end());
            }));
    }
}

void DemandSentence::addStop()
{
    m_flow->say(tr("within"));
    m_allowed = new NumberWord(m_theme, QStringLiteral("demand.allowed"), tr("Allowed time to rest"), m_flow);
    m_allowed->setRange(0.0, 3600.0);
    m_allowed->setDecimals(2);
    m_allowed->setSuffix(QStringLiteral(" s"));
    m_allowed->setSpecialValueText(tr("a time that is not given"));
    m_flow->put(m_allowed);
    m_flow->say(tr("by stop category"));
    m_category = new ChoiceWord(m_theme, QStringLiteral("demand.category"), tr("Stop category"), m_flow);
    for (const QString& text : {tr("0: power removed at once"), tr("1: brought to rest, then power removed"),
             tr("2: brought to rest, power stays on")})
        m_category->addItem(text);
    m_flow->put(m_category);
    m_flow->say(tr("."));
    m_emergency = toggle(QStringLiteral("demand.emergency"), tr("It is an emergency stop."),
        tr("Emergency stop or not"), [](SafetyFunction& f, bool is) { f.emergencyStop = is; });
    connect(m_allowed, &QDoubleSpinBox::editingFinished, this, [this] {
        change(tr("Allowed time"), [this](SafetyFunction& f) {
            if (isChanged(*m_allowed, f.allowedTimeS))
                f.allowedTimeS = m_allowed->value();
        });
    });
    connect(m_category, &QComboBox::activated, this,
        [this](int k) { change(tr("Choose a stop category"), [k](SafetyFunction& f) { f.stopCategory = k; }); });
}

void DemandSentence::addReturn()
{
    m_flow->say(tr("Nothing may start again until"));
    m_resetBy = new ChoiceWord(m_theme, QStringLiteral("demand.reset_by"), tr("Reset by"), m_flow);
    m_flow->put(m_resetBy);
    m_flow->say(tr("has been operated; then it is started by"));
    m_restart = new ChoiceWord(m_theme, QStringLiteral("demand.restart"), tr("What starts it again"), m_flow);
    for (const QString& text :
        {tr("a start action of its own, after the reset"), tr("the reset itself (never for an emergency stop)"),
            tr("the return of the trigger (a guard that controls the start)")})
        m_restart->addItem(text);
    m_flow->put(m_restart);
    m_flow->say(tr("; in words:"));
    m_resetRule = new TextWord(m_theme, QStringLiteral("demand.reset_rule"), tr("Rule for the reset in words"), m_flow);
    m_resetRule->setPlaceholderText(tr("nothing said"));
    m_flow->put(m_resetRule);
    m_flow->say(tr("."));
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
}

void DemandSentence::addProof()
{
    m_flow->say(tr("It is shown by the scenario"));
    m_scenario = new ChoiceWord(m_theme, QStringLiteral("demand.scenario"), tr("Scenario that demands it"), m_flow);
    m_scenario->setPlaceholderText(tr("which?"));
    m_flow->put(m_scenario);
    m_flow->say(tr("and tested by hand:"));
    m_testDays = new CountWord(m_theme, QStringLiteral("demand.test_days"), tr("Days between tests by hand"), m_flow);
    m_testDays->setRange(0, 3660);
    m_testDays->setSpecialValueText(tr("never"));
    m_testDays->setPrefix(tr("every "));
    m_testDays->setSuffix(tr(" days"));
    m_flow->put(m_testDays);
    m_flow->say(tr(", last on"));
    m_testedOn = new TextWord(m_theme, QStringLiteral("demand.tested_on"), tr("Day of the last test by hand"), m_flow);
    m_testedOn->setPlaceholderText(tr("a day like 2026-05-31"));
    m_flow->put(m_testedOn);
    m_flow->say(tr("."));
    connect(m_scenario, &QComboBox::activated, this, [this](int k) {
        change(tr("Choose the scenario"),
            [this, k](SafetyFunction& f) { f.demandScenario = {m_scenario->itemData(k).toInt()}; });
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
}

void DemandSentence::rebuild(const SafetyFunction& f)
{
    const QWidget* focused = m_flow->focusWidget();
    const QString name = focused && focused->hasFocus() ? focused->objectName() : QString();
    m_otherWords.clear();
    m_actuatorWords.clear();
    m_flow->clear();
    addDemand(f);
    addStop();
    addReturn();
    addProof();
    m_flow->chainAfter(m_name);
    if (auto* again = name.isEmpty() ? nullptr : m_flow->findChild<QWidget*>(name))
        again->setFocus();
}

void DemandSentence::fill(const SafetyFunction& f)
{
    const auto isIn = [](const auto& list, const auto& what) {
        return std::find(list.begin(), list.end(), what) != list.end();
    };
    m_trigger->setCurrentIndex(
        static_cast<int>(std::find(m_triggers.begin(), m_triggers.end(), f.trigger) - m_triggers.begin()));
    for (std::size_t k = 0; k < m_others.size(); ++k)
        m_otherWords[k]->setChecked(isIn(f.alsoBy, m_others[k]));
    for (std::size_t k = 0; k < m_actuators.size(); ++k)
        m_actuatorWords[k]->setChecked(isIn(f.mustRest, m_actuators[k]));
    if (isChanged(*m_allowed, f.allowedTimeS))
        m_allowed->setValue(f.allowedTimeS);
    m_category->setCurrentIndex(f.stopCategory);
    m_emergency->setChecked(f.emergencyStop);
    m_restart->setCurrentIndex(static_cast<int>(f.restart));
    if (m_resetRule->text().toStdString() != f.resetRule) {
        m_resetRule->setText(QString::fromStdString(f.resetRule));
        m_resetRule->setCursorPosition(0);
    }
    m_testDays->setValue(static_cast<int>(f.manualTest.everyDays.value_or(0.0)));
    m_testedOn->setText(QString::fromStdString(f.manualTest.lastOn));
    m_testedOn->setEnabled(f.manualTest.everyDays.has_value());
    m_scenario->clear();
    for (const Scenario& s : m_document.dossier().scenarios)
        m_scenario->addItem(QString::fromStdString(s.name), s.id.value);
    m_scenario->setCurrentIndex(m_scenario->findData(f.demandScenario.value));
}

void DemandSentence::show(const SafetyFunction& f)
{
    m_function = f.id;
    if (m_name->text().toStdString() != f.name)
        m_name->setText(QString::fromStdString(f.name));
    const Circuit& circuit = m_document.dossier().circuit;
    const auto plant = compile(circuit);
    m_triggers = plant ? possibleTriggers(*plant) : std::vector<Trigger>{};
    if (std::find(m_triggers.begin(), m_triggers.end(), f.trigger) == m_triggers.end())
        m_triggers.push_back(f.trigger);
    m_others = othersOf(f);
    m_actuators.clear();
    for (const Device& d : circuit.devices)
        if (isActuator(d))
            m_actuators.push_back(d.id);
    QString shape;
    for (const auto* list : {&m_triggers, &m_others}) {
        for (const Trigger& t : *list)
            shape += labelled(circuit.device(t.device)) + ' ' + QString::fromStdString(t.action) + ';';
        shape += '/';
    }
    for (DeviceId id : m_actuators)
        shape += labelled(circuit.device(id)) + ';';
    if (shape != m_shape) {
        m_shape = shape;
        rebuild(f);
    }
    m_resetBy->clear();
    m_resetBy->addItem(tr("a reset that is not said"), 0);
    for (const PlantDevice& d : plant ? plant->devices : std::vector<PlantDevice>{}) // whatever a hand can operate
        if (!d.movers.empty()
            && plant->movers[static_cast<std::size_t>(d.movers.front())].spec.driver == MoverSpec::Driver::Operator)
            m_resetBy->addItem(labelled(circuit.device(d.id)), d.id.value);
    m_resetBy->setCurrentIndex(std::max(0, m_resetBy->findData(f.resetBy.value)));
    fill(f);
}

} // namespace ts::app
