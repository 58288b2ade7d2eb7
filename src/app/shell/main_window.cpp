#include "app/shell/main_window.h"

#include "app/document/moment.h"
#include "app/shell/all_places.h"
#include "app/shell/course.h"
#include "app/shell/file_desk.h"
#include "app/shell/habit_actions.h"
#include "app/shell/ledge.h"
#include "app/shell/search.h"
#include "app/shell/start_page.h"
#include "app/shell/top_line.h"
#include "app/widgets/page_stack.h"
#include "app/widgets/supply_strip.h"
#include "app/words/words.h"
#include "core/base/check.h"
#include "core/checks/check.h"
#include "core/library/table.h"
#include "core/record/record.h"
#include "wording/bridge_words.h"
#include "wording/record_words.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileInfo>
#include <QMimeData>
#include <QScreen>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {

MainWindow::MainWindow(Theme& theme, Settings settings, io::FileOps& files, Folders folders, QWidget* parent)
    : QMainWindow(parent)
    , m_theme(theme)
    , m_settings(std::move(settings))
    , m_document(files)
    , m_keeper(m_document, files, std::move(folders.safekeeping))
    , m_book(m_document, std::move(folders.results), nullptr)
{
    setObjectName("window");
    const QSize room = screen()->availableGeometry().size(); // a title bar must not push the ledge off
    resize(std::min(1280, room.width()), std::min(800, room.height()));
    setMinimumSize(std::min(1100, room.width()), std::min(700, room.height()));
    m_desk = new FileDesk(
        m_document, m_keeper, m_book, m_settings,
        [this] {
            auto* place = findChild<Place*>(QStringLiteral("place.bench"));
            return place ? place->drawingShown().value_or(Place::Drawing::Control) : Place::Drawing::Control;
        },
        this);
    setAsker(std::make_unique<DialogAsker>(this));
    auto* inside = new QWidget(this);
    inside->setFocusPolicy(Qt::ClickFocus);
    m_centre = new PageStack(inside);
    m_stack = new PageStack(m_centre);
    m_centre->addWidget(m_stack);
    std::vector<QString> groups;
    for (const PlaceInCourse& p : allPlaces({m_document, m_selection, m_book, m_theme}, m_stack)) {
        m_places.push_back(p.place);
        m_placeKeys.push_back(p.key);
        groups.push_back(p.group);
    }
    m_actions = std::make_unique<ActionTable>(actionSpecs(), this);
    m_top = new TopLine(*m_actions, theme, this);
    m_course = &m_top->course();
    m_ledge = new Ledge(theme, inside);
    m_start = new StartPage(theme, m_settings, *m_actions, files, m_centre);
    m_centre->addWidget(m_start);
    connect(m_start, &StartPage::fileWanted, this, [this](const QString& path) { m_desk->open(path); });
    const auto opensAt = [this](const char* place) {
        return [this, place](const QString& path) {
            if (m_desk->open(path))
                goTo(QLatin1String(place));
        };
    };
    connect(m_start, &StartPage::findWanted, this, opensAt("find"));
    connect(m_start, &StartPage::practiceWanted, this, opensAt("practice"));
    setAcceptDrops(true);
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(m_top);
    m_inForce = new SupplyStrip(QStringLiteral("shell.bridges"), theme, inside);
    m_inForce->hide();
    column->addWidget(m_inForce);
    column->addWidget(m_centre, 1);
    column->addWidget(m_ledge);
    setCentralWidget(inside);
    m_search = new SearchBox(theme, inside);
    for (std::size_t k = 0; k < m_places.size(); ++k)
        connectPlace(m_places[k], groups[k]);
    connectDocument();
    m_book.setLiving(m_settings.verifiesByItself);
    goTo(QStringLiteral("bench"));
    updateActions();
    inside->setFocus(); // no button has the keyboard before somebody asks for it
}

MainWindow::~MainWindow()
{
    m_document.history().disconnect(this); // its end is not an edit
    m_book.disconnect();
}

