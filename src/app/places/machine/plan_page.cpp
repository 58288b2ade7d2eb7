#include "app/places/machine/plan_page.h"

#include "app/places/machine/plan_drawing.h"
#include "app/places/machine/plan_sentences.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/tall_column.h"
#include "app/words/words.h"
#include "core/library/motor_plate.h"
#include "core/library/registry.h"
#include "wording/verdict_texts.h"

#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace ts::app {
namespace {

void empty(QVBoxLayout& column)
{
    while (QLayoutItem* item = column.takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->setParent(nullptr);
            w->deleteLater();
        }
        delete item;
    }
}

QString outcomeText(const ScenarioOutcome& o)
{
    QString text = QString::fromStdString(o.name) + QStringLiteral(": ");
    if (o.chatters)
        return text + PlanPage::tr("the circuit chatters");
    if (o.trouble)
        return text + words::sentence(*o.trouble);
    QStringList unmet;
    for (const Expectation& e : o.unmet)
        unmet << words::sentence(
            message("expect.not_met", {Measured{e.atS, "s"}, e.subject, words::stateWord(e.state).toStdString()}));
    return text + unmet.join(QStringLiteral("; "));
}

QString wordText(const patterns::ChoiceName& choice, const std::string& words)
{
    QStringList all;
    for (const QString& word : QString::fromStdString(words).split(QLatin1Char('+')))
        all << words::sentence(message("choice." + choice.name + "." + word.toStdString()));
    return all.join(PlanPage::tr(" and "));
}

QString deviation(double share)
{
    const double tenths = std::round(share * 1000.0);
    return QStringLiteral("%1%2 %")
        .arg(tenths > 0 ? QStringLiteral("+") : QString())
        .arg(tenths == 0 ? 0.0 : tenths / 10.0, 0, 'f', 1);
}

} // namespace

PlanPage::PlanPage(const PlaceParts& parts, QWidget* parent)
    : QWidget(parent)
    , m_document(parts.document)
    , m_theme(parts.theme)
    , m_preview(new PlanPreview(this))
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(24);
    auto* left = new QVBoxLayout;
    left->addWidget(head());
    m_sentences = new PlanSentences(m_theme, this);
    left->addWidget(m_sentences, 1);
    m_motors = plainLabel(QString(), m_theme.small(), this);
    m_motors->setObjectName("machine.motors");
    m_sentences->setFoot(m_motors);
    row->addLayout(left, 1);
    row->addWidget(consequenceSide(), 1);
    connect(m_sentences, &PlanSentences::changed, this, &PlanPage::takeChoices);
    connect(m_sentences, &PlanSentences::looked, this, &PlanPage::look);
    connect(m_preview, &PlanPreview::finished, this, &PlanPage::takeResult);
    connect(m_preview, &PlanPreview::tried, this, &PlanPage::takeStanding);
    connect(m_preview, &PlanPreview::compared, this, &PlanPage::showSchools);
    connect(&m_document, &Document::changed, this, &PlanPage::takeDocument);
    connect(&m_document, &Document::loaded, this, [this] { m_beginsNew = false; });
    showWord();
}

QWidget* PlanPage::head()
{
    auto* line = new QWidget(this);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 12, 0);
    m_whose = plainLabel(QString(), m_theme.bold(), line);
    m_whose->setObjectName("machine.whose");
    m_another = new QPushButton(line);
    m_another->setObjectName("machine.begin_another");
    connect(m_another, &QPushButton::clicked, this, &PlanPage::beginAnother);
    row->addWidget(m_whose, 1);
    row->addWidget(m_another);
    return line;
}

