#include "app/places/tests/tests_place.h"

#include "app/document/moment.h"
#include "app/places/tests/day_line.h"
#include "app/places/tests/step_card.h"
#include "app/widgets/marked_drawing.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/upright_scroll.h"
#include "core/measuring/stop_times.h"
#include "core/results/study_ids.h"
#include "wording/test_words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <span>

namespace ts::app {
namespace {

constexpr std::size_t kDay = 10; // "2026-11-30"

} // namespace

TestsPlace::TestsPlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("tests"), tr("Tests"), parent)
    , m_document(parts.document)
    , m_book(parts.book)
    , m_theme(parts.theme)
    , m_looking(this)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 16, 8);
    column->setSpacing(8);
    auto* head = new QHBoxLayout;
    m_said = plainLabel({}, m_theme.verdict(), this);
    m_said->setObjectName("tests.said");
    m_said->setWordWrap(true);
    m_make = new QPushButton(this);
    m_make->setObjectName("tests.make");
    head->addWidget(m_said, 1);
    head->addWidget(m_make);
    column->addLayout(head);
    m_work = new QWidget(this);
    auto* work = new QVBoxLayout(m_work);
    work->setContentsMargins(0, 0, 0, 0);
    m_day = new DayLine(m_theme, m_work);
    work->addWidget(m_day);
    auto* middle = new QHBoxLayout;
    m_card = new StepCard(m_theme, m_work);
    m_drawing = new MarkedDrawing(MarkedDrawing::Sign::Proved, QStringLiteral("tests.drawing"),
        tr("The circuit, with what is proved gone over with a highlighter"), m_theme, m_work);
    middle->addWidget(m_card, 5);
    middle->addWidget(m_drawing, 6);
    work->addLayout(middle, 1);
    auto* scroll = new UprightScroll(m_work);
    scroll->setMaximumHeight(72);
    m_hidden = plainLabel({}, m_theme.small(), scroll);
    m_hidden->setObjectName("tests.hidden");
    m_hidden->setWordWrap(true);
    m_hidden->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    scroll->setWidget(m_hidden);
    work->addWidget(scroll);
    column->addWidget(m_work, 1);
    column->addStretch();
    connect(m_make, &QPushButton::clicked, this, [this] {
        m_book.isBusy(kTests.id, {}) ? m_book.cancel(kTests.id, {}) : m_book.ask(kTests.id, {});
        takePlan();
    });
    connect(m_day, &DayLine::stepChosen, this, &TestsPlace::goTo);
    connect(m_card, &StepCard::entered, this, &TestsPlace::enter);
    connect(m_card, &StepCard::timesWanted, this, &TestsPlace::takeTimes);
    connect(m_card, &StepCard::nextWanted, this, &TestsPlace::goOn);
    connect(m_card, &StepCard::backWanted, this, [this] { goTo(static_cast<int>(m_current) - 1); });
    connect(&m_book, &StudyBook::changed, this, &TestsPlace::takePlan);
    connect(&m_book, &StudyBook::ended, this, &TestsPlace::takePlan);
    connect(&m_book, &StudyBook::progressed, this, &TestsPlace::tellProgress);
    connect(&m_document, &Document::recorded, this, &TestsPlace::takeStanding);
    connect(&m_document, &Document::loaded, this, [this] { m_current = 0; });
    takePlan();
}

void TestsPlace::showEvent(QShowEvent*)
{
    takePlan();
}

void TestsPlace::takePlan()
{
    const auto plan = m_book.fresh(kTests);
    const bool isNew = plan != m_plan;
    m_plan = plan;
    m_work->setVisible(m_plan != nullptr);
    tellProgress();
    if (!isNew || !m_plan)
        return;
    m_drawing->setCircuit(m_document.dossier().circuit);
    m_current = std::min(m_current, m_plan->steps.size() - 1);
    QString hidden = words::sentence(message("test.hidden_intro", {static_cast<long long>(m_plan->hidden.size())}));
    for (const measuring::Unshown& h : m_plan->hidden)
        hidden += '\n' + QString::fromStdString(wording::hiddenText(m_document.dossier().circuit, h));
    for (const measuring::TestStep& s : m_plan->leftOut)
        hidden += QStringLiteral("\n%1: %2")
                      .arg(words::word("test.left_out"), QString::fromStdString(wording::lookText(s.look)));
    if (!m_plan->notInsulated.empty())
        hidden += QLatin1Char('\n')
            + words::sentence(message("test.not_insulated", {wording::joined(m_plan->notInsulated, ", ")}));
    m_hidden->setText(hidden);
    takeStanding();
}

