#include "app/places/faults/orders_page.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {

using namespace exploration;

namespace {

Mark markOf(const Proof& p)
{
    if (p.answer == Answer::Proved)
        return Mark::InOrder;
    return p.answer == Answer::Bounded || isOnlyTold(p.claim) ? Mark::Open : Mark::Wrong;
}

QString joined(const std::vector<std::string>& words)
{
    QStringList list;
    for (const std::string& w : words)
        list << QString::fromStdString(w);
    return list.join(", ");
}

} // namespace

OrdersPage::OrdersPage(Document& document, StudyBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_theme(theme)
    , m_book(book)
    , m_faultWork(this)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 4, 16, 12);
    row->setSpacing(16);
    auto* column = new QVBoxLayout;
    column->setSpacing(8);
    row->addLayout(column, 1);
    auto* line = new QHBoxLayout;
    m_motors = new QComboBox(this);
    m_motors->setObjectName("orders.motors");
    m_motors->setAccessibleName(tr("Motor"));
    m_motors->setMinimumWidth(190);
    m_faults = new QCheckBox(tr("also with each single fault"), this);
    m_faults->setObjectName("orders.faults");
    m_start = new QPushButton(this);
    m_start->setObjectName("orders.start");
    line->addWidget(m_motors);
    line->addWidget(m_faults);
    line->addWidget(m_start);
    line->addStretch(1);
    column->addLayout(line);
    const auto text = [&](const char* name, const QFont& font, QVBoxLayout* into) {
        QLabel* label = plainLabel({}, font, this);
        label->setObjectName(name);
        into->addWidget(label);
        return label;
    };
    m_state = text("orders.state", theme.body(), column);
    m_list = new ResultList({tr("What was to be shown"), tr("Answer")}, theme, this);
    m_list->setObjectName("orders.list");
    m_list->setAccessibleName(tr("What holds in every order of operation"));
    column->addWidget(m_list, 1);

    auto* side = new QVBoxLayout;
    side->setSpacing(8);
    auto* panel = new QWidget(this);
    panel->setFixedWidth(400);
    panel->setLayout(side);
    row->addWidget(panel);
    m_title = text("orders.title", theme.bold(), side);
    m_answer = text("orders.answer", theme.body(), side);
    m_order = text("orders.order", theme.body(), side);
    m_bench = new QPushButton(tr("Play this on the Bench"), this);
    m_bench->setObjectName("orders.bench");
    side->addWidget(m_bench, 0, Qt::AlignLeft);
    m_scope = text("orders.scope", theme.body(), side);
    side->addStretch(1);

    connect(&document, &Document::changed, this, &OrdersPage::takeDocument);
    connect(&document, &Document::loaded, this, [this] { m_faultWork.drop(); });
    connect(&book, &StudyBook::changed, this, &OrdersPage::fill);
    connect(&book, &StudyBook::progressed, this, &OrdersPage::tellState);
    connect(m_motors, &QComboBox::activated, this, &OrdersPage::fill);
    connect(m_start, &QPushButton::clicked, this, &OrdersPage::startOrCancel);
    connect(m_list, &QTreeWidget::itemSelectionChanged, this, &OrdersPage::takeSelection);
    connect(m_list, &QTreeWidget::itemActivated, this, &OrdersPage::play);
    connect(m_bench, &QPushButton::clicked, this, &OrdersPage::play);
    takeDocument();
}

void OrdersPage::setWithFaults(bool withFaults)
{
    m_faults->setChecked(withFaults);
}

QString OrdersPage::tagOf(DeviceId id) const
{
    const Device* d = m_document.dossier().circuit.device(id);
    return d ? QString::fromStdString(d->tag) : QStringLiteral("?");
}

Subject OrdersPage::subject() const
{
    return about(DeviceId{m_motors->currentData().toInt()});
}

/// With each single fault where that was asked for, else what the book has.
OrdersPage::Held OrdersPage::current() const
{
    Held held = m_book.newest(kOrders, subject());
    if (m_withFaults && m_withFaultsMotor == subject().motor()
        && m_withFaultsOf->circuit == m_document.dossier().circuit)
        return {m_withFaults, m_withFaultsOf, true};
    return held;
}

bool OrdersPage::isBusy() const
{
    return m_faultWork.isBusy() || m_book.isBusy(kOrders.id, subject());
}

void OrdersPage::choose(DeviceId motor)
{
    m_motors->setCurrentIndex(std::max(0, m_motors->findData(motor.value)));
    fill();
}

