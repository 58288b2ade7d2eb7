#pragma once
// A meter with probes that can be put on any terminals, by clicking them in the drawing or by name: volts, the current
// in a wire, ohms with nothing fed, phase sequence. Readings can be kept in view, so that several are there at once.

#include "app/places/bench/bench_session.h"
#include "app/places/bench/meter_reading.h"
#include "app/widgets/theme.h"

#include <QComboBox>
#include <QWidget>

#include <optional>

class QFormLayout;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace ts::app {

class MeterPanel : public QWidget {
    Q_OBJECT
public:
    MeterPanel(BenchSession& session, const Theme& theme, QWidget* parent);
    /// Puts the probe that is next in turn on a terminal.
    void probe(const TerminalRef& terminal);
    std::optional<TerminalRef> red() const { return terminalOf(m_red); }
    std::optional<TerminalRef> black() const { return terminalOf(m_black); }
    MeterMode mode() const { return m_mode; }
    MeterReading reading() const;
    QSize sizeHint() const override;

signals:
    void probesChanged();

protected:
    void paintEvent(QPaintEvent*) override;

private:
    struct Kept {
        MeterMode mode = MeterMode::Volts;
        QString terminals; ///< "S1:11 - G1:-"
        QString probes[3]; ///< by name: a changed circuit numbers its terminals otherwise
    };
    QComboBox* addProbe(const QString& name, const QString& words);
    void addModes(QFormLayout& form);
    void fill();
    void offerTerminals();
    void setMode(MeterMode mode);
    void keep();
    void showKept();
    void refreshKept();
    MeterReading readingOf(MeterMode mode, const Probes& probes) const;
    int terminalNamed(const QString& name) const;
    int terminalIndex(const QComboBox* box) const;
    std::optional<TerminalRef> terminalOf(const QComboBox* box) const;
    QList<QComboBox*> probes() const { return {m_red, m_black, m_third}; }

    BenchSession& m_session;
    const Theme& m_theme;
    QComboBox *m_red, *m_black, *m_third;
    QWidget* m_thirdLabel = nullptr;
    QList<QToolButton*> m_modes;
    QVBoxLayout* m_keptRows = nullptr;
    QList<Kept> m_kept;
    mutable OhmMeter m_ohmMeter;
    MeterMode m_mode = MeterMode::Volts;
    std::vector<std::pair<QString, int>> m_terminals; ///< that can be probed, by plant slot
    MeterReading m_painted; ///< what stands there
    int m_next = 0; ///< which probe the next click puts on
};

} // namespace ts::app
