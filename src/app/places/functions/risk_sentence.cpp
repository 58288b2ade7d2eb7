#include "app/places/functions/risk_sentence.h"

#include "app/places/functions/function_edit.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QString levelText(safety::Level level)
{
    return QString::fromUtf8(safety::nameOf(level).data(), 1);
}

} // namespace

RiskSentence::RiskSentence(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    m_relied = new ToggleWord(theme, QStringLiteral("risk.relied"),
        tr("A person relies on it (else it protects equipment, without a level)"), this);
    column->addWidget(m_relied, 0, Qt::AlignLeft);
    m_questions = new WordFlow(theme.body(), this);
    m_questions->setObjectName("risk.sentence");
    column->addWidget(m_questions);
    m_path = plainLabel({}, theme.bold(), this);
    m_path->setObjectName("risk.path");
    column->addWidget(m_path);
    m_required = new WordFlow(theme.body(), this);
    column->addWidget(m_required);
    m_differs = plainLabel({}, theme.small(), this);
    m_differs->setObjectName("risk.differs");
    column->addWidget(m_differs);
    addQuestions();
    addLevel();
    connect(m_relied, &QAbstractButton::clicked, this, [this](bool is) {
        change(tr("Whether a person relies on it"), [is](SafetyFunction& f) { f.reliedOnByPerson = is; });
    });
}

void RiskSentence::addQuestions()
{
    struct RiskQuestion {
        const char* name;
        QString before, asks, unanswered, low, high;
        bool RiskAnswers::*into;
    };
    const std::array<RiskQuestion, 3> questions{
        {{"injury", tr("If it fails, somebody can be hurt"), tr("How badly can somebody be hurt?"), tr("how badly?"),
             tr("slightly, so that it heals (S1)"), tr("seriously, lasting or deadly (S2)"),
             &RiskAnswers::seriousInjury},
            {"exposure", tr(", is there"), tr("How often or how long is somebody there?"), tr("how often?"),
                tr("seldom and briefly (F1)"), tr("often or long (F2)"), &RiskAnswers::frequentExposure},
            {"avoiding", tr(", and that it can be avoided is"), tr("Can the person get out of the way?"),
                tr("possible?"), tr("possible under conditions (P1)"), tr("hardly possible (P2)"),
                &RiskAnswers::scarcelyAvoidable}}};
    for (std::size_t q = 0; q < questions.size(); ++q) {
        m_questions->say(questions[q].before);
        auto* word = new ChoiceWord(
            m_theme, QStringLiteral("risk.%1").arg(questions[q].name), questions[q].asks, m_questions);
        word->setPlaceholderText(questions[q].unanswered);
        word->addItems({questions[q].low, questions[q].high});
        m_questions->put(word);
        m_answers[q] = word;
        connect(word, &QComboBox::activated, this,
            [this, into = questions[q].into](int k) { answer([&](RiskAnswers& r) { r.*into = k == 1; }); });
    }
    m_questions->say(tr("."));
    m_unlikely = new ToggleWord(
        m_theme, QStringLiteral("risk.unlikely"), tr("The hazardous event is unlikely,"), m_questions);
    m_questions->put(m_unlikely);
    m_questions->say(tr("because"));
    m_unlikelyReason = new TextWord(
        m_theme, QStringLiteral("risk.unlikely_reason"), tr("Why the hazardous event is unlikely"), m_questions);
    m_unlikelyReason->setPlaceholderText(tr("why?"));
    m_questions->put(m_unlikelyReason);
    m_questions->say(tr("."));
    connect(m_unlikely, &QAbstractButton::clicked, this,
        [this](bool is) { answer([is](RiskAnswers& r) { r.lowProbability = is; }); });
    connect(m_unlikelyReason, &QLineEdit::editingFinished, this, [this] {
        const SafetyFunction* f = m_document.dossier().function(m_function);
        const std::string reason = m_unlikelyReason->text().trimmed().toStdString();
        if (f && f->risk.value_or(RiskAnswers{}).lowProbabilityReason != reason)
            answer([&reason](RiskAnswers& r) { r.lowProbabilityReason = reason; });
    });
}