void TestsPlace::tellProgress()
{
    const bool isBusy = m_book.isBusy(kTests.id, {});
    m_make->setVisible(!m_plan);
    m_make->setText(isBusy ? tr("Stop") : tr("Make the plan"));
    if (m_plan)
        return;
    const StudyBook::Progress progress = m_book.progress(kTests.id, {});
    const Error* trouble = m_book.trouble(kTests.id, {});
    m_said->setText(isBusy && progress.total > 0
            ? tr("Looking for the shortest plan: %1 of %2").arg(progress.done).arg(progress.total)
            : isBusy ? tr("Looking for the shortest plan ...")
            : trouble
            ? words::sentence(trouble->message)
            : tr("Not planned yet: how the built panel is proved, step by step, each with what it must read"));
}

void TestsPlace::takeStanding()
{
    if (!m_plan)
        return;
    m_states = measuring::standingOf(*m_plan, m_document.file());
    const measuring::Proof proof = measuring::proofOf(*m_plan, m_states);
    m_drawing->setMarked(proof.proved, proof.begun);
    showStep();
    emit stateChanged();
}

void TestsPlace::goTo(int step)
{
    if (!m_plan || step < 0 || step >= static_cast<int>(m_plan->steps.size()))
        return;
    m_current = static_cast<std::size_t>(step);
    showStep();
}

void TestsPlace::goOn()
{
    for (std::size_t k = 1; k <= m_states.size(); ++k)
        if (const std::size_t next = (m_current + k) % m_states.size(); m_states[next].open) {
            // What is not proved dead now is not touched, whatever was proved some time.
            const auto toProve = isDead(m_plan->steps[next].stage)
                ? measuring::toProveDead(*m_plan, m_document.record(), momentNow().substr(0, kDay))
                : std::nullopt;
            return goTo(static_cast<int>(toProve.value_or(next)));
        }
}

void TestsPlace::showStep()
{
    const measuring::TestStep& step = m_plan->steps[m_current];
    const auto open = std::count_if(
        m_states.begin(), m_states.end(), [](const measuring::StepState& s) { return s.open.has_value(); });
    m_said->setText(tr("%1 proved of %2")
                        .arg(static_cast<std::ptrdiff_t>(m_states.size()) - open)
                        .arg(QString::fromStdString(wording::coverageText(*m_plan))));
    m_day->show(*m_plan, m_states, m_current);
    const auto toProve = measuring::toProveDead(*m_plan, m_document.record(), momentNow().substr(0, kDay));
    m_card->setStanding(!toProve.has_value(), measuring::openBefore(m_states, m_current));
    m_card->show(step, m_document.dossier().circuit, m_current, m_plan->steps.size());
    const measuring::StepState& state = m_states[m_current];
    const bool isWrong = state.open == measuring::Open::Disagrees;
    m_card->showHistory(historyOf(state),
        !state.open   ? Mark::InOrder
            : isWrong ? Mark::Wrong
                      : Mark::Open,
        state.readings.empty() ? QString() : verdictOf(state));
    showRuns();
    std::vector<std::vector<std::string>> probes;
    for (const std::string& at : step.look.at)
        probes.push_back(measuring::alternativesOf(at));
    m_drawing->setProbes(probes);
    m_card->takeKeyboard();
    m_looking.drop();
    m_card->showSuspects({});
    if (isWrong)
        lookForSuspects();
}

/// A distance rests on ten runs of the same stop.
void TestsPlace::showRuns()
{
    QStringList names;
    for (const SafetyFunction* f : measuring::functionsTimedBy(m_plan->steps[m_current], m_document.dossier()))
        names << QString::fromStdString(f->name);
    if (names.isEmpty())
        return m_card->showRuns({}, false);
    const auto times = measuring::stopTimesAt(m_current, *m_plan, m_states, m_document.record());
    const std::size_t runs = times ? times->seconds.size() : 0;
    QString text = tr("%1 of %2 runs").arg(runs).arg(measuring::kStopRuns);
    if (runs > 0)
        text += tr(", the longest %1 s")
                    .arg(*std::max_element(times->seconds.begin(), times->seconds.end()), 0, 'g', 4);
    m_card->showRuns(tr("%1, for the stopping time of: %2").arg(text, names.join(QStringLiteral(", "))),
        runs >= measuring::kStopRuns);
}

