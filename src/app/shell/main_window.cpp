#include "app/shell/main_window.h"

#include "app/places/bench/bench_place.h"
#include "app/places/bench/edit_sheet.h"
#include "app/places/faults/faults_place.h"
#include "app/places/functions/functions_place.h"
#include "app/places/levels/levels_place.h"
#include "app/places/machine/machine_place.h"
#include "app/places/skyline/skyline_place.h"
#include "app/shell/course.h"
#include "app/shell/habit_actions.h"
#include "app/shell/ledge.h"
#include "app/shell/report_writer.h"
#include "app/shell/search_items.h"
#include "core/edit/circuit_edits.h"
#include "core/io/lists.h"
#include "wording/speech.h"
#include "wording/wording.h"

#include <QActionGroup>
#include <QApplication>
#include <QCloseEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include <array>

namespace ts::app {

namespace {

struct PlaceSpec {
    const char* id;
    const char* name;
};
/// In the order of the job, as in PlaceIndex; Ctrl+1 and so on.
constexpr std::array kPlaces{PlaceSpec{"skyline", QT_TRANSLATE_NOOP("ts::app::MainWindow", "Skyline")},
    PlaceSpec{"machine", QT_TRANSLATE_NOOP("ts::app::MainWindow", "Machine")},
    PlaceSpec{"functions", QT_TRANSLATE_NOOP("ts::app::MainWindow", "Functions")},
    PlaceSpec{"bench", QT_TRANSLATE_NOOP("ts::app::MainWindow", "Bench")},
    PlaceSpec{"faults", QT_TRANSLATE_NOOP("ts::app::MainWindow", "Faults")},
    PlaceSpec{"levels", QT_TRANSLATE_NOOP("ts::app::MainWindow", "Levels")}};

} // namespace

MainWindow::MainWindow(Theme& theme, Settings settings, io::FileOps& files, std::string resultFolder, QWidget* parent)
    : QMainWindow(parent)
    , m_theme(theme)
    , m_settings(std::move(settings))
    , m_asker(std::make_unique<DialogAsker>(this))
    , m_document(files)
    , m_sweeps(m_document, std::move(resultFolder), nullptr)
{
    setObjectName("window");
    resize(1280, 800);
    setMinimumSize(1100, 700);
    m_actions = std::make_unique<ActionTable>(actionSpecs(), this);
    auto* inside = new QWidget(this);
    inside->setFocusPolicy(Qt::ClickFocus);
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(topLine());
    m_places = new QStackedWidget(inside);
    m_bench = new BenchPlace(m_document, m_selection, theme, m_places);
    m_faults = new FaultsPlace(m_document, m_selection, m_sweeps, theme, m_places);
    m_levels = new LevelsPlace(m_document, m_selection, m_analyst, m_sweeps, theme, m_places);
    m_machine = new MachinePlace(m_document, theme, m_places);
    m_skyline = new SkylinePlace(m_document, m_analyst, m_sweeps, theme, m_places);
    m_functions = new FunctionsPlace(m_document, m_selection, m_analyst, theme, m_places);
    for (QWidget* place :
        std::initializer_list<QWidget*>{m_skyline, m_machine, m_functions, m_bench, m_faults, m_levels}) // as in
                                                                                                         // PlaceIndex
        m_places->addWidget(place);
    column->addWidget(m_places, 1);
    m_ledge = new Ledge(theme, inside);
    column->addWidget(m_ledge);
    setCentralWidget(inside);
    m_search = new SearchBox(theme, inside);

    m_reportWriter = new ReportWriter(this);

    connect(m_reportWriter, &ReportWriter::written, this,
        [this](const QString& path) { m_ledge->say(tr("Report written to %1").arg(path)); });
    connect(m_reportWriter, &ReportWriter::failed, this, [this](const Error& e) {
        m_ledge->say(tr("The report was not written"));
        m_asker->tell(wording::sentence(e));
    });
    connect(m_course, &Course::chosen, this, &MainWindow::goTo);
    connect(&m_document, &Document::changed, this, &MainWindow::takeDocument);
    connect(&m_document, &Document::loaded, &m_selection, &Selection::clear);
    connect(&m_document, &Document::refused, this, [this](const Error& e) { m_ledge->say(wording::sentence(e)); });
    connect(&m_document.history(), &QUndoStack::indexChanged, this, &MainWindow::updateActions);
    connect(&m_document.history(), &QUndoStack::cleanChanged, this, &MainWindow::updateActions);
    connect(&m_analyst, &Analyst::finished, this, &MainWindow::takeResults);
    connect(&m_selection, &Selection::changed, this, [this] {
        const Device* d = m_document.dossier().circuit.device(m_selection.device());
        m_ledge->setSelectedTag(d ? d->tag : std::string());
    });
    connect(&m_bench->session(), &BenchSession::frameChanged, this, &MainWindow::updateActions);
    connect(&theme, &Theme::changed, this, [this] {
        m_theme.applyTo(*qobject_cast<QApplication*>(QCoreApplication::instance()));
        styleName();
        m_look->setText(m_theme.isDark() ? tr("Light") : tr("Dark"));
        for (QWidget* w : findChildren<QWidget*>())
            w->update();
    });
    connect(m_machine, &MachinePlace::starterWanted, this, [this](const DossierFile& file) {
        if (!mayLeave())
            return;
        m_document.startWith(file);
        m_functions->suggest();
        goTo(kBench);
    });
    connect(m_faults, &FaultsPlace::playWanted, this, [this](const std::vector<Stimulus>& script, TimeNs until) {
        goTo(kBench);
        m_bench->session().play(script, until);
    });
    connect(m_faults, &FaultsPlace::finished, this, &MainWindow::takeResults);
    connect(&m_sweeps, &SweepBook::changed, this, &MainWindow::takeResults);
    connect(m_skyline, &SkylinePlace::findingWanted, this, &MainWindow::goToFinding);
    connect(m_skyline, &SkylinePlace::functionWanted, this, [this](FunctionId function) {
        m_levels->show(function);
        goTo(kLevels);
    });
    connect(m_faults, &FaultsPlace::functionWanted, this, [this](FunctionId function) {
        m_functions->show(function);
        goTo(kFunctions);
    });
    m_bench->setHabits(m_settings.habits);
    goTo(kBench);
    updateActions();
    inside->setFocus(); // no button has the keyboard before somebody asks for it
}

MainWindow::~MainWindow()
{
    m_document.history().disconnect(this); // its end is not an edit
}

QWidget* MainWindow::topLine()
{
    auto* line = new QWidget(this);
    line->setObjectName("top");
    line->setFixedHeight(52);
    line->setAutoFillBackground(true);
    line->setBackgroundRole(QPalette::Base);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(8, 0, 12, 0);
    row->setSpacing(8);
    m_name = new QPushButton(line);
    m_name->setObjectName("dossier");
    m_name->setFlat(true);
    m_name->setFont(m_theme.bold());
    m_name->setText(tr("No dossier"));
    m_name->setToolTip(tr("Open, save, write the report"));
    m_name->setMinimumWidth(240);
    styleName();
    auto* menu = new QMenu(m_name);
    for (const ActionSpec& s : m_actions->specs())
        if (s.inMenu)
            menu->addAction(m_actions->action(s.id));
    m_name->setMenu(menu);
    row->addWidget(m_name);
    m_course = new Course(m_theme, line);
    for (const PlaceSpec& place : kPlaces)
        m_course->add(QString::fromLatin1(place.id), tr(place.name));
    row->addWidget(m_course);
    row->addStretch(1);
    const auto tool = [&](const QString& id, const QString& text) {
        auto* button = new QToolButton(line);
        button->setDefaultAction(m_actions->action(id));
        button->setObjectName("tool." + id);
        button->setAutoRaise(true);
        button->setToolButtonStyle(Qt::ToolButtonTextOnly);
        button->setText(text);
        row->addWidget(button);
        return button;
    };
    auto* find = tool("search", tr("Find anything   Ctrl+K"));
    find->setObjectName("tool.search");
    m_undo = tool("edit.undo", tr("Undo"));
    m_redo = tool("edit.redo", tr("Redo"));
    auto* view = new QToolButton(line);
    view->setObjectName("tool.view");
    view->setText(tr("View"));
    view->setAutoRaise(true);
    view->setPopupMode(QToolButton::InstantPopup);
    view->setMenu(viewMenu(view));
    view->setToolTip(tr("How circuits, sizes and colours are shown"));
    row->addWidget(view);
    m_look = tool("view.theme", tr("Dark"));
    return line;
}

/// A style sheet remembers the colours it was made with.
void MainWindow::styleName()
{
    m_name->setStyleSheet(QStringLiteral(
        "QPushButton{border:none;background:transparent;text-align:left;padding:6px 20px 6px 8px;color:%1}"
        "QPushButton:focus{text-decoration:underline}")
                              .arg(m_theme.colours().ink.name()));
}

std::vector<ActionSpec> MainWindow::fileSpecs()
{
    const auto always = [](const AppState&) { return true; };
    const auto withDossier = [](const AppState& s) { return s.hasDossier; };
    return {
        {"file.new", tr("New starter ..."), QKeySequence::New, true, always, [this] { goTo(kMachine); }},
        {"file.open", tr("Open ..."), QKeySequence::Open, true, always, [this] { askAndOpen(); }},
        {"file.save", tr("Save"), QKeySequence::Save, true,
            [](const AppState& s) { return s.hasDossier && s.isModified; },
            [this] { m_document.path().isEmpty() ? askAndSave() : saveTo(m_document.path()); }},
        {"file.save_as", tr("Save as ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), true, withDossier,
            [this] { askAndSave(); }},
        {"file.parts", tr("Add parts list ..."), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P), true, withDossier,
            [this] { askAndAddParts(); }},
        {"file.report", tr("Write report ..."), QKeySequence(Qt::CTRL | Qt::Key_R), true, withDossier,
            [this] { askAndReport(); }},
        {"file.export", tr("Export drawing ..."), QKeySequence(Qt::CTRL | Qt::Key_E), true, withDossier,
            [this] { askAndExport(); }},
        {"file.skyline", tr("Export skyline ..."), {}, true, withDossier, [this] { askAndExportSkyline(); }},
        {"file.print", tr("Print drawings ..."), QKeySequence::Print, true, withDossier, [this] { askAndPrint(); }},
        {"file.quit", tr("Quit"), QKeySequence(Qt::CTRL | Qt::Key_Q), true, always, [this] { close(); }},
    };
}

std::vector<ActionSpec> MainWindow::runSpecs()
{
    const auto running = [](const AppState& s) { return s.hasRun && s.isOnBench; };
    return {
        {"run.pause", tr("Pause or go on"), QKeySequence(Qt::Key_F5), false, running,
            [this] { m_bench->session().setRunning(!m_bench->session().isRunning()); }},
        {"run.step", tr("Next event"), QKeySequence(Qt::Key_Period), false, running,
            [this] { m_bench->session().stepForward(); }},
        {"run.back", tr("Back before the last event"), QKeySequence(Qt::Key_Comma), false, running,
            [this] { m_bench->session().stepBack(); }},
        {"run.restart", tr("From rest"), QKeySequence(Qt::CTRL | Qt::Key_Home), false, running,
            [this] { m_bench->session().restart(); }},
        {"run.clear_faults", tr("Take all faults off"), QKeySequence(Qt::CTRL | Qt::Key_Backspace), true,
            [](const AppState& s) { return s.hasFaults; }, [this] { m_bench->session().clearFaults(); }},
        {"bench.other_circuit", tr("Control or power circuit"), QKeySequence(Qt::Key_F6), false, running,
            [this] { m_bench->showPower(!m_bench->showsPower()); }},
    };
}

std::vector<ActionSpec> MainWindow::actionSpecs()
{
    const auto always = [](const AppState&) { return true; };
    std::vector<ActionSpec> all = fileSpecs();
    for (ActionSpec& s : runSpecs())
        all.push_back(std::move(s));
    all.push_back({"edit.undo", tr("Undo"), QKeySequence::Undo, false, [](const AppState& s) { return s.canUndo; },
        [this] { m_document.history().undo(); }});
    all.push_back({"edit.redo", tr("Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), false,
        [](const AppState& s) { return s.canRedo; }, [this] { m_document.history().redo(); }});
    for (ActionSpec& s : habitSpecs(m_settings.habits, [this](const wording::Habits& h) { takeHabits(h); }))
        all.push_back(std::move(s));
    all.push_back(
        {"search", tr("Find anything"), QKeySequence(Qt::CTRL | Qt::Key_K), false, always, [this] { openSearch(); }});
    all.push_back({"bench.wires", tr("Wire list or trace"), QKeySequence(Qt::Key_F7), false,
        [](const AppState& s) { return s.hasRun && s.isOnBench; },
        [this] { m_bench->showWires(!m_bench->showsWires()); }});
    all.push_back({"bench.large", tr("Large drawing, or all again"), QKeySequence(Qt::Key_F8), false,
        [](const AppState& s) { return s.hasRun && s.isOnBench; }, [this] { m_bench->setLarge(!m_bench->isLarge()); }});
    all.push_back(
        {"view.theme", tr("Dark"), QKeySequence(Qt::CTRL | Qt::Key_D), false, always, [this] { toggleTheme(); }});
    for (int k = 0; k < static_cast<int>(kPlaces.size()); ++k)
        all.push_back({QStringLiteral("place.%1").arg(QLatin1String(kPlaces[static_cast<std::size_t>(k)].id)),
            tr("Go to %1").arg(tr(kPlaces[static_cast<std::size_t>(k)].name)),
            QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + k)), false, always, [this, k] { goTo(k); }});
    all.push_back(
        {"faults.start", tr("Break everything, play every order or stop in every case (the page in view), or cancel"),
            QKeySequence(Qt::Key_F9), false, [](const AppState& s) { return s.hasDossier; },
            [this] {
                goTo(kFaults);
                m_faults->startOrCancel();
            }});
    return all;
}