std::shared_ptr<const Plant> OrdersPage::plantOf(const Snapshot& snapshot)
{
    if (m_plantOf != snapshot) {
        m_plantOf = snapshot;
        const auto plant = compile(snapshot->circuit);
        m_plant = plant ? std::make_shared<const Plant>(*plant) : nullptr;
    }
    return m_plant;
}

void OrdersPage::takeDocument()
{
    if (m_circuit && *m_circuit == m_document.dossier().circuit) // neither its motors nor what was played changes by
                                                                 // anything else
        return fill();
    m_circuit = std::make_shared<const Circuit>(m_document.dossier().circuit);
    m_faultWork.drop();
    const QVariant chosen = m_motors->currentData();
    m_motors->clear();
    for (const Subject& motor : subjectsOf(Subject::Kind::Motor, m_document.dossier()))
        m_motors->addItem(tagOf(motor.motor()), motor.id);
    m_motors->setCurrentIndex(std::max(0, m_motors->findData(chosen)));
    m_start->setEnabled(m_motors->count() > 0);
    fill();
}

void OrdersPage::startOrCancel()
{
    if (m_motors->count() == 0)
        return;
    if (isBusy()) {
        m_faultWork.drop();
        m_book.cancel(kOrders.id, subject());
    } else if (m_faults->isChecked()) {
        exploreFaults();
    } else {
        m_book.ask(kOrders.id, subject());
    }
    tellState();
}

void OrdersPage::exploreFaults()
{
    Request request;
    request.motor = m_motors->currentText().toStdString();
    m_faultTrouble.reset();
    m_faultProgress = std::make_shared<WorkProgress>();
    m_faultWork.run(
        [snapshot = m_document.snapshot(), request, progress = m_faultProgress](
            std::stop_token stop) -> std::optional<Expected<Explored>> {
            const auto listener = [&progress](const exploration::Progress& p) {
                progress->done = p.done;
                progress->total = p.total;
                progress->found = p.states;
            };
            auto explored = explore(*snapshot, request, listener, stop);
            return stop.stop_requested() ? std::nullopt : std::optional(std::move(explored));
        },
        [this, of = m_document.snapshot(), motor = subject().motor()](
            const std::shared_ptr<const Expected<Explored>>& found) {
            if (*found) {
                m_withFaults = std::shared_ptr<const Explored>(found, &**found);
                m_withFaultsOf = of;
                m_withFaultsMotor = motor;
            } else {
                m_faultTrouble = found->error();
            }
            fill();
        });
}

void OrdersPage::tellProgress()
{
    StudyBook::Progress p = m_book.progress(kOrders.id, subject());
    if (m_faultWork.isBusy())
        p = {0, m_faultProgress->done, m_faultProgress->total, m_faultProgress->found, 0};
    const std::size_t total = std::max<std::size_t>(1, p.total);
    m_state->setText(tr("Search %1 of %2: %3 settled states, at most %4")
                         .arg(std::min(p.done + 1, total))
                         .arg(total)
                         .arg(p.found)
                         .arg(Options{}.bound));
}

void OrdersPage::tellState()
{
    m_start->setText(isBusy() ? tr("Cancel") : tr("Play every order"));
    if (isBusy())
        return tellProgress();
    const Held result = current();
    const Error* trouble = m_faultTrouble ? &*m_faultTrouble : m_book.trouble(kOrders.id, subject());
    QString state;
    if (m_motors->count() == 0)
        state = tr("The circuit has no motor.");
    else if (trouble)
        state = words::sentence(*trouble);
    else if (!result)
        state = tr("Operates everything that bears on the motor in every order: buttons, also two at once, supply and "
                   "phases lost and back, trips, armatures pushed by hand.");
    else if (!result.isFresh)
        state = tr("The dossier was changed since: this is about the circuit as it was.");
    else {
        const Searched& s = result.value->motors.front().healthy;
        state = tr(
            "%1 settled states, %2 operations tried. What was shown wrong comes with the shortest order that shows it.")
                    .arg(s.states)
                    .arg(s.transitions);
        if (s.undecided > 0)
            state += ' ' + tr("After %1 of them the circuit chatters: what follows is not known.").arg(s.undecided);
    }
    m_state->setText(state);
}

void OrdersPage::addProof(QTreeWidgetItem* heading, const Proof& proof, const QString& claim, std::vector<Fault> faults,
    const QString& with, bool isPlayable)
{
    m_list->add(heading, markOf(proof), {claim, words::answerText(proof)}, static_cast<int>(m_lines.size()));
    m_lines.push_back({&proof, std::move(faults), with.isEmpty() ? claim : with + ": " + claim, isPlayable});
}

