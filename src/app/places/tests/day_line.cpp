#include "app/places/tests/day_line.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <numeric>

namespace ts::app {
namespace {

constexpr double kBracket = 22, kLeast = 84, kGap = 3,
                 kBar = 4; // px: height of the brackets, width of the shortest stage, what is done

} // namespace

DayLine::DayLine(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("tests.day");
    setAccessibleName(tr("Stages of the tests, each as wide as it takes long"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize DayLine::sizeHint() const
{
    return {900, 84};
}

void DayLine::show(
    const measuring::TestPlan& plan, const std::vector<measuring::StepState>& states, std::size_t current)
{
    m_blocks.clear();
    m_current = 0;
    for (std::size_t k = 0; k < plan.steps.size(); ++k) {
        const measuring::TestStep& step = plan.steps[k];
        if (m_blocks.empty() || m_blocks.back().stage != step.stage)
            m_blocks.push_back({step.stage, step.in.power, k, k, 0, 0, 0, 0});
        Block& b = m_blocks.back();
        if (states[k].open && b.done == b.count)
            b.firstOpen = k;
        ++b.count;
        b.done += !states[k].open;
        b.wrong += states[k].open == measuring::Open::Disagrees;
        b.seconds += step.seconds;
        if (k == current)
            m_current = m_blocks.size() - 1;
    }
    for (Block& b : m_blocks)
        if (b.done == b.count)
            b.firstOpen = b.first;
    update();
}

std::vector<QRectF> DayLine::boxes() const
{
    std::vector<QRectF> boxes;
    const double total = std::accumulate(
        m_blocks.begin(), m_blocks.end(), 0.0, [](double sum, const Block& b) { return sum + b.seconds; });
    const double gaps = kGap * static_cast<double>(m_blocks.size());
    const double free = std::max(0.0, width() - gaps - kLeast * static_cast<double>(m_blocks.size()));
    double x = 1;
    for (const Block& b : m_blocks) {
        const double w = kLeast + (total > 0 ? free * b.seconds / total : 0.0);
        boxes.emplace_back(x, kBracket, w, height() - kBracket - 2);
        x += w + kGap;
    }
    return boxes;
}

void DayLine::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto all = boxes();
    paintSupply(p, all);
    for (std::size_t k = 0; k < all.size(); ++k)
        paintBlock(p, m_blocks[k], all[k], k == m_current);
    if (hasFocus())
        paintFocus(p, QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), m_theme.colours().ink);
}

void DayLine::paintBlock(QPainter& p, const Block& b, const QRectF& box, bool isCurrent) const
{
    const Colours& c = m_theme.colours();
    paintPanel(p, box, c.panel, c.line);
    QRectF done = box.adjusted(1, 1, -1, -1);
    done.setWidth(done.width() * static_cast<double>(b.done) / static_cast<double>(std::max<std::size_t>(b.count, 1)));
    QColor tint = c.caught;
    tint.setAlpha(40);
    p.fillRect(done, tint);
    p.fillRect(QRectF(done.left(), done.bottom() - kBar, done.width(), kBar), c.caught);
    if (isCurrent) {
        p.setPen(QPen(c.ink, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(box.adjusted(1, 1, -1, -1));
    }
    const QRectF text = box.adjusted(7, 4, -4, -7);
    p.setPen(c.ink);
    p.setFont(isCurrent ? m_theme.bold() : m_theme.body());
    p.drawText(text, Qt::AlignLeft | Qt::AlignTop,
        p.fontMetrics().elidedText(
            words::word("stage." + std::string(wordOf(b.stage))), Qt::ElideRight, static_cast<int>(text.width())));
    p.setFont(m_theme.small());
    const QString counted = tr("%1 of %2").arg(b.done).arg(b.count);
    const int minutes = std::max(1, static_cast<int>(b.seconds / 60.0 + 0.5));
    p.drawText(text, Qt::AlignLeft | Qt::AlignBottom,
        text.width() > 110 ? tr("%1, %2 min").arg(counted).arg(minutes) : counted);
    if (b.wrong > 0)
        paintMark(p, QRectF(box.right() - 18, box.top() + 5, 12, 12), Mark::Wrong, c);
}

void DayLine::paintSupply(QPainter& p, const std::vector<QRectF>& boxes) const
{
    const Colours& c = m_theme.colours();
    p.setFont(m_theme.small());
    for (std::size_t from = 0; from < boxes.size();) {
        std::size_t to = from;
        while (to + 1 < boxes.size() && m_blocks[to + 1].power == m_blocks[from].power)
            ++to;
        const QRectF span(boxes[from].left(), 0, boxes[to].right() - boxes[from].left(), kBracket);
        p.setPen(QPen(c.quiet, 1));
        p.drawLine(QPointF(span.left(), kBracket - 4), QPointF(span.right(), kBracket - 4));
        p.drawLine(QPointF(span.left(), kBracket - 4), QPointF(span.left(), kBracket));
        p.drawLine(QPointF(span.right(), kBracket - 4), QPointF(span.right(), kBracket));
        p.setPen(c.ink);
        p.drawText(span.adjusted(4, 0, -4, -5), Qt::AlignLeft | Qt::AlignBottom,
            p.fontMetrics().elidedText(words::word("power." + std::string(wordOf(m_blocks[from].power))),
                Qt::ElideRight, static_cast<int>(span.width()) - 8));
        from = to + 1;
    }
}

void DayLine::mousePressEvent(QMouseEvent* e)
{
    const auto all = boxes();
    for (std::size_t k = 0; k < all.size(); ++k)
        if (all[k].contains(e->position()))
            emit stepChosen(static_cast<int>(m_blocks[k].firstOpen));
}

void DayLine::keyPressEvent(QKeyEvent* e)
{
    const bool isBack = e->key() == Qt::Key_Left;
    if ((!isBack && e->key() != Qt::Key_Right) || m_blocks.empty())
        return QWidget::keyPressEvent(e);
    const std::size_t next = isBack ? (m_current == 0 ? 0 : m_current - 1)
                                    : std::min(m_current + 1, m_blocks.size() - 1);
    emit stepChosen(static_cast<int>(m_blocks[next].firstOpen));
}

} // namespace ts::app
