#pragma once
// Writes the report in the background. What it is made of is taken as values when it is asked for, so that the window
// may be worked on meanwhile.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "app/words/words.h"
#include "core/results/results.h"
#include "print/drawing_pages.h"

namespace ts::app {

/// Everything that a report needs besides the file's name.
struct ReportSources {
    Snapshot of;
    std::vector<RecordEntry> record;
    Results known; ///< what holds for it; levels and checks are made again
    wording::Habits habits;
    print::PageFoot foot;
};

/// Power and control circuit as they are printed. Fails as compile() does.
Expected<std::vector<print::Drawing>> drawingsOf(const Circuit& circuit, const wording::Habits& habits);
/// Paper is light, whatever the window is.
const Theme& paperTheme();

class ReportWriter : public QObject {
    Q_OBJECT
public:
    explicit ReportWriter(QObject* parent);
    /// HTML, or PDF by the name's end. One at a time: a second one takes the place of the first.
    void write(const QString& path, ReportSources sources);
    bool isBusy() const { return m_work.isBusy(); }

signals:
    void written(const QString& path);
    void failed(const ts::Error& error);

private:
    Latest<Expected<void>> m_work;
};

} // namespace ts::app
