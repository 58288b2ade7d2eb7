#include "print/drawing_pages.h"

#include "app/widgets/scene_painter.h"

#include <QCoreApplication>
#include <QPageLayout>
#include <QPainter>
#include <QPdfWriter>

#include <algorithm>
#include <cmath>

namespace ts::print {
namespace {

constexpr double kMarginMm = 10, kFootMm = 12;
constexpr double kMmPerPx = 0.264583; ///< of a drawing at 100 %: 96 per inch
constexpr double kSmallestScale = 0.65; ///< 11 px become 1.9 mm: the smallest that is read at the machine
constexpr double kLargestScale = 1.4;

/// Room for the drawing itself.
QSizeF roomMm(double widthMm, double heightMm)
{
    return {widthMm - 2 * kMarginMm, heightMm - 2 * kMarginMm - kFootMm};
}

app::SceneLook lookWithoutPower(const diagram::Scene& scene)
{
    app::SceneLook look;
    look.conductors.assign(scene.conductors.size(), app::Tone::Dead);
    look.dots.assign(scene.dots.size(), app::Tone::Dead);
    for (const diagram::Symbol& s : scene.symbols) {
        app::SymbolLook symbol;
        symbol.isClosed = s.kind != diagram::SymbolKind::NormallyOpen && s.kind != diagram::SymbolKind::MainContact;
        look.symbols.push_back(symbol);
    }
    return look;
}

QString tr(const char* text)
{
    return QCoreApplication::translate("Pages", text);
}

class PagePainter {
public:
    PagePainter(QPagedPaintDevice& device, const PageFoot& foot, const app::Theme& theme)
        : m_device(device)
        , m_foot(foot)
        , m_theme(theme)
        , m_sizeMm(device.pageLayout().fullRect(QPageLayout::Millimeter).size())
    {
    }

    bool paint(const std::vector<Drawing>& drawings)
    {
        m_device.setPageMargins(QMarginsF(0, 0, 0, 0), QPageLayout::Millimeter);
        if (!m_painter.begin(&m_device))
            return false;
        m_dotsPerMm = m_device.logicalDpiX() / 25.4;
        int total = 0, page = 0;
        for (const Drawing& d : drawings)
            total += pagesFor(d.scene, m_sizeMm.width(), m_sizeMm.height());
        for (const Drawing& d : drawings) {
            const QSizeF room = roomMm(m_sizeMm.width(), m_sizeMm.height());
            const Tiling t = tilingOf(d.scene, room);
            for (int row = 0; row < t.down; ++row)
                for (int column = 0; column < t.across; ++column) {
                    if (page++ > 0)
                        m_device.newPage();
                    m_painter.save();
                    m_painter.scale(m_dotsPerMm, m_dotsPerMm);
                    m_painter.translate(kMarginMm, kMarginMm);
                    paintTile(m_painter, d, t, room, column, row, m_theme);
                    m_painter.restore();
                    paintFoot(d, t, column, row, page, total);
                }
        }
        return m_painter.end();
    }

private:
    void paintFoot(const Drawing& d, const Tiling& t, int column, int row, int page, int total)
    {
        m_painter.save();
        m_painter.scale(m_dotsPerMm * kMmPerPx, m_dotsPerMm * kMmPerPx);
        const double w = (m_sizeMm.width() - 2 * kMarginMm) / kMmPerPx, x = kMarginMm / kMmPerPx,
                     y = (m_sizeMm.height() - kMarginMm - kFootMm) / kMmPerPx;
        const app::Colours& c = m_theme.colours();
        m_painter.setPen(QPen(c.ink, 1));
        m_painter.drawLine(QPointF(x, y + 6), QPointF(x + w, y + 6));
        m_painter.setFont(m_theme.bold());
        m_painter.drawText(QRectF(x, y + 8, w * 0.4, 18), Qt::AlignLeft | Qt::AlignVCenter,
            m_foot.machine + QStringLiteral("   ") + titleOf(d, t, column, row));
        m_painter.setFont(m_theme.small());
        m_painter.drawText(QRectF(x + w * 0.4, y + 8, w * 0.4, 18), Qt::AlignLeft | Qt::AlignVCenter,
            m_foot.site + QStringLiteral("   ") + m_foot.file);
        m_painter.drawText(QRectF(x + w * 0.8, y + 8, w * 0.2, 18), Qt::AlignRight | Qt::AlignVCenter,
            m_foot.date + QStringLiteral("   ") + tr("page %1 of %2").arg(page).arg(total));
        m_painter.setPen(c.quiet);
        m_painter.drawText(QRectF(x, y + 26, w, 16), Qt::AlignLeft | Qt::AlignVCenter,
            tr("Drawn from the wiring as entered, contacts as without power. Compare with the machine; lock out and "
               "prove zero voltage before touching anything."));
        m_painter.restore();
    }

    QPagedPaintDevice& m_device;
    const PageFoot& m_foot;
    const app::Theme& m_theme;
    QSizeF m_sizeMm;
    QPainter m_painter;
    double m_dotsPerMm = 1;
};

} // namespace

Tiling tilingOf(const diagram::Scene& scene, const QSizeF& room)
{
    const double width = std::max(1.0, scene.width) * kMmPerPx, height = std::max(1.0, scene.height) * kMmPerPx;
    Tiling t;
    t.scale = std::clamp(std::min(room.width() / width, room.height() / height), kSmallestScale, kLargestScale);
    t.across = std::max(1, static_cast<int>(std::ceil(width * t.scale / room.width() - 1e-9)));
    t.down = std::max(1, static_cast<int>(std::ceil(height * t.scale / room.height() - 1e-9)));
    return t;
}

void paintTile(QPainter& painter, const Drawing& drawing, const Tiling& tiling, const QSizeF& roomMm, int column,
    int row, const app::Theme& theme)
{
    painter.save();
    painter.setClipRect(QRectF(QPointF(0, 0), roomMm));
    painter.translate(-column * roomMm.width(), -row * roomMm.height());
    painter.scale(kMmPerPx * tiling.scale, kMmPerPx * tiling.scale);
    paintWithoutPower(painter, drawing.scene, theme);
    painter.restore();
}

QString titleOf(const Drawing& drawing, const Tiling& tiling, int column, int row)
{
    const int parts = tiling.across * tiling.down;
    return parts == 1 ? drawing.title
                      : drawing.title + tr(", part %1 of %2").arg(row * tiling.across + column + 1).arg(parts);
}

int pagesFor(const diagram::Scene& scene, double widthMm, double heightMm)
{
    const Tiling t = tilingOf(scene, roomMm(widthMm, heightMm));
    return t.across * t.down;
}

void paintWithoutPower(QPainter& painter, const diagram::Scene& scene, const app::Theme& theme)
{
    paintScene(painter, scene, lookWithoutPower(scene), theme);
}

bool paintDrawings(
    QPagedPaintDevice& device, const std::vector<Drawing>& drawings, const PageFoot& foot, const app::Theme& theme)
{
    return PagePainter(device, foot, theme).paint(drawings);
}

bool writePdf(const QString& path, const std::vector<Drawing>& drawings, const PageFoot& foot, const app::Theme& theme)
{
    QPdfWriter writer(path);
    writer.setPageSize(QPageSize(QPageSize::A3));
    writer.setPageOrientation(QPageLayout::Landscape);
    writer.setResolution(300);
    writer.setTitle(foot.machine);
    writer.setCreator(QStringLiteral("Tall Sentry"));
    return paintDrawings(writer, drawings, foot, theme);
}

} // namespace ts::print
