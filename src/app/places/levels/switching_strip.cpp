#include "app/places/levels/switching_strip.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"
#include "core/edit/claim_edits.h"
#include "core/safety/arithmetic.h"

#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QSlider>

#include <algorithm>
#include <cmath>

namespace ts::app {
namespace {
constexpr int kSliderSteps = 1000, kColumns = 4, kLeastOfTwo = 600;
constexpr double kShortestCycleS = 1, kLongestCycleS = 366.0 * 24 * 3600;

double fromSlider(int position, double low, double high, bool isLogarithmic)
{
    const double share = position / static_cast<double>(kSliderSteps);
    return isLogarithmic ? low * std::pow(high / low, share) : low + share * (high - low);
}

int toSlider(double value, double low, double high, bool isLogarithmic)
{
    const double share = isLogarithmic ? std::log(value / low) / std::log(high / low) : (value - low) / (high - low);
    return static_cast<int>(std::lround(std::clamp(share, 0.0, 1.0) * kSliderSteps));
}

/// Three figures: a slider does not pretend to more.
double rounded(double value)
{
    const double scale = std::pow(10.0, std::floor(std::log10(value)) - 2.0);
    return std::round(value / scale) * scale;
}

} // namespace

SwitchingStrip::SwitchingStrip(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_theme(theme)
{
    setObjectName("levels.switching");
}

void SwitchingStrip::setFunction(FunctionId function)
{
    const bool isSame = function == m_function && !m_rows.empty();
    m_function = function;
    isSame&& devices() == m_shown ? refresh() : rebuild();
}

std::vector<DeviceId> SwitchingStrip::devices() const
{
    std::vector<DeviceId> list;
    if (const SafetyFunction* f = m_document.dossier().function(m_function))
        for (const ClaimedSubsystem& s : f->claim)
            for (const ClaimedChannel& c : s.channels)
                for (const ClaimedPart& p : c.parts)
                    if (p.secondsPerCycle && std::find(list.begin(), list.end(), p.device) == list.end())
                        list.push_back(p.device);
    return list;
}

void SwitchingStrip::rebuild()
{
    qDeleteAll(findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
    delete layout();
    m_rows.clear();
    m_shown = devices();
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(14, 32, 14, 10);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(2);
    for (int half = 0; half < m_halves; ++half)
        grid->setColumnStretch(half * kColumns + 1, 1);
    m_rows.push_back(addRow(0, "days", tr("days"), tr("Days a year"), 1, 366, tr(" a year"), false));
    m_rows.push_back(addRow(1, "hours", tr("hours"), tr("Hours a day"), 0.5, 24, tr(" a day"), false));
    for (auto* row : {&m_rows[0], &m_rows[1]})
        connect(row->box, &QDoubleSpinBox::valueChanged, this, &SwitchingStrip::editDuty);
    int line = 2;
    for (DeviceId id : m_shown) {
        const Device* device = m_document.dossier().circuit.device(id);
        const QString tag = device ? QString::fromStdString(device->tag) : tr("missing device");
        const QString label = device ? QString::fromStdString(device->label) : QString();
        Row row = addRow(
            line++, tag, tag, tr("%1 works once every").arg(tag), kShortestCycleS, kLongestCycleS, tr(" s"), true);
        row.device = id;
        connect(row.box, &QDoubleSpinBox::valueChanged, this, [this, id](double s) { editCycle(id, s); });
        m_rows.push_back(row);
    }
    refresh();
}

SwitchingStrip::Row SwitchingStrip::addRow(int line, const QString& id, const QString& shown, const QString& name,
    double low, double high, const QString& unit, bool isLogarithmic)
{
    Row row;
    auto* grid = static_cast<QGridLayout*>(layout());
    auto* label = new QLabel(shown, this);
    row.slider = new QSlider(Qt::Horizontal, this);
    row.slider->setObjectName("slider." + id);
    row.slider->setAccessibleName(name);
    row.slider->setRange(0, kSliderSteps);
    row.box = new QDoubleSpinBox(this);
    row.box->setObjectName("box." + id);
    row.box->setAccessibleName(name);
    row.box->setRange(low, high);
    row.box->setDecimals(isLogarithmic ? 0 : 1);
    row.box->setSuffix(unit);
    if (isLogarithmic)
        row.box->setPrefix(tr("every "));
    row.box->setKeyboardTracking(false);
    row.box->setStepType(QAbstractSpinBox::AdaptiveDecimalStepType);
    row.box->setMinimumWidth(122);
    row.slider->setMinimumWidth(40);
    row.note = new QLabel(this);
    row.note->setFont(m_theme.small());
    row.note->setMinimumWidth(76);
    label->setBuddy(row.box);
    const int first = line % m_halves * kColumns; // side by side where there is room
    grid->addWidget(label, line / m_halves, first);
    grid->addWidget(row.slider, line / m_halves, first + 1);
    grid->addWidget(row.box, line / m_halves, first + 2);
    grid->addWidget(row.note, line / m_halves, first + 3);
    connect(row.slider, &QSlider::sliderPressed, this, [this] { ++m_gesture; });
    connect(row.slider, &QSlider::valueChanged, this, [box = row.box, low, high, isLogarithmic](int position) {
        if (toSlider(box->value(), low, high, isLogarithmic) != position)
            box->setValue(rounded(fromSlider(position, low, high, isLogarithmic)));
    });
    return row;
}

void SwitchingStrip::refresh()
{
    m_isRefreshing = true; // boxes that round what they show are no edit
    const Duty& duty = m_document.dossier().machine.duty;
    const auto show = [](Row& row, double value, bool isLogarithmic) {
        if (row.box->value() != value)
            row.box->setValue(value);
        const int position = toSlider(value, row.box->minimum(), row.box->maximum(), isLogarithmic);
        if (row.slider->value() != position)
            row.slider->setValue(position);
    };
    show(m_rows[0], duty.daysPerYear, false);
    show(m_rows[1], duty.hoursPerDay, false);
    const SafetyFunction* f = m_document.dossier().function(m_function);
    for (std::size_t i = 2; i < m_rows.size() && f; ++i)
        for (const ClaimedSubsystem& s : f->claim)
            for (const ClaimedChannel& c : s.channels)
                for (const ClaimedPart& p : c.parts)
                    if (p.device == m_rows[i].device && p.secondsPerCycle) {
                        show(m_rows[i], *p.secondsPerCycle, true);
                        const auto n = safety::operationsPerYear(
                            duty.daysPerYear, duty.hoursPerDay, seconds(*p.secondsPerCycle));
                        m_rows[i].note->setText(n ? tr("%1 a year").arg(words::number(n->si(), "")) : QString());
                    }
    m_isRefreshing = false;
}

void SwitchingStrip::editDuty()
{
    Duty duty = m_document.dossier().machine.duty;
    duty.daysPerYear = m_rows[0].box->value();
    duty.hoursPerDay = m_rows[1].box->value();
    if (m_isRefreshing || duty == m_document.dossier().machine.duty)
        return;
    m_document.edit(
        tr("Change duty"), [duty](const Dossier& d) { return edit::withDuty(d, duty); },
        QStringLiteral("duty%1").arg(m_gesture));
}

/// All contacts of one device work together.
void SwitchingStrip::editCycle(DeviceId device, double s)
{
    if (m_isRefreshing)
        return;
    const FunctionId function = m_function;
    const auto change = [device, s, function](const Dossier& d) {
        Expected<Dossier> changed = d;
        const SafetyFunction* f = d.function(function);
        for (std::size_t i = 0; f && i < f->claim.size(); ++i)
            for (std::size_t c = 0; c < f->claim[i].channels.size(); ++c)
                for (std::size_t p = 0; p < f->claim[i].channels[c].parts.size(); ++p)
                    if (f->claim[i].channels[c].parts[p].device == device && changed)
                        changed = edit::withSecondsPerCycle(*changed, {function, i, c, p}, seconds(s));
        return changed;
    };
    const SafetyFunction* f = m_document.dossier().function(m_function);
    for (const ClaimedSubsystem& sub : f->claim)
        for (const ClaimedChannel& c : sub.channels)
            for (const ClaimedPart& p : c.parts)
                if (p.device == device && p.secondsPerCycle && *p.secondsPerCycle != s) {
                    m_document.edit(tr("Change switching rate"), change,
                        QStringLiteral("cycle%1.%2").arg(device.value).arg(m_gesture));
                    return;
                }
}

void SwitchingStrip::resizeEvent(QResizeEvent*)
{
    const int halves = width() < kLeastOfTwo ? 1 : 2;
    if (halves == m_halves)
        return;
    m_halves = halves;
    QMetaObject::invokeMethod(
        this,
        [this] {
            if (!m_rows.empty())
                rebuild();
        },
        Qt::QueuedConnection); // not in the midst of being laid out
}

void SwitchingStrip::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.panel, c.line);
    p.setPen(c.ink);
    p.setFont(m_theme.bold());
    p.drawText(QRectF(14, 8, width() - 28, 18), Qt::AlignVCenter, tr("How often it works"));
}

} // namespace ts::app