QWidget* PlanPage::consequenceSide()
{
    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    auto* scroll = new QScrollArea(side);
    scroll->setObjectName("machine.follows");
    scroll->setAccessibleName(tr("What follows"));
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inside = new TallColumn;
    auto* lines = new QVBoxLayout(inside);
    lines->setContentsMargins(0, 0, 12, 0);
    lines->setSpacing(2);
    const auto part = [&] {
        auto* holder = new QWidget(inside);
        auto* parts = new QVBoxLayout(holder);
        parts->setContentsMargins(0, 0, 0, 0);
        parts->setSpacing(0);
        lines->addWidget(holder);
        return parts;
    };
    m_summary = plainLabel(QString(), m_theme.bold(), inside);
    m_summary->setObjectName("machine.summary");
    lines->addWidget(m_summary);
    m_runs = part();
    m_runs->parentWidget()->setObjectName("machine.runs");
    lines->addSpacing(8);
    m_why = plainLabel(QString(), m_theme.body(), inside);
    m_why->setObjectName("machine.why");
    lines->addWidget(m_why);
    m_reason = new TextWord(m_theme, QStringLiteral("machine.reason"), tr("Your reason, kept for the report"), inside);
    m_reason->setPlaceholderText(tr("your reason, kept for the report"));
    connect(m_reason, &QLineEdit::editingFinished, this, &PlanPage::takeReason);
    lines->addWidget(m_reason);
    m_schoolsHead = plainLabel(QString(), m_theme.body(), inside);
    lines->addWidget(m_schoolsHead);
    m_schools = part();
    lines->addSpacing(8);
    m_stands = part();
    lines->addStretch(1);
    scroll->setWidget(inside);
    column->addWidget(scroll, 5);
    column->addWidget(drawingHead(side));
    m_control = new PlanDrawing(m_theme, PlanDrawing::Which::Control, QStringLiteral("machine.drawing"),
        tr("Control circuit of what is chosen"), side);
    m_power = new PlanDrawing(m_theme, PlanDrawing::Which::Power, QStringLiteral("machine.power"),
        tr("Power circuit of what is chosen"), side);
    m_power->hide();
    column->addWidget(m_control, 6);
    column->addWidget(m_power, 6);
    m_build = new QPushButton(side);
    m_build->setObjectName("machine.build");
    connect(m_build, &QPushButton::clicked, this, &PlanPage::build);
    m_build->setEnabled(false);
    m_beside = new QPushButton(tr("Run it beside what is open"), side);
    m_beside->setObjectName("machine.beside");
    m_beside->setToolTip(tr("On the Bench, both operated by the same hands, with what is otherwise"));
    m_beside->setEnabled(false);
    connect(m_beside, &QPushButton::clicked, this, [this] {
        if (const auto result = m_preview->result(); result && result->file)
            emit besideWanted(result->file->dossier.circuit, tr("the other choices"));
    });
    auto* buttons = new QHBoxLayout;
    buttons->addWidget(m_build);
    buttons->addWidget(m_beside);
    buttons->addStretch();
    column->addLayout(buttons);
    return side;
}

QWidget* PlanPage::drawingHead(QWidget* parent)
{
    auto* line = new QWidget(parent);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    const QString names[] = {tr("Control circuit"), tr("Power circuit")};
    for (std::size_t k = 0; k < m_toDrawing.size(); ++k) {
        m_toDrawing[k] = new QPushButton(names[k], line);
        m_toDrawing[k]->setObjectName(k == 0 ? "machine.to_control" : "machine.to_power");
        m_toDrawing[k]->setCheckable(true);
        m_toDrawing[k]->setChecked(k == 0);
        connect(m_toDrawing[k], &QPushButton::clicked, this, [this, k] {
            m_control->setVisible(k == 0);
            m_power->setVisible(k == 1);
            for (std::size_t other = 0; other < m_toDrawing.size(); ++other)
                m_toDrawing[other]->setChecked(other == k);
            takeResult();
        });
        row->addWidget(m_toDrawing[k]);
    }
    row->addWidget(plainLabel(tr("What the last word changed is marked."), m_theme.small(), line), 1);
    return line;
}

void PlanPage::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    takeDocument();
    if (!m_preview->result() && !m_preview->isBusy())
        takeChoices();
}

/// A machine that was made so brings its choices along.
void PlanPage::takeDocument()
{
    if (!isVisible())
        return; // nobody looks: made when the page is shown
    showMotors();
    const Machine& machine = m_document.dossier().machine;
    const bool hasPlan = !machine.plan.starters.empty();
    m_another->setVisible(hasPlan);
    m_another->setText(
        m_beginsNew ? tr("Go on with %1").arg(QString::fromStdString(machine.name)) : tr("Begin another machine"));
    m_whose->setText(
        isChanging() ? tr("%1, as it was chosen").arg(QString::fromStdString(machine.name)) : tr("A new machine"));
    m_build->setText(
        isChanging() ? tr("Change %1 so").arg(QString::fromStdString(machine.name)) : tr("Build this machine"));
    if (!isChanging())
        return;
    if (machine.plan == m_shown) { // edited elsewhere: what would be built rests on an older one
        if (m_document.snapshot() != m_restsOn)
            takeChoices();
        return;
    }
    m_shown = machine.plan;
    if (!patterns::MachinePlan::of(machine.plan))
        return takeChoices(); // which says what is not understood
    m_reasons = machine.plan.reasons;
    m_sentences->begin(machine.plan);
}

void PlanPage::beginAnother()
{
    m_beginsNew = !m_beginsNew;
    m_shown = {};
    m_reasons.clear();
    if (m_beginsNew)
        m_sentences->begin({});
    takeDocument();
    takeChoices();
}

