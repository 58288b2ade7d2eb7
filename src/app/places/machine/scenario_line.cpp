#include "app/places/machine/scenario_line.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"
#include "core/simulation/hands.h"

#include <QKeyEvent>
#include <QMouseEvent>

#include <algorithm>
#include <cmath>

namespace ts::app {
namespace {

constexpr double kNameWidth = 96, kRight = 20, kLineTop = 26, kAxis = 28, kGap = 22, kSmallestRow = 20,
                 kLargestRow = 44;
constexpr double kGrabReach = 9, kSnapS = 0.01, kStepS = 0.1, kFineS = 0.01;

using Pin = ScenarioLine::Pin;
using Kind = Pin::Kind;

/// Whole tenths, fifths ... of a power of ten: about eight on the line.
double tickOf(double lengthS)
{
    const double raw = lengthS / 8.0, power = std::pow(10.0, std::floor(std::log10(raw)));
    for (double step : {1.0, 2.0, 5.0})
        if (step * power >= raw)
            return step * power;
    return 10.0 * power;
}

} // namespace

ScenarioLine::ScenarioLine(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("timeline.line");
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Scenario over time"));
    setToolTip(tr("Left and right go from pin to pin; with Ctrl they move it by 0.1 s, with Ctrl and Shift by 0.01 s; "
                  "Delete takes it out"));
}

void ScenarioLine::showScenario(
    const Scenario& scenario, const Plant* plant, std::shared_ptr<const ScenarioCourse> course)
{
    if (scenario.id != m_scenario.id) {
        m_chosen.reset();
        m_cursorS = 0;
    }
    m_scenario = scenario;
    m_isLetGo.clear();
    for (const Step& step : scenario.steps)
        m_isLetGo.push_back(plant && isLetGo(*plant, step));
    m_course = std::move(course);
    m_cursorS = std::min(m_cursorS, m_scenario.lengthS);
    readRows();
    setMinimumHeight(static_cast<int>(
        2 * kLineTop + kAxis + kGap + kSmallestRow * static_cast<double>(std::max<std::size_t>(m_rows.size(), 2))));
    const auto pins = inOrder();
    if (m_chosen && std::find(pins.begin(), pins.end(), *m_chosen) == pins.end())
        m_chosen.reset();
    sayWhatIsChosen();
    update();
}

void ScenarioLine::readRows()
{
    m_rows.clear();
    const auto add = [this](std::size_t from, const std::string& name, Pin pin) {
        const QString text = QString::fromStdString(name);
        auto row = std::find_if(m_rows.begin() + static_cast<std::ptrdiff_t>(from), m_rows.end(),
            [&text](const Row& r) { return r.name == text; });
        if (row == m_rows.end())
            row = m_rows.insert(m_rows.end(), {text, {}, nullptr});
        row->pins.push_back(pin);
    };
    for (std::size_t k = 0; k < m_scenario.steps.size(); ++k)
        add(0, m_scenario.steps[k].target, {Kind::Step, k});
    m_stepRows = m_rows.size();
    for (std::size_t k = 0; k < m_scenario.expectations.size(); ++k)
        add(m_stepRows, m_scenario.expectations[k].subject, {Kind::Expectation, k});
    for (std::size_t r = m_stepRows; m_course && r < m_rows.size(); ++r)
        for (const SeenBand& band : m_course->bands)
            if (QString::fromStdString(band.tag) == m_rows[r].name)
                m_rows[r].band = &band;
}

double ScenarioLine::timeOf(Pin pin) const
{
    return pin.kind == Kind::Step ? m_scenario.steps[pin.place].atS : m_scenario.expectations[pin.place].atS;
}

double ScenarioLine::xOf(double s) const
{
    return kNameWidth + (width() - kNameWidth - kRight) * s / std::max(m_scenario.lengthS, 1e-3);
}

double ScenarioLine::secondsAt(double x) const
{
    const double s = (x - kNameWidth) / std::max(1.0, width() - kNameWidth - kRight) * m_scenario.lengthS;
    return std::clamp(std::round(s / kSnapS) * kSnapS, 0.0, m_scenario.lengthS);
}

double ScenarioLine::rowHeight() const
{
    const double room = height() - 2 * kLineTop - kAxis - kGap;
    return std::clamp(room / static_cast<double>(std::max<std::size_t>(m_rows.size(), 1)), kSmallestRow, kLargestRow);
}

/// Middle of a row; those of what is expected stand below the line of time.
double ScenarioLine::yOf(std::size_t row) const
{
    return kLineTop + rowHeight() * (static_cast<double>(row) + 0.5) + (row >= m_stepRows ? kAxis + kGap : 0.0);
}

std::size_t ScenarioLine::rowOf(Pin pin) const
{
    for (std::size_t r = 0; r < m_rows.size(); ++r)
        if (std::find(m_rows[r].pins.begin(), m_rows[r].pins.end(), pin) != m_rows[r].pins.end())
            return r;
    return 0;
}

QPointF ScenarioLine::pointOf(Pin pin) const
{
    return {xOf(timeOf(pin)), yOf(rowOf(pin))};
}

std::vector<Pin> ScenarioLine::inOrder() const
{
    std::vector<Pin> all;
    for (const Row& r : m_rows)
        all.insert(all.end(), r.pins.begin(), r.pins.end());
    std::stable_sort(all.begin(), all.end(), [this](Pin a, Pin b) { return timeOf(a) < timeOf(b); });
    return all;
}

std::optional<Pin> ScenarioLine::at(QPointF p) const
{
    std::optional<Pin> nearest;
    double best = kGrabReach;
    for (const Pin pin : inOrder()) {
        const QPointF d = pointOf(pin) - p;
        if (std::abs(d.y()) < rowHeight() / 2 && std::abs(d.x()) <= best) {
            best = std::abs(d.x());
            nearest = pin;
        }
    }
    return nearest;
}

std::optional<bool> ScenarioLine::isMet(std::size_t expectation) const
{
    if (!m_course)
        return std::nullopt;
    for (const ExpectationResult& r : m_course->run.expectations)
        if (r.expectation == m_scenario.expectations[expectation])
            return r.isMet;
    return std::nullopt;
}

QString ScenarioLine::textOf(Pin pin) const
{
    const QString when = words::number(timeOf(pin), "s");
    if (pin.kind == Kind::Step) {
        const Step& s = m_scenario.steps[pin.place];
        return tr("%1: %2 %3").arg(when, QString::fromStdString(s.target), words::actionWord(s.action));
    }
    const Expectation& e = m_scenario.expectations[pin.place];
    const auto met = isMet(pin.place);
    return tr("%1: %2 is expected to be %3%4")
        .arg(when, QString::fromStdString(e.subject), words::stateWord(e.state),
            !met       ? QString()
                : *met ? tr(", and is")
                       : tr(", and is not"));
}

void ScenarioLine::choose(std::optional<Pin> pin)
{
    m_chosen = pin;
    if (pin)
        m_cursorS = timeOf(*pin);
    sayWhatIsChosen();
    update();
    emit chose();
}

void ScenarioLine::sayWhatIsChosen()
{
    setAccessibleDescription(m_chosen ? textOf(*m_chosen) : QString());
}

void ScenarioLine::mousePressEvent(QMouseEvent* event)
{
    const auto hit = at(event->position());
    m_isHeld = hit.has_value();
    if (!hit)
        m_cursorS = secondsAt(event->position().x());
    choose(hit);
}

void ScenarioLine::mouseMoveEvent(QMouseEvent* event)
{
    if (m_isHeld && m_chosen)
        emit moved(*m_chosen, secondsAt(event->position().x()));
}

void ScenarioLine::mouseReleaseEvent(QMouseEvent*)
{
    m_isHeld = false;
}

void ScenarioLine::keyPressEvent(QKeyEvent* event)
{
    const int by = event->key() == Qt::Key_Left ? -1 : event->key() == Qt::Key_Right ? 1 : 0;
    if (event->key() == Qt::Key_Delete && m_chosen)
        return emit removeWanted(*m_chosen);
    if (by == 0)
        return QWidget::keyPressEvent(event);
    if (event->modifiers() & Qt::ControlModifier) {
        const double step = event->modifiers() & Qt::ShiftModifier ? kFineS : kStepS;
        const double to = std::round(((m_chosen ? timeOf(*m_chosen) : m_cursorS) + by * step) / kSnapS) * kSnapS;
        const double within = std::clamp(to, 0.0, m_scenario.lengthS);
        if (m_chosen)
            return emit moved(*m_chosen, within);
        m_cursorS = within;
        return update();
    }
    const auto all = inOrder();
    if (all.empty())
        return;
    auto now = m_chosen ? std::find(all.begin(), all.end(), *m_chosen) : by > 0 ? all.end() : all.begin();
    if (by > 0)
        now = now == all.end() || now + 1 == all.end() ? all.begin() : now + 1;
    else
        now = now == all.begin() ? all.end() - 1 : now - 1;
    choose(*now);
}

void ScenarioLine::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.panel, c.line);
    p.setFont(m_theme.small());
    p.setPen(c.quiet);
    p.drawText(QRectF(12, 6, width() - 24, 20), Qt::AlignVCenter, tr("What is done"));
    p.drawText(QRectF(12, yOf(m_stepRows) - rowHeight() / 2 - 24, width() - 24, 20), Qt::AlignVCenter,
        tr("What is expected, over what a run shows"));
    paintAxis(p);
    for (std::size_t r = 0; r < m_rows.size(); ++r)
        paintRow(p, r);
    if (hasFocus())
        paintFocus(p, QRectF(rect()).adjusted(2, 2, -2, -2), c.ink);
}

