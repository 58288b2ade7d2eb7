#include "app/places/functions/timing_form.h"

#include "app/places/functions/function_edit.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/library/table.h"

#include <QDate>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>

namespace ts::app {
namespace {

QString textOf(const std::vector<double>& seconds)
{
    QStringList parts;
    for (double s : seconds)
        parts << QString::fromStdString(shortestText(s));
    return parts.join(QStringLiteral("; "));
}

/// "2.1; 2.05; 2.2": nothing if a part is no number above zero.
std::optional<std::vector<double>> secondsFrom(const QString& text)
{
    std::vector<double> seconds;
    for (const QString& part : text.split(';', Qt::SkipEmptyParts)) {
        const auto s = numberFrom(part.trimmed().replace(',', '.').toStdString());
        if (!s || !(*s > 0.0) || *s > 3600.0 || seconds.size() >= 1000)
            return std::nullopt;
        seconds.push_back(*s);
    }
    return seconds;
}

bool isDate(const QString& text)
{
    return text.isEmpty() || QDate::fromString(text, Qt::ISODate).isValid();
}

} // namespace

TimingForm::TimingForm(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(24);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(12);
    form->setVerticalSpacing(6);
    row->addLayout(form, 1);
    const auto box = [&](const char* name, const QString& accessible, double most, const QString& unit) {
        auto* b = new QDoubleSpinBox(this);
        b->setObjectName(name);
        b->setAccessibleName(accessible);
        b->setRange(0.0, most);
        b->setDecimals(3);
        b->setSuffix(unit);
        return b;
    };
    const auto line = [&](const char* name, const QString& accessible, const QString& hint) {
        auto* l = new QLineEdit(this);
        l->setObjectName(name);
        l->setAccessibleName(accessible);
        l->setPlaceholderText(hint);
        return l;
    };
    m_sensor = box("timing.sensor", tr("Response time of the sensing device"), 60.0, QStringLiteral(" s"));
    m_measured = line("timing.measured", tr("Measured stopping times"), tr("ten stops in seconds: 2.1; 2.05; ..."));
    m_on = line("timing.measured_on", tr("Measured on"), QStringLiteral("2026-11-26"));
    m_again = line("timing.measure_again_on", tr("To be measured again on"), QStringLiteral("2027-11-26"));
    m_distance = box("timing.distance", tr("Distance as built"), 100.0, QStringLiteral(" m"));
    m_distance->setSpecialValueText(tr("not asked for"));
    m_intrusion = box("timing.intrusion", tr("Reaching in before detection"), 10.0, QStringLiteral(" m"));
    form->addRow(tr("Sensing device responds in"), m_sensor);
    form->addRow(tr("Measured on the machine"), m_measured);
    auto* dates = new QHBoxLayout;
    dates->addWidget(m_on);
    dates->addWidget(new QLabel(tr("again on"), this));
    dates->addWidget(m_again);
    form->addRow(tr("measured on"), dates);
    m_far = new QWidget(this);
    auto* far = new QHBoxLayout(m_far);
    far->setContentsMargins(0, 0, 0, 0);
    far->addWidget(m_distance);
    far->addWidget(new QLabel(tr("reaching in"), m_far));
    far->addWidget(m_intrusion);
    form->addRow(tr("Distance as built"), m_far);
    m_trouble = plainLabel({}, theme.small(), this);
    m_trouble->setObjectName("timing.trouble");
    form->addRow({}, m_trouble);
    m_lines = new QLabel(this);
    m_lines->setObjectName("timing.lines");
    m_lines->setTextFormat(Qt::RichText);
    m_lines->setAlignment(Qt::AlignTop);
    m_lines->setWordWrap(true);
    row->addWidget(m_lines, 1);

    const auto onChange = [this](QDoubleSpinBox* number, const QString& label,
                              const std::function<double(const Approach&)>& now,
                              const std::function<void(Approach&, double)>& set) {
        connect(number, &QDoubleSpinBox::editingFinished, this, [this, number, label, now, set] {
            change(label, [&](Approach& a) {
                if (isChanged(*number, now(a)))
                    set(a, number->value());
            });
        });
    };
    onChange(
        m_sensor, tr("Response of the sensor"), [](const Approach& a) { return a.sensorS; },
        [](Approach& a, double s) { a.sensorS = s; });
    onChange(
        m_distance, tr("Distance"), [](const Approach& a) { return a.distanceM.value_or(0.0); },
        [](Approach& a, double m) { a.distanceM = m > 0.0 ? std::optional(m) : std::nullopt; });
    onChange(
        m_intrusion, tr("Reaching in"), [](const Approach& a) { return a.intrusionM; },
        [](Approach& a, double m) { a.intrusionM = m; });
    for (QLineEdit* edit : {m_measured, m_on, m_again})
        connect(edit, &QLineEdit::editingFinished, this, &TimingForm::takeMeasured);
}

void TimingForm::change(const QString& label, const std::function<void(Approach&)>& what)
{
    changeFunction(m_document, m_function, label, [&](SafetyFunction& f) { what(f.approach); });
}

void TimingForm::takeMeasured()
{
    const auto seconds = secondsFrom(m_measured->text());
    QString trouble;
    if (!seconds)
        trouble = tr("Stopping times: seconds above zero, parted by semicolons.");
    else if (!isDate(m_on->text().trimmed()) || !isDate(m_again->text().trimmed()))
        trouble = tr("Dates as 2026-11-26.");
    m_trouble->setText(trouble);
    m_trouble->setVisible(!trouble.isEmpty());
    if (!trouble.isEmpty())
        return;
    change(tr("Measured stops"), [&](Approach& a) {
        a.measuredStopsS = *seconds;
        a.measuredOn = m_on->text().trimmed().toStdString();
        a.measureAgainOn = m_again->text().trimmed().toStdString();
    });
}

void TimingForm::show(const SafetyFunction& f)
{
    m_function = f.id;
    const auto set = [](QDoubleSpinBox* box, double value) {
        if (isChanged(*box, value))
            box->setValue(value);
    };
    set(m_sensor, f.approach.sensorS);
    set(m_distance, f.approach.distanceM.value_or(0.0));
    set(m_intrusion, f.approach.intrusionM);
    const auto put = [](QLineEdit* line, const QString& text) {
        if (!line->hasFocus() && line->text() != text)
            line->setText(text);
    };
    put(m_measured, textOf(f.approach.measuredStopsS));
    put(m_on, QString::fromStdString(f.approach.measuredOn));
    put(m_again, QString::fromStdString(f.approach.measureAgainOn));
    m_far->setEnabled(!f.emergencyStop);
    m_trouble->setVisible(false);
}

void TimingForm::setBudget(const SafetyFunction& f, const std::optional<ResponseBudget>& budget)
{
    if (!budget) {
        m_lines->setText(tr("The run shows no stop of every motor: no response time.").toHtmlEscaped());
        return;
    }
    QString html = QStringLiteral("<table cellspacing='0' cellpadding='2'>");
    for (const auto& [what, value] : words::responseLines(f, *budget))
        html += "<tr><td>" + what.toHtmlEscaped() + "</td><td align='right'>&nbsp;&nbsp;" + value.toHtmlEscaped()
            + "</td></tr>";
    if (!f.approach.measuredStopsS.empty() && f.approach.measuredStopsS.size() < safety::kFewestStops)
        html += "<tr><td colspan='2'>"
            + tr("Fewer than ten measured stops: the longest of them counts, without the spread.").toHtmlEscaped()
            + "</td></tr>";
    m_lines->setText(html + "</table>");
}

} // namespace ts::app
