#pragma once
// What the program remembers from one start to the next. Read once at the start and passed in; core never sees it.
#include "wording/habits.h"

#include <QStringList>

namespace ts::app {

struct Settings {
    bool darkTheme = false;
    QString lastFolder; ///< for the file dialogs
    wording::Habits habits;
    bool verifiesByItself = true; ///< after each edit, in the background
    QStringList openedLast; ///< absolute paths, the latest first

    void opened(const QString& path);

    static Settings load();
    void save() const;
};

} // namespace ts::app