void OrdersPage::addMotor(const MotorExplored& m)
{
    const Held result = current();
    const Dossier& dossier = *result.of;
    QTreeWidgetItem* healthy = m_list->heading(tr("Nothing broken"));
    for (const Proof& p : m.healthy.proofs)
        addProof(healthy, p, words::claimText(p, m.motor, dossier), {}, {}, true);
    if (m.byHand)
        for (const Proof& p : m.byHand->proofs)
            addProof(healthy, p, words::claimText(p, m.motor, dossier), {}, {}, true);
    for (const InterlockJudged& i : result.value->interlocks)
        addInterlock(i);
    if (m.faults.empty())
        return;
    std::size_t held = 0;
    for (const FaultExplored& f : m.faults) {
        QTreeWidgetItem* heading = nullptr;
        for (const Proof& p : f.searched.proofs)
            if (p.answer != Answer::Proved) {
                const QString with = tr("with %1").arg(QString::fromStdString(f.fault));
                heading = heading ? heading : m_list->heading(with);
                addProof(heading, p, words::claimText(p, m.motor, dossier), f.present, with, true);
            }
        held += heading == nullptr;
    }
    m_list->heading(
        tr("%1 single faults tried, %2 of them change none of these answers").arg(m.faults.size()).arg(held));
}

void OrdersPage::addInterlock(const InterlockJudged& i)
{
    const QString kind = words::word("interlock." + std::string(nameOf(i.kind)));
    QTreeWidgetItem* heading = m_list->heading(
        tr("%1 and %2: %3%4")
            .arg(tagOf(i.contactors[0]), tagOf(i.contactors[1]), kind,
                i.contacts.empty() ? QString() : " (" + joined(i.contacts) + ")"));
    const bool isMechanical = i.kind == InterlockKind::Mechanical;
    addProof(heading, i.alone.proofs.front(), tr("alone, all others out of action, it keeps two live lines apart"),
        i.bridged, kind, isMechanical);
    addProof(heading, i.without.proofs.front(), tr("left out itself, what remains keeps two live lines apart"),
        i.bridgedWithout, kind, !isMechanical);
}

void OrdersPage::fill()
{
    tellState();
    const Held result = current();
    if (result.value == m_shown && m_shown)
        return; // nothing moves while somebody reads
    m_shown = result.value;
    m_list->clear();
    m_lines.clear();
    if (result)
        addMotor(result.value->motors.front());
    takeSelection();
}

void OrdersPage::takeSelection()
{
    const int number = m_list->selectedNumber();
    const Held result = current();
    for (QLabel* l : {m_title, m_answer, m_order, m_scope})
        l->clear();
    m_bench->hide();
    if (!result)
        return;
    const MotorExplored& m = result.value->motors.front();
    QStringList scope{tr("Operated: %1; the supply and each of its lines lost and back.").arg(joined(m.operated))};
    if (!m.leftAlone.empty())
        scope << tr("Left as they are, with no contact on a path to its contactors: %1.").arg(joined(m.leftAlone));
    scope << tr("A person holds at most two things, and one thing of the plant is out of order at a time. The next "
                "operation comes when everything has run its course. Paths through other coils and inputs of "
                "electronics are not followed.");
    m_scope->setText(scope.join("\n\n"));
    if (number < 0)
        return;
    const Line& line = m_lines[static_cast<std::size_t>(number)];
    m_title->setText(line.heading);
    m_answer->setText(words::answerText(*line.proof));
    if (!line.proof->counter)
        return;
    const auto plant = plantOf(result.of);
    QStringList order;
    for (const Done& done : line.proof->counter->order)
        order << tr("%1. after %2 s: %3")
                     .arg(order.size() + 1)
                     .arg(static_cast<double>(done.at) * 1e-9, 0, 'f', 2)
                     .arg(words::operationText(*plant, done.operation));
    m_order->setText(order.join('\n'));
    m_bench->setVisible(line.isPlayable);
    m_bench->setEnabled(result.of->circuit == m_document.dossier().circuit);
}

void OrdersPage::play()
{
    const int number = m_list->selectedNumber();
    const Held result = current();
    if (!result || number < 0 || result.of->circuit != m_document.dossier().circuit)
        return;
    const Line& line = m_lines[static_cast<std::size_t>(number)];
    if (line.proof->counter && line.isPlayable)
        emit playWanted(scriptOf(*line.proof->counter, line.faults), line.proof->counter->shownAt);
}

} // namespace ts::app
