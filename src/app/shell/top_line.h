#pragma once
// The line on top: the dossier's name with its menu, the course, and on the right what is always at hand.

#include "app/frame/actions.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QMenu;
class QPushButton;
class QToolButton;

namespace ts::app {

class Course;

class TopLine : public QWidget {
    Q_OBJECT
public:
    TopLine(const ActionTable& actions, const Theme& theme, QWidget* parent);
    Course& course() { return *m_course; }
    void setName(const QString& name, bool isModified, bool isReadOnly);
    /// A style sheet remembers the colours it was made with.
    void takeTheme();

private:
    QToolButton* tool(const QString& id, const QString& text);
    QMenu* viewMenu(QWidget* parent);
    void fitName();
    void fitWidth();
    void resizeEvent(QResizeEvent*) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

    const ActionTable& m_actions;
    const Theme& m_theme;
    Course* m_course = nullptr;
    QPushButton* m_name = nullptr;
    QToolButton* m_search = nullptr;
    QString m_shown, m_state; ///< of the dossier's name; what is said behind it
    QToolButton* m_look = nullptr;
};

} // namespace ts::app
