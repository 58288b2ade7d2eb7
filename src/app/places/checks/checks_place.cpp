#include "app/places/checks/checks_place.h"

#include "app/document/moment.h"
#include "app/places/checks/finding_board.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/upright_scroll.h"
#include "app/widgets/word_flow.h"
#include "core/edit/device_edits.h"
#include "core/edit/wiring_edits.h"
#include "core/exploration/directed.h"
#include "core/exploration/trials.h"
#include "core/library/table.h"
#include "core/record/record.h"
#include "core/studies/evidence.h"

#include <QHBoxLayout>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {

ChecksPlace::ChecksPlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("checks"), tr("Checks"), parent)
    , m_document(parts.document)
    , m_selection(parts.selection)
    , m_book(parts.book)
    , m_theme(parts.theme)
    , m_mending(this)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 16, 8);
    column->setSpacing(8);
    column->addWidget(walked(), 5);
    column->addWidget(found(), 4);
    connect(&m_book, &StudyBook::changed, this, &ChecksPlace::takeResults);
    connect(&m_document, &Document::recorded, this, &ChecksPlace::takeResults);
    connect(&m_document, &Document::changed, this, &ChecksPlace::dropMends);
    connect(&m_document, &Document::loaded, this, [this] {
        m_motor = {};
        m_view->choose(-1);
        m_sized = nullptr;
    });
}

QWidget* ChecksPlace::walked()
{
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    auto* flow = new WordFlow(m_theme.verdict(), box);
    flow->say(tr("What the current passes on its way to"));
    m_which = new ChoiceWord(m_theme, "checks.motor", tr("Motor"), flow);
    flow->put(m_which);
    head->addWidget(flow, 3);
    m_rest = plainLabel({}, m_theme.small(), box);
    m_rest->setObjectName("checks.not_judged");
    m_rest->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    head->addWidget(m_rest, 2);
    column->addLayout(head);
    auto* scroll = new UprightScroll(box);
    m_view = new FigureView(m_theme, scroll);
    m_view->setObjectName("checks.ways");
    m_view->setAccessibleName(tr("Each part as a gate, as wide open as it has room left"));
    scroll->setWidget(m_view);
    column->addWidget(scroll, 1);
    m_gate = plainLabel({}, m_theme.small(), box);
    m_gate->setObjectName("checks.gate");
    column->addWidget(m_gate);
    connect(m_which, &QComboBox::activated, this, [this](int k) {
        m_motor = DeviceId{m_which->itemData(k).toInt()};
        m_view->choose(-1);
        showWays();
    });
    connect(m_view, &FigureView::chosenChanged, this, &ChecksPlace::showGate);
    connect(m_view, &FigureView::opened, this, [this](int item) {
        if (item >= 0 && item < static_cast<int>(m_sheet.stations.size())) {
            const sizing::Station& s = m_sheet.stations[static_cast<std::size_t>(item)];
            emit targetWanted({.device = s.device, .wire = s.wire});
        }
    });
    return box;
}

QWidget* ChecksPlace::found()
{
    auto* scroll = new UprightScroll(this);
    m_board = new FindingBoard(m_theme, scroll);
    m_board->setObjectName("checks.board");
    scroll->setWidget(m_board);
    connect(m_board, &FindingBoard::showWanted, this, &Place::targetWanted);
    connect(m_board, &FindingBoard::openedChanged, this, &ChecksPlace::takeOpened);
    connect(m_board, &FindingBoard::playWanted, this, &ChecksPlace::play);
    connect(m_board, &FindingBoard::acceptWanted, this,
        [this](const Finding& f, const QString& who, const QString& role, const QString& why) {
            enter("finding_accepted", f, who, role, why);
        });
    connect(m_board, &FindingBoard::withdrawWanted, this,
        [this](const Finding& f, const QString& who, const QString& role, const QString& why) {
            enter("acceptance_withdrawn", f, who, role, why);
        });
    connect(m_board, &FindingBoard::mendsWanted, this, &ChecksPlace::findMends);
    connect(m_board, &FindingBoard::mendChosen, this, &ChecksPlace::mend);
    connect(m_board, &FindingBoard::entered, this, &ChecksPlace::enterFigure);
    connect(m_board, &FindingBoard::stopMending, this, [this] {
        m_mending.drop();
        m_board->tellMending(tr("Stopped: nothing is offered."), false);
    });
    connect(m_board, &FindingBoard::runWanted, this,
        [this](const QString& study, const Subject& s) { m_book.ask(study.toStdString(), s); });
    return scroll;
}

