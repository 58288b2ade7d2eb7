#pragma once
// The frame: course, place, ledge, actions. Owns nothing of the job itself; document, analyst and places do the work.

#include "app/document/analyst.h"
#include "app/document/document.h"
#include "app/document/selection.h"
#include "app/document/sweep_book.h"
#include "app/settings/settings.h"
#include "app/shell/actions.h"
#include "app/shell/asker.h"
#include "app/widgets/theme.h"

#include <QMainWindow>

#include <memory>

class QLabel;
class QMenu;
class QStackedWidget;
class QPushButton;
class QToolButton;

namespace ts::app {

class BenchPlace;
class Course;
class FaultsPlace;
class FunctionsPlace;
class Ledge;
class LevelsPlace;
class MachinePlace;
class ReportWriter;
class SearchBox;
class SkylinePlace;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    /// `resultFolder`: where sweeps are remembered; empty: nowhere.
    MainWindow(
        Theme& theme, Settings settings, io::FileOps& files, std::string resultFolder = {}, QWidget* parent = nullptr);
    ~MainWindow() override;

    void setAsker(std::unique_ptr<Asker> asker) { m_asker = std::move(asker); }
    /// False with a message if the file cannot be used; then nothing changes.
    bool open(const QString& path);
    bool saveTo(const QString& path);
    /// In the background; the ledge says when it is done.
    void writeReport(const QString& path);
    const ReportWriter& reportWriter() const { return *m_reportWriter; }
    /// The drawing that the Bench shows as SVG, or both drawings as PDF, by the name's end.
    bool exportDrawing(const QString& path);
    enum PlaceIndex { kSkyline, kMachine, kFunctions, kBench, kFaults, kLevels };
    void goTo(int place);
    Document& document() { return m_document; }
    Analyst& analyst() { return m_analyst; }
    SweepBook& sweeps() { return m_sweeps; }
    BenchPlace& bench() { return *m_bench; }
    FaultsPlace& faults() { return *m_faults; }
    LevelsPlace& levels() { return *m_levels; }
    SkylinePlace& skyline() { return *m_skyline; }
    FunctionsPlace& functions() { return *m_functions; }
    MachinePlace& machine() { return *m_machine; }
    const ActionTable& actionTable() const { return *m_actions; }
    Ledge& ledge() { return *m_ledge; }

protected:
    void closeEvent(QCloseEvent*) override;

private:
    std::vector<ActionSpec> actionSpecs();
    std::vector<ActionSpec> fileSpecs();
    std::vector<ActionSpec> runSpecs();
    QWidget* topLine();
    void takeDocument();
    void takeResults();
    void markPlaces(const std::vector<Finding>& checked, const std::vector<Finding>& tried);
    /// To where a finding can be looked at.
    void goToFinding(const Finding& finding);
    void updateActions();
    bool mayLeave();
    void askAndOpen();
    bool askAndSave();
    void askAndAddParts();
    void askAndReport();
    void askAndExport();
    void askAndPrint();
    void askAndExportSkyline();
    void toggleTheme();
    void openSearch();
    void takeHabits(const wording::Habits& habits);
    QMenu* viewMenu(QWidget* parent);
    void styleName();

    Theme& m_theme;
    Settings m_settings;
    std::unique_ptr<Asker> m_asker;
    Document m_document;
    SweepBook m_sweeps;
    Selection m_selection;
    Analyst m_analyst;
    ReportWriter* m_reportWriter;
    std::unique_ptr<ActionTable> m_actions;
    Course* m_course = nullptr;
    QStackedWidget* m_places = nullptr;
    BenchPlace* m_bench = nullptr;
    FaultsPlace* m_faults = nullptr;
    LevelsPlace* m_levels = nullptr;
    SkylinePlace* m_skyline = nullptr;
    FunctionsPlace* m_functions = nullptr;
    MachinePlace* m_machine = nullptr;
    Ledge* m_ledge = nullptr;
    SearchBox* m_search = nullptr;
    QPushButton* m_name = nullptr;
    QToolButton *m_undo = nullptr, *m_redo = nullptr, *m_look = nullptr;
};

} // namespace ts::app
