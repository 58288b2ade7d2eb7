#include "app/places/machine/machine_place.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/library/motor_plate.h"
#include "core/library/registry.h"

#include <QCheckBox>
#include <QComboBox>
#include <QEvent>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <cmath>

namespace ts::app {
namespace {

QString said(const std::string& id)
{
    return words::sentence(message(id));
}

QString outcomeText(const ScenarioOutcome& o)
{
    if (o.chatters)
        return QString::fromStdString(o.name) + QStringLiteral(": ") + MachinePlace::tr("the circuit chatters");
    if (o.trouble)
        return QString::fromStdString(o.name) + QStringLiteral(": ") + words::sentence(*o.trouble);
    QStringList unmet;
    for (const Expectation& e : o.unmet)
        unmet << words::sentence(
            message("expect.not_met", {Measured{e.atS, "s"}, e.subject, words::stateWord(e.state).toStdString()}));
    return QString::fromStdString(o.name)
        + (unmet.isEmpty() ? MachinePlace::tr(": as expected")
                           : QStringLiteral(": ") + unmet.join(QStringLiteral("; ")));
}

QString deviation(double share)
{
    const double tenths = std::round(share * 1000.0);
    return QStringLiteral("%1%2 %")
        .arg(tenths > 0 ? QStringLiteral("+") : QString())
        .arg(tenths == 0 ? 0.0 : tenths / 10.0, 0, 'f', 1);
}

} // namespace

MachinePlace::MachinePlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("machine"), tr("Machine"), parent)
    , m_document(parts.document)
    , m_theme(parts.theme)
    , m_preview(new PlanPreview(this))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 12, 16, 12);
    row->setSpacing(24);
    row->addWidget(choicesSide(), 5);
    row->addWidget(consequenceSide(), 4);
    connect(m_preview, &PlanPreview::finished, this, &MachinePlace::takePreview);
    connect(&m_document, &Document::changed, this, &MachinePlace::takeDocument);
    showWhatMatters();
    takeDocument();
}

std::vector<PlaceView> MachinePlace::views()
{
    return {{id(), [] {}, [this] { return !m_preview->isBusy(); }}};
}

QWidget* MachinePlace::choicesSide()
{
    auto* scroll = new QScrollArea(this);
    scroll->setObjectName("machine.choices");
    scroll->setAccessibleName(tr("Choices for a new starter"));
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* inside = new QWidget;
    auto* grid = new QGridLayout(inside);
    grid->setContentsMargins(0, 0, 12, 0);
    grid->setVerticalSpacing(5);
    grid->setColumnStretch(1, 1);
    grid->addWidget(plainLabel(tr("A new starter"), m_theme.verdict(), inside), 0, 0, 1, 2);
    int line = 1;
    // In the order in which people decide: machine and motor, power circuit, operation, stopping, protection, supply.
    for (const char* name : {"machine", "site", "motor", "load", "brake", "base", "operation", "interlock", "hold",
             "stop", "stops", "guard", "reset", "feedback", "second_contactor", "monitor", "tap", "monitor_contact",
             "overload", "control", "control_cable_m", "lamps"})
        addChoice(grid, line++, *patterns::choiceNamed(name));
    grid->setRowStretch(line, 1);
    scroll->setWidget(inside);
    return scroll;
}

void MachinePlace::addChoice(QGridLayout* grid, int row, const patterns::PlanChoice& choice)
{
    QWidget* parent = grid->parentWidget();
    const std::string name(choice.name);
    auto* label = plainLabel(said("choice." + name), m_theme.body(), parent);
    label->setMinimumWidth(200);
    grid->addWidget(label, row, 0);
    const auto words = patterns::wordsOf(choice);
    if (words.empty()) {
        auto* edit = new QLineEdit(
            QString::fromUtf8(choice.fallback.data(), static_cast<qsizetype>(choice.fallback.size())), parent);
        edit->setObjectName("choice." + QString::fromStdString(name));
        edit->setAccessibleName(label->text());
        connect(edit, &QLineEdit::editingFinished, this, &MachinePlace::takeChoices);
        m_answers.push_back({name, edit, [edit] { return edit->text().toStdString(); }});
        grid->addWidget(edit, row, 1);
    } else if (choice.many) {
        auto* box = new QWidget(parent);
        auto* column = new QVBoxLayout(box);
        column->setContentsMargins(0, 0, 0, 0);
        column->setSpacing(2);
        std::vector<std::pair<std::string, QCheckBox*>> ticks;
        const std::string preset = "+" + std::string(choice.fallback) + "+";
        for (std::string_view w : words) {
            const std::string word(w);
            if (word == "none")
                continue;
            auto* tick = new QCheckBox(said("choice." + name + "." + word), box);
            tick->setObjectName(QString::fromStdString("choice." + name + "." + word));
            tick->setChecked(preset.find("+" + word + "+") != preset.npos);
            connect(tick, &QCheckBox::toggled, this, &MachinePlace::takeChoices);
            ticks.emplace_back(word, tick);
            column->addWidget(tick);
        }
        m_answers.push_back({name, box, [ticks] {
                                 std::string all;
                                 for (const auto& [word, tick] : ticks)
                                     if (tick->isChecked())
                                         all += (all.empty() ? "" : "+") + word;
                                 return all.empty() ? std::string("none") : all;
                             }});
        grid->addWidget(box, row, 1);
    } else {
        auto* box = new QComboBox(parent);
        box->setObjectName("choice." + QString::fromStdString(name));
        box->setAccessibleName(label->text());
        for (std::string_view w : words)
            box->addItem(said("choice." + name + "." + std::string(w)),
                QString::fromUtf8(w.data(), static_cast<qsizetype>(w.size())));
        box->setCurrentIndex(
            box->findData(QString::fromUtf8(choice.fallback.data(), static_cast<qsizetype>(choice.fallback.size()))));
        connect(box, &QComboBox::currentIndexChanged, this, &MachinePlace::takeChoices);
        m_answers.push_back({name, box, [box] { return box->currentData().toString().toStdString(); }});
        box->setFocusPolicy(Qt::StrongFocus);
        box->installEventFilter(this);
        grid->addWidget(box, row, 1);
    }
}