void MainWindow::setAsker(std::unique_ptr<Asker> asker)
{
    m_asker = std::move(asker);
    m_desk->setAsker(*m_asker);
}

void MainWindow::connectPlace(Place* place, const QString& group)
{
    m_stack->addWidget(place);
    m_course->add(place->id(), place->title(), group);
    place->setHabits(m_settings.habits);
    connect(place, &Place::targetWanted, this, &MainWindow::showTarget);
    connect(place, &Place::said, this, [this](const QString& sentence) { m_ledge->say(sentence); });
    connect(place, &Place::placeWanted, this, [this, id = place->id()] { goTo(id); });
    connect(place, &Place::stateChanged, this, [this] {
        markPlaces();
        updateActions();
        showInForce();
    });
    connect(place, &Place::playWanted, this, [this](const std::vector<Stimulus>& script, TimeNs until) {
        for (Place* p : m_places)
            if (p->canPlay()) {
                goTo(p->id());
                p->play(script, until);
            }
    });
    connect(place, &Place::besideWanted, this, &MainWindow::putBeside);
    connect(place, &Place::dossierWanted, this, [this](const DossierFile& file) {
        if (!m_desk->mayLeave())
            return;
        m_document.startWith(file);
        for (Place* p : m_places)
            p->welcomeNew();
        goTo(QStringLiteral("bench"));
    });
}

void MainWindow::connectDocument()
{
    connect(
        m_course, &Course::chosen, this, [this](int index) { goTo(m_places[static_cast<std::size_t>(index)]->id()); });
    connect(m_desk, &FileDesk::said, m_ledge, &Ledge::say);
    connect(m_desk, &FileDesk::besideWanted, this, &MainWindow::putBeside);
    connect(&m_document, &Document::changed, this, &MainWindow::takeDocument);
    connect(&m_document, &Document::loaded, &m_selection, &Selection::clear);
    connect(&m_document, &Document::loaded, this, [this] { goTo(current().id()); }); // the start page goes
    connect(&m_document, &Document::loaded, this, [this] {
        if (const std::string broken = wording::brokenText(m_document.record()); !broken.empty())
            m_ledge->say(QString::fromStdString(broken));
    });
    connect(&m_document, &Document::readOnlyChanged, this, [this] {
        if (m_document.readOnly())
            m_ledge->say(QString::fromStdString(wording::sentence(*m_document.readOnly())));
        updateActions();
    });
    connect(&m_document, &Document::refused, this, [this](const Error& e) { m_ledge->say(words::sentence(e)); });
    connect(&m_document.history(), &QUndoStack::indexChanged, this, &MainWindow::updateActions);
    connect(&m_document.history(), &QUndoStack::cleanChanged, this, &MainWindow::updateActions);
    connect(&m_document, &Document::recorded, this, &MainWindow::updateActions);
    connect(&m_document, &Document::recorded, this, &MainWindow::showInForce);
    connect(&m_document, &Document::loaded, this, &MainWindow::showInForce);
    showInForce();
    connect(&m_book, &StudyBook::changed, this, &MainWindow::takeResults);
    connect(&m_selection, &Selection::changed, this, [this] {
        const Device* d = m_document.dossier().circuit.device(m_selection.device());
        m_ledge->setSelectedTag(d ? d->tag : std::string());
    });
    connect(&m_selection, &Selection::functionChosen, this,
        [this] { m_book.setInView(about(m_selection.functionIn(m_document.dossier()))); });
    connect(&m_theme, &Theme::changed, this, [this] {
        m_theme.applyTo(*qobject_cast<QApplication*>(QCoreApplication::instance()));
        m_top->takeTheme();
        for (QWidget* w : findChildren<QWidget*>())
            w->update();
    });
}

void MainWindow::putBeside(const Circuit& circuit, const QString& name)
{
    for (Place* p : m_places)
        if (p->canPlay()) {
            goTo(p->id());
            p->putBeside(circuit, name);
        }
}

