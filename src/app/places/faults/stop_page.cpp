#include "app/places/faults/stop_page.h"

#include "app/places/faults/spread_strip.h"
#include "app/widgets/plain_text.h"
#include "wording/fault_texts.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

QString timeText(const std::optional<Seconds>& s)
{
    return s ? wording::number(s->si(), "s") : QString("-");
}

/// Cases that are no stop first, then by the time to rest, longest first.
std::vector<int> worstFirst(const ActuatorStudy& a)
{
    std::vector<int> order;
    for (int k = 0; k < static_cast<int>(a.cases.size()); ++k)
        order.push_back(k);
    const auto rank = [&](int k) {
        const safety::ActuatorStop& s = a.cases[static_cast<std::size_t>(k)].stop;
        return !s.category ? 1e9 : s.restAfter ? s.restAfter->si() : 0.0;
    };
    std::stable_sort(order.begin(), order.end(), [&](int x, int y) { return rank(x) > rank(y); });
    return order;
}

} // namespace

StopPage::StopPage(Document& document, Selection& selection, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_book(this, document, {[this] { tellProgress(); }, [this] { fill(); }, [this] { emit finished(); }})
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
    m_strip = new SpreadStrip(theme, this);
    m_strip->setObjectName("worst.strip");
    column->addWidget(m_strip);
    m_list = new ResultList(
        {tr("Case"), tr("Stop category"), tr("Power removed after"), tr("At rest after")}, theme, this);
    m_list->setObjectName("worst.list");
    m_list->setAccessibleName(tr("Every case of the stop, the worst first"));
    column->addWidget(m_list, 1);

    connect(&document, &Document::changed, this, &StopPage::takeDocument);
    connect(m_functions, &FunctionBox::chosen, this, [this] {
        if (!m_book.isBusy())
            fill();
    });
    connect(m_start, &QPushButton::clicked, this, &StopPage::startOrCancel);
    takeDocument();
}

std::vector<Finding> StopPage::findings() const
{
    std::vector<Finding> all;
    for (const auto& study : fresh())
        if (const SafetyFunction* f = m_document.dossier().function(study->function))
            for (Finding& finding : stopFindings(*f, *study))
                all.push_back(std::move(finding));
    return all;
}

std::vector<std::shared_ptr<const StopStudy>> StopPage::fresh() const
{
    std::vector<std::shared_ptr<const StopStudy>> all;
    for (const auto& studied : m_book.fresh())
        all.emplace_back(studied, &studied->study);
    return all;
}

void StopPage::takeDocument()
{
    m_start->setEnabled(!m_document.dossier().functions.empty());
    if (!m_book.isBusy())
        fill();
}

void StopPage::startOrCancel()
{
    if (m_book.isBusy()) {
        m_book.cancel();
        tellState();
        return;
    }
    const FunctionId id = m_functions->function();
    if (!m_document.dossier().function(id))
        return;
    m_book.start(id, [id](const Dossier& dossier, WorkProgress& progress, std::stop_token stop) -> Expected<Studied> {
        const auto listener = [&progress](std::size_t done, std::size_t total) {
            progress.done = done;
            progress.total = total;
        };
        auto study = stopStudy(dossier, *dossier.function(id), {}, listener, stop);
        if (!study)
            return Unexpected{study.error()};
        return Studied{std::move(*study), faults::faultList(*compile(dossier.circuit), dossier)};
    });
}

void StopPage::tellProgress()
{
    m_start->setText(tr("Cancel"));
    const std::size_t total = m_book.progress().total;
    m_state->setText(total == 0 ? tr("Running the healthy machine ...")
                                : tr("%1 of %2 runs").arg(m_book.progress().done).arg(total));
}

void StopPage::tellState()
{
    m_start->setText(tr("Stop it in every case"));
    const auto result = current();
    QString state = m_book.trouble() ? wording::sentence(*m_book.trouble()) : QString();
    if (state.isEmpty() && m_document.dossier().functions.empty())
        state = tr("The dossier has no safety function whose stop could be read.");
    else if (state.isEmpty() && !result)
        state = tr("Reads each motor's stop in every operating state: times and voltage at their limits, supply lost, "
                   "and with each single fault from just before the demand.");
    else if (state.isEmpty() && !m_book.isFresh(*result))
        state = tr("The dossier was changed since: this is about the circuit as it was.");
    else if (state.isEmpty())
        state = tr("%1 runs; operating states: %2, single faults: %3. Every line of the strip is one case; a stopping "
                   "time that was measured on the machine counts more.")
                    .arg(result->value->study.runCount)
                    .arg(result->value->study.states.size())
                    .arg(result->value->study.faultCount);
    m_state->setText(state);
}

void StopPage::addActuator(const ActuatorStudy& a, const Book::Result& result)
{
    QTreeWidgetItem* heading = m_list->heading(QString::fromStdString(a.tag) + ": " + wording::stopCategoryText(a));
    for (int k : worstFirst(a)) {
        const StopCase& c = a.cases[static_cast<std::size_t>(k)];
        const bool isOther = c.stop.category && a.category && c.stop.category != a.category;
        QString words = wording::stopCaseText(c, result.value->faults, *result.of);
        if (!c.stop.category)
            words += ": " + wording::sentence(c.stop.why);
        m_list->add(heading,
            !c.stop.category ? Mark::Wrong
                : isOther    ? Mark::Open
                             : Mark::InOrder,
            {words, c.stop.category ? QString::number(*c.stop.category) : tr("no stop"), timeText(c.stop.removedAfter),
                timeText(c.stop.restAfter)},
            k);
    }
}

void StopPage::fill()
{
    tellState();
    m_list->clear();
    const auto result = current();
    const SafetyFunction* function = result ? result->of->function(m_functions->function()) : nullptr;
    m_strip->show(result ? std::shared_ptr<const StopStudy>(result, &result->value->study) : nullptr,
        function ? function->allowedTimeS : 0.0);
    if (result)
        for (const ActuatorStudy& a : result->value->study.actuators)
            addActuator(a, *result);
}

} // namespace ts::app