Mark ChecksPlace::mark() const
{
    using Aspect = Target::Aspect;
    if (const auto found = markOfFindings(
            m_book, {Aspect::Circuit, Aspect::Demand, Aspect::Claim, Aspect::Fault, Aspect::Order, Aspect::WorstStop}))
        return *found;
    return markWithoutFindings(m_book, m_document.dossier(), {kScenarios.id, kDirected.id, kTrials.id, kSizing.id});
}

std::vector<PlaceView> ChecksPlace::views()
{
    const auto isReady = [this] { return m_book.fresh(kSizing) && m_book.fresh(kTrials) && m_book.fresh(kChecks); };
    const auto openFirst = [this] {
        if (const auto checked = m_book.newest(kChecks); checked && !checked.value->findings.empty())
            m_board->open(record::keyOf(checked.value->findings.front()));
    };
    return {{id(), [] {}, isReady}, {id() + ".finding", openFirst, isReady}};
}

void ChecksPlace::showEvent(QShowEvent*)
{
    takeResults();
}

void ChecksPlace::takeResults()
{
    emit stateChanged();
    if (!isVisible())
        return;
    takeSizes();
    takeFindings();
}

void ChecksPlace::takeSizes()
{
    if (const auto fresh = m_book.fresh(kSizing)) {
        if (fresh == m_sized)
            return;
        m_sized = fresh;
        m_of = m_document.snapshot();
        fillMotors(*m_sized);
    } else if (!m_book.isBusy(kSizing.id, {}) && !m_book.trouble(kSizing.id, {})) {
        m_book.ask(kSizing.id, {});
    }
    showWays();
}

/// The one with the least room first in sight.
void ChecksPlace::fillMotors(const sizing::Sized& sized)
{
    const QSignalBlocker quiet(m_which);
    m_which->clear();
    DeviceId worst;
    double most = -1;
    for (const sizing::Walk& w : sized.walks) {
        const Device* d = m_of->circuit.device(w.motor);
        if (d && m_which->findData(w.motor.value) < 0)
            m_which->addItem(QString::fromStdString(d->tag + (d->label.empty() ? "" : " " + d->label)), w.motor.value);
        for (const sizing::Station& s : w.stations)
            for (const sizing::Headroom& h : sized.all)
                if (h.device == s.device && h.isShare && h.used() > most) {
                    most = h.used();
                    worst = w.motor;
                }
    }
    if (m_which->findData(m_motor.value) < 0)
        m_motor = worst ? worst : sized.walks.empty() ? DeviceId{} : sized.walks.front().motor;
    m_which->setCurrentIndex(m_which->findData(m_motor.value));
}

void ChecksPlace::showWays()
{
    m_which->parentWidget()->setVisible(m_which->count() > 0);
    figures::GateWords words = wording::gateWords();
    m_sheet = {};
    if (m_sized)
        m_sheet = wording::gateSheet(m_of->circuit, *m_sized, m_motor);
    else if (const Error* trouble = m_book.trouble(kSizing.id, {}))
        words.none = words::sentence(*trouble).toStdString();
    else
        words.none = tr("Being run and measured ...").toStdString();
    m_view->show([rows = m_sheet.rows, words](double width, double height, int chosen) {
        return figures::gates(rows, words, width, height, chosen);
    });
    m_rest->setVisible(m_sized != nullptr);
    if (m_sized)
        m_rest->setText(tr("Sizes not judged for want of an entry: %1.").arg(m_sized->notJudged.size())
            + (m_sized->notHere.empty()
                    ? QString()
                    : tr("\nRules that this edition does not have: %1 of 43.").arg(m_sized->notHere.size())));
    showGate();
}

