#pragma once
// What stands there when the program starts without a file: what was open last, with what it holds, and the ways to
// begin. It goes when a dossier is there or a place is chosen.

#include "app/document/latest.h"
#include "app/frame/actions.h"
#include "app/settings/settings.h"
#include "app/widgets/theme.h"
#include "core/io/dossier_file.h"
#include "core/studies/standing.h"

#include <QWidget>

class QLabel;
class QListWidget;
class QPushButton;

namespace ts::app {

class PlanDrawing;

class StartPage : public QWidget {
    Q_OBJECT
public:
    StartPage(
        const Theme& theme, const Settings& settings, const ActionTable& actions, io::FileOps& files, QWidget* parent);

    bool isBusy() const { return m_loading.isBusy(); }
    /// How the file that is chosen stands is being worked out.
    bool isTrying() const { return m_trying.isBusy(); }

signals:
    void fileWanted(const QString& path);
    void findWanted(const QString& path); ///< something is the matter with the machine of that file
    void practiceWanted(const QString& path); ///< on that file

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    QWidget* ways(const ActionTable& actions);
    QWidget* lastOnes();
    QWidget* preview();
    void fill();
    void showChosen();
    void showFile(const Expected<DossierFile>& file);
    void tryOut(const DossierFile& file);
    void showStanding(const Dossier& dossier, const Standing& standing);
    QString chosen() const;

    const Theme& m_theme;
    const Settings& m_settings;
    io::FileOps& m_files;
    QListWidget* m_list = nullptr;
    QLabel *m_name = nullptr, *m_holds = nullptr, *m_standing = nullptr;
    PlanDrawing* m_drawing = nullptr;
    QPushButton *m_open = nullptr, *m_find = nullptr;
    Latest<Expected<DossierFile>> m_loading; ///< these last: their threads end before what they tell
    Latest<Expected<Standing>> m_trying;
};

/// Of the demo that came with the program: installed beside it, or in the tree it was built from; empty if neither.
QString demoPath();

} // namespace ts::app