/// What is bridged at the machine stands over everything that is said of it; so does what another place makes up.
void MainWindow::showInForce()
{
    QStringList texts;
    for (const RecordEntry& e : record::bypassesInForce(m_document.record()))
        texts << QString::fromStdString(wording::bypassText(e, momentNow().substr(0, 10)));
    for (const Place* p : m_places)
        if (const QString madeUp = p->isVisible() ? QString() : p->madeUp(); !madeUp.isEmpty())
            texts << madeUp;
    if (texts == m_inForceTexts)
        return; // told with each frame of a running machine
    m_inForceTexts = texts;
    m_inForce->show(texts.join(QStringLiteral("   ")), true);
    m_inForce->setToolTip(texts.join('\n'));
    m_inForce->setVisible(!texts.isEmpty());
}

std::vector<ActionSpec> MainWindow::actionSpecs()
{
    std::vector<ActionSpec> all;
    const auto take = [&all](std::vector<ActionSpec> more) {
        std::move(more.begin(), more.end(), std::back_inserter(all));
    };
    all.push_back(
        {"file.new", tr("New starter ..."), QKeySequence::New, true, {}, [this] { goTo(QStringLiteral("machine")); }});
    take(m_desk->actions());
    all.push_back({"file.quit", tr("Quit"), QKeySequence(Qt::CTRL | Qt::Key_Q), true, {}, [this] { close(); }});
    all.push_back({"edit.undo", tr("Undo"), QKeySequence::Undo, false,
        [this] { return m_document.history().canUndo(); }, [this] { m_document.history().undo(); }});
    all.push_back({"edit.redo", tr("Redo"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), false,
        [this] { return m_document.history().canRedo(); }, [this] { m_document.history().redo(); }});
    take(habitSpecs(m_settings.habits, [this](const wording::Habits& h) { takeHabits(h); }));
    all.push_back({"work.by_itself", tr("Verify by itself after each edit"), {}, false, {},
        [this] { setVerifying(!m_settings.verifiesByItself); }, {}, [this] { return m_settings.verifiesByItself; }});
    all.push_back(
        {"search", tr("Find anything"), QKeySequence(Qt::CTRL | Qt::Key_K), false, {}, [this] { openSearch(); }});
    all.push_back({"view.theme", tr("Dark"), QKeySequence(Qt::CTRL | Qt::Key_D), false, {}, [this] { toggleTheme(); }});
    std::size_t number = 0;
    for (Place* place : m_places) {
        all.push_back({QStringLiteral("place.%1").arg(place->id()), tr("Go to %1").arg(place->title()),
            m_placeKeys[number++], false, {}, [this, id = place->id()] { goTo(id); }});
        take(place->actions());
    }
    return all;
}

void MainWindow::takeHabits(const wording::Habits& habits)
{
    m_settings.habits = habits;
    m_settings.save();
    for (Place* place : m_places)
        place->setHabits(habits);
    updateActions();
}

void MainWindow::setVerifying(bool byItself)
{
    m_settings.verifiesByItself = byItself;
    m_settings.save();
    m_book.setLiving(byItself);
    updateActions();
}

/// What a word means is said on the ledge.
std::vector<SearchItem> MainWindow::wordItems()
{
    std::vector<SearchItem> items;
    const Table& table = wordsTable();
    const auto cell = [&table](std::size_t row, std::string_view column) {
        const std::string_view text = table.cell(row, column);
        return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
    };
    for (std::size_t row = 0; row < table.rowCount(); ++row) {
        QString word = cell(row, "word");
        if (const QString also = cell(row, "also"); !also.isEmpty())
            word += QStringLiteral(" (%1)").arg(QString(also).replace(QStringLiteral("; "), QStringLiteral(", ")));
        const QString source = cell(row, "source");
        const QString said = word + ": " + cell(row, "meaning") + (source.isEmpty() ? QString() : ". " + source);
        items.push_back({tr("word"), word, cell(row, "meaning"), [this, said] { m_ledge->say(said); }});
    }
    return items;
}

