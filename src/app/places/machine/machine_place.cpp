#include "app/places/machine/machine_place.h"

#include "app/places/machine/deeds_page.h"
#include "app/places/machine/notes_page.h"
#include "app/places/machine/plan_drawing.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/tall_column.h"
#include "app/words/words.h"
#include "core/library/motor_plate.h"
#include "core/library/registry.h"

#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
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
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->setSpacing(12);
    column->addWidget(head());
    m_pages = new QStackedWidget(this);
    m_pages->addWidget(planPage());
    m_notes = new NotesPage(parts, m_pages);
    m_pages->addWidget(m_notes);
    m_deeds = new DeedsPage(parts, m_pages);
    m_pages->addWidget(m_deeds);
    connect(m_deeds, &DeedsPage::playWanted, this, &Place::playWanted);
    column->addWidget(m_pages, 1);
    connect(m_notes, &NotesPage::emptyPanelWanted, this, [this] { emit dossierWanted({}); });
    connect(m_preview, &PlanPreview::finished, this, &MachinePlace::takePreview);
    connect(&m_document, &Document::changed, this, &MachinePlace::takeDocument);
    showWhatMatters();
    takeDocument();
}

std::vector<PlaceView> MachinePlace::views()
{
    return {{id(), [this] { showPage(Page::Plan); }, [this] { return !m_preview->isBusy(); }},
        {id() + QStringLiteral(".notes"), [this] { showPage(Page::Notes); }, {}},
        {id() + QStringLiteral(".deeds"), [this] { showPage(Page::Deeds); }, [this] { return !m_deeds->isBusy(); }}};
}

std::vector<ActionSpec> MachinePlace::actions()
{
    return {{"machine.take_in", tr("Take in a panel that exists ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N),
        true, {}, [this] {
            emit placeWanted();
            showPage(Page::Notes);
        }}};
}

void MachinePlace::showPage(Page page)
{
    const auto chosen = static_cast<std::size_t>(page);
    m_pages->setCurrentIndex(static_cast<int>(chosen));
    for (std::size_t k = 0; k < m_toPage.size(); ++k)
        m_toPage[k]->setChecked(k == chosen);
}

QWidget* MachinePlace::head()
{
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    const std::pair<QString, const char*> pages[] = {{tr("A new starter, chosen"), "machine.to_plan"},
        {tr("A panel that exists, typed in"), "machine.to_notes"}, {tr("What it does, found out"), "machine.to_deeds"}};
    for (std::size_t k = 0; k < m_toPage.size(); ++k) {
        m_toPage[k] = new QPushButton(pages[k].first, line);
        m_toPage[k]->setObjectName(QLatin1String(pages[k].second));
        m_toPage[k]->setCheckable(true);
        m_toPage[k]->setChecked(k == 0);
        connect(m_toPage[k], &QPushButton::clicked, this, [this, k] { showPage(static_cast<Page>(k)); });
        row->addWidget(m_toPage[k]);
    }
    row->addStretch(1);
    return line;
}

QWidget* MachinePlace::planPage()
{
    auto* page = new QWidget(this);
    auto* row = new QHBoxLayout(page);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(24);
    row->addWidget(choicesSide(), 1);
    row->addWidget(consequenceSide(), 1);
    return page;
}

namespace {

/// A choice in the flow of its sentence.
struct Clause {
    const char* choice;
    QString before, after;
};

/// In the order in which people decide: machine and motor, power circuit, operation, stopping, protection, supply.
std::vector<std::vector<Clause>> sentences()
{
    const auto tr = [](const char* text) { return MachinePlace::tr(text); };
    return {{{"machine", tr("The machine is called"), {}}, {"site", tr("and stands at"), {}},
                {"motor", tr("; its motor is a"), tr("(from the sample parts, or its plate: 5.5kW,11A,0.83,1455)")},
                {"load", tr("that drives"), {}}, {"brake", tr("; a spring-applied brake on it is"), tr(".")}},
        {{"base", tr("Its power circuit is"), {}}, {"operation", tr("; it is operated by:"), {}},
            {"interlock", tr("; directions, or star and delta, are kept apart by"), {}},
            {"hold", tr("; the hold joins"), tr(".")}},
        {{"stop", tr("The emergency stop acts"), {}}, {"stops", tr("; its devices:"), {}},
            {"guard", tr("; an interlocked guard door is"), {}},
            {"reset", tr("; the safety relay or controller is reset"), {}},
            {"feedback", tr("; NC contacts of the contactors in its reset circuit are"), {}},
            {"second_contactor", tr("; a line contactor as second channel is"), tr(".")}},
        {{"monitor", tr("The phase monitor:"), {}}, {"tap", tr(", it looks"), {}},
            {"monitor_contact", tr(", its contact goes"), {}},
            {"overload", tr("; the contact of the overload relay:"), tr(".")}},
        {{"control", tr("The control supply is"), {}},
            {"control_cable_m", tr("; the cable to buttons and devices in the field has"), tr("m")},
            {"lamps", tr("; indicator lamps, by the habit of colours:"), tr(".")}}};
}

} // namespace

QWidget* MachinePlace::choicesSide()
{
    auto* scroll = new QScrollArea(this);
    scroll->setObjectName("machine.choices");
    scroll->setAccessibleName(tr("Choices for a new starter"));
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inside = new TallColumn;
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 12, 0);
    column->setSpacing(14);
    for (const auto& sentence : sentences()) {
        auto* flow = new WordFlow(m_theme.body(), inside);
        for (const Clause& clause : sentence) {
            const std::size_t first = m_answers.size();
            std::vector<QWidget*> around = flow->say(clause.before);
            addChoice(*flow, *patterns::choiceNamed(clause.choice));
            const std::vector<QWidget*> after = flow->say(clause.after);
            if (clause.after != tr(".")) // which belongs to the sentence
                around.insert(around.end(), after.begin(), after.end());
            m_answers[first].around = std::move(around);
        }
        column->addWidget(flow);
    }
    column->addStretch(1);
    column->addWidget(plainLabel(tr("Motors of this dossier"), m_theme.bold(), inside));
    m_motors = plainLabel(QString(), m_theme.small(), inside);
    m_motors->setObjectName("machine.motors");
    column->addWidget(m_motors);
    scroll->setWidget(inside);
    return scroll;
}