/// One section a question.
QMenu* MainWindow::viewMenu(QWidget* parent)
{
    auto* menu = new QMenu(parent);
    QActionGroup* group = nullptr;
    QString last;
    for (const ActionSpec& s : m_actions->specs()) {
        if (!s.holds)
            continue;
        if (s.group != last) {
            if (!last.isEmpty())
                menu->addSeparator();
            group = new QActionGroup(menu);
        }
        last = s.group;
        group->addAction(m_actions->action(s.id));
        menu->addAction(m_actions->action(s.id));
    }
    return menu;
}

void MainWindow::takeHabits(const wording::Habits& habits)
{
    m_settings.habits = habits;
    m_settings.save();
    m_bench->setHabits(habits);
    updateActions();
}

void MainWindow::openSearch()
{
    const SearchTargets targets{[this](const offers::Target& t) {
                                    goTo(kBench);
                                    m_bench->find(t);
                                },
        [this](const offers::Offer& offer) {
            goTo(kBench);
            m_bench->openOffer(offer);
        }};
    const Circuit& circuit = m_document.dossier().circuit;
    std::vector<SearchItem> items;
    const auto add = [&items](std::vector<SearchItem> more) {
        items.insert(items.end(), std::make_move_iterator(more.begin()), std::make_move_iterator(more.end()));
    };
    add(offerItems(m_bench->offers(),
        targetName(circuit, {m_selection.device(), m_selection.role(), m_selection.wire()}), targets));
    if (m_analyst.result() && m_analyst.resultOf() == m_document.snapshot())
        add(findingItems(m_analyst.result()->findings, circuit, targets));
    for (const ActionSpec& s : m_actions->specs())
        if (QAction* action = m_actions->action(s.id); action->isEnabled() && s.id != QLatin1String("search"))
            items.push_back(
                {tr("action"), s.text, s.shortcut.toString(QKeySequence::NativeText), [action] { action->trigger(); }});
    add(circuitItems(circuit, targets));
    m_search->open(std::move(items));
}