QWidget* MachinePlace::consequenceSide()
{
    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(plainLabel(tr("What follows"), m_theme.verdict(), side));
    m_summary = plainLabel(QString(), m_theme.body(), side);
    m_summary->setObjectName("machine.summary");
    column->addWidget(m_summary);
    auto* lines = new QWidget(side);
    m_lines = new QVBoxLayout(lines);
    m_lines->setContentsMargins(0, 0, 0, 0);
    m_lines->setSpacing(0);
    column->addWidget(lines);
    m_build = new QPushButton(tr("Build this starter"), side);
    m_build->setObjectName("machine.build");
    connect(m_build, &QPushButton::clicked, this, [this] {
        if (const auto result = m_preview->result(); result && result->file)
            emit dossierWanted(*result->file);
    });
    column->addWidget(m_build, 0, Qt::AlignLeft);
    column->addSpacing(20);
    column->addWidget(plainLabel(tr("Motors of this dossier"), m_theme.bold(), side));
    m_motors = plainLabel(QString(), m_theme.body(), side);
    m_motors->setObjectName("machine.motors");
    column->addWidget(m_motors);
    column->addStretch(1);
    m_build->setEnabled(false);
    return side;
}

std::vector<std::string> MachinePlace::assignments() const
{
    std::vector<std::string> all;
    for (const Answer& a : m_answers)
        all.push_back(a.name + "=" + a.text());
    return all;
}

void MachinePlace::showWhatMatters()
{
    if (const auto plan = patterns::Plan::from(assignments()))
        for (const Answer& a : m_answers)
            a.field->setEnabled(patterns::matters(*plan, a.name));
}

/// The first starter is built when somebody looks.
void MachinePlace::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    if (!m_preview->result() && !m_preview->isBusy())
        takeChoices();
}

/// Scrolling the page must not turn a choice that lies under the mouse.
bool MachinePlace::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::Wheel && !static_cast<QWidget*>(watched)->hasFocus()) {
        event->ignore();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

void MachinePlace::takeChoices()
{
    showWhatMatters();
    m_build->setEnabled(false);
    m_summary->setText(tr("Being built and run ..."));
    m_preview->work(assignments());
}

void MachinePlace::takePreview()
{
    while (QLayoutItem* item = m_lines->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    const auto result = m_preview->result();
    m_build->setEnabled(result->file.has_value());
    if (result->refusal) {
        m_summary->setText(tr("This cannot be: %1").arg(words::sentence(*result->refusal)));
        return;
    }
    const Circuit& c = result->file->dossier.circuit;
    m_summary->setText(
        tr("%1 devices, %2 wires. Its scenarios, run just now:").arg(c.devices.size()).arg(c.wires.size()));
    for (const ScenarioOutcome& o : result->outcomes)
        m_lines->addWidget(new MarkedLine(
            o.isInOrder() ? Mark::InOrder : Mark::Wrong, outcomeText(o), m_theme, m_lines->parentWidget()));
}

void MachinePlace::takeDocument()
{
    QStringList lines;
    const Circuit& c = m_document.dossier().circuit;
    for (const Device& d : c.devices) {
        const auto parameters = parametersOf(c, d);
        if (!parameters || !isMotor(d))
            continue;
        const auto fitted = fittedMotor(plateOf(*parameters));
        if (!fitted)
            continue;
        lines << tr(
            "%1 %2: the equivalent circuit meets the plate in current by %3, power %4, cos phi %5, starting current %6")
                     .arg(QString::fromStdString(d.tag), QString::fromStdString(d.label),
                         deviation(fitted->currentDeviation), deviation(fitted->powerDeviation),
                         deviation(fitted->cosPhiDeviation), deviation(fitted->lockedRotorDeviation));
    }
    m_motors->setText(lines.isEmpty() ? tr("none") : lines.join(QStringLiteral("\n")));
}

} // namespace ts::app
