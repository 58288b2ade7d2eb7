#include "app/places/practice/practice_place.h"

#include "app/widgets/marked_drawing.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/supply_strip.h"
#include "app/widgets/upright_scroll.h"
#include "wording/finding_words.h"
#include "wording/practice_words.h"
#include "wording/test_words.h"

#include <QComboBox>
#include <QCompleter>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

namespace ts::app {
namespace {

constexpr int kDifficulties = 3; ///< before the lessons in the list
constexpr int kChoiceWidth = 520;

QComboBox* combo(const char* name, const QString& accessible, QWidget* parent)
{
    auto* box = new QComboBox(parent);
    box->setObjectName(name);
    box->setAccessibleName(accessible);
    return box;
}

/// What is typed into it is looked for anywhere in its entries.
void makeSearched(QComboBox* box)
{
    box->setEditable(true);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->completer()->setFilterMode(Qt::MatchContains);
    box->completer()->setCompletionMode(QCompleter::PopupCompletion);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
}

} // namespace

PracticePlace::PracticePlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("practice"), tr("Practise"), parent)
    , m_document(parts.document)
    , m_theme(parts.theme)
    , m_hiding(this)
    , m_doing(this)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 8, 16, 8);
    column->setSpacing(8);
    m_said = plainLabel({}, m_theme.verdict(), this);
    m_said->setObjectName("practice.said");
    m_said->setWordWrap(true);
    column->addWidget(m_said);
    addBegin(*column);
    m_told = plainLabel({}, m_theme.body(), this);
    m_told->setObjectName("practice.told");
    m_told->setWordWrap(true);
    column->addWidget(m_told);
    auto* middle = new QHBoxLayout;
    auto* scroll = new UprightScroll(this);
    m_work = new QWidget(scroll);
    auto* work = new QVBoxLayout(m_work);
    work->setContentsMargins(0, 0, 0, 0);
    addHands(*work);
    addMeter(*work);
    addNaming(*work);
    m_log = plainLabel({}, m_theme.small(), m_work);
    m_log->setObjectName("practice.log");
    m_log->setWordWrap(true);
    work->addWidget(m_log);
    work->addStretch();
    scroll->setWidget(m_work);
    middle->addWidget(scroll, 5);
    m_drawing = new MarkedDrawing(MarkedDrawing::Sign::Suspected, QStringLiteral("practice.drawing"),
        tr("The circuit as it is drawn; a terminal that is chosen takes the next probe"), m_theme, this);
    middle->addWidget(m_drawing, 6);
    column->addLayout(middle, 1);
    auto* caution = plainLabel(words::word("caution.text"), m_theme.small(), this);
    caution->setWordWrap(true);
    column->addWidget(caution);
    connect(m_drawing, &MarkedDrawing::terminalChosen, this, &PracticePlace::takeProbe);
    for (const auto& signal : {&Document::changed, &Document::loaded})
        connect(&m_document, signal, this, [this] {
            if (isVisible() || m_session || m_hiding.isBusy()) // else it is drawn when somebody comes
                takeCircuit();
        });
    takeCircuit();
}

void PracticePlace::addBegin(QVBoxLayout& column)
{
    auto* row = new QHBoxLayout;
    m_difficulty = combo("practice.difficulty", tr("How hard"), this);
    for (const QString& text :
        {tr("easy: what is seen says much"), tr("hard"), tr("masked: little or nothing is seen")})
        m_difficulty->addItem(text);
    for (int lesson = 1; lesson <= practice::kLessons; ++lesson)
        m_difficulty->addItem(tr("lesson %1").arg(QString::fromStdString(wording::lessonText(lesson))));
    m_difficulty->setMaximumWidth(kChoiceWidth);
    m_seed = new QSpinBox(this);
    m_seed->setObjectName("practice.seed");
    m_seed->setAccessibleName(tr("Number of the drill: the same number hides the same"));
    m_seed->setRange(1, 9999);
    m_hide = new QPushButton(tr("Hide something"), this);
    m_hide->setObjectName("practice.hide");
    m_stop = new QPushButton(tr("Stop"), this);
    m_stop->setObjectName("practice.stop");
    row->addWidget(m_difficulty);
    row->addWidget(plainLabel(tr("drill no."), m_theme.body(), this));
    for (QWidget* w : std::initializer_list<QWidget*>{m_seed, m_hide, m_stop})
        row->addWidget(w);
    row->addStretch();
    column.addLayout(row);
    connect(m_hide, &QPushButton::clicked, this, &PracticePlace::hide);
    connect(m_stop, &QPushButton::clicked, this, [this] {
        m_hiding.drop();
        showSession();
    });
}

QPushButton* PracticePlace::lineButton(const QString& text, const char* line)
{
    auto* button = new QPushButton(text, m_work);
    button->setObjectName(QStringLiteral("practice.") + QLatin1String(line));
    connect(button, &QPushButton::clicked, this, [this, line] { say({QLatin1String(line)}); });
    return button;
}

