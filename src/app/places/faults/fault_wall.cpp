#include "app/places/faults/fault_wall.h"

#include "app/places/faults/outcome_mark.h"
#include "app/words/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <map>

namespace ts::app {
namespace {

using faults::kMoments;
using faults::Moment;
using faults::Outcome;

constexpr int kRow = 16, kHead = 30, kGap = 10, kCell = 13, kMark = 8, kColumn = 300, kMargin = 16;

bool passes(const faults::Sweep& sweep, std::size_t k, WallFilter filter)
{
    const Outcome o = sweep.outcomes[k].overall;
    const bool excluded = sweep.faults[k].isExcluded;
    switch (filter) {
    case WallFilter::Counting:
        return !excluded
            && (o == Outcome::Lost || o == Outcome::Hidden || o == Outcome::Caught || o == Outcome::Undecided);
    case WallFilter::Lost:
        return !excluded && o == Outcome::Lost;
    case WallFilter::Hidden:
        return !excluded && o == Outcome::Hidden;
    case WallFilter::Caught:
        return !excluded && o == Outcome::Caught;
    case WallFilter::Safe:
        return !excluded && o == Outcome::Safe;
    case WallFilter::Excluded:
        return excluded;
    case WallFilter::All:
        break;
    }
    return !excluded;
}

QString momentWord(Moment m)
{
    return words::word("moment." + std::string(faults::nameOf(m)));
}

} // namespace

std::vector<WallGroup> wallGroups(
    const faults::Sweep& sweep, const Circuit& circuit, WallFilter filter, WallOrder order)
{
    std::vector<WallGroup> groups;
    std::map<QString, std::size_t> known;
    const auto groupNamed = [&](const QString& title, const QString& subtitle) -> WallGroup& {
        const auto [place, isNew] = known.try_emplace(title, groups.size());
        if (isNew)
            groups.push_back({title, subtitle, {}});
        return groups[place->second];
    };
    const auto add = [&](std::size_t k) {
        const faults::SweptFault& f = sweep.faults[k];
        if (order == WallOrder::WorstFirst) {
            const QString outcome = words::word("outcome." + std::string(faults::nameOf(sweep.outcomes[k].overall)));
            groupNamed(outcome, {})
                .rows.push_back({static_cast<int>(k), words::sweptFaultText(f, circuit), f.isExcluded});
            return;
        }
        if (f.family == faults::Family::CommonCause) {
            groupNamed(QWidget::tr("Common causes"), QWidget::tr("not single faults"))
                .rows.push_back({static_cast<int>(k), words::sweptFaultText(f, circuit), f.isExcluded});
            return;
        }
        const Device* d = circuit.device(f.group);
        const QString subtitle = d ? QString::fromStdString(d->label) : QWidget::tr("shorts");
        groupNamed(QString::fromStdString(f.group), subtitle)
            .rows.push_back({static_cast<int>(k), words::sweptFaultLabel(f, circuit), f.isExcluded});
    };
    if (order == WallOrder::ByDevice) {
        for (std::size_t k = 0; k < sweep.faults.size(); ++k)
            if (passes(sweep, k, filter))
                add(k);
    } else {
        for (Outcome o :
            {Outcome::Lost, Outcome::Undecided, Outcome::Hidden, Outcome::Caught, Outcome::Safe, Outcome::NotRun})
            for (std::size_t k = 0; k < sweep.faults.size(); ++k)
                if (sweep.outcomes[k].overall == o && passes(sweep, k, filter))
                    add(k);
    }
    return groups;
}

FaultWall::FaultWall(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("faults.wall");
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Faults"));
}

void FaultWall::show(std::shared_ptr<const faults::Sweep> sweep, std::vector<WallGroup> groups)
{
    m_sweep = std::move(sweep);
    m_groups = std::move(groups);
    layOut();
    if (!selectedLine()) {
        m_place = -1;
        for (const Line& line : m_lines)
            if (line.row >= 0) {
                select(rowOf(line).place, m_moment);
                break;
            }
        if (m_place < 0)
            emit selectionChanged();
    }
    update();
}

void FaultWall::layOut()
{
    m_lines.clear();
    const int columns = std::max(1, (width() - kMargin) / kColumn);
    int total = 0;
    for (const WallGroup& g : m_groups)
        total += kHead + static_cast<int>(g.rows.size()) * kRow + kGap;
    const int target = std::max(total / columns + kHead, 200), columnWidth = (width() - kMargin) / columns - kMargin;
    int x = kMargin, y = 4, lowest = 0, column = 0;
    const auto nextColumn = [&] {
        ++column;
        x += columnWidth + kMargin;
        y = 4;
    };
    for (std::size_t g = 0; g < m_groups.size(); ++g) {
        if (y > 4 && y + kHead + 3 * kRow > target && column + 1 < columns)
            nextColumn();
        m_lines.push_back({{x, y, columnWidth, kHead}, static_cast<int>(g), -1});
        y += kHead;
        for (std::size_t r = 0; r < m_groups[g].rows.size(); ++r) {
            if (y + kRow > target && column + 1 < columns) {
                nextColumn();
                m_lines.push_back({{x, y, columnWidth, kHead}, static_cast<int>(g), -1});
                y += kHead;
            }
            m_lines.push_back({{x, y, columnWidth, kRow}, static_cast<int>(g), static_cast<int>(r)});
            y += kRow;
            lowest = std::max(lowest, y);
        }
        y += kGap;
    }
    setMinimumHeight(lowest + kGap);
}

void FaultWall::resizeEvent(QResizeEvent*)
{
    layOut();
}

const FaultWall::Line* FaultWall::selectedLine() const
{
    const auto found = std::find_if(
        m_lines.begin(), m_lines.end(), [this](const Line& l) { return l.row >= 0 && rowOf(l).place == m_place; });
    return found == m_lines.end() ? nullptr : &*found;
}

QRect FaultWall::cellRect(int place, Moment moment) const
{
    for (const Line& l : m_lines)
        if (l.row >= 0 && rowOf(l).place == place) {
            const int m = static_cast<int>(moment), count = static_cast<int>(kMoments.size());
            return {l.box.right() - (count - m) * kCell, l.box.top(), kCell, kRow};
        }
    return {};
}

void FaultWall::select(int place, Moment moment)
{
    if (place == m_place && moment == m_moment)
        return;
    m_place = place;
    m_moment = moment;
    if (const Line* l = selectedLine())
        setAccessibleDescription(
            m_groups[static_cast<std::size_t>(l->group)].title + ' ' + rowOf(*l).text + ", " + momentWord(moment));
    update();
    emit selectionChanged();
}

void FaultWall::paintRow(QPainter& p, const Line& line) const
{
    const Colours& c = m_theme.colours();
    const WallRow& row = rowOf(line);
    const faults::FaultOutcome& o = m_sweep->outcomes[static_cast<std::size_t>(row.place)];
    const bool isSelected = row.place == m_place;
    if (isSelected)
        paintPanel(p, QRectF(line.box).adjusted(-4, 0, 3, 0), c.panel, hasFocus() ? c.ink : c.line);
    const bool isGrave = o.overall == Outcome::Lost || o.overall == Outcome::Hidden || o.overall == Outcome::Undecided;
    QFont font = m_theme.small();
    font.setBold(isGrave);
    font.setStrikeOut(row.isExcluded);
    p.setFont(font);
    p.setPen(isGrave || isSelected ? c.ink : c.quiet);
    const int cells = static_cast<int>(kMoments.size()) * kCell;
    const QRect text = line.box.adjusted(0, 0, -cells - 6, 0);
    p.drawText(
        text, Qt::AlignVCenter | Qt::AlignLeft, QFontMetrics(font).elidedText(row.text, Qt::ElideRight, text.width()));
    for (Moment m : kMoments) {
        const QRect cell = cellRect(row.place, m);
        paintOutcome(p,
            QRectF(cell.center().x() - kMark / 2.0 + 0.5, cell.center().y() - kMark / 2.0 + 0.5, kMark, kMark),
            o.outcomes[static_cast<std::size_t>(m)], c);
        if (isSelected && m == m_moment)
            paintFocus(p, QRectF(cell).adjusted(0, 1, 0, -1), c.ink);
    }
}

void FaultWall::paintEvent(QPaintEvent* e)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    for (const Line& line : m_lines) {
        if (!line.box.intersects(e->rect()))
            continue;
        if (line.row >= 0) {
            paintRow(p, line);
            continue;
        }
        const WallGroup& g = m_groups[static_cast<std::size_t>(line.group)];
        p.setFont(m_theme.bold());
        p.setPen(c.ink);
        const QRect text = line.box.adjusted(0, 6, 0, -4);
        p.drawText(text, Qt::AlignVCenter | Qt::AlignLeft, g.title);
        const int after = QFontMetrics(m_theme.bold()).horizontalAdvance(g.title) + 8;
        p.setFont(m_theme.small());
        p.setPen(c.quiet);
        p.drawText(text.adjusted(after, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, g.subtitle);
        p.setPen(c.line);
        p.drawLine(line.box.left(), line.box.bottom() - 2, line.box.right(), line.box.bottom() - 2);
    }
}

void FaultWall::mousePressEvent(QMouseEvent* e)
{
    for (const Line& line : m_lines)
        if (line.row >= 0 && line.box.contains(e->pos())) {
            Moment moment = m_moment;
            for (Moment m : kMoments)
                if (cellRect(rowOf(line).place, m).contains(e->pos()))
                    moment = m;
            select(rowOf(line).place, moment);
            return;
        }
}

void FaultWall::step(int rows)
{
    std::vector<int> places;
    for (const Line& l : m_lines)
        if (l.row >= 0)
            places.push_back(rowOf(l).place);
    const auto now = std::find(places.begin(), places.end(), m_place);
    if (places.empty())
        return;
    const auto index = now == places.end()
        ? 0
        : std::clamp<std::ptrdiff_t>((now - places.begin()) + rows, 0, static_cast<std::ptrdiff_t>(places.size()) - 1);
    select(places[static_cast<std::size_t>(index)], m_moment);
}

void FaultWall::keyPressEvent(QKeyEvent* e)
{
    const int m = static_cast<int>(m_moment), last = static_cast<int>(kMoments.size()) - 1;
    switch (e->key()) {
    case Qt::Key_Up:
        step(-1);
        break;
    case Qt::Key_Down:
        step(1);
        break;
    case Qt::Key_PageUp:
        step(-20);
        break;
    case Qt::Key_PageDown:
        step(20);
        break;
    case Qt::Key_Home:
        step(-100000);
        break;
    case Qt::Key_End:
        step(100000);
        break;
    case Qt::Key_Left:
        select(m_place, static_cast<Moment>(std::max(0, m - 1)));
        break;
    case Qt::Key_Right:
        select(m_place, static_cast<Moment>(std::min(last, m + 1)));
        break;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        emit opened();
        break;
    default:
        QWidget::keyPressEvent(e);
    }
}

} // namespace ts::app
