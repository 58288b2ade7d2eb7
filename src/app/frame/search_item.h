#pragma once
// One thing that the search box can find (shell/search.h), and what choosing it does. Places bring theirs.

#include <QString>

#include <functional>

namespace ts::app {

struct SearchItem {
    QString kind; ///< "device", "wire" ...: stands in front
    QString text;
    QString detail;
    std::function<void()> choose;
};

} // namespace ts::app
