#include "app/places/faults/stop_page.h"

#include "app/places/faults/spread_strip.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <span>

namespace ts::app {
namespace {

QString timeText(const std::optional<Seconds>& s)
{
    return s ? words::number(s->si(), "s") : QString("-");
}

/// Cases that are no stop first, then by the time to rest, longest first.
std::vector<int> worstFirst(const ActuatorStudy& a)
{
    std::vector<int> order;
    for (int k = 0; k < static_cast<int>(a.cases.size()); ++k)
        order.push_back(k);
    const auto rank = [&](int k) {
        const safety::ActuatorStop& s = a.cases[static_cast<std::size_t>(k)].stop;
        return !s.stops ? 1e9 : s.restAfter ? s.restAfter->si() : 0.0;
    };
    std::stable_sort(order.begin(), order.end(), [&](int x, int y) { return rank(x) > rank(y); });
    return order;
}

} // namespace

StopPage::StopPage(Document& document, Selection& selection, StudyBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_book(book)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 4, 16, 12);
    column->setSpacing(8);
    auto* line = new QHBoxLayout;
    m_functions = new FunctionBox(document, selection, "worst.functions", this);
    m_start = new QPushButton(this);
    m_start->setObjectName("worst.start");
    line->addWidget(m_functions);
    line->addWidget(m_start);
    line->addStretch(1);
    column->addLayout(line);
    m_state = plainLabel({}, theme.body(), this);
    m_state->setObjectName("worst.state");
    column->addWidget(m_state);
    m_caution = plainLabel({}, theme.small(), this);
    m_caution->setObjectName("worst.caution");
    column->addWidget(m_caution);
    m_strip = new SpreadStrip(theme, this);
    m_strip->setObjectName("worst.strip");
    column->addWidget(m_strip);
    m_list = new ResultList(
        {tr("Case"), tr("Stop category"), tr("Power removed after"), tr("At rest after")}, theme, this);
    m_list->setObjectName("worst.list");
    m_list->setAccessibleName(tr("Every case of the stop, the worst first"));
    column->addWidget(m_list, 1);

    connect(&document, &Document::changed, this, &StopPage::takeDocument);
    connect(&book, &StudyBook::changed, this, &StopPage::fill);
    connect(&book, &StudyBook::progressed, this, &StopPage::tellState);
    connect(m_functions, &FunctionBox::chosen, this, &StopPage::fill);
    connect(m_start, &QPushButton::clicked, this, &StopPage::startOrCancel);
    takeDocument();
}

void StopPage::takeDocument()
{
    m_start->setEnabled(!m_document.dossier().functions.empty());
    fill();
}

void StopPage::startOrCancel()
{
    const FunctionId id = m_functions->function();
    if (!m_document.dossier().function(id))
        return;
    if (isBusy())
        m_book.cancel(kWorstStop.id, about(id));
    else
        m_book.ask(kWorstStop.id, about(id));
    tellState();
}

void StopPage::tellProgress()
{
    const StudyBook::Progress p = m_book.progress(kWorstStop.id, about(m_functions->function()));
    m_state->setText(
        p.total == 0 ? tr("Running the healthy machine ...") : tr("%1 of %2 runs").arg(p.done).arg(p.total));
}

void StopPage::tellState()
{
    m_start->setText(isBusy() ? tr("Cancel") : tr("Stop it in every case"));
    if (isBusy())
        return tellProgress();
    const Held result = current();
    const Error* trouble = m_book.trouble(kWorstStop.id, about(m_functions->function()));
    QString state;
    if (m_document.dossier().functions.empty())
        state = tr("The dossier has no safety function whose stop could be read.");
    else if (trouble)
        state = words::sentence(*trouble);
    else if (!result)
        state = tr("Reads each motor's stop in every operating state: times and voltage at their limits, supply lost, "
                   "and with each single fault from just before the demand.");
    else if (!result.isFresh)
        state = tr("The dossier was changed since: this is about the circuit as it was.");
    else
        state = tr("%1 runs; operating states: %2, single faults: %3. Every line of the strip is one case; a stopping "
                   "time that was measured on the machine counts more.")
                    .arg(result.value->runCount)
                    .arg(result.value->states.size())
                    .arg(result.value->faultCount);
    m_state->setText(state);
}

void StopPage::addActuator(
    const ActuatorStudy& a, const Dossier& dossier, const std::vector<faults::SweptFault>& faults)
{
    QTreeWidgetItem* heading = m_list->heading(QString::fromStdString(a.tag) + ": " + words::stopCategoryText(a));
    for (int k : worstFirst(a)) {
        const StopCase& c = a.cases[static_cast<std::size_t>(k)];
        const bool isOther = c.stop.category && a.category && c.stop.category != a.category;
        QString words = words::stopCaseText(c, faults, dossier);
        if (!c.stop.category)
            words += ": " + words::sentence(c.stop.why);
        m_list->add(heading,
            !c.stop.stops                     ? Mark::Wrong
                : isOther || !c.stop.category ? Mark::Open
                                              : Mark::InOrder,
            {words,
                c.stop.category    ? QString::number(*c.stop.category)
                    : c.stop.stops ? tr("none")
                                   : tr("no stop"),
                timeText(c.stop.removedAfter), timeText(c.stop.restAfter)},
            k);
    }
}

/// What a stop does not do stands where it is shown.
void StopPage::tellCaution()
{
    const FunctionId id = m_functions->function();
    const auto levels = m_book.fresh(kLevels);
    const FunctionResult* stops = nullptr;
    for (const FunctionResult& r : levels ? std::span(levels->functions) : std::span<const FunctionResult>())
        stops = r.function == id ? &r : stops;
    m_caution->setVisible(m_document.dossier().function(id) != nullptr);
    m_caution->setText(words::stopCautions(m_document.dossier(), m_book.fresh(kPath, about(id)).get(), stops));
}

void StopPage::fill()
{
    tellState();
    tellCaution();
    const Held result = current();
    const SafetyFunction* function = result ? result.of->function(m_functions->function()) : nullptr;
    m_strip->show(result.value, function ? function->allowedTimeS : 0.0);
    if (result.value == m_shown && m_shown)
        return; // nothing moves while somebody reads
    m_shown = result.value;
    m_list->clear();
    const Expected<Plant> plant = result ? compile(result.of->circuit)
                                         : Expected<Plant>(failure(ErrorCode::NotFound, {}));
    if (!plant)
        return;
    const auto faults = faults::faultList(*plant, *result.of);
    for (const ActuatorStudy& a : result.value->actuators)
        addActuator(a, *result.of, faults);
}

} // namespace ts::app
