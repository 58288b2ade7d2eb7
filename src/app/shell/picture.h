#pragma once
// A picture of the window with whatever dossier is open, for machines without a screen. The documentation's pictures
// are made by a program of their own (src/shots).

#include <QString>

#include <functional>

namespace ts::app {

class MainWindow;

/// The first scenario's steps played up to a moment on the place that runs scripts; its clock stands still then.
void playFirstScenario(MainWindow& window, double untilS);
/// Lets the window work until this holds; false after a minute.
bool waitFor(const std::function<bool()>& holds, int limitMs = 60'000);
/// Everything quick has been worked out.
bool waitForResults(MainWindow& window);
/// Brings a view of a place forth ("levels.reach") and waits until it is there. False if there is no such view.
bool showView(MainWindow& window, const QString& name);
/// False if the file cannot be written.
bool grab(MainWindow& window, const QString& file);

/// The Bench, or another view, after the first scenario was played for a few seconds. False if there is no such view or
/// it cannot be written.
bool writePicture(MainWindow& window, const QString& file, const QString& view);

} // namespace ts::app
