#include "app/places/machine/deeds_page.h"

#include "app/widgets/plain_text.h"
#include "core/simulation/scenario_run.h"
#include "wording/behaviour_text.h"

#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {

namespace {

const SuggestionNames kNames{[](const Message& m) { return words::sentence(m).toStdString(); },
    [](const SafetyFunction& f, const Circuit& c) { return words::suggestedName(f, c).toStdString(); }};

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
    , m_keeping(this)
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
        if (const auto deed = chosen())
            keep(tr("keep what is seen"), m_found->shown[*deed]);
    });
    m_wrong = button(tr("That is wrong: make it a finding"), "deeds.wrong", [this] {
        if (const auto deed = chosen())
            keep(tr("say that it is wrong"), contraryOf(m_found->shown[*deed]));
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

DeedsPage::Answer DeedsPage::foundIn(const Snapshot& dossier, std::stop_token stop)
{
    auto plant = compile(dossier->circuit);
    if (!plant)
        return Unexpected{plant.error()};
    auto behaviour = exploration::behaviourOf(dossier->circuit, {}, stop);
    if (!behaviour)
        return Unexpected{behaviour.error()};
    Found found{dossier, std::move(*plant), std::move(*behaviour), {}};
    for (const exploration::Deed& d : found.behaviour.deeds)
        found.shown.push_back(scenarioOf(found.plant, d));
    return found;
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
            Answer found = foundIn(snapshot, stop);
            return stop.stop_requested() ? std::nullopt : std::optional(std::move(found));
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

std::optional<std::size_t> DeedsPage::chosen() const
{
    const int row = m_list->currentRow();
    if (!m_found || row < 0 || row >= static_cast<int>(m_found->shown.size()))
        return std::nullopt;
    return static_cast<std::size_t>(row);
}

void DeedsPage::showChosen()
{
    const auto deed = chosen();
    m_steps->setText(deed ? stepsText(m_found->shown[*deed].scenario) : QString());
    m_what->setText(m_list->currentItem() ? m_list->currentItem()->text() : QString());
    for (QPushButton* b : {m_play, m_right, m_wrong})
        b->setEnabled(deed.has_value());
    m_all->setEnabled(m_found && !m_found->shown.empty());
}

void DeedsPage::play()
{
    const auto deed = chosen();
    if (!deed)
        return;
    const Scenario& scenario = m_found->shown[*deed].scenario;
    if (const auto script = stimuliOf(m_found->plant, scenario))
        emit playWanted(*script, timeNs(seconds(scenario.lengthS)));
}

void DeedsPage::keep(const QString& label, SuggestedScenario suggested)
{
    m_document.editFile(label, [&](const DossierFile& file) -> Expected<DossierFile> {
        return withScenarios(file, {std::move(suggested)}, kNames);
    });
    m_state->setText(tr("Kept: %1 scenarios are in this dossier.").arg(m_document.dossier().scenarios.size()));
}

/// Which functions they show is found out by running them: in the background, for the dossier as it is now.
void DeedsPage::keepAll()
{
    if (!m_found)
        return;
    m_state->setText(tr("Their functions are being found out ..."));
    m_keeping.run(
        [file = m_document.file(), plant = m_found->plant, behaviour = m_found->behaviour](std::stop_token stop)
            -> std::optional<Expected<DossierFile>> { return withBehaviour(file, plant, behaviour, kNames, stop); },
        [this, before = m_document.snapshot()](const std::shared_ptr<const Expected<DossierFile>>& whole) {
            if (!*whole)
                return m_state->setText(words::sentence(whole->error()));
            if (m_document.snapshot() != before)
                return m_state->setText(tr("The dossier was changed meanwhile: nothing was kept. Try again."));
            m_document.editFile(tr("keep what is seen"), [&whole](const DossierFile&) { return *whole; });
            m_state->setText(tr("Kept: %1 scenarios and %2 functions are in this dossier. Look at each: what they "
                                "expect is what was seen.")
                                 .arg(m_document.dossier().scenarios.size())
                                 .arg(m_document.dossier().functions.size()));
        });
}

} // namespace ts::app