void PracticePlace::addHands(QVBoxLayout& column)
{
    m_supply = new SupplyStrip(QStringLiteral("practice.supply"), m_theme, m_work);
    column.addWidget(m_supply);
    auto* supply = new QHBoxLayout;
    supply->addWidget(lineButton(tr("Lock off"), "lock_off"));
    supply->addWidget(lineButton(tr("Prove it dead: tester, lines, tester"), "prove_dead"));
    supply->addWidget(lineButton(tr("Switch on"), "switch_on"));
    supply->addStretch();
    column.addLayout(supply);
    auto* hands = new QHBoxLayout;
    m_hand = combo("practice.hand", tr("What a hand does"), m_work);
    auto* act = new QPushButton(tr("Do it"), m_work);
    act->setObjectName("practice.do");
    m_watched = combo("practice.watched", tr("What is looked at"), m_work);
    auto* look = new QPushButton(tr("Look"), m_work);
    look->setObjectName("practice.look");
    for (QWidget* w : std::initializer_list<QWidget*>{m_hand, act, m_watched, look})
        hands->addWidget(w);
    hands->addStretch();
    column.addLayout(hands);
    connect(act, &QPushButton::clicked, this, [this] { say(m_hand->currentData().toStringList()); });
    connect(look, &QPushButton::clicked, this, [this] { say({QStringLiteral("look ") + m_watched->currentText()}); });
}

void PracticePlace::addMeter(QVBoxLayout& column)
{
    auto* probes = new QHBoxLayout;
    m_red = combo("practice.red", tr("Probe 1"), m_work);
    m_black = combo("practice.black", tr("Probe 2"), m_work);
    for (const auto& [label, box] : {std::pair{tr("(1)"), m_red}, {tr("[2]"), m_black}}) {
        makeSearched(box);
        box->setMinimumContentsLength(9);
        probes->addWidget(plainLabel(label, m_theme.bold(), m_work));
        probes->addWidget(box);
    }
    probes->addStretch();
    column.addLayout(probes);
    auto* meters = new QHBoxLayout;
    for (const auto& [text, meter] : {std::pair{tr("Ohms"), "ohms"}, {tr("Low ohms"), "low_ohms"},
             {tr("Volts"), "volts"}, {tr("Clamp at 1"), "amperes"}}) {
        auto* button = new QPushButton(text, m_work);
        button->setObjectName(QStringLiteral("practice.") + QLatin1String(meter));
        connect(button, &QPushButton::clicked, this, [this, meter = meter] { measure(meter); });
        meters->addWidget(button);
    }
    meters->addStretch();
    column.addLayout(meters);
    m_shown = plainLabel({}, m_theme.verdict(), m_work);
    m_shown->setObjectName("practice.shown");
    m_shown->setWordWrap(true);
    column.addWidget(m_shown);
}

void PracticePlace::addNaming(QVBoxLayout& column)
{
    auto* row = new QHBoxLayout;
    m_named = combo("practice.named", tr("What it is"), m_work);
    makeSearched(m_named);
    m_named->setMinimumContentsLength(30);
    auto* that = new QPushButton(tr("That is it"), m_work);
    that->setObjectName("practice.name");
    auto* up = new QPushButton(tr("Give up"), m_work);
    up->setObjectName("practice.give_up");
    m_named->lineEdit()->setPlaceholderText(tr("what is it?"));
    column.addWidget(m_named);
    row->addWidget(that);
    row->addWidget(up);
    row->addStretch();
    column.addLayout(row);
    connect(that, &QPushButton::clicked, this, [this] {
        const int index = m_named->findText(m_named->currentText());
        if (index >= 0)
            name(m_named->itemData(index).toString().toStdString());
        else
            m_shown->setText(tr("What is meant? Choose it from the list; typing looks in it"));
    });
    connect(up, &QPushButton::clicked, this, [this] { name({}); });
}

void PracticePlace::showEvent(QShowEvent*)
{
    takeCircuit();
}

/// What is hidden is hidden in the circuit as it is drawn.
void PracticePlace::takeCircuit()
{
    const Circuit& now = m_document.dossier().circuit;
    if (m_circuit && *m_circuit == now)
        return;
    m_circuit = std::make_shared<const Circuit>(now);
    m_drawing->setCircuit(now);
    m_hiding.drop();
    m_doing.drop();
    m_session.reset();
    fillLists();
    showSession();
}

void PracticePlace::fillLists()
{
    for (QComboBox* box : {m_hand, m_watched, m_red, m_black})
        box->clear();
    const auto plant = compile(*m_circuit);
    m_hide->setEnabled(plant.has_value());
    if (!plant)
        return;
    for (const std::string& hand : finding::handsOn(*plant)) {
        const QString text = QString::fromStdString(hand), tag = text.section(' ', 1);
        const bool isBrief = hand.starts_with("operate ");
        m_hand->addItem(QString::fromStdString(wording::handText(hand)),
            isBrief ? QStringList{QStringLiteral("press ") + tag, QStringLiteral("release ") + tag}
                    : QStringList{text});
    }
    for (const auto& [tag, states] : finding::statesSeenOn(*plant))
        m_watched->addItem(QString::fromStdString(tag));
    for (const PlantTerminal& t : plant->terminals)
        if (!t.inner) {
            const QString name = QString::fromStdString(
                plant->devices[static_cast<std::size_t>(t.device)].tag + ":" + t.marking);
            m_red->addItem(name);
            m_black->addItem(name);
            m_watched->addItem(name);
        }
}

