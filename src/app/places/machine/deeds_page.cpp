#include "app/places/machine/deeds_page.h"

#include "app/places/machine/deeds_map.h"
#include "app/places/machine/scenario_line.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/upright_scroll.h"
#include "core/simulation/scenario_run.h"
#include "wording/behaviour_text.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {

namespace {

const SuggestionNames kNames{[](const Message& m) { return words::sentence(m).toStdString(); },
    [](const SafetyFunction& f, const Circuit& c) { return words::suggestedName(f, c).toStdString(); }};

} // namespace

DeedsPage::DeedsPage(const PlaceParts& parts, QWidget* parent)
    : QWidget(parent)
    , m_document(parts.document)
    , m_theme(parts.theme)
    , m_work(this)
    , m_keeping(this)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    auto* upper = new QHBoxLayout;
    upper->setSpacing(16);
    auto* scroll = new UprightScroll(this);
    m_map = new DeedsMap(m_theme, scroll);
    scroll->setWidget(m_map);
    upper->addWidget(scroll, 3);
    auto* rest = new UprightScroll(this);
    m_rest = plainLabel(QString(), m_theme.body(), rest);
    m_rest->setObjectName("deeds.rest");
    m_rest->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    rest->setWidget(m_rest);
    upper->addWidget(rest, 1);
    column->addLayout(upper, 5);

    m_what = plainLabel(QString(), m_theme.verdict(), this);
    m_what->setObjectName("deeds.what");
    column->addWidget(m_what);
    m_steps = new ScenarioLine(m_theme, this);
    m_steps->setObjectName("deeds.steps");
    m_steps->setAccessibleName(tr("What was done, and what was seen of it"));
    m_steps->setToolTip(QString());
    column->addWidget(m_steps);
    auto* row = new QHBoxLayout;
    const auto button = [&](const QString& text, const char* name, auto pressed) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(QLatin1String(name));
        connect(b, &QPushButton::clicked, this, pressed);
        row->addWidget(b);
        return b;
    };
    m_play = button(tr("Play it on the Bench"), "deeds.play", [this] { play(); });
    m_right = button(tr("So it should be: keep it"), "deeds.right", [this] {
        if (const auto deed = chosen())
            keep(tr("keep what is seen"), m_found->shown[*deed]);
    });
    m_wrong = button(tr("That is wrong: make it a finding"), "deeds.wrong", [this] {
        if (const auto deed = chosen())
            keep(tr("say that it is wrong"), contraryOf(m_found->shown[*deed]));
    });
    row->addStretch(1);
    m_all = button(
        tr("Keep every start and every stop, and the functions that they show"), "deeds.all", [this] { keepAll(); });
    column->addLayout(row);
    m_state = plainLabel(QString(), m_theme.body(), this);
    m_state->setObjectName("deeds.state");
    column->addWidget(m_state);
    connect(m_map, &DeedsMap::chose, this, &DeedsPage::showChosen);
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
    m_rest->setText(QString());
    if (!answer) {
        m_map->showDeeds({}, {}, {});
        m_state->setText(words::sentence(answer.error()));
        return showChosen();
    }
    m_found = *answer;
    QStringList deeds, others; // deeds come first, in their order
    for (const std::string& line :
        wording::behaviourLines(m_found->behaviour, m_found->dossier->circuit, m_found->plant))
        (deeds.size() < static_cast<int>(m_found->behaviour.deeds.size()) ? deeds : others)
            << QString::fromStdString(line);
    m_map->showDeeds(m_found->behaviour.deeds, m_found->dossier->circuit, deeds);
    m_rest->setText(others.join(QStringLiteral("\n\n")));
    m_state->setText(m_found->behaviour.deeds.empty()
            ? tr("Nothing that was tried starts or stops anything.")
            : tr("Seen is not meant: only a person knows what it should do."));
    showChosen();
}

std::optional<std::size_t> DeedsPage::chosen() const
{
    const auto deed = m_map->chosen();
    return m_found && deed && *deed < m_found->shown.size() ? deed : std::nullopt;
}

void DeedsPage::showChosen()
{
    const auto deed = chosen();
    m_steps->showScenario(deed ? m_found->shown[*deed].scenario : Scenario{}, m_found ? &m_found->plant : nullptr);
    m_steps->setVisible(deed.has_value());
    m_what->setText(deed ? m_map->accessibleDescription() : QString());
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