void ChecksPlace::showGate()
{
    const int chosen = m_view->chosen();
    QStringList lines;
    if (m_sized && chosen >= 0 && chosen < static_cast<int>(m_sheet.stations.size())) {
        const sizing::Station& s = m_sheet.stations[static_cast<std::size_t>(chosen)];
        if (s.device)
            m_selection.select(s.device);
        else
            m_selection.selectWire(s.wire);
        for (const std::string& line : wording::judgedOf(*m_sized, s))
            lines << QString::fromStdString(line);
    }
    m_gate->setText(lines.isEmpty()
            ? tr("A gate is as wide open as the part has room left; * rests on a figure that "
                 "nobody has written. Choose one to be told what was judged of it, and by what.")
            : lines.join('\n'));
}

void ChecksPlace::takeFindings()
{
    const auto checked = m_book.newest(kChecks);
    if (!checked)
        return m_board->showNothing(tr("Being checked ..."));
    const bool isFresh = checked.isFresh;
    const Results known = m_book.results();
    const auto canMend = [](const Finding& f) {
        const Check* check = checkNamed(f.id);
        return check && (check->needs == kSizing.id || check->needs == kTrials.id || check->needs == kDirected.id);
    };
    m_board->setMissing(missingLines());
    m_board->show(checked.value, m_document.dossier(), m_document.record(),
        {[isFresh, known](const Finding& f) { return isFresh && evidenceOf(f, known).has_value(); }, canMend});
}

void ChecksPlace::findMends(const Finding& finding)
{
    m_mends.clear();
    m_board->tellMending(tr("Changes are carried out and run ..."), true);
    const auto listener = [this](std::size_t done, std::size_t total) {
        QMetaObject::invokeMethod(
            this,
            [this, done, total] {
                if (m_mending.isBusy())
                    m_board->tellMending(tr("%1 of %2 changes are carried out and run ...").arg(done).arg(total), true);
            },
            Qt::QueuedConnection);
    };
    m_mending.run(
        [file = m_document.file(), finding, listener](
            std::stop_token stop) -> std::optional<Expected<mending::FindingMends>> {
            auto mends = mending::mendsOf(file, finding, listener, stop);
            if (stop.stop_requested())
                return std::nullopt;
            return mends;
        },
        [this](const std::shared_ptr<const Expected<mending::FindingMends>>& mends) { takeMends(*mends); });
}

void ChecksPlace::takeMends(const Expected<mending::FindingMends>& mends)
{
    if (!mends)
        return m_board->tellMending(words::sentence(mends.error()), false);
    m_mends = mends->list;
    std::vector<MendLine> lines;
    for (const mending::FindingMend& m : m_mends) {
        QStringList brings;
        for (const Message& b : m.brings)
            brings << words::sentence(b);
        const QString takes = m.takes > 1 ? tr("%1 findings are gone with it. ").arg(m.takes) : QString();
        lines.push_back({words::sentence(m.what),
            takes + (brings.isEmpty() ? tr("It brings no other.") : tr("It brings: %1.").arg(brings.join("; ")))});
    }
    const QString text = lines.empty()
        ? tr("None of %1 changes mends it: it takes more than another size or one contact.").arg(mends->tried)
        : tr("Of %1 changes that were run these mend it:").arg(mends->tried);
    m_board->showMends(text, std::move(lines));
}

