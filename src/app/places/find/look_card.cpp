#include "app/places/find/look_card.h"

#include "app/instruments/meter_strip.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/supply_strip.h"
#include "app/words/words.h"
#include "core/measuring/readings.h"
#include "wording/finding_words.h"
#include "wording/test_words.h"

#include <QCheckBox>
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

} // namespace

LookCard::LookCard(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 8, 12, 8);
    column->setSpacing(6);
    const auto label = [&](const char* name, const QFont& font) {
        auto* made = plainLabel({}, font, this);
        made->setObjectName(name);
        made->setWordWrap(true);
        column->addWidget(made);
        return made;
    };
    m_supply = new SupplyStrip(QStringLiteral("find.supply"), theme, this);
    column->addWidget(m_supply);
    m_first = label("find.first", theme.body());
    m_isSafe = new QCheckBox(tr("So it is: I did that, now"), this);
    m_isSafe->setObjectName("find.safe");
    column->addWidget(m_isSafe);
    m_bring = label("find.bring", theme.body());
    m_look = label("find.look", theme.verdict());
    m_expect = label("find.expect", theme.body());
    m_answers = new QWidget(this);
    m_answerColumn = new QVBoxLayout(m_answers);
    m_answerColumn->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_answers);
    m_other = new QWidget(this);
    auto* row = new QHBoxLayout(m_other);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(plainLabel(tr("or the figure:"), theme.body(), m_other));
    m_figure = new QLineEdit(m_other);
    m_figure->setObjectName("find.figure");
    m_figure->setAccessibleName(tr("Reading"));
    m_figure->setMaximumWidth(140);
    m_unit = plainLabel({}, theme.body(), m_other);
    m_enter = new QPushButton(tr("Enter"), m_other);
    m_enter->setObjectName("find.enter");
    for (QWidget* w : std::initializer_list<QWidget*>{m_figure, m_unit, m_enter})
        row->addWidget(w);
    row->addStretch();
    column->addWidget(m_other);
    m_meter = new MeterStrip(QStringLiteral("find.meter"), theme, this);
    column->addWidget(m_meter);
    connect(m_meter, &MeterStrip::reading, this, [this](double value) {
        m_figure->setText(value >= measuring::kOverloadOhm ? QStringLiteral("OL") : QString::number(value, 'g', 6));
        m_figure->setFocus();
    });
    m_said = label("find.card_said", theme.bold());
    connect(m_isSafe, &QCheckBox::toggled, this, [this](bool is) {
        m_saidFor = is ? std::optional(m_power) : std::nullopt;
        m_first->setVisible(!is);
        allow();
        if (is)
            takeKeyboard();
    });
    connect(m_enter, &QPushButton::clicked, this, &LookCard::enterFigure);
    connect(m_figure, &QLineEdit::returnPressed, this, &LookCard::enterFigure);
}

void LookCard::show(const finding::Proposal& p, const Circuit& circuit)
{
    m_with = p.look.with;
    m_power = p.in.power;
    m_isLive = m_power != measuring::Power::LockedOff;
    m_supply->show(m_isLive ? tr("LIVE: %1").arg(words::word("power." + std::string(wordOf(m_power))))
                            : tr("Locked off for this look"),
        m_isLive);
    m_first->setText(m_isLive
            ? tr("First: leads back on, covers on, people away. Then it may be live")
            : tr("First: locked off and tagged; tester tried on a live source; every line measured dead; tester tried "
                 "again"));
    {
        const QSignalBlocker block(m_isSafe);
        m_isSafe->setChecked(m_saidFor == m_power); // another state of the supply is said anew
    }
    m_first->setVisible(!m_isSafe->isChecked());
    QStringList bring;
    for (const std::string& line : wording::situationLines(circuit, p.in))
        bring << tr("%1  %2").arg(bring.size() + 1).arg(textOf(line));
    m_bring->setText(bring.join('\n'));
    m_bring->setVisible(!bring.isEmpty());
    m_look->setText(textOf(wording::lookText(p.look)));
    m_expect->setText(p.isAgain
            ? tr("Nothing explains what was read here together with the rest: once more, with fresh probes")
            : tr("as drawn: %1").arg(textOf(wording::readingText(p.expect, p.look.with))));
    addAnswers(p, circuit);
    const std::string_view unit = unitOf(p.look.with);
    m_other->setVisible(!unit.empty());
    m_meter->setVisible(!unit.empty() && m_with != measuring::Instrument::Stopwatch);
    m_meter->setWanted(m_with);
    m_unit->setText(textOf(std::string(unit)));
    m_figure->clear();
    m_said->setVisible(false);
    allow();
    update();
}

void LookCard::addAnswers(const finding::Proposal& p, const Circuit& circuit)
{
    while (QLayoutItem* item = m_answerColumn->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    int number = 0;
    for (const finding::Outcome& o : p.outcomes) {
        auto* answer = new QPushButton(textOf(wording::answerText(o, p)), m_answers);
        answer->setObjectName(QStringLiteral("find.answer%1").arg(++number));
        answer->setMinimumHeight(34);
        connect(answer, &QPushButton::clicked, this, [this, reading = o.reading] { emit answered(reading); });
        auto* means = plainLabel(textOf(wording::outcomeText(circuit, o)), m_theme.small(), m_answers);
        means->setWordWrap(true);
        m_answerColumn->addWidget(answer);
        m_answerColumn->addWidget(means);
    }
    if (!wording::areWiresCounted(p))
        return;
    auto* otherwise = new QPushButton(textOf(wording::word("finder.counted_else")), m_answers);
    otherwise->setObjectName("find.answer_else");
    otherwise->setMinimumHeight(34);
    connect(otherwise, &QPushButton::clicked, this, [this] {
        emit answered({0, 0, wording::word("finder.counted_else")});
    });
    m_answerColumn->addWidget(otherwise);
}

void LookCard::allow()
{
    const bool isAllowed = m_saidFor == m_power;
    m_answers->setEnabled(isAllowed);
    m_other->setEnabled(isAllowed);
    m_meter->setEnabled(isAllowed);
}

void LookCard::enterFigure()
{
    const auto figure = measuring::figureFrom(m_figure->text().trimmed().toStdString(), m_with);
    if (!figure || *figure < 0)
        return say(tr("That is no figure: write it as 0.3, 2.5e6, or OL where the meter shows that"));
    emit answered(measuring::figure(*figure));
}

void LookCard::say(const QString& sentence)
{
    m_said->setText(sentence);
    m_said->setVisible(true);
}

void LookCard::takeKeyboard()
{
    m_isSafe->isChecked() && m_other->isVisibleTo(this) ? m_figure->setFocus() : m_isSafe->setFocus();
}

void LookCard::paintEvent(QPaintEvent*)
{
    const Colours& c = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintPanel(p, QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), c.panel, c.line);
}

} // namespace ts::app
