#pragma once
// Pictures of the window, made from whatever dossier is open: for the documentation and for machines without a screen.

#include <QString>

namespace ts::app {

class MainWindow;
class Theme;

/// The Bench after its first scenario's steps were played for a few seconds. False if the file cannot be written.
/// `place`: "skyline", "levels.reach" ...; empty: the Bench. False too if there is no such view.
bool writePicture(MainWindow& window, const QString& file, const QString& place = {});
/// One picture of each main view into a folder.
bool writeShots(MainWindow& window, Theme& theme, const QString& folder);

} // namespace ts::app
