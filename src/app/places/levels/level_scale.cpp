#include "app/places/levels/level_scale.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"

#include <QPainter>

#include <algorithm>
#include <array>
#include <cmath>

namespace ts::app {
namespace {
constexpr double kWorst = 1e-4, kBest = 1e-10; ///< ends of the scale
constexpr double kAxis = 62, kSide = 14;
constexpr int kLongestName = 240;
constexpr std::array kLimits{1e-4, 1e-5, 3e-6, 1e-6, 1e-7, 1e-10}; ///< ISO 13849-1 table 2, a to e
} // namespace

LevelScale::LevelScale(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("levels.scale");
    setAccessibleName(tr("Dangerous failures per hour"));
    setMinimumHeight(116);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void LevelScale::setLevel(const safety::FunctionLevel& level)
{
    m_level = level;
    update();
}

/// Better is further right.
double LevelScale::xOf(double pfhd) const
{
    const double share = std::log10(kWorst / std::clamp(pfhd, kBest, kWorst)) / std::log10(kWorst / kBest);
    return kSide + share * (width() - 2 * kSide);
}

void LevelScale::paintBands(QPainter& p) const
{
    const Colours& c = m_theme.colours();
    for (std::size_t i = 0; i + 1 < kLimits.size(); ++i) {
        const QRectF band(QPointF(xOf(kLimits[i]), kAxis), QPointF(xOf(kLimits[i + 1]), kAxis + 18));
        p.setPen(QPen(c.line, 1));
        p.setBrush(i % 2 == 0 ? c.panel : c.door);
        p.drawRect(band);
        p.setPen(c.quiet);
        p.setFont(m_theme.bold());
        p.drawText(band, Qt::AlignCenter, QString(QChar('a' + static_cast<int>(i))));
    }
    p.setFont(m_theme.mono(11));
    p.setPen(c.quiet);
    for (double limit : {1e-4, 1e-5, 1e-6, 1e-7, 1e-8, 1e-9, 1e-10}) {
        const double x = xOf(limit);
        const auto align = limit == 1e-4 ? Qt::AlignLeft : limit == 1e-10 ? Qt::AlignRight : Qt::AlignHCenter;
        const QRectF box = limit == 1e-4 ? QRectF(x, kAxis + 20, 70, 14)
            : limit == 1e-10             ? QRectF(x - 70, kAxis + 20, 70, 14)
                                         : QRectF(x - 35, kAxis + 20, 70, 14);
        p.drawText(box, align | Qt::AlignVCenter, QStringLiteral("1e%1").arg(std::lround(std::log10(limit))));
    }
}

void LevelScale::paintRequirement(QPainter& p) const
{
    if (!m_level.required)
        return;
    const Colours& c = m_theme.colours();
    const bool reached = m_level.level && *m_level.level >= *m_level.required;
    const double x = xOf(kLimits[static_cast<std::size_t>(*m_level.required)]);
    p.setPen(QPen(reached ? c.caught : c.lost, 2, Qt::DashLine));
    p.drawLine(QPointF(x, 10), QPointF(x, kAxis + 18));
    p.setPen(Qt::NoPen);
    p.setBrush(reached ? c.caught : c.lost);
    p.drawPolygon(QPolygonF({QPointF(x, 4), QPointF(x + 14, 9), QPointF(x, 14)}));
    p.setPen(c.ink);
    p.setFont(m_theme.small());
    p.drawText(QRectF(x + 18, 1, 200, 16), Qt::AlignVCenter,
        tr("needs PL %1 or better").arg(QChar('a' + static_cast<int>(*m_level.required))));
}

void LevelScale::paintMarks(QPainter& p) const
{
    const Colours& c = m_theme.colours();
    p.setFont(m_theme.small());
    // Subsystems that stand at the same place share one label line.
    std::vector<std::pair<double, QString>> marks;
    for (const auto& s : m_level.subsystems) {
        if (s.pfhd < 0)
            continue;
        const double x = xOf(m_level.explanation[s.pfhd].si);
        const QString name = QString::fromStdString(s.name);
        const auto same = std::find_if(
            marks.begin(), marks.end(), [&](const auto& m) { return std::abs(m.first - x) < 3; });
        same == marks.end() ? marks.emplace_back(x, name), void() : void(same->second += ", " + name);
    }
    std::sort(marks.begin(), marks.end());
    // Names go into the lowest line in which they touch no other one; what finds no room is shortened.
    std::array<double, 3> freeFrom{0.0, 0.0, 0.0};
    for (const auto& [x, full] : marks) {
        p.setPen(Qt::NoPen);
        p.setBrush(c.quiet);
        p.drawRect(QRectF(x - 4, kAxis - 10, 8, 8));
        const QString name = p.fontMetrics().elidedText(full, Qt::ElideRight, kLongestName);
        const double w = p.fontMetrics().horizontalAdvance(name), left = std::min(x + 5.0, width() - w - 6.0);
        std::size_t line = 0;
        while (line + 1 < freeFrom.size() && freeFrom[line] > left)
            ++line;
        freeFrom[line] = left + w + 10;
        const double y = 44 - 13.0 * static_cast<double>(line);
        p.setPen(c.quiet);
        p.drawLine(QPointF(x, y + 8), QPointF(x, kAxis - 10));
        p.drawText(QRectF(left, y - 6, w + 2, 14), Qt::AlignVCenter, name);
    }
    if (m_level.pfhd >= 0) {
        const double x = xOf(m_level.explanation[m_level.pfhd].si);
        p.setPen(Qt::NoPen);
        p.setBrush(c.ink);
        p.drawPolygon(QPolygonF({QPointF(x - 7, kAxis + 50), QPointF(x + 7, kAxis + 50), QPointF(x, kAxis + 36)}));
        p.setPen(c.ink);
        p.setFont(m_theme.bold());
        p.drawText(QRectF(x + 12, kAxis + 36, 160, 16), Qt::AlignVCenter, tr("the whole function"));
    }
}

void LevelScale::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintBands(p);
    paintRequirement(p);
    paintMarks(p);
}

} // namespace ts::app
