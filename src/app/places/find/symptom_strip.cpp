#include "app/places/find/symptom_strip.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "wording/finding_words.h"

#include <QButtonGroup>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QRadioButton>
#include <QVBoxLayout>

#include <array>

namespace ts::app {
namespace {

QString handText(const QString& hand)
{
    return QString::fromStdString(wording::handText(hand.toStdString()));
}

QComboBox* combo(const char* name, const QString& accessible, QWidget* parent)
{
    auto* box = new QComboBox(parent);
    box->setObjectName(name);
    box->setAccessibleName(accessible);
    return box;
}

QPushButton* button(const char* name, const QString& text, QWidget* parent)
{
    auto* b = new QPushButton(text, parent);
    b->setObjectName(name);
    return b;
}

} // namespace

SymptomStrip::SymptomStrip(const Theme& theme, QWidget* parent)
    : QWidget(parent)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    auto* was = new QHBoxLayout;
    was->addWidget(plainLabel(tr("Until now it"), theme.body(), this));
    m_history = new QButtonGroup(this);
    const std::array<std::pair<const char*, QString>, 3> histories{std::pair{"find.wired", tr("never ran: just wired")},
        {"find.changed", tr("ran, and was changed")}, {"find.ran", tr("ran")}};
    for (std::size_t k = 0; k < histories.size(); ++k) {
        auto* choice = new QRadioButton(histories[k].second, this);
        choice->setObjectName(histories[k].first);
        m_history->addButton(choice, static_cast<int>(k));
        was->addWidget(choice);
    }
    m_history->button(static_cast<int>(finding::History::RanUntilNow))->setChecked(true);
    was->addStretch();
    column->addLayout(was);
    auto* row = new QHBoxLayout;
    row->addWidget(plainLabel(tr("Somebody"), theme.body(), this));
    m_hand = combo("find.hand", tr("What was done"), this);
    m_add = button("find.add_hand", tr("did that, then"), this);
    m_doneText = plainLabel({}, theme.bold(), this);
    m_doneText->setObjectName("find.done");
    m_clear = button("find.clear_hands", tr("did nothing"), this);
    m_clear->setVisible(false);
    m_device = combo("find.device", tr("Device that was watched"), this);
    m_isNot = combo("find.is_not", tr("Is or is not"), this);
    m_isNot->addItems({tr("is not"), tr("is")});
    m_state = combo("find.state", tr("How it stands"), this);
    m_tell = button("find.tell", tr("That was seen"), this);
    for (QWidget* w :
        std::initializer_list<QWidget*>{m_hand, m_add, m_doneText, m_clear, m_device, m_isNot, m_state, m_tell})
        row->addWidget(w);
    row->addStretch();
    column->addLayout(row);
    auto* last = new QHBoxLayout;
    m_told = plainLabel({}, theme.body(), this);
    m_told->setObjectName("find.told");
    m_told->setWordWrap(true);
    m_back = button("find.untell", tr("Take the last one back"), this);
    m_start = button("find.start", tr("Nothing seen: where to begin"), this);
    last->addWidget(m_told, 1);
    last->addWidget(m_back);
    last->addWidget(m_start);
    column->addLayout(last);
    connect(m_device, &QComboBox::currentIndexChanged, this, &SymptomStrip::fillStates);
    connect(m_add, &QPushButton::clicked, this, &SymptomStrip::addHand);
    connect(m_clear, &QPushButton::clicked, this, [this] {
        m_done.clear();
        showDone();
    });
    connect(m_tell, &QPushButton::clicked, this, &SymptomStrip::tell);
    connect(m_back, &QPushButton::clicked, this, &SymptomStrip::takenBack);
    connect(m_start, &QPushButton::clicked, this, &SymptomStrip::started);
    connect(m_history, &QButtonGroup::idClicked, this, &SymptomStrip::historyChanged);
    showTold({}, false);
    showDone();
}

void SymptomStrip::setPlant(const Plant& plant)
{
    m_hand->clear();
    for (const std::string& hand : finding::handsOn(plant))
        m_hand->addItem(handText(QString::fromStdString(hand)), QString::fromStdString(hand));
    m_states = finding::statesSeenOn(plant);
    m_device->clear();
    for (const auto& [tag, states] : m_states)
        m_device->addItem(QString::fromStdString(tag));
    m_done.clear();
    showDone();
    fillStates();
}

void SymptomStrip::fillStates()
{
    m_state->clear();
    const int device = m_device->currentIndex();
    if (device < 0 || device >= static_cast<int>(m_states.size()))
        return;
    for (const std::string& state : m_states[static_cast<std::size_t>(device)].second)
        m_state->addItem(words::stateWord(state), QString::fromStdString(state));
}

void SymptomStrip::addHand()
{
    if (m_hand->currentIndex() < 0)
        return;
    m_done << m_hand->currentData().toString();
    showDone();
}

void SymptomStrip::showDone()
{
    QStringList words;
    for (const QString& hand : m_done)
        words << handText(hand);
    m_doneText->setText(words.isEmpty() ? tr("Switched on:") : words.join(QStringLiteral(", ")) + QLatin1Char(':'));
    m_clear->setVisible(!m_done.isEmpty());
}

void SymptomStrip::tell()
{
    if (m_state->currentIndex() < 0)
        return;
    const QString seen = (m_isNot->currentIndex() == 0 ? QStringLiteral("not ") : QString()) + m_device->currentText()
        + QLatin1Char(' ') + m_state->currentData().toString();
    emit told(m_done.isEmpty() ? seen : m_done.join(QStringLiteral("; ")) + QStringLiteral(" -> ") + seen);
}

void SymptomStrip::showTold(const QStringList& lines, bool isBegun)
{
    m_told->setText(lines.join('\n'));
    m_back->setVisible(!lines.isEmpty());
    m_start->setVisible(lines.isEmpty() && !isBegun);
}

finding::History SymptomStrip::history() const
{
    return static_cast<finding::History>(m_history->checkedId());
}

void SymptomStrip::takeKeyboard()
{
    m_hand->setFocus();
}

} // namespace ts::app
