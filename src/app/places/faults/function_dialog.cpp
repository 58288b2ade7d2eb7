#include "app/places/faults/function_dialog.h"

#include "core/analysis/suggestion.h"
#include "core/edit/function_edits.h"
#include "wording/event_text.h"
#include "wording/wording.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include <algorithm>

namespace ts::app {

FunctionDialog::FunctionDialog(Document& document, FunctionId function, QWidget* parent)
    : QDialog(parent)
    , m_document(document)
    , m_id(function)
{
    setObjectName("function");
    setWindowTitle(tr("Safety function"));
    setAttribute(Qt::WA_DeleteOnClose);
    auto* form = new QFormLayout(this);
    const auto named = [this](auto* widget, const char* name) {
        widget->setObjectName(name);
        return widget;
    };
    m_name = named(new QLineEdit(this), "binding.name_text");
    m_trigger = named(new QComboBox(this), "binding.trigger_box");
    m_motors = named(new QListWidget(this), "binding.motors_list");
    m_motors->setFixedHeight(84);
    m_allowed = named(new QDoubleSpinBox(this), "binding.allowed_box");
    m_allowed->setRange(0.0, 3600.0);
    m_allowed->setDecimals(2);
    m_allowed->setSuffix(" s");
    m_allowed->setSpecialValueText(tr("not given"));
    m_category = named(new QComboBox(this), "binding.category_box");
    for (const QString& text : {tr("0: power removed at once"), tr("1: brought to rest, then power removed"), tr("2: brought to rest, power stays on")})
        m_category->addItem(text);
    m_emergency = named(new QCheckBox(tr("emergency stop: only 0 or 1"), this), "binding.emergency_box");
    m_relied = named(new QCheckBox(tr("a person relies on it (else it protects equipment and has no level)"), this), "binding.relied_box");
    m_scenario = named(new QComboBox(this), "binding.scenario_box");
    m_trouble = named(new QLabel(this), "binding.trouble_text");
    m_trouble->setWordWrap(true);
    form->addRow(tr("Name"), m_name);
    form->addRow(tr("When somebody"), m_trigger);
    form->addRow(tr("these come to rest"), m_motors);
    form->addRow(tr("within"), m_allowed);
    form->addRow(tr("by stop category"), m_category);
    form->addRow({}, m_emergency);
    form->addRow({}, m_relied);
    form->addRow(tr("as demanded in"), m_scenario);
    form->addRow(m_trouble);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    buttons->button(QDialogButtonBox::Ok)->setObjectName("binding.ok");
    auto* away = buttons->addButton(tr("Remove this function"), QDialogButtonBox::ActionRole);
    away->setObjectName("binding.remove");
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &FunctionDialog::take);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(away, &QPushButton::clicked, this, &FunctionDialog::remove);
    if (const SafetyFunction* f = document.dossier().function(function))
        fill(*f);
}

void FunctionDialog::fill(const SafetyFunction& f)
{
    const Dossier& d = m_document.dossier();
    const auto plant = compile(d.circuit);
    if (plant)
        m_triggers = possibleTriggers(*plant);
    if (std::find(m_triggers.begin(), m_triggers.end(), f.trigger) == m_triggers.end())
        m_triggers.push_back(f.trigger);
    for (const Trigger& t : m_triggers) {
        const Device* device = d.circuit.device(t.device);
        m_trigger->addItem(QString::fromStdString(device ? device->tag + " " + device->label : "?") + ": " + wording::doWord(t.action));
    }
    m_trigger->setCurrentIndex(static_cast<int>(std::find(m_triggers.begin(), m_triggers.end(), f.trigger) - m_triggers.begin()));
    for (const PlantMotor& m : plant ? plant->motors : std::vector<PlantMotor>{}) {
        const Device* device = d.circuit.device(plant->devices[static_cast<std::size_t>(m.device)].id);
        auto* item = new QListWidgetItem(QString::fromStdString(device->tag + " " + device->label), m_motors);
        item->setData(Qt::UserRole, device->id.value);
        item->setCheckState(std::find(f.mustRest.begin(), f.mustRest.end(), device->id) != f.mustRest.end() ? Qt::Checked : Qt::Unchecked);
    }
    m_name->setText(QString::fromStdString(f.name));
    m_allowed->setValue(f.allowedTimeS);
    m_category->setCurrentIndex(f.stopCategory);
    m_emergency->setChecked(f.emergencyStop);
    m_relied->setChecked(f.reliedOnByPerson);
    for (const Scenario& s : d.scenarios)
        m_scenario->addItem(QString::fromStdString(s.name), s.id.value);
    m_scenario->setCurrentIndex(m_scenario->findData(f.demandScenario.value));
}

void FunctionDialog::take()
{
    const SafetyFunction* old = m_document.dossier().function(m_id);
    if (!old)
        return reject();
    SafetyFunction f = *old;
    f.name = m_name->text().trimmed().toStdString();
    if (m_trigger->currentIndex() >= 0)
        f.trigger = m_triggers[static_cast<std::size_t>(m_trigger->currentIndex())];
    f.mustRest.clear();
    for (int k = 0; k < m_motors->count(); ++k)
        if (m_motors->item(k)->checkState() == Qt::Checked)
            f.mustRest.push_back({m_motors->item(k)->data(Qt::UserRole).toInt()});
    f.allowedTimeS = m_allowed->value();
    f.stopCategory = m_category->currentIndex();
    f.emergencyStop = m_emergency->isChecked();
    f.reliedOnByPerson = m_relied->isChecked();
    if (m_scenario->currentIndex() >= 0)
        f.demandScenario = {m_scenario->currentData().toInt()};
    if (const auto tried = edit::withFunctionChanged(m_document.dossier(), f); !tried) {
        m_trouble->setText(wording::sentence(tried.error()));
        return;
    }
    m_document.edit(tr("Change a safety function"), [&f](const Dossier& d) { return edit::withFunctionChanged(d, f); });
    accept();
}

void FunctionDialog::remove()
{
    m_document.edit(tr("Remove a safety function"), [this](const Dossier& d) { return edit::withoutFunction(d, m_id); });
    accept();
}

} // namespace ts::app