void TestsPlace::takeTimes()
{
    const auto changed = measuring::withStopTimes(*m_plan, m_document.file());
    if (!changed)
        return m_card->say(words::sentence(changed.error().message));
    m_document.edit(
        tr("Stopping times as measured"), [&changed](const Dossier&) { return Expected<Dossier>(changed->dossier); });
}

measuring::StepRead TestsPlace::readAt(std::size_t step) const
{
    const TakenReading& r = *m_document.record()[m_states[step].readings.back()].reading;
    return {step, r.value ? measuring::figure(*r.value) : measuring::Reading{0, 0, r.word}};
}

/// In the background: the deviating reading first, which few explain.
void TestsPlace::lookForSuspects()
{
    std::vector<measuring::StepRead> readings{readAt(m_current)};
    for (std::size_t k = 0; k < m_states.size(); ++k)
        if (k != m_current && !m_states[k].readings.empty()
            && m_states[k].open != measuring::Open::PartChanged) // of
                                                                 // the
                                                                 // panel
                                                                 // as
                                                                 // it
                                                                 // is
            readings.push_back(readAt(k));
    m_card->showSuspects(tr("looking for what would read like this ..."));
    m_looking.run(
        [circuit = m_document.dossier().circuit, plan = m_plan, readings = std::move(readings)](std::stop_token stop) {
            return std::optional(measuring::suspectsOf(circuit, *plan, readings, std::move(stop)));
        },
        [this](const std::shared_ptr<const Expected<std::vector<measuring::Suspect>>>& found) {
            if (found && *found)
                m_card->showSuspects(
                    QString::fromStdString(wording::suspectsText(m_document.dossier().circuit, **found))
                    + QLatin1Char('\n') + tr("What to look at next: Ctrl+F goes on from here"));
        });
}

QStringList TestsPlace::historyOf(const measuring::StepState& state) const
{
    constexpr std::size_t kLatest = 3;
    QStringList lines;
    const std::size_t before = state.readings.size() - std::min(state.readings.size(), kLatest);
    if (before > 0)
        lines << tr("%1 readings before these").arg(before);
    for (const std::size_t e : std::span(state.readings).subspan(before)) {
        const RecordEntry& entry = m_document.record()[e];
        lines << tr("%1, %2, with %3: %4")
                     .arg(QString::fromStdString(entry.date), QString::fromStdString(entry.who),
                         QString::fromStdString(entry.reading->instrument), QString::fromStdString(entry.text));
    }
    return lines;
}

QString TestsPlace::verdictOf(const measuring::StepState& state) const
{
    if (state.open)
        return words::word("open." + std::string(wordOf(*state.open)));
    return state.hasDisagreed ? tr("as expected now; an earlier reading was not") : tr("as expected");
}

void TestsPlace::enter()
{
    if (!m_plan)
        return;
    measuring::StepTaken taken = m_card->taken();
    taken.step = m_plan->steps[m_current].id;
    taken.at = momentNow();
    const DossierFile file = m_document.file();
    auto entry = measuring::entryOf(taken, *m_plan, file.dossier, file.record);
    if (!entry)
        return m_card->say(words::sentence(entry.error().message));
    const bool agrees = measuring::verdictOf(*entry) == measuring::Verdict::Agrees;
    if (const auto added = m_document.addToRecord(*std::move(entry)); !added)
        return m_card->say(words::sentence(added.error().message));
    const auto times = measuring::stopTimesAt(m_current, *m_plan, m_states, m_document.record());
    const bool wantsMore = times && times->seconds.size() < measuring::kStopRuns
        && !measuring::functionsTimedBy(m_plan->steps[m_current], m_document.dossier()).empty();
    if (agrees && !wantsMore)
        goOn();
}

Mark TestsPlace::mark() const
{
    if (!m_plan || m_states.empty())
        return Mark::Untouched;
    const auto isWrong = [](const measuring::StepState& s) { return s.open == measuring::Open::Disagrees; };
    const auto isOpen = [](const measuring::StepState& s) { return s.open.has_value(); };
    return std::any_of(m_states.begin(), m_states.end(), isWrong) ? Mark::Wrong
        : std::any_of(m_states.begin(), m_states.end(), isOpen)   ? Mark::Open
                                                                  : Mark::InOrder;
}

std::vector<PlaceView> TestsPlace::views()
{
    return {{id(), [this] { m_book.ask(kTests.id, {}); }, [this] { return m_plan != nullptr; }}};
}

} // namespace ts::app