void MainWindow::goTo(int place)
{
    m_places->setCurrentIndex(place);
    m_course->setCurrent(place);
    updateActions();
}

void MainWindow::updateActions()
{
    AppState s;
    s.hasDossier = !m_document.dossier().circuit.devices.empty();
    s.canUndo = m_document.history().canUndo();
    s.canRedo = m_document.history().canRedo();
    s.isModified = m_document.isModified();
    s.hasRun = m_bench && m_bench->session().hasRun();
    s.hasFaults = s.hasRun && !m_bench->session().run().state().faults.empty();
    s.isOnBench = m_places && m_places->currentIndex() == kBench;
    m_actions->update(s);
    const QString name = QString::fromStdString(m_document.dossier().machine.name);
    m_name->setText(name.isEmpty() ? tr("No dossier") : name + (s.isModified ? QStringLiteral(" *") : QString()));
    setWindowTitle((name.isEmpty() ? QString() : name + QStringLiteral("[*] - ")) + tr("Tall Sentry"));
    setWindowModified(s.isModified);
}

void MainWindow::takeDocument()
{
    m_analyst.analyse(m_document.snapshot());
    takeResults();
    updateActions();
}

void MainWindow::takeResults()
{
    const bool busy = m_analyst.isBusy();
    std::vector<Finding> findings;
    if (m_analyst.result())
        findings = m_analyst.result()->findings;
    const std::vector<Finding> tried = m_faults->findings();
    markPlaces(findings, tried);
    findings.insert(findings.end(), tried.begin(), tried.end());
    m_bench->setOutcomes(m_faults->outcomes());
    const bool nothingChecked = m_document.dossier().functions.empty() && findings.empty();
    m_skyline->setFindings(findings);
    m_ledge->setFindings(std::move(findings), busy, nothingChecked);
}