/// Between what is done and what is expected, with the cursor through all rows.
void ScenarioLine::paintAxis(QPainter& p) const
{
    const Colours& c = m_theme.colours();
    const double y = kLineTop + rowHeight() * static_cast<double>(m_stepRows) + kAxis / 2;
    const double bottom = yOf(m_rows.size()) - rowHeight() / 2;
    p.setPen(QPen(c.ink, 1.5));
    p.drawLine(QPointF(xOf(0), y), QPointF(xOf(m_scenario.lengthS), y));
    p.setFont(m_theme.mono(11));
    const double tick = tickOf(m_scenario.lengthS);
    for (double s = 0; s <= m_scenario.lengthS + tick * 1e-6; s += tick) {
        p.setPen(QPen(c.line, 1));
        p.drawLine(QPointF(xOf(s), kLineTop), QPointF(xOf(s), bottom));
        p.setPen(c.ink);
        p.drawText(QRectF(xOf(s) - 30, y + 2, 60, 14), Qt::AlignCenter, QString::number(s, 'g', 4));
    }
    p.drawText(QRectF(12, y - 8, kNameWidth - 20, 16), Qt::AlignVCenter, tr("seconds"));
    p.setPen(QPen(c.ink, 1, Qt::DashLine));
    p.drawLine(QPointF(xOf(m_cursorS), kLineTop - 4), QPointF(xOf(m_cursorS), bottom));
}

