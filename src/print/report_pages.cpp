#include "print/report_pages.h"

#include "app/widgets/figure_view.h"

#include <QAbstractTextDocumentLayout>
#include <QCoreApplication>
#include <QPainter>
#include <QPdfWriter>
#include <QRegularExpression>
#include <QTextDocument>

#include <algorithm>
#include <cmath>

namespace ts::print {
namespace {

constexpr double kMarginMm = 15, kFootMm = 12, kDpi = 96, kMmPerInch = 25.4, kTitlePx = 32;
constexpr double kPxPerMm = kDpi / kMmPerInch;

QString tr(const char* text)
{
    return QCoreApplication::translate("ReportPages", text);
}

/// The text alone: pictures and styles of the screen are taken out, a style for paper is put in.
QString textOf(QString html)
{
    static const QRegularExpression kPictures(
        QStringLiteral("<svg.*?</svg>"), QRegularExpression::DotMatchesEverythingOption);
    static const QRegularExpression kStyle(
        QStringLiteral("<style>.*?</style>"), QRegularExpression::DotMatchesEverythingOption);
    return html.remove(kPictures).remove(kStyle);
}

class ReportPainter {
public:
    ReportPainter(QPdfWriter& writer, const PageFoot& foot, const app::Theme& theme)
        : m_writer(writer)
        , m_foot(foot)
        , m_theme(theme)
    {
    }

    bool paint(const QString& html, const std::vector<TitledFigure>& figures, const std::vector<Drawing>& drawings)
    {
        m_writer.setPageMargins(QMarginsF(0, 0, 0, 0), QPageLayout::Millimeter);
        if (!m_painter.begin(&m_writer))
            return false;
        paintText(html);
        for (const TitledFigure& f : figures)
            paintFigurePage(f);
        for (const Drawing& d : drawings)
            paintDrawingPages(d);
        return m_painter.end();
    }

private:
    QSizeF roomPx() const
    {
        const QSizeF mm = m_writer.pageLayout().fullRect(QPageLayout::Millimeter).size();
        return {(mm.width() - 2 * kMarginMm) * kPxPerMm, (mm.height() - 2 * kMarginMm - kFootMm) * kPxPerMm};
    }

    /// A fresh page with its foot; afterwards one unit is a pixel and the origin the corner of the room.
    void beginPage(QPageLayout::Orientation orientation = QPageLayout::Portrait)
    {
        m_writer.setPageOrientation(orientation); // counts from the page that begins now
        if (m_page++ > 0) {
            m_painter.restore();
            m_writer.newPage();
        }
        m_painter.save();
        const double dots = m_writer.logicalDpiX() / kDpi;
        m_painter.scale(dots, dots);
        m_painter.translate(kMarginMm * kPxPerMm, kMarginMm * kPxPerMm);
        const QSizeF room = roomPx();
        m_painter.setPen(QPen(m_theme.colours().ink, 1));
        m_painter.drawLine(QPointF(0, room.height() + 8), QPointF(room.width(), room.height() + 8));
        m_painter.setFont(m_theme.small());
        const QRectF line(0, room.height() + 12, room.width(), 16);
        m_painter.drawText(line, Qt::AlignLeft | Qt::AlignVCenter,
            m_foot.machine + QStringLiteral("   ") + m_foot.site + QStringLiteral("   ") + m_foot.file);
        m_painter.drawText(
            line, Qt::AlignRight | Qt::AlignVCenter, m_foot.date + QStringLiteral("   ") + tr("page %1").arg(m_page));
    }

    void paintText(const QString& html)
    {
        QTextDocument document;
        document.documentLayout()->setPaintDevice(nullptr); // laid out in pixels at 96 dpi, whatever the writer has
        document.setDefaultFont(m_theme.body());
        document.setDefaultStyleSheet(
            QStringLiteral("h1{font-size:22px} h2{font-size:17px} h3{font-size:14px} td{padding-right:10px} "
                           ".verdict{font-size:18px;font-weight:bold} body{color:#17232A}"));
        document.setHtml(textOf(html));
        const QSizeF room = roomPx();
        document.setPageSize(room);
        document.setDocumentMargin(0);
        const int pages = document.pageCount();
        for (int k = 0; k < pages; ++k) {
            beginPage();
            m_painter.save();
            m_painter.setClipRect(QRectF(QPointF(0, 0), room));
            m_painter.translate(0, -k * room.height());
            document.drawContents(&m_painter, QRectF(0, k * room.height(), room.width(), room.height()));
            m_painter.restore();
        }
    }

    void title(const QString& text)
    {
        m_painter.setPen(m_theme.colours().ink);
        m_painter.setFont(m_theme.bold());
        m_painter.drawText(QPointF(0, 16), text);
        m_painter.translate(0, kTitlePx - 4);
    }

    /// As large as the page is wide, but never larger than drawn, and as high as it leaves.
    void paintFigurePage(const TitledFigure& f)
    {
        beginPage();
        title(f.title);
        const QSizeF room = roomPx();
        const double scale = std::min({1.0, room.width() / std::max(1.0, f.figure.width),
            (room.height() - kTitlePx) / std::max(1.0, f.figure.height)});
        m_painter.scale(scale, scale);
        m_painter.setRenderHint(QPainter::Antialiasing);
        app::paintFigure(m_painter, f.figure, m_theme);
    }

    /// Across, and over as many pages as it takes to stay legible.
    void paintDrawingPages(const Drawing& d)
    {
        m_writer.setPageOrientation(QPageLayout::Landscape);
        const QSizeF px = roomPx(), room((px.width()) / kPxPerMm, (px.height() - kTitlePx) / kPxPerMm);
        const Tiling t = tilingOf(d.scene, room);
        for (int row = 0; row < t.down; ++row)
            for (int column = 0; column < t.across; ++column) {
                beginPage(QPageLayout::Landscape);
                title(titleOf(d, t, column, row));
                m_painter.scale(kPxPerMm, kPxPerMm);
                paintTile(m_painter, d, t, room, column, row, m_theme);
            }
    }

    QPdfWriter& m_writer;
    const PageFoot& m_foot;
    const app::Theme& m_theme;
    QPainter m_painter;
    int m_page = 0;
};

} // namespace

bool writeReportPdf(const QString& path, const QString& html, const std::vector<TitledFigure>& figures,
    const std::vector<Drawing>& drawings, const PageFoot& foot, const app::Theme& theme)
{
    QPdfWriter writer(path);
    writer.setPageSize(QPageSize(QPageSize::A4));
    writer.setResolution(300);
    writer.setTitle(foot.machine);
    writer.setCreator(QStringLiteral("Tall Sentry"));
    return ReportPainter(writer, foot, theme).paint(html, figures, drawings);
}

} // namespace ts::print
