#include "app/places/bench/bench_place.h"

#include "app/places/bench/beside_view.h"
#include "app/places/bench/device_state.h"
#include "app/places/bench/door_view.h"
#include "app/places/bench/edit_sheet.h"
#include "app/places/bench/habit_looks.h"
#include "app/places/bench/inspector.h"
#include "app/places/bench/meter_panel.h"
#include "app/places/bench/page_turner.h"
#include "app/places/bench/paths_view.h"
#include "app/places/bench/plate_view.h"
#include "app/places/bench/run_bar.h"
#include "app/places/bench/run_keeper.h"
#include "app/places/bench/search_items.h"
#include "app/places/bench/trace_view.h"
#include "app/places/bench/wire_list_view.h"
#include "app/widgets/page_stack.h"
#include "app/words/words.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"
#include "core/edit/device_edits.h"
#include "core/simulation/scenario_run.h"

#include <QAccessible>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QScrollArea>
#include <QScrollBar>
#include <QSplitter>
#include <QToolButton>
#include <QVBoxLayout>

#include <utility>

namespace ts::app {
namespace {

constexpr int kNarrow = 1200;

} // namespace

BenchPlace::BenchPlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("bench"), tr("Bench"), parent)
    , m_document(parts.document)
    , m_selection(parts.selection)
    , m_book(parts.book)
    , m_theme(parts.theme)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 12, 16, 12);
    row->setSpacing(16);
    m_left = leftSide();
    row->addWidget(m_left);
    row->addWidget(middle(), 1);
    row->addWidget(rightSide());
    connect(&m_document, &Document::loaded, this, [this] { m_isAnother = true; });
    connect(&m_document, &Document::changed, this, &BenchPlace::takeDocument);
    connect(&m_selection, &Selection::changed, this, &BenchPlace::takeSelection);
    connect(m_paths, &PathsView::conductorPicked, this, &BenchPlace::pickNet);
    connect(m_paths, &PathsView::menuWanted, this, &BenchPlace::openMenu);
    connect(m_paths, &PathsView::pathDropped, this, &BenchPlace::movePath);
    connect(m_paths, &PathsView::resized, this, &BenchPlace::draw);
    connect(m_wires, &WireListView::wirePicked, &m_selection, &Selection::selectWire);
    connect(m_inspector, &Inspector::offerPicked, this, &BenchPlace::openOffer);
    connect(m_sheet, &EditSheet::previewChanged, this, &BenchPlace::showPreview);
    connect(m_sheet, &EditSheet::left, this, [this] {
        m_beside->setCurrentWidget(m_inspector);
        m_paths->setFocus(Qt::OtherFocusReason);
    });
    connect(m_paths, &PathsView::symbolPicked, &m_selection, &Selection::select);
    connect(m_plate, &PlateView::devicePicked, this, [this](DeviceId id) { m_selection.select(id); });
    connect(m_trace, &TraceView::devicePicked, this,
        [this](int device) { m_selection.select(m_session.plant().devices[static_cast<std::size_t>(device)].id); });
    connect(m_paths, &PathsView::terminalPicked, m_meter, &MeterPanel::probe);
    connect(
        m_meter, &MeterPanel::probesChanged, this, [this] { m_paths->setProbes(m_meter->red(), m_meter->black()); });
    m_keeper = new RunKeeper(m_document, this);
    connect(m_keeper, &RunKeeper::said, this, &Place::said);
    connect(&m_session, &BenchSession::frameChanged, this, &Place::stateChanged);
    connect(&m_book, &StudyBook::changed, this, &BenchPlace::takeOutcomes);
    connect(&m_book, &StudyBook::changed, this, &BenchPlace::takeFindings);
    connect(&m_selection, &Selection::functionChosen, this, &BenchPlace::takeOutcomes);
    takeDocument();
}

