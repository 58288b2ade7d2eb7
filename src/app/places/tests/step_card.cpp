#include "app/places/tests/step_card.h"

#include "app/instruments/meter_strip.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/supply_strip.h"
#include "app/words/words.h"
#include "wording/cautions.h"
#include "wording/test_words.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QString textOf(const std::string& s)
{
    return QString::fromStdString(s);
}

QLineEdit* lineEdit(const char* name, const QString& accessible, int width, QWidget* parent)
{
    auto* edit = new QLineEdit(parent);
    edit->setObjectName(name);
    edit->setAccessibleName(accessible);
    edit->setPlaceholderText(accessible);
    edit->setMaximumWidth(width);
    return edit;
}

QString numbered(const std::vector<std::string>& lines)
{
    QString text;
    for (std::size_t k = 0; k < lines.size(); ++k)
        text += QStringLiteral("%1%2  %3").arg(k == 0 ? "" : "\n").arg(k + 1).arg(textOf(lines[k]));
    return text;
}

} // namespace

StepCard::StepCard(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 8, 12, 8);
    column->setSpacing(6);
    m_head = plainLabel({}, theme.small(), this);
    m_head->setObjectName("tests.head");
    column->addWidget(m_head);
    m_supply = new SupplyStrip(QStringLiteral("tests.supply"), theme, this);
    column->addWidget(m_supply);
    m_early = plainLabel({}, theme.bold(), this);
    m_early->setObjectName("tests.early");
    m_early->setWordWrap(true);
    m_early->setIndent(22);
    column->addWidget(m_early);
    m_bring = plainLabel({}, theme.body(), this);
    m_bring->setObjectName("tests.bring");
    m_bring->setWordWrap(true);
    column->addWidget(m_bring);
    m_look = plainLabel({}, theme.verdict(), this);
    m_look->setObjectName("tests.look");
    m_look->setWordWrap(true);
    column->addWidget(m_look);
    m_expect = plainLabel({}, theme.body(), this);
    m_expect->setObjectName("tests.expect");
    m_expect->setWordWrap(true);
    column->addWidget(m_expect);
    addAnswer(*column);
    m_meter = new MeterStrip(QStringLiteral("tests.meter"), theme, this);
    column->addWidget(m_meter);
    connect(m_meter, &MeterStrip::reading, this, [this](double value) {
        m_figure->setText(value >= measuring::kOverloadOhm ? QStringLiteral("OL") : QString::number(value, 'g', 6));
        m_figure->setFocus();
    });
    auto* runs = new QHBoxLayout;
    m_runs = plainLabel({}, theme.body(), this);
    m_runs->setObjectName("tests.runs");
    m_runs->setWordWrap(true);
    m_times = new QPushButton(tr("Take them over"), this);
    m_times->setObjectName("tests.times");
    runs->addWidget(m_runs, 1);
    runs->addWidget(m_times);
    column->addLayout(runs);
    connect(m_times, &QPushButton::clicked, this, &StepCard::timesWanted);
    m_verdict = plainLabel({}, theme.bold(), this);
    m_verdict->setObjectName("tests.verdict");
    m_verdict->setWordWrap(true);
    column->addWidget(m_verdict);
    m_history = plainLabel({}, theme.small(), this);
    m_history->setObjectName("tests.history");
    m_history->setWordWrap(true);
    column->addWidget(m_history);
    m_suspects = plainLabel({}, theme.body(), this);
    m_suspects->setObjectName("tests.suspects");
    m_suspects->setWordWrap(true);
    column->addWidget(m_suspects);
    column->addStretch();
    m_covers = plainLabel({}, theme.small(), this);
    m_covers->setObjectName("tests.covers");
    m_covers->setWordWrap(true);
    column->addWidget(m_covers);
    addWho(*column);
    m_serves = plainLabel({}, theme.small(), this);
    m_serves->setWordWrap(true);
    column->addWidget(m_serves);
    m_caution = plainLabel({}, theme.small(), this);
    m_caution->setObjectName("tests.caution");
    m_caution->setWordWrap(true);
    column->addWidget(m_caution);
}

void StepCard::addAnswer(QVBoxLayout& column)
{
    auto* row = new QHBoxLayout;
    m_figure = lineEdit("tests.figure", tr("reading"), 140, this);
    m_figure->setFont(m_theme.mono(18, true));
    m_unit = plainLabel({}, m_theme.body(), this);
    m_word = new QComboBox(this);
    m_word->setObjectName("tests.word");
    m_word->setAccessibleName(tr("What is seen"));
    m_word->setEditable(true);
    m_word->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    m_word->setMinimumContentsLength(12);
    m_word->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_take = new QPushButton(tr("Enter"), this);
    m_take->setObjectName("tests.take");
    m_back = new QPushButton(tr("Back"), this);
    m_back->setObjectName("tests.back");
    m_next = new QPushButton(tr("Next open"), this);
    m_next->setObjectName("tests.next");
    for (QWidget* w : {static_cast<QWidget*>(m_figure), static_cast<QWidget*>(m_unit), static_cast<QWidget*>(m_word)})
        row->addWidget(w);
    row->addWidget(m_take);
    row->addStretch();
    row->addWidget(m_back);
    row->addWidget(m_next);
    column.addLayout(row);
    connect(m_take, &QPushButton::clicked, this, &StepCard::entered);
    connect(m_figure, &QLineEdit::returnPressed, this, &StepCard::entered);
    connect(m_word->lineEdit(), &QLineEdit::returnPressed, this, &StepCard::entered);
    connect(m_next, &QPushButton::clicked, this, &StepCard::nextWanted);
    connect(m_back, &QPushButton::clicked, this, &StepCard::backWanted);
}