void PracticePlace::hide()
{
    m_doing.drop();
    m_session.reset();
    showSession();
    m_stop->setVisible(true);
    m_said->setText(tr("Looking for something to hide ..."));
    m_hiding.run(
        [circuit = m_circuit, choice = m_difficulty->currentIndex(), seed = static_cast<unsigned>(m_seed->value())](
            std::stop_token stop) -> std::optional<Expected<std::shared_ptr<Session>>> {
            auto drill = choice < kDifficulties
                ? practice::drillOf(*circuit, static_cast<practice::Difficulty>(choice), seed, stop)
                : practice::lessonOf(*circuit, choice - kDifficulties + 1, seed, stop);
            if (!drill)
                return Unexpected{drill.error()};
            auto panel = practice::panelOf(*drill, stop);
            if (!panel)
                return Unexpected{panel.error()};
            return std::make_shared<Session>(*std::move(drill), *std::move(panel));
        },
        [this](const auto& made) {
            if (*made)
                m_session = **made;
            showSession();
            if (!*made)
                m_said->setText(words::sentence(made->error().message));
        });
}

/// One after the other, in the background: a motor that runs up takes its time.
void PracticePlace::say(const QStringList& lines)
{
    if (!m_session || m_session->isOver || m_doing.isBusy())
        return;
    m_work->setEnabled(false);
    m_doing.run(
        [session = m_session, lines](std::stop_token) {
            std::vector<std::pair<std::string, std::string>> answers;
            for (const QString& line : lines)
                answers.emplace_back(line.toStdString(), wording::answerTo(session->panel, line.toStdString()));
            return std::optional(std::move(answers));
        },
        [this](const auto& answers) {
            m_session->log.insert(m_session->log.end(), answers->begin(), answers->end());
            m_shown->setText(QString::fromStdString(answers->back().second));
            m_work->setEnabled(true);
            showSession();
        });
}

void PracticePlace::measure(const char* meter)
{
    say({QStringLiteral("probe red ") + m_red->currentText(), QStringLiteral("probe black ") + m_black->currentText(),
        QLatin1String(meter)});
}

/// The one that was put longer ago goes there.
void PracticePlace::takeProbe(const QString& terminal)
{
    (m_isRedNext ? m_red : m_black)->setCurrentText(terminal);
    m_isRedNext = !m_isRedNext;
    m_drawing->setProbes({{m_red->currentText().toStdString()}, {m_black->currentText().toStdString()}});
}

void PracticePlace::name(const std::string& id)
{
    if (!m_session || m_session->isOver || m_doing.isBusy())
        return;
    m_session->isOver = true;
    m_shown->setText(
        QString::fromStdString(wording::scoreText(m_session->drill, scoreOf(m_session->drill, m_session->panel, id))));
    if (m_difficulty->currentIndex() >= kDifficulties)
        m_shown->setText(m_shown->text() + '\n'
            + QString::fromStdString(wording::lessonText(m_difficulty->currentIndex() - kDifficulties + 1)));
    m_drawing->setMarked(m_session->drill.touches, {});
    showSession();
}

QString PracticePlace::madeUp() const
{
    return m_session && !m_session->isOver ? tr("EXERCISE: something is hidden in the circuit of Practise") : QString();
}

void PracticePlace::showSession()
{
    emit stateChanged();
    m_stop->setVisible(false);
    m_work->setVisible(m_session != nullptr);
    if (!m_session) {
        m_shown->clear();
        m_told->clear();
        m_named->clear();
        m_drawing->setMarked({}, {});
        m_drawing->setProbes({});
        m_said->setText(tr("Practise on the circuit that is open: something is hidden in it, and is to be found"));
        return;
    }
    const practice::Drill& drill = m_session->drill;
    if (m_named->count() == 0) {
        m_drawing->setMarked({}, {});
        for (const measuring::Suspect& s : drill.everything)
            m_named->addItem(
                QString::fromStdString(wording::suspectText(drill.circuit, s)), QString::fromStdString(s.id));
        m_named->setCurrentIndex(-1);
    }
    QStringList told;
    for (const std::string& line : wording::symptomLines(drill.told))
        told << QString::fromStdString(line);
    m_said->setText(words::word("drill.simulated"));
    m_told->setText(told.isEmpty() ? words::word("drill.nothing_seen") : told.join('\n'));
    const bool isLive = m_session->panel.isLive();
    m_supply->show(isLive ? tr("LIVE (simulated)") : tr("Locked off (simulated)"), isLive);
    QStringList lines;
    for (auto it = m_session->log.rbegin(); it != m_session->log.rend(); ++it)
        lines << QString::fromStdString(it->first + ": " + it->second);
    m_log->setText(lines.join('\n'));
}

std::vector<PlaceView> PracticePlace::views()
{
    return {{id(), [this] { hide(); }, [this] { return !m_hiding.isBusy(); }}};
}

} // namespace ts::app
