#pragma once
// Another circuit beside the one on the Bench: the same hands, at the same time, and what is otherwise.

#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"
#include "app/words/words.h"
#include "core/measuring/beside.h"
#include "core/model/dossier.h"

#include <QWidget>

class QLabel;

namespace ts::app {

class PathsView;
class PageTurner;

class BesideView : public QWidget {
    Q_OBJECT
public:
    BesideView(BenchSession& session, const Theme& theme, QWidget* parent);
    /// Fails as compile() does; then nothing stands beside it.
    Expected<void> show(const Circuit& other, const QString& name, bool power, const wording::Habits& habits);
    void setDrawing(bool power, const wording::Habits& habits);
    void leave();
    bool isOpen() const { return m_isOpen; }
    BenchSession& other() { return m_other; }

signals:
    void left();

private:
    void follow();

    BenchSession& m_session;
    BenchSession m_other;
    measuring::Beside m_beside;
    bool m_isOpen = false;
    Circuit m_circuit;
    QLabel *m_name = nullptr, *m_differs = nullptr;
    PathsView* m_paths = nullptr;
    PageTurner* m_pages = nullptr;
};

} // namespace ts::app