void PlanPage::takeChoices()
{
    m_build->setEnabled(false);
    m_summary->setText(tr("Being built and run ..."));
    m_restsOn = m_document.snapshot();
    PlanWanted wanted{m_sentences->plan(), reasons(), {}};
    if (isChanging())
        wanted.there = m_document.file();
    m_preview->work(std::move(wanted));
    showWord();
}

/// A person's own, and that of the advice where it was taken.
ChosenWords PlanPage::reasons() const
{
    ChosenWords all;
    const auto add = [&all](int starter, const patterns::Plan& plan, const std::vector<patterns::Advice>& advice) {
        for (const patterns::Advice& a : advice)
            if (plan.is(a.choice, a.word) && patterns::matters(plan, a.choice))
                all[patterns::keptName(starter, a.choice)] = (tr("advised: ") + words::sentence(a.reason))
                                                                 .toStdString();
    };
    const patterns::MachinePlan& plan = m_sentences->plan();
    add(0, plan.shared(), patterns::adviceFor(plan));
    for (const patterns::MachinePlan::Starter& s : plan.starters())
        add(s.number, s.plan, patterns::adviceFor(s.plan));
    for (const auto& [name, reason] : m_reasons)
        all[name] = reason;
    return all;
}

void PlanPage::takeResult()
{
    const auto result = m_preview->result();
    if (!result)
        return;
    m_build->setEnabled(result->file && !result->refusal);
    m_beside->setEnabled(m_build->isEnabled() && !m_document.dossier().circuit.devices.empty());
    empty(*m_stands);
    showRuns();
    if (!result->file)
        return;
    const Circuit& c = result->file->dossier.circuit;
    PlanDrawing* drawing = m_power->isVisible() ? m_power : m_control;
    drawing->show(c, result->newDevices, result->newTerminals);
    takeStanding();
}

void PlanPage::showRuns()
{
    empty(*m_runs);
    const auto result = m_preview->result();
    if (result->refusal)
        return m_summary->setText(tr("This cannot be: %1").arg(words::sentence(*result->refusal)));
    const Circuit& c = result->file->dossier.circuit;
    m_summary->setText(tr("%1 devices, %2 wires").arg(c.devices.size()).arg(c.wires.size()));
    const auto add = [this](Mark mark, const QString& text) {
        m_runs->addWidget(new MarkedLine(mark, text, m_theme, m_runs->parentWidget()));
    };
    for (const Message& lost : result->lost)
        add(Mark::Wrong, words::sentence(lost));
    int inOrder = 0;
    for (const ScenarioOutcome& o : result->outcomes) {
        inOrder += o.isInOrder();
        if (!o.isInOrder())
            add(Mark::Wrong, outcomeText(o));
    }
    add(Mark::InOrder, tr("%1 of %2 scenarios end as expected").arg(inOrder).arg(result->outcomes.size()));
}

/// How its functions stand: the same verdict and findings as everywhere, of what is quick.
void PlanPage::takeStanding()
{
    constexpr int kMost = 3;
    empty(*m_stands);
    const auto standing = m_preview->standing();
    const auto result = m_preview->result();
    if (!result || !result->file || result->refusal)
        return;
    const auto add = [this](QWidget* line) { m_stands->addWidget(line); };
    QWidget* holder = m_stands->parentWidget();
    if (!standing)
        return add(plainLabel(tr("Being tried with faults ..."), m_theme.small(), holder));
    const Dossier& d = result->file->dossier;
    for (const FunctionVerdict& v : standing->verdicts) {
        const Mark mark = v.answer == FunctionVerdict::Answer::NotReached ? Mark::Wrong : Mark::Claimed;
        const std::string name = d.function(v.function)->name;
        add(new MarkedLine(mark, QString::fromStdString(name + ": " + wording::verdictText(v)), m_theme, holder));
    }
    int findings = 0;
    for (const Finding& f : standing->checked.findings)
        if (f.severity != Severity::Note && ++findings <= kMost)
            add(new MarkedLine(Mark::Wrong, words::sentence(f.what), m_theme, holder));
    const auto open = std::count_if(standing->checked.checks.begin(), standing->checked.checks.end(),
        [](const CheckMade& c) { return !c.isWhole(); });
    add(plainLabel(
        tr("%1 findings in all, %2 checks not made yet. All of it when it is built.").arg(findings).arg(open),
        m_theme.small(), holder));
}

const patterns::Plan& PlanPage::planOf(const patterns::ChoiceName& choice) const
{
    const patterns::MachinePlan& plan = m_sentences->plan();
    const patterns::Plan* own = choice.starter > 0 ? plan.starter(choice.starter) : nullptr;
    return own ? *own : plan.shared();
}