QWidget* BenchPlace::leftSide()
{
    auto* side = new QWidget(this);
    side->setFixedWidth(248);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(12);
    auto* frame = new QScrollArea(side); // a large door is looked at in parts
    m_door = new DoorView(m_session, m_theme, frame);
    m_door->setMinimumWidth(200); // its buttons move closer together
    frame->setObjectName("door.frame");
    frame->setWidget(m_door);
    frame->setWidgetResizable(true);
    frame->setFrameShape(QFrame::NoFrame);
    frame->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    frame->setFocusPolicy(Qt::NoFocus);
    // Narrow, because the buttons need the room.
    frame->verticalScrollBar()->setStyleSheet(QStringLiteral(
        "QScrollBar:vertical{width:8px;background:palette(window)}QScrollBar::handle:vertical{background:palette(mid)}"
        "QScrollBar::add-line,QScrollBar::sub-line{height:0}"));
    m_doorFrame = frame;
    m_plate = new PlateView(m_session, m_theme, side);
    column->addWidget(frame);
    column->addWidget(m_plate, 1);
    return side;
}

QToolButton* BenchPlace::headButton(const QString& name, const QString& text)
{
    auto* button = new QToolButton(this);
    button->setText(text);
    makeHeadButton(*button, name);
    return button;
}

void BenchPlace::makeHeadButton(QToolButton& button, const QString& name)
{
    button.setObjectName(name);
    button.setAutoRaise(true);
    button.setFont(m_theme.body());
    button.setFocusPolicy(Qt::TabFocus);
}

QWidget* BenchPlace::middle()
{
    auto* middle = new QWidget(this);
    auto* column = new QVBoxLayout(middle);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* splitter = m_splitter = new QSplitter(Qt::Vertical, middle);
    m_paths = new PathsView(m_session, m_theme, splitter);
    m_paths->setObjectName("paths");
    m_paths->setAccessibleName(tr("Current paths"));
    m_pages = new PageTurner(*m_paths, middle);
    makeHeadButton(*m_pages, QStringLiteral("bench.page"));
    auto* head = new QHBoxLayout;
    head->setSpacing(4);
    m_control = headButton("bench.control", tr("Control"));
    m_power = headButton("bench.power", tr("Power"));
    m_control->setToolTip(tr("Control circuit (F6: the other one)"));
    m_power->setToolTip(tr("Power circuit (F6: the other one)"));
    m_list = headButton("bench.wires", tr("Wires"));
    m_list->setToolTip(tr("Wire list in working order"));
    for (QToolButton* b : {m_control, m_power, m_list})
        b->setCheckable(true);
    m_control->setChecked(true);
    connect(m_list, &QToolButton::clicked, this, &BenchPlace::showWires);
    connect(m_control, &QToolButton::clicked, this, [this] { showPower(false); });
    connect(m_power, &QToolButton::clicked, this, [this] { showPower(true); });
    head->addWidget(m_control);
    head->addWidget(m_power);
    head->addWidget(m_pages);
    head->addSpacing(8);
    head->addWidget(m_list);
    head->addStretch(1);
    head->addWidget(new RunBar(m_session, m_theme, middle));
    column->addLayout(head);
    m_below = new PageStack(splitter);
    m_trace = new TraceView(m_session, m_theme, m_below);
    m_wires = new WireListView(m_theme, m_below);
    m_below->addWidget(m_trace);
    m_other = new BesideView(m_session, m_theme, m_below);
    m_below->addWidget(m_wires);
    m_below->addWidget(m_other);
    connect(m_other, &BesideView::left, this, [this] { showWires(false); });
    splitter->addWidget(m_paths);
    splitter->addWidget(m_below);
    splitter->setStretchFactor(0, 1);
    splitter->setSizes({530, 176});
    splitter->setChildrenCollapsible(false);
    column->addWidget(splitter, 1);
    return middle;
}

QWidget* BenchPlace::rightSide()
{
    auto* side = new QWidget(this);
    side->setFixedWidth(256);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(12);
    m_beside = new PageStack(side);
    m_inspector = new Inspector(m_session, m_theme, m_beside);
    connect(m_inspector, &Inspector::elementPicked, this, &BenchPlace::find);
    connect(m_inspector, &Inspector::gapsChanged, m_paths, &PathsView::setGaps);
    m_sheet = new EditSheet(m_document, m_theme, m_beside);
    m_beside->addWidget(m_inspector);
    m_beside->addWidget(m_sheet);
    m_meter = new MeterPanel(m_session, m_theme, side);
    column->addWidget(m_beside, 1);
    column->addWidget(m_meter);
    return side;
}

