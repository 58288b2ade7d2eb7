#include "app/places/machine/deeds_page.h"

#include "app/widgets/plain_text.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/function_edits.h"
#include "core/suggestions/scenario_suggestion.h"
#include "core/suggestions/suggestion.h"
#include "wording/behaviour_text.h"

#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {

namespace {

/// What would be kept: what is done when, and what is expected.
QString stepsText(const Scenario& scenario)
{
    std::vector<std::pair<double, QString>> lines;
    for (const Step& s : scenario.steps)
        lines.emplace_back(s.atS, QString::fromStdString(s.target) + QLatin1Char(' ') + words::actionWord(s.action));
    for (const Expectation& e : scenario.expectations)
        lines.emplace_back(
            e.atS, DeedsPage::tr("expected: %1 %2").arg(QString::fromStdString(e.subject), words::stateWord(e.state)));
    std::stable_sort(lines.begin(), lines.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    QStringList text;
    for (const auto& [atS, line] : lines)
        text << DeedsPage::tr("%1 s  %2").arg(atS, 0, 'f', 2).arg(line);
    return text.join(QLatin1Char('\n'));
}

} // namespace

DeedsPage::DeedsPage(const PlaceParts& parts, QWidget* parent)
    : QWidget(parent)
    , m_document(parts.document)
    , m_theme(parts.theme)
    , m_work(this)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(24);
    m_list = new QListWidget(this);
    m_list->setObjectName("deeds.list");
    m_list->setAccessibleName(tr("What each hand does, found out by trying"));
    m_list->setWordWrap(true);
    m_list->setFrameShape(QFrame::NoFrame);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(m_list, &QListWidget::currentRowChanged, this, &DeedsPage::showChosen);
    row->addWidget(m_list, 3);

    auto* side = new QWidget(this);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(12);
    m_state = plainLabel(QString(), m_theme.body(), side);
    m_state->setObjectName("deeds.state");
    m_what = plainLabel(QString(), m_theme.verdict(), side);
    m_what->setObjectName("deeds.what");
    column->addWidget(m_what);
    const auto button = [&](const QString& text, const char* name, auto pressed) {
        auto* b = new QPushButton(text, side);
        b->setObjectName(QLatin1String(name));
        connect(b, &QPushButton::clicked, this, pressed);
        column->addWidget(b, 0, Qt::AlignLeft);
        return b;
    };
    m_play = button(tr("Play it on the Bench"), "deeds.play", [this] { play(); });
    m_right = button(tr("So it should be: keep it as a scenario"), "deeds.right", [this] {
        if (const auto* d = chosen())
            keep(tr("keep what is seen"), {scenarioOf(m_found->plant, *d)});
    });
    m_wrong = button(tr("That is wrong: make it a finding"), "deeds.wrong", [this] {
        if (const auto* d = chosen())
            keep(tr("say that it is wrong"), {contraryOf(m_found->plant, *d)});
    });
    m_steps = plainLabel(QString(), m_theme.body(), side);
    m_steps->setObjectName("deeds.steps");
    column->addWidget(m_steps);
    column->addStretch(1);
    m_all = button(
        tr("Keep every start and every stop, and the functions that they show"), "deeds.all", [this] { keepAll(); });
    column->addWidget(m_state);
    row->addWidget(side, 2);
    connect(&m_document, &Document::changed, this, [this] {
        if (isVisible())
            findOut();
    });
    showChosen();
}

void DeedsPage::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    findOut();
}

/// Of the circuit as it is; an older search is dropped.
void DeedsPage::findOut()
{
    const Snapshot snapshot = m_document.snapshot();
    if (m_found && m_found->dossier->circuit == snapshot->circuit)
        return;
    m_state->setText(tr("Every hand is being tried ..."));
    m_work.run(
        [snapshot](std::stop_token stop) -> std::optional<Answer> {
            auto plant = compile(snapshot->circuit);
            if (!plant)
                return Answer(Unexpected{plant.error()});
            auto behaviour = exploration::behaviourOf(snapshot->circuit, {}, stop);
            if (stop.stop_requested())
                return std::nullopt;
            if (!behaviour)
                return Answer(Unexpected{behaviour.error()});
            return Answer(Found{snapshot, std::move(*plant), std::move(*behaviour)});
        },
        [this](const std::shared_ptr<const Answer>& answer) { take(*answer); });
}

void DeedsPage::take(const Answer& answer)
{
    m_found.reset();
    m_list->clear();
    if (!answer) {
        m_state->setText(words::sentence(answer.error()));
        return showChosen();
    }
    m_found = *answer;
    const auto lines = wording::behaviourLines(m_found->behaviour, m_found->dossier->circuit, m_found->plant);
    for (const std::string& line : lines) // deeds first, in their order
        m_list->addItem(QString::fromStdString(line));
    m_state->setText(m_found->behaviour.deeds.empty()
            ? tr("Nothing that was tried starts or stops anything.")
            : tr("Seen is not meant: only a person knows what it should do."));
    m_list->setCurrentRow(0);
    showChosen();
}

const exploration::Deed* DeedsPage::chosen() const
{
    const int row = m_list->currentRow();
    if (!m_found || row < 0 || row >= static_cast<int>(m_found->behaviour.deeds.size()))
        return nullptr;
    return &m_found->behaviour.deeds[static_cast<std::size_t>(row)];
}

void DeedsPage::showChosen()
{
    const bool isDeed = chosen() != nullptr;
    m_steps->setText(isDeed ? stepsText(scenarioOf(m_found->plant, *chosen()).scenario) : QString());
    m_what->setText(m_list->currentItem() ? m_list->currentItem()->text() : QString());
    for (QPushButton* b : {m_play, m_right, m_wrong})
        b->setEnabled(isDeed);
    m_all->setEnabled(m_found && !m_found->behaviour.deeds.empty());
}

void DeedsPage::play()
{
    const auto* deed = chosen();
    if (!deed)
        return;
    const Scenario scenario = scenarioOf(m_found->plant, *deed).scenario;
    if (const auto script = stimuliOf(m_found->plant, scenario))
        emit playWanted(*script, timeNs(seconds(scenario.lengthS)));
}

void DeedsPage::keep(const QString& label, std::vector<SuggestedScenario> suggested)
{
    m_document.editFile(label, [&](const DossierFile& before) -> Expected<DossierFile> {
        DossierFile file = before;
        for (SuggestedScenario& s : suggested) {
            s.scenario.name = words::sentence(s.name).toStdString();
            if (!file.dossier.scenario(s.scenario.name))
                file = edit::withScenario(file, s.scenario);
        }
        return file;
    });
    m_state->setText(tr("Kept: %1 scenarios are in this dossier.").arg(m_document.dossier().scenarios.size()));
}

void DeedsPage::keepAll()
{
    if (!m_found)
        return;
    keep(tr("keep what is seen"), suggestedScenarios(m_found->plant, m_found->behaviour));
    const auto functions = suggestedFunctions(m_document.dossier());
    if (!functions)
        return m_state->setText(words::sentence(functions.error()));
    std::vector<SafetyFunction> named = *functions;
    for (SafetyFunction& f : named)
        f.name = words::suggestedName(f, m_document.dossier().circuit).toStdString();
    if (!named.empty())
        m_document.editFile(tr("Suggest safety functions"),
            [&named](const DossierFile& file) { return edit::withFunctions(file, named); });
    m_state->setText(
        tr("Kept: %1 scenarios and %2 functions are in this dossier. Look at each: what they expect is what "
           "was seen.")
            .arg(m_document.dossier().scenarios.size())
            .arg(m_document.dossier().functions.size()));
}

} // namespace ts::app
