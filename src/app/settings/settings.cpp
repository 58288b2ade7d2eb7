#include "app/settings/settings.h"

#include <QSettings>

namespace ts::app {
namespace {
constexpr const char* kDark = "look/dark";
constexpr const char* kFolder = "files/last_folder";
}

Settings Settings::load()
{
    const QSettings store;
    return {store.value(kDark, false).toBool(), store.value(kFolder).toString()};
}

void Settings::save() const
{
    QSettings store;
    store.setValue(kDark, darkTheme);
    store.setValue(kFolder, lastFolder);
}

} // namespace ts::app