/// A changed claim leaves the running circuit alone; a changed circuit goes on from where it was.
void BenchPlace::takeDocument()
{
    const Circuit& circuit = m_document.dossier().circuit;
    const bool another = std::exchange(m_isAnother, false);
    if (!another && circuit == m_circuit && m_session.hasRun())
        return;
    auto compiled = compile(circuit);
    const auto plant = compiled && !circuit.devices.empty() ? std::make_shared<const Plant>(std::move(*compiled))
                                                            : nullptr;
    const bool keepsDevices = plant && !another && m_session.hasRun() && diagram::hasSameDevices(circuit, m_circuit)
        && m_habits.lampColours == wording::Habits::LampColours::AsWritten; // else the wiring colours the lamps
    const bool keepsDrawing = keepsDevices && !m_sheet->isOpen() && diagram::isDrawnAlike(circuit, m_circuit);
    m_circuit = circuit;
    if (keepsDevices)
        m_inspector->expect(m_document.snapshot());
    else // what was built for the old plant goes first: its buttons and cards look into the session by index
        showDevices(nullptr);
    another ? m_session.setPlant(plant) : m_session.changePlant(plant);
    if ((m_selection.device() && !circuit.device(m_selection.device()))
        || (m_selection.wire() && !circuit.wire(m_selection.wire())))
        m_selection.clear(); // what was selected is gone
    if (keepsDevices)
        m_wires->setDossier(m_document.snapshot(), m_habits);
    else
        showDevices(m_document.snapshot());
    keepsDrawing ? m_paths->takeRun() : draw();
    takeSelection();
}

void BenchPlace::takeSelection()
{
    const Wire* wire = m_circuit.wire(m_selection.wire());
    m_paths->setSelected(m_selection.device(), m_selection.role());
    m_paths->setSelectedWire(wire ? std::optional(std::pair(wire->from, wire->to)) : std::nullopt);
    m_plate->setSelected(m_selection.device());
    m_wires->setSelected(m_selection.wire());
    if (m_sheet->isOpen())
        m_sheet->leave();
    m_inspector->show(target());
    describeSelection();
}

/// The drawing is painted: what is selected in it is told to screen readers in words.
void BenchPlace::describeSelection()
{
    QString text;
    if (m_session.hasRun())
        for (std::size_t i = 0; i < m_session.plant().devices.size(); ++i) {
            const PlantDevice& d = m_session.plant().devices[i];
            if (d.id == m_selection.device())
                text = QString::fromStdString(d.tag + " " + m_selection.role()) + ": "
                    + deviceState(m_session.plant(), m_session.frame(), static_cast<int>(i))
                          .lines.join(QStringLiteral(", "));
        }
    m_paths->setAccessibleDescription(text);
    QAccessibleEvent event(m_paths, QAccessible::DescriptionChanged);
    QAccessible::updateAccessibility(&event);
}

/// As high as it needs, but the plate below stays in sight.
void BenchPlace::fitDoor()
{
    constexpr int kPlateHeight = 190;
    m_doorFrame->setFixedHeight(std::max(160, std::min(m_door->sizeHint().height(), height() - kPlateHeight)));
}

void BenchPlace::resizeEvent(QResizeEvent*)
{
    const bool isNarrow = width() < kNarrow;
    m_pages->setShort(isNarrow);
    layout()->setSpacing(isNarrow ? 8 : 16);
    layout()->setContentsMargins(isNarrow ? 8 : 16, 12, isNarrow ? 8 : 16, 12);
    fitDoor();
}

/// While another place was in view its buttons did not count.
void BenchPlace::showEvent(QShowEvent*)
{
    QMetaObject::invokeMethod(this, &BenchPlace::fitDoor, Qt::QueuedConnection);
}

void BenchPlace::setLarge(bool large)
{
    m_isLarge = large;
    m_left->setVisible(!large);
    m_below->setVisible(!large);
}

void BenchPlace::setHabits(const wording::Habits& habits)
{
    if (habits == m_habits)
        return;
    const bool turned = habits.school != m_habits.school;
    m_habits = habits;
    showDevices(m_document.snapshot());
    draw();
    if (turned)
        m_paths->fit();
}