void MainWindow::markPlaces(const std::vector<Finding>& checked, const std::vector<Finding>& tried)
{
    const auto& functions = m_document.dossier().functions;
    const auto markFor = [&](std::initializer_list<std::string_view> ids) {
        if (functions.empty())
            return Mark::Untouched;
        if (m_analyst.isBusy() || !m_analyst.result())
            return Mark::Stale;
        const bool found = std::any_of(checked.begin(), checked.end(),
            [&](const Finding& f) { return std::find(ids.begin(), ids.end(), f.id) != ids.end(); });
        return found ? Mark::Wrong : Mark::InOrder;
    };
    const bool isOpen = std::any_of(functions.begin(), functions.end(),
        [](const SafetyFunction& f) { return f.reliedOnByPerson && (f.requiredLevel.empty() || !f.risk); });
    m_course->button(kSkyline)->setMark(functions.empty() ? Mark::Untouched
            : checked.empty() && tried.empty()            ? Mark::InOrder
                                                          : Mark::Wrong);
    m_course->button(kFunctions)->setMark(functions.empty() ? Mark::Untouched : isOpen ? Mark::Open : Mark::InOrder);
    m_course->button(kBench)->setMark(markFor({"stop"}));
    m_course->button(kLevels)->setMark(markFor({"level", "claim"}));
    m_course->button(kFaults)->setMark(!m_faults->hasResults() ? Mark::Untouched
            : tried.empty()                                    ? Mark::InOrder
                                                               : Mark::Wrong);
}

