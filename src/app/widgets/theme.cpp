#include "app/widgets/theme.h"

#include "app/widgets/plain_style.h"
#include "core/figures/fonts.h"

#include <QApplication>
#include <QFontDatabase>
#include <QHash>
#include <QPalette>

namespace ts::app {
namespace {

QFont fontOf(const QString& family, const QString& second, int px, bool strong)
{
    QFont f;
    f.setFamilies({family, second});
    f.setPixelSize(px);
    f.setBold(strong);
    return f;
}

QFont sans(int px, bool strong = false)
{
    return fontOf(QStringLiteral("Sentry Sans"), QStringLiteral("DejaVu Sans"), px, strong);
}

} // namespace

Theme::Theme(QObject* parent)
    : QObject(parent)
{
}

const Colours& Theme::colours() const
{
    static const Colours light{"#ECEEEA", "#F6F7F5", "#DCE1DB", "#17232A", "#5B676C", "#B9C0BC", "#C97A00", "#F2DFBF",
        "#0C7C74", "#6E569C", "#A8321F", "#17232A", "#F6F7F5"};
    static const Colours dark{"#12191D", "#1B2429", "#232D31", "#E4E8E4", "#9AA6A8", "#3C494E", "#F0A63A", "#5A431C",
        "#4FC2B6", "#B49EE0", "#EF7C62", "#0A0F12", "#E4E8E4"};
    return m_dark ? dark : light;
}

void Theme::setDark(bool dark)
{
    if (dark == m_dark)
        return;
    m_dark = dark;
    emit changed();
}

// Made once: finding a font by its families costs more than drawing with it.
QFont Theme::body() const
{
    static const QFont font = sans(13);
    return font;
}
QFont Theme::small() const
{
    static const QFont font = sans(11);
    return font;
}
QFont Theme::bold() const
{
    static const QFont font = sans(13, true);
    return font;
}
QFont Theme::verdict() const
{
    static const QFont font = sans(20, true);
    return font;
}
QFont Theme::mono(int px, bool strong) const
{
    static QHash<int, QFont> fonts;
    const int key = px * 2 + strong;
    if (!fonts.contains(key))
        fonts.insert(key, fontOf(QStringLiteral("Sentry Mono"), QStringLiteral("DejaVu Sans Mono"), px, strong));
    return fonts.value(key);
}

void Theme::applyTo(QApplication& app) const
{
    app.setStyle(new PlainStyle); // the application owns it
    const Colours& c = colours();
    QPalette p;
    p.setColor(QPalette::Window, c.paper);
    p.setColor(QPalette::Base, c.panel);
    p.setColor(QPalette::AlternateBase, c.paper);
    p.setColor(QPalette::Button, c.panel);
    for (auto role :
        {QPalette::WindowText, QPalette::Text, QPalette::ButtonText, QPalette::ToolTipText, QPalette::BrightText})
        p.setColor(role, c.ink);
    p.setColor(QPalette::ToolTipBase, c.panel);
    p.setColor(QPalette::PlaceholderText, c.quiet);
    p.setColor(QPalette::Highlight, c.ink);
    p.setColor(QPalette::HighlightedText, c.paper);
    p.setColor(QPalette::Link, c.ink);
    p.setColor(QPalette::Mid, c.line);
    p.setColor(QPalette::Dark, c.line);
    p.setColor(QPalette::Light, c.panel);
    for (auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText})
        p.setColor(QPalette::Disabled, role, c.quiet);
    app.setPalette(p);
    app.setFont(body());
}

bool loadFonts()
{
    bool ok = true;
    for (const figures::ReportFont& f : figures::reportFonts())
        ok &= QFontDatabase::addApplicationFontFromData(
                  QByteArray(f.bytes.data(), static_cast<qsizetype>(f.bytes.size())))
            >= 0;
    return ok;
}

} // namespace ts::app
