#include "app/places/functions/risk_form.h"

#include "app/places/functions/function_edit.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QRadioButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QString levelText(safety::Level level)
{
    return QString::fromUtf8(safety::nameOf(level).data(), 1);
}

} // namespace

RiskForm::RiskForm(Document& document, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    m_relied = new QCheckBox(tr("A person relies on it (else it protects equipment and has no level)"), this);
    m_relied->setObjectName("risk.relied");
    column->addWidget(m_relied);
    m_questions = new QWidget(this);
    auto* grid = new QGridLayout(m_questions);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(12);
    grid->setVerticalSpacing(4);
    grid->setColumnStretch(3, 1);
    struct RiskQuestion {
        const char* name;
        QString asks, low, high;
        bool RiskAnswers::*into;
    };
    const std::array<RiskQuestion, 3> questions{
        {{"injury", tr("How badly can somebody be hurt?"), tr("S1  slightly, it heals"),
             tr("S2  seriously, lasting or deadly"), &RiskAnswers::seriousInjury},
            {"exposure", tr("How often or how long is somebody there?"), tr("F1  seldom and briefly"),
                tr("F2  often or long"), &RiskAnswers::frequentExposure},
            {"avoiding", tr("Can the person get out of the way?"), tr("P1  possible under conditions"),
                tr("P2  hardly possible"), &RiskAnswers::scarcelyAvoidable}}};
    for (std::size_t q = 0; q < questions.size(); ++q) {
        const int line = static_cast<int>(q);
        grid->addWidget(plainLabel(questions[q].asks, theme.body(), m_questions), line, 0);
        auto* group = new QButtonGroup(m_questions);
        for (std::size_t a = 0; a < 2; ++a) {
            auto* button = new QRadioButton(a == 0 ? questions[q].low : questions[q].high, m_questions);
            button->setObjectName(QStringLiteral("risk.%1.%2").arg(questions[q].name).arg(a + 1));
            group->addButton(button);
            grid->addWidget(button, line, static_cast<int>(a) + 1);
            m_answers[q][a] = button;
            connect(button, &QRadioButton::clicked, this,
                [this, into = questions[q].into, a] { answer([&](RiskAnswers& r) { r.*into = a == 1; }); });
        }
    }
    m_unlikely = new QCheckBox(tr("the hazardous event is unlikely, because"), m_questions);
    m_unlikely->setObjectName("risk.unlikely");
    m_unlikelyReason = new QLineEdit(m_questions);
    m_unlikelyReason->setObjectName("risk.unlikely_reason");
    m_unlikelyReason->setAccessibleName(tr("Why the hazardous event is unlikely"));
    grid->addWidget(m_unlikely, 3, 0);
    grid->addWidget(m_unlikelyReason, 3, 1, 1, 3);
    column->addWidget(m_questions);
    m_path = plainLabel({}, theme.bold(), this);
    m_path->setObjectName("risk.path");
    column->addWidget(m_path);
    auto* line = new QHBoxLayout;
    line->addWidget(new QLabel(tr("Required PL"), this));
    m_level = new QComboBox(this);
    m_level->setObjectName("risk.level");
    m_level->setAccessibleName(tr("Required performance level"));
    m_level->addItems({tr("not decided"), "a", "b", "c", "d", "e"});
    line->addWidget(m_level);
    m_take = new QPushButton(tr("Take what the questions say"), this);
    m_take->setObjectName("risk.take");
    line->addWidget(m_take);
    line->addWidget(new QLabel(tr("reason"), this));
    m_reason = new QLineEdit(this);
    m_reason->setObjectName("risk.reason");
    m_reason->setAccessibleName(tr("Reason for the required level"));
    line->addWidget(m_reason, 1);
    column->addLayout(line);
    m_differs = plainLabel({}, theme.small(), this);
    m_differs->setObjectName("risk.differs");
    column->addWidget(m_differs);

    connect(m_relied, &QCheckBox::clicked, this, [this](bool is) {
        change(tr("Whether a person relies on it"), [is](SafetyFunction& f) { f.reliedOnByPerson = is; });
    });
    connect(m_unlikely, &QCheckBox::clicked, this,
        [this](bool is) { answer([is](RiskAnswers& r) { r.lowProbability = is; }); });
    connect(m_unlikelyReason, &QLineEdit::editingFinished, this, [this] {
        const SafetyFunction* f = m_document.dossier().function(m_function);
        const std::string reason = m_unlikelyReason->text().trimmed().toStdString();
        if (f && f->risk.value_or(RiskAnswers{}).lowProbabilityReason != reason)
            answer([&reason](RiskAnswers& r) { r.lowProbabilityReason = reason; });
    });
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

void RiskForm::change(const QString& label, const std::function<void(SafetyFunction&)>& what)
{
    changeFunction(m_document, m_function, label, what);
}

/// The first answer takes the others as the gravest: nothing is put lower than somebody said. The level follows if it
/// was that of the questions.
void RiskForm::answer(const std::function<void(RiskAnswers&)>& what)
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

void RiskForm::show(const SafetyFunction& f)
{
    m_function = f.id;
    m_relied->setChecked(f.reliedOnByPerson);
    const RiskAnswers answers = f.risk.value_or(RiskAnswers{});
    const std::array<bool, 3> high{answers.seriousInjury, answers.frequentExposure, answers.scarcelyAvoidable};
    for (std::size_t q = 0; q < 3; ++q)
        for (std::size_t a = 0; a < 2; ++a) {
            QButtonGroup* group = m_answers[q][a]->group();
            group->setExclusive(false); // unanswered: neither
            m_answers[q][a]->setChecked(f.risk && high[q] == (a == 1));
            group->setExclusive(true);
        }
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
        m_take->setEnabled(f.requiredLevel != said);
        if (f.requiredLevel && *f.requiredLevel < said)
            differs = tr("Lower than what the questions say (PL %1): the reason has to bear it.").arg(levelText(said));
    } else {
        m_take->setEnabled(false);
    }
    m_differs->setText(differs);
    m_differs->setVisible(!differs.isEmpty());
    m_questions->setEnabled(f.reliedOnByPerson);
    m_level->setEnabled(f.reliedOnByPerson);
}

} // namespace ts::app
