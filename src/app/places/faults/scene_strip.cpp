#include "app/places/faults/scene_strip.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"

#include <QPainter>

namespace ts::app {
namespace {

constexpr int kStripHead = 40, kStripRow = 20, kPad = 8, kBar = 54;

QString stateWord(const faults::StoryRow& row, bool on)
{
    using What = faults::StoryRow::What;
    switch (row.what) {
    case What::Trigger:
        return on ? QWidget::tr("operated") : QWidget::tr("at rest");
    case What::Outputs:
        return on ? QWidget::tr("on") : QWidget::tr("off");
    case What::Armature:
        return on ? QWidget::tr("in") : QWidget::tr("out");
    case What::Motor:
        break;
    }
    return on ? QWidget::tr("turns") : QWidget::tr("at rest");
}

} // namespace

SceneStrip::SceneStrip(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("faults.scenes");
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

QSize SceneStrip::sizeHint() const
{
    return {440, m_story ? kStripHead + static_cast<int>(m_story->rows.size()) * kStripRow + 2 * kPad : 0};
}

void SceneStrip::show(std::shared_ptr<const faults::Story> story, std::shared_ptr<const Plant> plant)
{
    m_story = std::move(story);
    m_plant = std::move(plant);
    updateGeometry();
    update();
}

void SceneStrip::paintEvent(QPaintEvent*)
{
    if (!m_story)
        return;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    const int gap = 8, each = (width() - 2 * gap) / 3;
    for (int k = 0; k < 3; ++k) {
        const QRect box(k * (each + gap), 0, each, height() - 1);
        paintPanel(p, box, c.paper, c.line);
        const faults::StoryScene& scene = m_story->scenes[static_cast<std::size_t>(k)];
        p.setPen(c.ink);
        p.setFont(m_theme.bold());
        p.drawText(box.adjusted(kPad, 4, -kPad, 0), Qt::AlignTop | Qt::AlignLeft,
            words::word("scene." + std::string(faults::nameOf(scene.when))));
        p.setPen(c.quiet);
        p.setFont(m_theme.small());
        p.drawText(box.adjusted(kPad, 21, -kPad, 0), Qt::AlignTop | Qt::AlignLeft,
            tr("at %1 s").arg(secondsOf(scene.at).si(), 0, 'f', 2));
        for (std::size_t r = 0; r < m_story->rows.size(); ++r) {
            const faults::StoryRow& row = m_story->rows[r];
            const bool on = row.isOn[static_cast<std::size_t>(k)],
                       differs = on != row.isOnHealthy[static_cast<std::size_t>(k)];
            const int y = kStripHead + static_cast<int>(r) * kStripRow;
            const QRect line(box.left() + kPad, box.top() + y, each - 2 * kPad, kStripRow);
            p.setFont(m_theme.mono(11, differs));
            p.setPen(c.ink);
            p.drawText(line, Qt::AlignVCenter | Qt::AlignLeft,
                QString::fromStdString(m_plant->devices[static_cast<std::size_t>(row.device)].tag));
            const QRectF bar(line.left() + 32, line.top() + 4, std::min(kBar, each - 100), kStripRow - 8);
            p.setPen(QPen(differs ? c.lost : on ? c.live : c.quiet, differs ? 2 : 1));
            p.setBrush(on ? QBrush(differs ? c.lost : c.live, differs ? Qt::BDiagPattern : Qt::SolidPattern)
                          : QBrush(Qt::NoBrush));
            p.drawRect(bar);
            p.setPen(differs ? c.lost : c.quiet);
            p.setFont(m_theme.small());
            p.drawText(line.adjusted(static_cast<int>(bar.width()) + 38, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft,
                stateWord(row, on));
        }
    }
}

} // namespace ts::app