void MainWindow::goToFinding(const Finding& finding)
{
    goTo(finding.id == "level" || finding.id == "claim" ? kLevels : finding.id == "stop" ? kFunctions : kFaults);
}

bool MainWindow::open(const QString& path)
{
    if (const auto loaded = m_document.load(path); !loaded) {
        m_asker->tell(wording::sentence(loaded.error()));
        return false;
    }
    m_settings.lastFolder = QFileInfo(path).absolutePath();
    return true;
}

bool MainWindow::saveTo(const QString& path)
{
    if (const auto saved = m_document.save(path); !saved) {
        m_asker->tell(wording::sentence(saved.error()));
        return false;
    }
    updateActions();
    return true;
}

bool MainWindow::mayLeave()
{
    if (!m_document.isModified())
        return true;
    switch (m_asker->aboutUnsaved(QString::fromStdString(m_document.dossier().machine.name))) {
    case Asker::Unsaved::Save:
        return m_document.path().isEmpty() ? askAndSave() : saveTo(m_document.path());
    case Asker::Unsaved::Discard:
        return true;
    case Asker::Unsaved::Cancel:
        return false;
    }
    return false;
}

void MainWindow::askAndOpen()
{
    if (!mayLeave())
        return;
    const QString path = m_asker->fileToOpen(m_settings.lastFolder, tr("Dossier (*.sentry)"));
    if (!path.isEmpty())
        open(path);
}

bool MainWindow::askAndSave()
{
    const QString path = m_asker->fileToSave(m_document.path(), tr("Dossier (*.sentry)"));
    return !path.isEmpty() && saveTo(path);
}

void MainWindow::askAndAddParts()
{
    const QString path = m_asker->fileToOpen(m_settings.lastFolder, tr("Parts list (*.csv *.json)"));
    if (path.isEmpty())
        return;
    const auto parts = io::loadParts(path.toStdString());
    if (!parts) {
        m_asker->tell(wording::sentence(parts.error()));
        return;
    }
    if (m_document.edit(tr("Add parts list"), [&](const Dossier& d) { return edit::withParts(d, *parts); }))
        m_ledge->say(tr("%1 parts added from %2").arg(parts->size()).arg(path));
}

void MainWindow::toggleTheme()
{
    m_theme.setDark(!m_theme.isDark());
    m_settings.darkTheme = m_theme.isDark();
    m_settings.save();
}

void MainWindow::closeEvent(QCloseEvent* e)
{
    if (mayLeave()) {
        m_settings.save();
        e->accept();
    } else {
        e->ignore();
    }
}

} // namespace ts::app
