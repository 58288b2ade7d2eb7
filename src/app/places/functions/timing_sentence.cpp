#include "app/places/functions/timing_sentence.h"

#include "app/places/functions/function_edit.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/library/table.h"
#include "wording/function_pictures.h"

#include <QDate>
#include <QLabel>
#include <QVBoxLayout>

#include <cmath>

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

TimingSentence::TimingSentence(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    const auto box = [&](WordFlow* flow, const char* name, const QString& accessible, double most,
                         const QString& unit) {
        auto* b = new NumberWord(theme, QString::fromLatin1(name), accessible, flow);
        b->setRange(0.0, most);
        b->setDecimals(3);
        b->setSuffix(unit);
        flow->put(b);
        return b;
    };
    const auto line = [&](WordFlow* flow, const char* name, const QString& accessible, const QString& hint) {
        auto* l = new TextWord(theme, QString::fromLatin1(name), accessible, flow);
        l->setPlaceholderText(hint);
        flow->put(l);
        return l;
    };
    auto* time = new WordFlow(theme.body(), this);
    time->say(tr("The sensing device answers within"));
    m_sensor = box(time, "timing.sensor", tr("Response time of the sensing device"), 60.0, QStringLiteral(" s"));
    time->say(tr(". Measured on the machine, in seconds:"));
    m_measured = line(time, "timing.measured", tr("Measured stopping times"), tr("ten stops, like 2.1; 2.05; ..."));
    time->say(tr(", on"));
    m_on = line(time, "timing.measured_on", tr("Measured on"), tr("a day like 2026-11-26"));
    time->say(tr(", again on"));
    m_again = line(time, "timing.measure_again_on", tr("To be measured again on"), tr("a day like 2027-11-26"));
    time->say(tr("."));
    column->addWidget(time);
    m_far = new WordFlow(theme.body(), this);
    m_far->say(tr("What keeps a hand away is"));
    m_safeguard = new ChoiceWord(theme, QStringLiteral("timing.safeguard"), tr("What keeps a hand away"), m_far);
    for (std::string_view word : safeguardWords())
        m_safeguard->addItem(words::word("safeguard." + std::string(word)));
    m_far->put(m_safeguard);
    m_far->say(tr(". The hazard is"));
    m_distance = box(m_far, "timing.distance", tr("Distance as built"), 100.0, QStringLiteral(" m"));
    m_distance->setSpecialValueText(tr("a way that nobody asked for"));
    m_far->say(tr("behind where a hand comes in, which reaches"));
    m_intrusion = box(m_far, "timing.intrusion", tr("Reaching in before detection"), 10.0, QStringLiteral(" m"));
    m_far->say(tr("far before it is noticed."));
    column->addWidget(m_far);
    m_thin = new WordFlow(theme.body(), this);
    m_thin->say(tr("The thinnest thing that the curtain surely notices is"));
    m_resolution = box(m_thin, "timing.resolution", tr("Resolution of the curtain"), 1.0, QStringLiteral(" m"));
    m_resolution->setSpecialValueText(tr("not entered: counted as one for a body"));
    m_thin->say(tr("thick."));
    column->addWidget(m_thin);
    m_trouble = plainLabel({}, theme.small(), this);
    m_trouble->setObjectName("timing.trouble");
    column->addWidget(m_trouble);
    m_drawing = new FigureView(theme, this);
    m_drawing->setObjectName("timing.drawing");
    m_drawing->setAccessibleName(tr("Time and distance, to scale"));
    m_drawing->setFocusPolicy(Qt::NoFocus);
    column->addWidget(m_drawing);
    m_few = plainLabel(
        tr("Fewer than ten measured stops: the longest of them counts, without the spread."), theme.small(), this);
    m_few->setObjectName("timing.few");
    column->addWidget(m_few);

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
    onChange(
        m_resolution, tr("Resolution"), [](const Approach& a) { return a.resolutionM; },
        [](Approach& a, double m) { a.resolutionM = m; });
    connect(m_safeguard, &QComboBox::activated, this, [this](int k) {
        change(tr("What keeps a hand away"), [k](Approach& a) { a.safeguard = static_cast<Safeguard>(k); });
    });
    for (QLineEdit* edit : {m_measured, m_on, m_again})
        connect(edit, &QLineEdit::editingFinished, this, &TimingSentence::takeMeasured);
}

void TimingSentence::change(const QString& label, const std::function<void(Approach&)>& what)
{
    changeFunction(m_document, m_function, label, [&](SafetyFunction& f) { what(f.approach); });
}

void TimingSentence::takeMeasured()
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

void TimingSentence::show(const SafetyFunction& f)
{
    m_function = f.id;
    const auto set = [](QDoubleSpinBox* box, double value) {
        if (isChanged(*box, value))
            box->setValue(value);
    };
    set(m_sensor, f.approach.sensorS);
    set(m_distance, f.approach.distanceM.value_or(0.0));
    set(m_intrusion, f.approach.intrusionM);
    set(m_resolution, f.approach.resolutionM);
    const Safeguard safeguard = safeguardOf(m_document.dossier().circuit, f);
    m_safeguard->setCurrentIndex(static_cast<int>(safeguard));
    const auto put = [](QLineEdit* line, const QString& text) {
        if (!line->hasFocus() && line->text() != text)
            line->setText(text);
    };
    put(m_measured, textOf(f.approach.measuredStopsS));
    put(m_on, QString::fromStdString(f.approach.measuredOn));
    put(m_again, QString::fromStdString(f.approach.measureAgainOn));
    m_far->setVisible(!f.emergencyStop);
    m_thin->setVisible(!f.emergencyStop && safeguard == Safeguard::FineCurtain);
    m_trouble->setVisible(false);
}

void TimingSentence::setBudget(const SafetyFunction& f, const std::optional<ResponseBudget>& budget)
{
    const auto content = wording::approachContent(f, budget);
    m_drawing->setFixedHeight(static_cast<int>(
        std::ceil(figures::approach(content, wording::approachWords(), std::max(200, width())).height)));
    m_drawing->show(
        [content](double width, double, int) { return figures::approach(content, wording::approachWords(), width); });
    m_few->setVisible(!f.approach.measuredStopsS.empty() && f.approach.measuredStopsS.size() < safety::kFewestStops);
}

} // namespace ts::app