void BenchPlace::showDevices(const Snapshot& dossier)
{
    const Circuit none;
    const Circuit& circuit = dossier ? dossier->circuit : none;
    m_door->setCircuit(circuit, dossier ? lampColours(*dossier, m_habits) : std::map<DeviceId, QString>());
    m_plate->setCircuit(circuit);
    QMetaObject::invokeMethod(this, &BenchPlace::fitDoor, Qt::QueuedConnection); // its buttons count once they are
                                                                                 // shown
    m_inspector->setDossier(dossier, m_habits);
    if (dossier)
        m_wires->setDossier(dossier, m_habits);
}

void BenchPlace::showPower(bool power)
{
    m_showsPower = power;
    m_control->setChecked(!power);
    m_power->setChecked(power);
    draw();
    m_other->setDrawing(power, m_habits);
    m_paths->showPage(0);
    m_paths->fit(); // another drawing is first seen as large as it fits
}

void BenchPlace::draw()
{
    m_pages->show(m_sheet->preview() ? m_sheet->preview()->circuit : m_circuit, m_showsPower, m_habits);
}

/// What the change brings is marked: symbols that the drawing of the circuit as it is does not have.
void BenchPlace::showPreview()
{
    std::set<std::pair<DeviceId, std::string>> there, isNew;
    const Snapshot preview = m_sheet->preview();
    if (const auto graph = diagram::wiredGraph(m_circuit); graph && preview)
        for (const diagram::Scene& scene : {diagram::controlDrawing(*graph).scene, diagram::powerDrawing(*graph)})
            for (const diagram::Symbol& s : scene.symbols)
                there.insert({s.device, s.role});
    draw();
    if (preview)
        for (const diagram::Symbol& s : m_paths->scene().symbols)
            if (s.device && !there.contains({s.device, s.role}))
                isNew.insert({s.device, s.role});
    m_paths->setPreview(std::move(isNew), preview != nullptr);
}

void BenchPlace::showWires(bool wires)
{
    m_below->setCurrentIndex(wires ? 1 : 0);
    if (wires)
        m_below->show(); // also beside a large drawing
    m_list->setChecked(wires);
    if (wires)
        m_wires->setSelected(m_selection.wire());
}

bool BenchPlace::showsWires() const
{
    return m_below->currentIndex() == 1;
}

/// One wire of the net after the other, each time it is clicked.
void BenchPlace::pickNet(const TerminalRef& net)
{
    const auto terminals = edit::netOf(m_circuit, net);
    std::vector<WireId> wires;
    for (int row = 0; row < m_wires->rows().rowCount(); ++row)
        if (const Wire* w = m_circuit.wire(m_wires->rows().wireAt(row)); w && terminals.contains(w->from))
            wires.push_back(w->id);
    if (wires.empty())
        return m_selection.clear();
    const auto here = std::find(wires.begin(), wires.end(), m_selection.wire());
    m_selection.selectWire(here == wires.end() || here + 1 == wires.end() ? wires.front() : *(here + 1));
}

const std::vector<offers::Offer>& BenchPlace::offers() const
{
    return m_inspector->offers();
}

void BenchPlace::openOffer(const offers::Offer& offer)
{
    m_beside->setCurrentWidget(m_sheet);
    m_sheet->open(target(), offer);
}

void BenchPlace::openMenu(QPoint global)
{
    auto* menu = new QMenu(this);
    menu->setObjectName("bench.menu");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (const offers::Offer& offer : m_inspector->offers()) {
        QAction* action = menu->addAction(
            words::word("do." + offer.id) + (offer.key ? QStringLiteral("\t") + QLatin1Char(offer.key) : QString()));
        connect(action, &QAction::triggered, this, [this, offer] { openOffer(offer); });
    }
    if (menu->isEmpty())
        delete menu;
    else
        menu->popup(global);
}