void ScenarioLine::paintRow(QPainter& p, std::size_t row) const
{
    const Colours& c = m_theme.colours();
    const Row& r = m_rows[row];
    const double y = yOf(row);
    p.setFont(m_theme.mono(12, true));
    p.setPen(c.ink);
    const QString name = p.fontMetrics().elidedText(r.name, Qt::ElideRight, static_cast<int>(kNameWidth - 20));
    p.drawText(QRectF(12, y - 10, kNameWidth - 18, 20), Qt::AlignVCenter, name);
    if (r.band) {
        p.setPen(QPen(c.line, 3));
        p.drawLine(QPointF(xOf(0), y + 7), QPointF(xOf(m_scenario.lengthS), y + 7));
        p.setPen(QPen(c.live, 5, Qt::SolidLine, Qt::FlatCap));
        for (const auto& [from, to] : r.band->whenS)
            p.drawLine(QPointF(xOf(from), y + 7), QPointF(std::max(xOf(to), xOf(from) + 2), y + 7));
    }
    // A hand stays where it is until it is let go.
    std::vector<Pin> pins = r.pins;
    std::stable_sort(pins.begin(), pins.end(), [this](Pin a, Pin b) { return timeOf(a) < timeOf(b); });
    for (std::size_t k = 0; k < pins.size(); ++k) {
        if (pins[k].kind == Kind::Expectation) {
            paintExpectation(p, pins[k], y);
            continue;
        }
        const Step& s = m_scenario.steps[pins[k].place];
        const double until = s.action == "operate" ? s.atS + s.value
            : m_isLetGo[pins[k].place]             ? s.atS
            : k + 1 < pins.size()                  ? timeOf(pins[k + 1])
                                                   : m_scenario.lengthS;
        p.setPen(QPen(c.ink, 3, Qt::SolidLine, Qt::FlatCap));
        p.drawLine(QPointF(xOf(s.atS), y + 7), QPointF(xOf(until), y + 7));
        paintStep(p, pins[k], y);
    }
    paintWords(p, pins, y);
}