void ChecksPlace::mend(int place)
{
    if (place >= 0 && place < static_cast<int>(m_mends.size()))
        m_document.editFile(tr("Mend a finding"), m_mends[static_cast<std::size_t>(place)].carriedOut);
}

/// What was tried was tried on another dossier.
void ChecksPlace::dropMends()
{
    m_mends.clear();
    if (m_mending.isBusy())
        m_mending.drop();
    m_board->tellMending({}, false);
}

std::vector<MissingLine> ChecksPlace::missingLines() const
{
    std::vector<MissingLine> lines;
    for (const sizing::NotJudged& n : m_sized ? m_sized->notJudged : std::vector<sizing::NotJudged>{}) {
        const Device* d = m_of->circuit.device(n.device);
        const bool isNamed = !n.parameter.empty() && (d || n.parameter == sizing::kEnclosureSize);
        lines.push_back({words::sentence(n.enter), isNamed || n.route,
            d && !n.parameter.empty() ? QString::fromStdString(d->part) : QString()});
    }
    return lines;
}

void ChecksPlace::enterFigure(int place, const QString& value, bool isForPart)
{
    if (!m_sized || place < 0 || place >= static_cast<int>(m_sized->notJudged.size()))
        return;
    const sizing::NotJudged n = m_sized->notJudged[static_cast<std::size_t>(place)];
    const std::string text = value.toStdString();
    const auto change = [n, text, isForPart](const DossierFile& file) -> Expected<DossierFile> {
        const Circuit& c = file.dossier.circuit;
        if (c.route(n.route))
            return edit::withRouteField(file, n.route, "loaded_circuits", text);
        if (n.parameter == sizing::kEnclosureSize)
            return edit::withEnclosure(file, text);
        const Device* d = c.device(n.device);
        return d && isForPart ? edit::withPartValue(file, d->part, n.parameter, text)
                              : edit::withValue(file, n.device, n.parameter, text);
    };
    m_document.editFile(tr("Enter a figure"), change);
}

/// The part that it is about is marked in the ways, if it is on one.
void ChecksPlace::takeOpened()
{
    const Finding* f = m_board->opened();
    if (!f || !m_sized)
        return;
    const auto isIt = [f](const sizing::Station& s) {
        return f->target.device ? s.device == f->target.device : f->target.wire && s.wire == f->target.wire;
    };
    const auto isOn = [&](const sizing::Walk& w) { return std::any_of(w.stations.begin(), w.stations.end(), isIt); };
    const auto& walks = m_sized->walks;
    const auto of = std::find_if(
        walks.begin(), walks.end(), [&](const sizing::Walk& w) { return w.motor == m_motor && isOn(w); });
    const auto walk = of != walks.end() ? of : std::find_if(walks.begin(), walks.end(), isOn);
    if (walk == walks.end())
        return m_view->choose(-1);
    if (walk->motor != m_motor) {
        m_motor = walk->motor;
        m_which->setCurrentIndex(m_which->findData(m_motor.value));
        showWays();
    }
    const auto station = std::find_if(m_sheet.stations.begin(), m_sheet.stations.end(), isIt);
    m_view->choose(static_cast<int>(station - m_sheet.stations.begin()));
}

void ChecksPlace::play(const Finding& finding)
{
    if (const auto evidence = evidenceOf(finding, m_book.results()))
        emit playWanted(evidence->script, evidence->until);
}

void ChecksPlace::enter(
    const char* kind, const Finding& finding, const QString& who, const QString& role, const QString& why)
{
    RecordEntry e;
    e.date = momentNow();
    e.who = who.trimmed().toStdString();
    e.text = why.trimmed().toStdString();
    e.kind = kind;
    e.role = role.toStdString();
    e.subject = record::keyOf(finding);
    e.said = words::sentence(finding.what).toStdString();
    if (const auto done = m_document.addToRecord(std::move(e)); !done)
        emit said(words::sentence(done.error()));
}

} // namespace ts::app