std::optional<patterns::Advice> PlanPage::adviceOn(const patterns::ChoiceName& choice) const
{
    const auto all = choice.starter == 0 ? patterns::adviceFor(m_sentences->plan())
                                         : patterns::adviceFor(planOf(choice));
    const auto it = std::find_if(
        all.begin(), all.end(), [&choice](const patterns::Advice& a) { return a.choice == choice.name; });
    return it == all.end() ? std::nullopt : std::optional(*it);
}

void PlanPage::look(const patterns::ChoiceName& choice)
{
    m_looked = choice;
    showWord();
}

/// The word in hand: why it is advised, or what is; and what the others would do.
void PlanPage::showWord()
{
    empty(*m_schools);
    m_schoolsHead->clear();
    m_reason->setVisible(m_looked.has_value());
    if (!m_looked)
        return m_why->setText(tr("With the keyboard or the mouse on a word, this says why it is advised and what the "
                                 "others would do."));
    const std::string kept = patterns::keptName(m_looked->starter, m_looked->name);
    const auto reason = m_reasons.find(kept);
    m_reason->setText(reason == m_reasons.end() ? QString() : QString::fromStdString(reason->second));
    QString text = words::sentence(message("choice." + m_looked->name));
    text[0] = text[0].toUpper();
    const auto advice = adviceOn(*m_looked);
    const bool isTaken = advice && planOf(*m_looked).is(m_looked->name, advice->word);
    if (advice && isTaken)
        text += tr(": advised, because ") + words::sentence(advice->reason);
    else if (advice)
        text += tr(": advised would be \"%1\", because %2")
                    .arg(wordText(*m_looked, advice->word), words::sentence(advice->reason));
    m_why->setText(text);
    const patterns::PlanChoice& choice = *patterns::choiceNamed(m_looked->name);
    const bool compares = !choice.words.empty() && m_looked->name != "lamps" && m_looked->name != "injury"
        && m_looked->name != "exposure" && m_looked->name != "avoidance";
    if (!compares)
        return;
    m_schoolsHead->setText(tr("The others are run on the same ..."));
    m_preview->compare(m_sentences->plan(), *m_looked);
}

void PlanPage::showSchools()
{
    empty(*m_schools);
    const auto schools = m_preview->schools();
    if (!schools || !m_looked)
        return;
    m_schoolsHead->setText(tr("Instead, run on the same:"));
    for (const PlanPreview::School& s : *schools) {
        QString text = wordText(*m_looked, s.word) + QStringLiteral(": ");
        const auto wrong = std::find_if(
            s.outcomes.begin(), s.outcomes.end(), [](const ScenarioOutcome& o) { return !o.isInOrder(); });
        const auto count = std::count_if(
            s.outcomes.begin(), s.outcomes.end(), [](const ScenarioOutcome& o) { return !o.isInOrder(); });
        if (s.refusal)
            text += words::sentence(*s.refusal);
        else if (count == 0)
            text += tr("all %1 scenarios as expected, %2 devices").arg(s.outcomes.size()).arg(s.devices);
        else
            text += outcomeText(*wrong) + (count > 1 ? tr("; and %1 more").arg(count - 1) : QString());
        const bool isBad = s.refusal || count > 0;
        m_schools->addWidget(
            new MarkedLine(isBad ? Mark::Wrong : Mark::InOrder, text, m_theme, m_schools->parentWidget()));
    }
}

void PlanPage::takeReason()
{
    if (!m_looked)
        return;
    const std::string kept = patterns::keptName(m_looked->starter, m_looked->name);
    const std::string text = m_reason->text().trimmed().toStdString();
    if (text.empty() ? m_reasons.erase(kept) == 0 : std::exchange(m_reasons[kept], text) == text)
        return;
    takeChoices();
}

void PlanPage::build()
{
    const auto result = m_preview->result();
    if (!result || !result->file)
        return;
    if (!isChanging())
        return emit dossierWanted(*result->file);
    if (m_restsOn != m_document.snapshot())
        return takeChoices();
    m_shown = result->file->dossier.machine.plan; // what the sentences say already
    m_document.editFile(tr("Other choices for %1").arg(QString::fromStdString(m_document.dossier().machine.name)),
        [&result](const DossierFile&) { return Expected<DossierFile>(*result->file); });
    takeChoices();
}

/// How well the equivalent circuits of the open dossier's motors meet their plates.
void PlanPage::showMotors()
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
    m_motors->setText(lines.isEmpty() ? QString() : lines.join(QStringLiteral("\n")));
}

} // namespace ts::app