void RiskSentence::addLevel()
{
    m_required->say(tr("Required is PL"));
    m_level = new ChoiceWord(m_theme, QStringLiteral("risk.level"), tr("Required performance level"), m_required);
    m_level->addItems({tr("not decided"), "a", "b", "c", "d", "e"});
    m_required->put(m_level);
    m_required->say(tr("because"));
    m_reason = new TextWord(m_theme, QStringLiteral("risk.reason"), tr("Reason for the required level"), m_required);
    m_reason->setPlaceholderText(tr("no reason given"));
    m_required->put(m_reason);
    m_required->say(tr("."));
    m_take = new QPushButton(tr("Take what the questions say"), m_required);
    m_take->setObjectName("risk.take");
    m_required->put(m_take);
    connect(m_level, &QComboBox::activated, this, [this](int k) {
        change(tr("Required level"),
            [&](SafetyFunction& f) { f.requiredLevel = safety::levelNamed(m_level->itemText(k).toStdString()); });
    });
    connect(m_take, &QPushButton::clicked, this, [this] {
        change(tr("Required level from the risk questions"), [](SafetyFunction& f) {
            if (f.risk)
                f.requiredLevel = safety::requiredLevelOf(*f.risk, f.emergencyStop).level;
        });
    });
    connect(m_reason, &QLineEdit::editingFinished, this, [this] {
        change(tr("Reason for the level"),
            [this](SafetyFunction& f) { f.requiredLevelReason = m_reason->text().trimmed().toStdString(); });
    });
}

void RiskSentence::change(const QString& label, const std::function<void(SafetyFunction&)>& what)
{
    changeFunction(m_document, m_function, label, what);
}

/// The first answer takes the others as the gravest: nothing is put lower than somebody said. The level follows if it
/// was that of the questions.
void RiskSentence::answer(const std::function<void(RiskAnswers&)>& what)
{
    change(tr("Answer a risk question"), [&](SafetyFunction& f) {
        const bool follows = !f.requiredLevel
            || (f.risk && f.requiredLevel == safety::requiredLevelOf(*f.risk, f.emergencyStop).level);
        RiskAnswers answers = f.risk.value_or(RiskAnswers{});
        what(answers);
        f.risk = answers;
        if (follows)
            f.requiredLevel = safety::requiredLevelOf(answers, f.emergencyStop).level;
    });
}

void RiskSentence::show(const SafetyFunction& f)
{
    m_function = f.id;
    m_relied->setChecked(f.reliedOnByPerson);
    const RiskAnswers answers = f.risk.value_or(RiskAnswers{});
    const std::array<bool, 3> high{answers.seriousInjury, answers.frequentExposure, answers.scarcelyAvoidable};
    for (std::size_t q = 0; q < 3; ++q)
        m_answers[q]->setCurrentIndex(!f.risk ? -1 : high[q] ? 1 : 0);
    m_unlikely->setChecked(answers.lowProbability);
    if (m_unlikelyReason->text().toStdString() != answers.lowProbabilityReason)
        m_unlikelyReason->setText(QString::fromStdString(answers.lowProbabilityReason));
    m_unlikelyReason->setEnabled(answers.lowProbability);
    m_path->setText(words::riskText(f));
    m_level->setCurrentText(!f.requiredLevel ? tr("not decided") : levelText(*f.requiredLevel));
    if (m_reason->text().toStdString() != f.requiredLevelReason)
        m_reason->setText(QString::fromStdString(f.requiredLevelReason));
    QString differs;
    if (f.risk) {
        const safety::Level said = safety::requiredLevelOf(*f.risk, f.emergencyStop).level;
        m_take->setVisible(f.requiredLevel != said);
        if (f.requiredLevel && *f.requiredLevel < said)
            differs = tr("Lower than what the questions say (PL %1): the reason has to bear it.").arg(levelText(said));
    } else {
        m_take->setVisible(false);
    }
    m_differs->setText(differs);
    m_differs->setVisible(!differs.isEmpty());
    m_questions->setEnabled(f.reliedOnByPerson);
    m_required->setEnabled(f.reliedOnByPerson);
}

} // namespace ts::app