/// The path's load takes its place among the others in the order that is kept with the circuit.
void BenchPlace::movePath(int number, int before)
{
    const auto graph = diagram::wiredGraph(m_circuit);
    if (!graph)
        return;
    const auto order = diagram::orderWithPathMoved(diagram::controlDrawing(*graph).paths, number, before);
    m_document.editFile(tr("Move path %1").arg(number),
        [&](const DossierFile& file) -> Expected<DossierFile> { return edit::withDrawingOrder(file, order); });
}

void BenchPlace::find(const offers::Picked& wanted)
{
    if (!wanted.device && !wanted.wire)
        return m_selection.clear();
    if (wanted.wire) {
        m_selection.selectWire(wanted.wire);
        showWires(true);
    } else {
        m_selection.select(wanted.device, wanted.role);
    }
    const Wire* wire = m_circuit.wire(wanted.wire);
    const DeviceId device = wire ? wire->from.device : wanted.device;
    if (m_paths->reveal(device, wanted.role))
        return;
    showPower(!m_showsPower);
    if (!m_paths->reveal(device, wanted.role))
        showPower(!m_showsPower); // it is in neither drawing
}

/// Where else the selected device is drawn: from one of its elements to the next, over both drawings.
void BenchPlace::goToNextElement()
{
    const auto graph = diagram::wiredGraph(m_circuit);
    if (!graph || !m_selection.device())
        return;
    std::vector<std::string> roles;
    for (const diagram::Scene& scene : {diagram::controlDrawing(*graph).scene, diagram::powerDrawing(*graph)})
        for (const diagram::Symbol& s : scene.symbols)
            if (s.device == m_selection.device() && s.kind != diagram::SymbolKind::Port
                && std::find(roles.begin(), roles.end(), s.role) == roles.end())
                roles.push_back(s.role);
    if (roles.empty())
        return;
    const auto here = std::find(roles.begin(), roles.end(), m_selection.role());
    find({m_selection.device(), here == roles.end() || here + 1 == roles.end() ? roles.front() : *(here + 1), {}});
}

void BenchPlace::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_Q && e->modifiers() == Qt::NoModifier)
        return goToNextElement();
    const bool takesOut = e->key() == Qt::Key_Delete;
    const bool isPlain = !(e->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier));
    for (const offers::Offer& offer : m_inspector->offers())
        if (isPlain && ((offer.key && e->key() == offer.key) || (takesOut && offer.removes)))
            return openOffer(offer);
    QWidget::keyPressEvent(e);
}

/// What the faults of the function in view came to, beside each of them.
void BenchPlace::takeOutcomes()
{
    std::map<std::string, faults::Outcome> outcomes;
    const Subject function = about(m_selection.functionIn(m_document.dossier()));
    auto sweep = m_book.fresh(kSecondFaults, function);
    if (!sweep)
        sweep = m_book.fresh(kSingleFaults, function);
    for (std::size_t k = 0; sweep && k < sweep->faults.size(); ++k)
        if (sweep->outcomes[k].isRun)
            outcomes.emplace(sweep->faults[k].id, sweep->outcomes[k].overall);
    m_inspector->setOutcomes(std::move(outcomes));
    emit stateChanged();
}

void BenchPlace::takeFindings()
{
    if (m_found.take(m_book, m_document.dossier()))
        m_paths->setFound(m_found);
}