void StepCard::addWho(QVBoxLayout& column)
{
    auto* row = new QHBoxLayout;
    m_who = lineEdit("tests.who", tr("who tests"), 170, this);
    m_instrument = lineEdit("tests.instrument", tr("instrument"), 170, this);
    m_calibrated = lineEdit("tests.calibrated", tr("calibrated until"), 190, this);
    for (QLineEdit* e : {m_who, m_instrument, m_calibrated})
        row->addWidget(e);
    row->addStretch();
    column.addLayout(row);
}

void StepCard::show(const measuring::TestStep& step, const Circuit& circuit, std::size_t place, std::size_t count)
{
    const QString covers = textOf(wording::partsText(circuit, step.covers));
    m_covers->setText(covers.isEmpty() ? covers : tr("shows what is wrong with: %1").arg(covers));
    m_covers->setVisible(!covers.isEmpty());
    const bool isDead = measuring::isDead(step.stage);
    m_isLive = !isDead || !m_isProvedDead; // what is not proved dead is live
    m_with = step.look.with;
    m_isWord = unitOf(step.look.with).empty();
    m_head->setText(
        tr("Step %1 of %2: %3").arg(place + 1).arg(count).arg(words::word("stage." + std::string(wordOf(step.stage)))));
    m_supply->show(!isDead   ? tr("LIVE: %1").arg(words::word("power." + std::string(wordOf(step.in.power))))
            : m_isProvedDead ? tr("DEAD: locked off, and proved dead today. After each break: again")
                             : tr("NOT PROVED DEAD TODAY: take it for live until today's steps \"make safe\" are done"),
        m_isLive);
    const bool isEarly = !isDead && m_openBefore > 0;
    m_early->setText(!isEarly ? QString()
                              : tr("Not yet: %1 steps before this one are open. What they would have shown can make "
                                   "this one dangerous.")
                                    .arg(m_openBefore));
    m_early->setVisible(isEarly);
    const QString bring = numbered(wording::situationLines(circuit, step.in));
    m_bring->setText(bring);
    m_bring->setVisible(!bring.isEmpty());
    m_look->setText(textOf(wording::lookText(step.look)));
    m_expect->setText(tr("expected: %1").arg(textOf(wording::readingText(step.expect, step.look.with))));
    m_figure->setVisible(!m_isWord);
    m_unit->setVisible(!m_isWord);
    m_word->setVisible(m_isWord);
    m_unit->setText(textOf(std::string(unitOf(step.look.with))));
    m_meter->setVisible(!m_isWord && step.look.with != measuring::Instrument::Stopwatch);
    m_meter->setWanted(m_with);
    m_figure->clear();
    m_word->clear();
    m_word->addItem(textOf(step.expect.word));
    m_word->setCurrentIndex(-1);
    m_word->setEditText({});
    m_word->lineEdit()->setPlaceholderText(tr("what is seen"));
    QStringList serves, cautions;
    for (const std::string& s : step.serves)
        serves << textOf(s);
    m_serves->setText(serves.isEmpty() ? QString() : tr("required by: %1").arg(serves.join(", ")));
    m_serves->setVisible(!serves.isEmpty());
    for (const std::string& s : wording::testCautions(step, circuit))
        cautions << textOf(s);
    m_caution->setText(cautions.join('\n'));
    update();
}

void StepCard::showHistory(const QStringList& lines, Mark mark, const QString& verdict)
{
    m_mark = mark;
    m_verdict->setText(verdict.isEmpty() ? verdict : QStringLiteral("      ") + verdict);
    m_history->setText(lines.join('\n'));
    update();
}

void StepCard::showSuspects(const QString& lines)
{
    m_suspects->setText(lines);
    m_suspects->setVisible(!lines.isEmpty());
    m_covers->setVisible(lines.isEmpty() && !m_covers->text().isEmpty());
}

void StepCard::showRuns(const QString& runs, bool canTake)
{
    m_runs->setText(runs);
    m_runs->setVisible(!runs.isEmpty());
    m_times->setVisible(!runs.isEmpty());
    m_times->setEnabled(canTake);
}

void StepCard::say(const QString& sentence)
{
    showHistory(m_history->text().split('\n', Qt::SkipEmptyParts), Mark::Wrong, sentence);
}

measuring::StepTaken StepCard::taken() const
{
    measuring::StepTaken t;
    t.who = m_who->text().trimmed().toStdString();
    t.instrument = m_instrument->text().trimmed().toStdString();
    t.calibratedUntil = m_calibrated->text().trimmed().toStdString();
    if (m_isWord)
        t.word = m_word->currentText().trimmed().toStdString();
    else
        t.value = measuring::figureFrom(m_figure->text().trimmed().toStdString(), m_with);
    return t;
}

void StepCard::takeKeyboard()
{
    m_isWord ? m_word->setFocus() : m_figure->setFocus();
}

void StepCard::paintEvent(QPaintEvent*)
{
    const Colours& c = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintPanel(p, QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), c.panel, c.line);
    if (m_early->isVisible())
        paintMark(p, QRectF(m_early->x() + 2, m_early->y() + 4, 14, 14), Mark::Wrong, c);
    if (!m_verdict->text().isEmpty())
        paintMark(p, QRectF(m_verdict->x(), m_verdict->y() + m_verdict->height() / 2.0 - 7, 14, 14), m_mark, c);
}

} // namespace ts::app
