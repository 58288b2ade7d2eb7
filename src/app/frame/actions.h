#pragma once
// The table of everything that can be done from a key or the menu: id, words, shortcut, when it can be done, what it
// does. One loop builds the actions, one sets what is enabled; tests walk the table. The shell has its own lines, each
// place adds its.

#include <QAction>
#include <QKeySequence>
#include <QString>

#include <functional>
#include <vector>

namespace ts::app {

struct ActionSpec {
    QString id; ///< "file.open"
    QString text;
    QKeySequence shortcut;
    bool inMenu = false;
    std::function<bool()> isPossible; ///< empty: always
    std::function<void()> run;
    QString group{}; ///< one of several of which one holds
    std::function<bool()> holds{}; ///< of what can be on or off
};

class ActionTable {
public:
    /// Makes the actions and gives them to the widget, so that their shortcuts work in it.
    ActionTable(std::vector<ActionSpec> specs, QWidget* owner);
    void update();
    const std::vector<ActionSpec>& specs() const { return m_specs; }
    /// Our own mistake if there is no such id.
    QAction* action(const QString& id) const;

private:
    std::vector<ActionSpec> m_specs;
    std::vector<QAction*> m_actions;
};

} // namespace ts::app
