#pragma once
// Colours, fonts and the few measures everything is drawn with. Meaning never rests on colour alone: whoever uses a
// colour of meaning also draws a shape or a word.

#include <QColor>
#include <QFont>
#include <QObject>

class QApplication;

namespace ts::app {

struct Colours {
    QColor paper; ///< behind everything
    QColor panel; ///< what lies on it
    QColor door; ///< sheet metal
    QColor ink, quiet, line;
    QColor live, liveFill; ///< a conductor under voltage
    QColor caught, hidden, lost; ///< in order, open, wrong
    QColor meter, meterInk;
};

class Theme : public QObject {
    Q_OBJECT
public:
    explicit Theme(QObject* parent = nullptr);
    const Colours& colours() const;
    bool isDark() const { return m_dark; }
    void setDark(bool dark);

    QFont body() const;
    QFont small() const;
    QFont bold() const;
    QFont verdict() const;
    QFont mono(int px = 11, bool strong = false) const;

    /// Palette, style and fonts of the whole application; called again when the theme changes.
    void applyTo(QApplication& app) const;

    static constexpr int kGrid = 8;

signals:
    void changed();

private:
    bool m_dark = false;
};

/// Loads the fonts that come with the program. False if one could not be read.
bool loadFonts();

} // namespace ts::app