void MainWindow::openSearch()
{
    std::vector<SearchItem> items;
    const auto take = [&items](std::vector<SearchItem> more) {
        std::move(more.begin(), more.end(), std::back_inserter(items));
    };
    if (const auto checked = m_book.fresh(kChecks))
        for (const Finding& f : checked->findings)
            items.push_back({tr("finding"), words::sentence(f.what), words::sentence(f.mend),
                [this, target = f.target] { showTarget(target); }});
    for (Place* place : m_places)
        take(place->searchItems());
    take(wordItems());
    for (const ActionSpec& s : m_actions->specs())
        if (QAction* action = m_actions->action(s.id); action->isEnabled() && s.id != QLatin1String("search"))
            items.push_back(
                {tr("action"), s.text, s.shortcut.toString(QKeySequence::NativeText), [action] { action->trigger(); }});
    m_search->open(std::move(items));
}

Place& MainWindow::current() const
{
    return *m_places[static_cast<std::size_t>(m_stack->currentIndex())];
}

void MainWindow::goTo(const QString& id)
{
    const auto place = std::find_if(m_places.begin(), m_places.end(), [&id](const Place* p) { return p->id() == id; });
    TS_CHECK(place != m_places.end());
    const int index = static_cast<int>(place - m_places.begin());
    m_centre->setCurrentWidget(m_stack);
    m_stack->setCurrentIndex(index);
    m_course->setCurrent(index);
    updateActions();
    showInForce();
}

void MainWindow::showStart()
{
    m_centre->setCurrentWidget(m_start);
    m_course->setCurrent(-1);
    showInForce();
}

/// The place in view if it shows such things, else the first one that does.
void MainWindow::showTarget(const Target& target)
{
    std::vector<Place*> order = m_places;
    std::stable_partition(order.begin(), order.end(), [this](const Place* p) { return p == &current(); });
    const auto place = std::find_if(
        order.begin(), order.end(), [&target](const Place* p) { return p->canShow(target); });
    if (place == order.end())
        return;
    goTo((*place)->id());
    (*place)->showTarget(target);
}

void MainWindow::updateActions()
{
    m_actions->update();
    QString name = QString::fromStdString(m_document.dossier().machine.name);
    if (name.isEmpty() && !m_document.path().isEmpty()) // nobody has named the machine: the file has a name
        name = QFileInfo(m_document.path()).fileName();
    m_top->setName(name, m_document.isModified(), m_document.readOnly().has_value());
    setWindowTitle(name + (name.isEmpty() ? QStringLiteral("[*]") : QStringLiteral("[*] - ")) + tr("Tall Sentry"));
    setWindowModified(m_document.isModified());
}

void MainWindow::takeDocument()
{
    m_book.setInView(about(m_selection.functionIn(m_document.dossier())));
    takeResults();
    updateActions();
}

void MainWindow::takeResults()
{
    m_ledge->take(m_book, m_document.dossier());
    markPlaces();
}

void MainWindow::markPlaces()
{
    for (std::size_t k = 0; k < m_places.size(); ++k)
        m_course->button(static_cast<int>(k))->setMark(m_places[k]->mark());
}

bool MainWindow::open(const QString& path)
{
    return m_desk->open(path);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* e)
{
    const QList<QUrl> urls = e->mimeData()->urls();
    if (urls.size() == 1 && urls.front().isLocalFile() && urls.front().path().endsWith(QStringLiteral(".sentry")))
        e->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* e)
{
    e->acceptProposedAction();
    if (m_desk->mayLeave())
        m_desk->open(e->mimeData()->urls().front().toLocalFile());
}

void MainWindow::toggleTheme()
{
    m_theme.setDark(!m_theme.isDark());
    m_settings.darkTheme = m_theme.isDark();
    m_settings.save();
}

void MainWindow::closeEvent(QCloseEvent* e)
{
    if (m_desk->mayLeave()) {
        m_settings.save();
        e->accept();
    } else {
        e->ignore();
    }
}

} // namespace ts::app
