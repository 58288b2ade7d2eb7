#pragma once
// The frame: course, place, ledge, actions. Owns nothing of the job itself; document, book and places do the work.

#include "app/document/document.h"
#include "app/document/safe_keeper.h"
#include "app/document/selection.h"
#include "app/document/study_book.h"
#include "app/frame/place.h"
#include "app/settings/settings.h"
#include "app/shell/asker.h"
#include "app/widgets/theme.h"

#include <QKeySequence>
#include <QMainWindow>

#include <memory>

class QMenu;
class QStackedWidget;

namespace ts::app {

class Course;
class FileDesk;
class Ledge;
class SearchBox;
class StartPage;
class SupplyStrip;
class TopLine;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    /// Where results are remembered, and work that is not saved; empty: nowhere.
    struct Folders {
        std::string results;
        QString safekeeping;
    };
    MainWindow(Theme& theme, Settings settings, io::FileOps& files, Folders folders = {}, QWidget* parent = nullptr);
    ~MainWindow() override;

    void setAsker(std::unique_ptr<Asker> asker);
    /// False with a message if the file cannot be used; then nothing changes.
    bool open(const QString& path);
    void goTo(const QString& place);
    /// What was open last and the ways to begin, until a dossier is there or a place is chosen.
    void showStart();
    const std::vector<Place*>& places() const { return m_places; }
    /// The place of this class: for those who know it, tests and pictures.
    template <class P> P& place() const { return *findChild<P*>(); }
    Place& current() const;
    /// Where such a thing is looked at is brought forth and shows it.
    void showTarget(const Target& target);

    Document& document() { return m_document; }
    StudyBook& book() { return m_book; }
    FileDesk& desk() { return *m_desk; }
    SafeKeeper& keeper() { return m_keeper; }
    const ActionTable& actionTable() const { return *m_actions; }
    Ledge& ledge() { return *m_ledge; }

protected:
    void closeEvent(QCloseEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override; ///< a dossier

private:
    std::vector<ActionSpec> actionSpecs();
    void addPlaces();
    void connectPlace(Place* place, const QString& group);
    void connectDocument();
    void takeDocument();
    void takeResults();
    void markPlaces();
    void updateActions();
    void toggleTheme();
    void openSearch();
    std::vector<SearchItem> wordItems();
    void putBeside(const Circuit& circuit, const QString& name);
    void showInForce();
    void takeHabits(const wording::Habits& habits);
    void setVerifying(bool byItself);

    Theme& m_theme;
    Settings m_settings;
    std::unique_ptr<Asker> m_asker;
    Document m_document;
    SafeKeeper m_keeper;
    StudyBook m_book;
    Selection m_selection;
    std::unique_ptr<ActionTable> m_actions;
    std::vector<Place*> m_places;
    std::vector<QKeySequence> m_placeKeys;
    QStackedWidget *m_centre = nullptr, *m_stack = nullptr; ///< centre: the places, or the start page
    StartPage* m_start = nullptr;
    FileDesk* m_desk = nullptr;
    TopLine* m_top = nullptr;
    SupplyStrip* m_inForce = nullptr; ///< over every page
    QStringList m_inForceTexts; ///< what it says
    Course* m_course = nullptr;
    Ledge* m_ledge = nullptr;
    SearchBox* m_search = nullptr;
};

} // namespace ts::app