void MachinePlace::addChoice(WordFlow& flow, const patterns::PlanChoice& choice)
{
    const std::string name(choice.name);
    const QString asks = said("choice." + name), id = "choice." + QString::fromStdString(name);
    const auto fallback = QString::fromUtf8(choice.fallback.data(), static_cast<qsizetype>(choice.fallback.size()));
    const auto words = patterns::wordsOf(choice);
    if (words.empty()) {
        auto* edit = new TextWord(m_theme, id, asks, &flow);
        edit->setText(fallback);
        edit->setPlaceholderText(tr("not said"));
        connect(edit, &QLineEdit::editingFinished, this, &MachinePlace::takeChoices);
        flow.put(edit);
        m_answers.push_back({name, {edit}, {}, [edit] { return edit->text().toStdString(); }});
    } else if (choice.many) {
        std::vector<std::pair<std::string, ToggleWord*>> toggles;
        std::vector<QWidget*> fields;
        const std::string preset = "+" + std::string(choice.fallback) + "+";
        for (std::string_view w : words) {
            const std::string word(w);
            if (word == "none")
                continue;
            auto* toggle = new ToggleWord(
                m_theme, id + '.' + QString::fromStdString(word), said("choice." + name + "." + word), &flow);
            toggle->setChecked(preset.find("+" + word + "+") != preset.npos);
            connect(toggle, &QAbstractButton::toggled, this, &MachinePlace::takeChoices);
            flow.put(toggle);
            toggles.emplace_back(word, toggle);
            fields.push_back(toggle);
        }
        m_answers.push_back({name, fields, {}, [toggles] {
                                 std::string all;
                                 for (const auto& [word, toggle] : toggles)
                                     if (toggle->isChecked())
                                         all += (all.empty() ? "" : "+") + word;
                                 return all.empty() ? std::string("none") : all;
                             }});
    } else {
        auto* box = new ChoiceWord(m_theme, id, asks, &flow);
        for (std::string_view w : words)
            box->addItem(said("choice." + name + "." + std::string(w)),
                QString::fromUtf8(w.data(), static_cast<qsizetype>(w.size())));
        box->setCurrentIndex(box->findData(fallback));
        connect(box, &QComboBox::currentIndexChanged, this, &MachinePlace::takeChoices);
        flow.put(box);
        m_answers.push_back({name, {box}, {}, [box] { return box->currentData().toString().toStdString(); }});
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
    m_drawing = new PlanDrawing(m_theme, PlanDrawing::Which::Control, QStringLiteral("machine.drawing"),
        tr("Control circuit of the new starter"), side);
    column->addWidget(m_drawing, 1);
    m_build = new QPushButton(tr("Build this starter"), side);
    m_build->setObjectName("machine.build");
    connect(m_build, &QPushButton::clicked, this, [this] {
        if (const auto result = m_preview->result(); result && result->file)
            emit dossierWanted(*result->file);
    });
    column->addWidget(m_build, 0, Qt::AlignLeft);
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

/// What does not matter is not said.
void MachinePlace::showWhatMatters()
{
    const auto plan = patterns::Plan::from(assignments());
    if (!plan)
        return;
    for (const Answer& a : m_answers) {
        const bool matters = patterns::matters(*plan, a.name);
        for (QWidget* w : a.fields) {
            w->setEnabled(matters);
            w->setVisible(matters);
        }
        for (QWidget* w : a.around)
            w->setVisible(matters);
    }
}

/// The first starter is built when somebody looks.
void MachinePlace::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    if (!m_preview->result() && !m_preview->isBusy())
        takeChoices();
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
    m_drawing->show(c);
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