/// A flag that hangs on its moment: full where something is pressed or put on, hollow where it is let go.
void ScenarioLine::paintStep(QPainter& p, Pin pin, double y) const
{
    const Colours& c = m_theme.colours();
    const Step& s = m_scenario.steps[pin.place];
    const double x = xOf(s.atS);
    const bool isChosen = m_chosen == pin;
    const QPolygonF flag({{x, y - 10}, {x + 9, y - 5}, {x, y}});
    p.setPen(QPen(c.ink, isChosen ? 2.5 : 1.5));
    p.drawLine(QPointF(x, y - 11), QPointF(x, y + 9));
    p.setBrush(m_isLetGo[pin.place] ? c.panel : c.ink);
    p.drawPolygon(flag);
    p.setBrush(Qt::NoBrush);
}

/// A square on the band: notched and full where it is so, broken where it is not, a dot where nothing was run.
void ScenarioLine::paintExpectation(QPainter& p, Pin pin, double y) const
{
    const Colours& c = m_theme.colours();
    const Expectation& e = m_scenario.expectations[pin.place];
    const double x = xOf(e.atS);
    const auto met = isMet(pin.place);
    paintMark(p, QRectF(x - 6, y - 12, 12, 12), !met ? Mark::Untouched : *met ? Mark::InOrder : Mark::Wrong, c);
    if (m_chosen == pin)
        paintFocus(p, QRectF(x - 9, y - 15, 18, 18), c.ink);
}

QString ScenarioLine::wordsOf(Pin pin) const
{
    if (pin.kind == Kind::Expectation) {
        const QString state = words::stateWord(m_scenario.expectations[pin.place].state);
        return isWrong(pin) ? tr("not %1").arg(state) : state;
    }
    const Step& s = m_scenario.steps[pin.place];
    const QString text = words::actionWord(s.action);
    return s.action == "set" ? text + QLatin1Char(' ') + QString::number(s.value, 'g', 3) : text;
}

bool ScenarioLine::isWrong(Pin pin) const
{
    return pin.kind == Kind::Expectation && !isMet(pin.place).value_or(true);
}

/// Beside each pin what it is; of several that stand too close, one after the other behind the last, or ahead of the
/// first where there is no room.
void ScenarioLine::paintWords(QPainter& p, const std::vector<Pin>& inTime, double y) const
{
    constexpr double kBeside = 12, kBetween = 8;
    const Colours& c = m_theme.colours();
    for (std::size_t k = 0; k < inTime.size();) {
        QStringList group;
        bool isStrong = false, wrong = false;
        const std::size_t first = k;
        double wide = 0;
        do {
            group << wordsOf(inTime[k]);
            isStrong |= m_chosen == inTime[k];
            wrong |= isWrong(inTime[k]);
            p.setFont(isStrong || wrong ? m_theme.bold() : m_theme.small());
            wide = p.fontMetrics().horizontalAdvance(group.join(QStringLiteral(", ")));
            ++k;
        } while (k < inTime.size() && xOf(timeOf(inTime[k])) < xOf(timeOf(inTime[k - 1])) + kBeside + wide + kBetween);
        const double behind = xOf(timeOf(inTime[k - 1])) + kBeside;
        const double at = behind + wide > width() - 6 ? xOf(timeOf(inTime[first])) - kBeside - wide : behind;
        p.setPen(wrong ? c.lost : c.ink);
        p.drawText(QPointF(at, y - 1), group.join(QStringLiteral(", ")));
    }
}

} // namespace ts::app