std::vector<ActionSpec> BenchPlace::actions()
{
    const auto running = [this] { return m_session.hasRun() && isVisible(); };
    const auto add = [](const char* id, const QString& text, const QKeySequence& key, std::function<bool()> isPossible,
                         std::function<void()> run) {
        return ActionSpec{QLatin1String(id), text, key, false, std::move(isPossible), std::move(run)};
    };
    std::vector<ActionSpec> all{
        add("bench.do_pause", tr("Pause or go on"), QKeySequence(Qt::Key_F5), running,
            [this] { m_session.setRunning(!m_session.isRunning()); }),
        add("bench.do_step", tr("Next event"), QKeySequence(Qt::Key_Period), running,
            [this] { m_session.stepForward(); }),
        add("bench.do_back", tr("Back before the last event"), QKeySequence(Qt::Key_Comma), running,
            [this] { m_session.stepBack(); }),
        add(
            "bench.keep_run", tr("Keep what was done as a scenario"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_K),
            [this] { return m_session.hasRun() && isVisible() && !m_session.run().script().empty(); },
            [this] { m_keeper->keep(m_session.run()); }),
        add("bench.do_restart", tr("From rest"), QKeySequence(Qt::CTRL | Qt::Key_Home), running,
            [this] { m_session.restart(); }),
        add(
            "bench.do_clear_faults", tr("Take all faults off"), QKeySequence(Qt::CTRL | Qt::Key_Backspace),
            [this] { return m_session.hasRun() && !m_session.run().state().faults.empty(); },
            [this] { m_session.clearFaults(); }),
        add("bench.other_circuit", tr("Control or power circuit"), QKeySequence(Qt::Key_F6), running,
            [this] { showPower(!showsPower()); }),
        add("bench.wires", tr("Wire list or trace"), QKeySequence(Qt::Key_F7), running,
            [this] { showWires(!showsWires()); }),
        add("bench.large", tr("Large drawing, or all again"), QKeySequence(Qt::Key_F8), running,
            [this] { setLarge(!isLarge()); }),
    };
    for (ActionSpec& s : all)
        s.inMenu = s.id == QLatin1String("bench.do_clear_faults") || s.id == QLatin1String("bench.keep_run");
    return all;
}

std::vector<SearchItem> BenchPlace::searchItems()
{
    const SearchTargets targets{
        [this](const offers::Picked& t) { emit targetWanted({.device = t.device, .element = t.role, .wire = t.wire}); },
        [this](const offers::Offer& offer) {
            emit targetWanted(
                {.device = m_selection.device(), .element = m_selection.role(), .wire = m_selection.wire()});
            openOffer(offer);
        },
        [this](const Scenario& s) { emit targetWanted({.scenario = s.id, .atS = s.lengthS}); }};
    const Circuit& circuit = m_document.dossier().circuit;
    std::vector<SearchItem> items = offerItems(offers(), targetName(circuit, target()), targets);
    for (SearchItem& item : circuitItems(circuit, targets))
        items.push_back(std::move(item));
    for (SearchItem& item : scenarioItems(m_document.dossier(), targets))
        items.push_back(std::move(item));
    return items;
}

/// The stop as it is read from a run here.
Mark BenchPlace::mark() const
{
    using Aspect = Target::Aspect;
    if (const auto found = markOfFindings(m_book, {Aspect::Circuit, Aspect::Demand, Aspect::Order, Aspect::WorstStop});
        found && *found != Mark::Open)
        return *found;
    return markWithoutFindings( // one run of each stop says little about the wiring
        m_book, m_document.dossier(),
        {kLevels.id, kScenarios.id, kDirected.id, kSingleFaults.id, kSecondFaults.id, kWorstStop.id, kOrders.id});
}

bool BenchPlace::canShow(const Target& wanted) const
{
    return wanted.aspect == Target::Aspect::Circuit;
}

void BenchPlace::showTarget(const Target& wanted)
{
    if (const Scenario* scenario = m_document.dossier().scenario(wanted.scenario))
        playTo(*scenario, wanted.atS);
    find({wanted.device, wanted.element, wanted.wire});
}

std::vector<PlaceView> BenchPlace::views()
{
    return {{QStringLiteral("bench"), [this] { showPower(false); }, {}},
        {QStringLiteral("bench.power"), [this] { showPower(true); }, {}}};
}

void BenchPlace::putBeside(const Circuit& circuit, const QString& name)
{
    if (const auto shown = m_other->show(circuit, name, m_showsPower, m_habits); !shown) {
        emit said(words::sentence(shown.error()));
        return;
    }
    m_below->setCurrentWidget(m_other);
    m_below->show();
    m_list->setChecked(false);
    const int whole = m_splitter->height();
    m_splitter->setSizes({whole / 2, whole / 2});
}

/// What cannot be run is said by the check of the scenarios.
void BenchPlace::playTo(const Scenario& scenario, double atS)
{
    if (!m_session.hasRun())
        return;
    if (const auto script = stimuliOf(m_session.plant(), scenario))
        play(*script, timeNs(seconds(atS)));
}

void BenchPlace::play(const std::vector<Stimulus>& script, TimeNs until)
{
    m_session.play(script, until);
}

} // namespace ts::app
