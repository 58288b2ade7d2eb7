#pragma once
// The documentation's pictures, made from the demo dossier: one of each main view.

#include <QString>

namespace ts::app {

class MainWindow;

/// Into a folder. False if one could not be made.
bool writeShots(MainWindow& window, const QString& folder);

} // namespace ts::app
