#pragma once
// One step, large enough to be read from the panel: what must be off, what is held, where the probes go, what is
// expected; the reading is entered and judged at once. Nothing is proved by a tick where a figure can be read.

#include "app/widgets/marks.h"
#include "core/measuring/readings.h"

#include <QWidget>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

class MeterStrip;
class SupplyStrip;

class StepCard : public QWidget {
    Q_OBJECT
public:
    StepCard(const Theme& theme, QWidget* parent);
    /// Whether it is proved dead now, and how many steps before the one that is shown next are open.
    void setStanding(bool isProvedDead, std::size_t openBefore)
    {
        m_isProvedDead = isProvedDead;
        m_openBefore = openBefore;
    }
    void show(const measuring::TestStep& step, const Circuit& circuit, std::size_t place, std::size_t count);
    /// What was read there so far, in sentences, the newest last; and how it stands.
    void showHistory(const QStringList& lines, Mark mark, const QString& verdict);
    /// Of the reading that is entered now, with who and what. `at`, `step`: to be filled in.
    measuring::StepTaken taken() const;
    void showSuspects(const QString& lines); ///< what could be the matter; empty: nothing is
    /// Of a stopping time: how many runs there are; empty: it is none that a function rests on.
    void showRuns(const QString& runs, bool canTake);
    void say(const QString& sentence);
    /// Puts the keyboard where the reading is entered.
    void takeKeyboard();

signals:
    void entered(); ///< the reading that taken() gives
    void nextWanted();
    void backWanted();
    void timesWanted(); ///< into the functions

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void addWho(QVBoxLayout& column);
    void addAnswer(QVBoxLayout& column);

    const Theme& m_theme;
    bool m_isLive = false, m_isWord = false, m_isProvedDead = false;
    std::size_t m_openBefore = 0;
    MeterStrip* m_meter = nullptr;
    measuring::Instrument m_with = measuring::Instrument::Ohms;
    Mark m_mark = Mark::Untouched;
    SupplyStrip* m_supply = nullptr;
    QLabel *m_early = nullptr, *m_head = nullptr, *m_bring = nullptr, *m_look = nullptr, *m_expect = nullptr,
           *m_unit = nullptr, *m_verdict = nullptr, *m_history = nullptr, *m_caution = nullptr, *m_serves = nullptr,
           *m_covers = nullptr, *m_suspects = nullptr, *m_runs = nullptr;
    QLineEdit *m_figure = nullptr, *m_who = nullptr, *m_instrument = nullptr, *m_calibrated = nullptr;
    QComboBox* m_word = nullptr;
    QPushButton *m_take = nullptr, *m_next = nullptr, *m_back = nullptr, *m_times = nullptr;
};

} // namespace ts::app
