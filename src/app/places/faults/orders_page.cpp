#include "app/places/faults/orders_page.h"

#include "app/widgets/plain_text.h"
#include "core/checks/explored.h"
#include "wording/exploration_texts.h"

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
    return p.answer == Answer::Proved ? Mark::InOrder : p.answer == Answer::Bounded ? Mark::Open : Mark::Wrong;
}

QString joined(const std::vector<std::string>& words)
{
    QStringList list;
    for (const std::string& w : words)
        list << QString::fromStdString(w);
    return list.join(", ");
}

} // namespace

OrdersPage::OrdersPage(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_theme(theme)
    , m_book(this, document, {[this] { tellProgress(); }, [this] { fill(); }, [this] { emit finished(); }})
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
    connect(&document, &Document::loaded, this, &OrdersPage::takeDocument);
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

std::shared_ptr<const OrdersPage::Book::Result> OrdersPage::current() const
{
    return m_book.newest(m_motors->currentText().toStdString());
}

std::vector<Finding> OrdersPage::findings() const
{
    std::vector<Finding> all;
    for (const auto& explored : fresh())
        for (Finding& f : checks::exploredFindings(m_document.dossier(), *explored))
            all.push_back(std::move(f));
    return all;
}

std::vector<std::shared_ptr<const Explored>> OrdersPage::fresh() const
{
    std::vector<std::shared_ptr<const Explored>> all;
    for (const auto& played : m_book.fresh())
        all.emplace_back(played, &played->explored);
    return all;
}

void OrdersPage::takeDocument()
{
    if (m_circuit && *m_circuit == m_document.dossier().circuit) // neither its motors nor what was played changes by
                                                                 // anything else
        return m_book.isBusy() ? void() : fill();
    m_circuit = std::make_shared<const Circuit>(m_document.dossier().circuit);
    const QString chosen = m_motors->currentText();
    m_motors->clear();
    if (const auto plant = compile(m_document.dossier().circuit))
        for (const PlantMotor& m : plant->motors)
            m_motors->addItem(QString::fromStdString(plant->devices[static_cast<std::size_t>(m.device)].tag));
    m_motors->setCurrentIndex(std::max(0, m_motors->findText(chosen)));
    m_start->setEnabled(m_motors->count() > 0);
    if (!m_book.isBusy())
        fill();
}

void OrdersPage::startOrCancel()
{
    if (m_book.isBusy()) {
        m_book.cancel();
        tellState();
        return;
    }
    if (m_motors->count() == 0)
        return;
    Request request;
    request.motor = m_motors->currentText().toStdString();
    request.withFaults = m_faults->isChecked();
    m_book.start(request.motor,
        [request](const Dossier& dossier, WorkProgress& progress, std::stop_token stop) -> Expected<Played> {
            const auto listener = [&progress](const exploration::Progress& p) {
                progress.done = p.done;
                progress.total = p.total;
                progress.found = p.states;
            };
            auto explored = explore(dossier, request, listener, stop);
            if (!explored)
                return Unexpected{explored.error()};
            return Played{std::move(*explored), std::make_shared<const Plant>(*compile(dossier.circuit))};
        });
}

void OrdersPage::tellProgress()
{
    m_start->setText(tr("Cancel"));
    const std::size_t total = std::max<std::size_t>(1, m_book.progress().total);
    m_state->setText(tr("Search %1 of %2: %3 settled states, at most %4")
                         .arg(std::min(m_book.progress().done + 1, total))
                         .arg(total)
                         .arg(m_book.progress().found.load())
                         .arg(Options{}.bound));
}

void OrdersPage::tellState()
{
    m_start->setText(tr("Play every order"));
    const auto result = current();
    QString state = m_book.trouble() ? wording::sentence(*m_book.trouble()) : QString();
    if (state.isEmpty() && m_motors->count() == 0)
        state = tr("The circuit has no motor.");
    else if (state.isEmpty() && !result)
        state = tr("Operates everything that bears on the motor in every order: buttons, also two at once, supply and "
                   "phases lost and back, trips, armatures pushed by hand.");
    else if (state.isEmpty() && !m_book.isFresh(*result))
        state = tr("The dossier was changed since: this is about the circuit as it was.");
    else if (state.isEmpty()) {
        const Searched& s = result->value->explored.motors.front().healthy;
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
    m_list->add(heading, markOf(proof), {claim, wording::answerText(proof)}, static_cast<int>(m_lines.size()));
    m_lines.push_back({&proof, std::move(faults), with.isEmpty() ? claim : with + ": " + claim, isPlayable});
}

void OrdersPage::addMotor(const MotorExplored& m)
{
    const auto result = current();
    const Dossier& dossier = *result->of;
    QTreeWidgetItem* healthy = m_list->heading(tr("Nothing broken"));
    for (const Proof& p : m.healthy.proofs)
        addProof(healthy, p, wording::claimText(p, m.motor, dossier), {}, {}, true);
    if (m.byHand)
        for (const Proof& p : m.byHand->proofs)
            addProof(healthy, p, wording::claimText(p, m.motor, dossier), {}, {}, true);
    for (const InterlockJudged& i : result->value->explored.interlocks)
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
                addProof(heading, p, wording::claimText(p, m.motor, dossier), f.present, with, true);
            }
        held += heading == nullptr;
    }
    m_list->heading(
        tr("%1 single faults tried, %2 of them change none of these answers").arg(m.faults.size()).arg(held));
}

void OrdersPage::addInterlock(const InterlockJudged& i)
{
    const QString kind = wording::word("interlock." + std::string(nameOf(i.kind)));
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
    m_list->clear();
    m_lines.clear();
    if (const auto result = current())
        addMotor(result->value->explored.motors.front());
    takeSelection();
}

void OrdersPage::takeSelection()
{
    const int number = m_list->selectedNumber();
    const auto result = current();
    for (QLabel* l : {m_title, m_answer, m_order, m_scope})
        l->clear();
    m_bench->hide();
    if (!result)
        return;
    const MotorExplored& m = result->value->explored.motors.front();
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
    m_answer->setText(wording::answerText(*line.proof));
    if (!line.proof->counter)
        return;
    QStringList order;
    for (const Done& done : line.proof->counter->order)
        order << tr("%1. after %2 s: %3")
                     .arg(order.size() + 1)
                     .arg(static_cast<double>(done.at) * 1e-9, 0, 'f', 2)
                     .arg(wording::operationText(*result->value->plant, done.operation));
    m_order->setText(order.join('\n'));
    m_bench->setVisible(line.isPlayable);
    m_bench->setEnabled(result->of->circuit == m_document.dossier().circuit);
}

void OrdersPage::play()
{
    const int number = m_list->selectedNumber();
    const auto result = current();
    if (!result || number < 0 || result->of->circuit != m_document.dossier().circuit)
        return;
    const Line& line = m_lines[static_cast<std::size_t>(number)];
    if (line.proof->counter && line.isPlayable)
        emit playWanted(scriptOf(*line.proof->counter, line.faults), line.proof->counter->shownAt);
}

} // namespace ts::app
