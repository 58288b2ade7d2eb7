#pragma once
// A voltmeter with two probes that can be put on any two terminals: by clicking them in the drawing or by name.

#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"

#include <QComboBox>
#include <QWidget>

#include <optional>

namespace ts::app {

/// What a meter shows between two terminals.
struct MeterReading {
    QString value; ///< "24.0", "floating", "- - -"
    QString unit; ///< "V DC", "V AC"
    QString detail;
};
MeterReading meterReading(const Plant& plant, const Frame& frame, int redTerminal, int blackTerminal);

class MeterPanel : public QWidget {
    Q_OBJECT
public:
    MeterPanel(BenchSession& session, const Theme& theme, QWidget* parent);
    /// Puts the probe that is next in turn on a terminal.
    void probe(const TerminalRef& terminal);
    std::optional<TerminalRef> red() const { return terminalOf(m_red); }
    std::optional<TerminalRef> black() const { return terminalOf(m_black); }
    MeterReading reading() const;
    QSize sizeHint() const override { return {248, 150}; }

signals:
    void probesChanged();

protected:
    void paintEvent(QPaintEvent*) override;

private:
    QComboBox* addProbe(const QString& name, const QString& words);
    void fill();
    int terminalIndex(const QComboBox* box) const;
    std::optional<TerminalRef> terminalOf(const QComboBox* box) const;

    BenchSession& m_session;
    const Theme& m_theme;
    QComboBox* m_red;
    QComboBox* m_black;
    bool m_nextIsRed = true;
};

} // namespace ts::app
