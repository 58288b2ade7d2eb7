#include "app/places/machine/plan_sentences.h"

#include "app/widgets/plain_text.h"
#include "app/widgets/tall_column.h"
#include "app/words/words.h"
#include "core/patterns/advice.h"
#include "core/safety/decision.h"

#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QString choiceText(const std::string& id)
{
    return words::sentence(message(id));
}

/// "choice.base" of the first starter, "choice.2.base" of the second.
QString fieldName(const patterns::ChoiceName& choice)
{
    const std::string number = choice.starter > 1 ? std::to_string(choice.starter) + "." : std::string();
    return QString::fromStdString("choice." + number + choice.name);
}

} // namespace

/// A choice in the flow of its sentence.
struct PlanSentences::Clause {
    const char* choice;
    QString before, after{};
};

std::vector<PlanSentences::Sentence> PlanSentences::firstSentences()
{
    return {{{"machine", tr("The machine is called")}, {"site", tr("and stands at")},
                {"injury", tr("; the injury that threatens is")}, {"exposure", tr("; somebody reaches in")},
                {"avoidance", tr("; the hazard can be avoided"), tr(".")}},
        {{"environment", tr("Around it there is")}, {"earthing", tr("; its supply is")},
            {"mains_v", tr("with"), tr("V,")}, {"frequency", tr("")},
            {"short_circuit_ka", tr("; the short-circuit current at the main switch is"), tr("kA")},
            {"days_per_year", tr("; it works")}, {"hours_per_day", tr("days a year,"), tr("hours a day.")}}};
}

std::vector<PlanSentences::Sentence> PlanSentences::starterSentences(int number)
{
    return {{{"moves", tr("M%1 moves").arg(number)},
                {"motor", tr(", a motor of"), number == 1 ? tr("(or its plate: 5.5kW,11A,0.83,1455)") : QString()},
                {"load", tr("against")}, {"brake", tr("; a spring-applied brake on it is"), tr(".")}},
        {{"base", tr("Its power circuit is")}, {"operation", tr("; it is operated by:")},
            {"selector", tr(", turned with")}, {"interlock", tr("; directions, or star and delta, are kept apart by")},
            {"crossing", tr("; the lines are exchanged")}, {"hold", tr("; the hold joins")},
            {"starts_per_hour", tr("; it is started"), tr("times an hour")},
            {"inches_per_hour", tr(", inched"), tr("times")}, {"reversals_per_hour", tr(", reversed"), tr("times")},
            {"monitor", tr("; the phase monitor:")}, {"tap", tr(", it looks")},
            {"monitor_contact", tr(", its contact goes")}, {"overload", tr("; the contact of the overload relay:")},
            {"overload_reset", tr(", reset"), tr(".")}}};
}

std::vector<PlanSentences::Sentence> PlanSentences::lastSentences()
{
    return {
        {{"stop", tr("The emergency stop acts")}, {"stops", tr("; its devices:")},
            {"guard", tr("; an interlocked guard door is")}, {"reset", tr("; the safety relay or controller is reset")},
            {"reset_from", tr(", its reset circuit begins")}, {"relay_supply", tr(", and it is fed with")},
            {"feedback", tr("; NC contacts of the contactors in its reset circuit are")},
            {"second_contactor", tr("; a line contactor for each motor as second channel is"), tr(".")}},
        {{"control", tr("The control supply is")}, {"control_v", tr(", of"), tr("V")},
            {"control_line", tr(", taken from")}, {"neutral", tr(", its neutral")},
            {"control_cable_m", tr("; the cable to buttons and devices in the field has"), tr("m")},
            {"laid", tr("and is laid")}, {"bonds", tr("; protective conductors of mounting plate and door are")},
            {"lamps", tr("; indicator lamps, by the habit of colours:")}, {"lamp_set", tr(", for")},
            {"marks", tr("; terminals are printed"), tr(".")}}};
}

PlanSentences::PlanSentences(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
    , m_plan(*patterns::advised({}))
{
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    auto* scroll = new QScrollArea(this);
    scroll->setObjectName("machine.choices");
    scroll->setAccessibleName(tr("The machine, in sentences"));
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_inside = new TallColumn;
    m_all = new QVBoxLayout(m_inside);
    m_all->setContentsMargins(0, 0, 12, 0);
    m_column = new QVBoxLayout;
    m_column->setSpacing(14);
    m_all->addLayout(m_column);
    m_all->addStretch(1);
    scroll->setWidget(m_inside);
    all->addWidget(scroll);
    rebuild();
}

void PlanSentences::setFoot(QWidget* foot)
{
    m_all->addSpacing(14);
    m_all->addWidget(foot);
}

std::vector<std::string> PlanSentences::said() const
{
    std::vector<std::string> all;
    for (const auto& [name, word] : m_said)
        all.push_back(name + "=" + word);
    return all;
}

void PlanSentences::begin(const PlannedMachine& kept)
{
    m_said.clear();
    for (const auto& [name, word] : kept.words)
        m_said[name] = word;
    for (const PlannedStarter& s : kept.starters)
        for (const auto& [name, word] : s.words)
            m_said[patterns::keptName(s.number, name)] = word;
    m_plan = patterns::advised(said()).value_or(*patterns::advised({}));
    rebuild();
    emit changed();
}

void PlanSentences::take(const patterns::ChoiceName& choice, const std::string& word)
{
    std::string& now = m_said[patterns::keptName(choice.starter, choice.name)];
    if (now == word)
        return;
    now = word;
    if (auto plan = patterns::advised(said()))
        m_plan = std::move(*plan);
    show();
    emit changed();
}

void PlanSentences::addStarterAtEnd()
{
    const int number = m_plan.starters().back().number + 1;
    nameStarters();
    m_said[patterns::keptName(number, "base")] = "direct";
    m_plan = *patterns::advised(said());
    rebuild();
    emit changed();
    if (auto* field = findChild<QWidget*>(fieldName({number, "moves"})))
        field->setFocus();
}

/// A starter of which nothing is said would not be there.
void PlanSentences::nameStarters()
{
    for (const patterns::MachinePlan::Starter& s : m_plan.starters())
        m_said.try_emplace(patterns::keptName(s.number, "base"), s.plan.text("base"));
}

void PlanSentences::drop(int starter)
{
    const std::vector<int> without{starter};
    const auto less = m_plan.with({}, without);
    if (!less)
        return;
    const std::string prefix = std::to_string(starter) + ".";
    std::erase_if(m_said, [&prefix](const auto& s) { return s.first.starts_with(prefix); });
    m_plan = *less;
    nameStarters();
    rebuild();
    emit changed();
}

void PlanSentences::rebuild()
{
    m_words.clear();
    m_choiceOf.clear();
    while (QLayoutItem* item = m_column->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->setParent(nullptr);
            w->deleteLater();
        }
        delete item;
    }
    addSentences(firstSentences(), 0);
    m_required = plainLabel(QString(), m_theme.small(), m_inside);
    m_required->setObjectName("machine.required");
    m_column->insertWidget(1, m_required);
    for (const patterns::MachinePlan::Starter& s : m_plan.starters())
        addStarter(s.number);
    auto* another = new QPushButton(tr("Another motor"), m_inside);
    another->setObjectName("machine.another");
    connect(another, &QPushButton::clicked, this, &PlanSentences::addStarterAtEnd);
    another->setEnabled(m_plan.starters().back().number < patterns::MachinePlan::kMostStarters);
    m_column->addWidget(another, 0, Qt::AlignLeft);
    addSentences(lastSentences(), 0);
    show();
}

void PlanSentences::addStarter(int number)
{
    addSentences(starterSentences(number), number);
    if (m_plan.starters().size() < 2)
        return;
    auto* out = new QPushButton(tr("Take M%1 out").arg(number), m_inside);
    out->setObjectName(QStringLiteral("machine.drop.%1").arg(number));
    connect(
        out, &QPushButton::clicked, this, [this, number] { drop(number); }, Qt::QueuedConnection);
    m_column->addWidget(out, 0, Qt::AlignLeft);
}

void PlanSentences::addSentences(const std::vector<Sentence>& sentences, int starter)
{
    for (const Sentence& sentence : sentences) {
        auto* flow = new WordFlow(m_theme.body(), m_inside);
        for (const Clause& clause : sentence) {
            const std::size_t first = m_words.size();
            std::vector<QWidget*> around = flow->say(clause.before);
            addWord(*flow, {starter, clause.choice});
            const std::vector<QWidget*> after = flow->say(clause.after);
            if (clause.after != tr(".")) // which belongs to the sentence
                around.insert(around.end(), after.begin(), after.end());
            m_words[first].around = std::move(around);
        }
        m_column->addWidget(flow);
    }
}

void PlanSentences::addWord(WordFlow& flow, const patterns::ChoiceName& name)
{
    const patterns::PlanChoice& choice = *patterns::choiceNamed(name.name);
    const QString asks = choiceText("choice." + name.name), id = fieldName(name);
    Word word{name, {}, {}, {}};
    const auto words = patterns::wordsOf(choice);
    if (words.empty()) {
        auto* edit = new TextWord(m_theme, id, asks, &flow);
        edit->setPlaceholderText(tr("not said"));
        connect(edit, &QLineEdit::editingFinished, this,
            [this, edit, name] { take(name, edit->text().trimmed().toStdString()); });
        flow.put(edit);
        watch(edit, name);
        word.fields = {edit};
        word.show = [edit](const std::string& text) { edit->setText(QString::fromStdString(text)); };
    } else if (choice.many) {
        addToggles(flow, choice, word);
    } else {
        auto* box = new ChoiceWord(m_theme, id, asks, &flow);
        for (std::string_view w : words)
            box->addItem(choiceText("choice." + name.name + "." + std::string(w)),
                QString::fromUtf8(w.data(), static_cast<qsizetype>(w.size())));
        connect(box, &QComboBox::currentIndexChanged, this,
            [this, box, name] { take(name, box->currentData().toString().toStdString()); });
        flow.put(box);
        watch(box, name);
        word.fields = {box};
        word.show = [box](
                        const std::string& text) { box->setCurrentIndex(box->findData(QString::fromStdString(text))); };
    }
    m_words.push_back(std::move(word));
}

void PlanSentences::addToggles(WordFlow& flow, const patterns::PlanChoice& choice, Word& word)
{
    std::vector<std::pair<std::string, ToggleWord*>> toggles;
    for (std::string_view w : patterns::wordsOf(choice)) {
        const std::string text(w);
        if (text == "none")
            continue;
        auto* toggle = new ToggleWord(m_theme, fieldName(word.choice) + '.' + QString::fromStdString(text),
            choiceText("choice." + word.choice.name + "." + text), &flow);
        flow.put(toggle);
        watch(toggle, word.choice);
        toggles.emplace_back(text, toggle);
        word.fields.push_back(toggle);
    }
    for (const auto& [text, toggle] : toggles)
        connect(toggle, &QAbstractButton::toggled, this, [this, toggles, name = word.choice] {
            std::string all;
            for (const auto& [each, button] : toggles)
                if (button->isChecked())
                    all += (all.empty() ? "" : "+") + each;
            take(name, all.empty() ? std::string("none") : all);
        });
    word.show = [toggles](const std::string& text) {
        const std::string padded = "+" + text + "+";
        for (const auto& [each, button] : toggles)
            button->setChecked(padded.find("+" + each + "+") != padded.npos);
    };
}

void PlanSentences::watch(QWidget* field, const patterns::ChoiceName& choice)
{
    field->installEventFilter(this);
    m_choiceOf[field] = choice;
}

bool PlanSentences::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::FocusIn)
        if (const auto it = m_choiceOf.find(watched); it != m_choiceOf.end())
            emit looked(it->second);
    return QWidget::eventFilter(watched, event);
}

/// What does not matter is not said.
void PlanSentences::show()
{
    for (const Word& w : m_words) {
        const patterns::Plan* plan = w.choice.starter == 0 ? &m_plan.shared() : m_plan.starter(w.choice.starter);
        const bool matters = patterns::matters(*plan, w.choice.name);
        for (QWidget* field : w.fields) {
            field->blockSignals(true);
            field->setEnabled(matters);
            field->setVisible(matters);
        }
        w.show(plan->text(w.choice.name));
        for (QWidget* field : w.fields)
            field->blockSignals(false);
        for (QWidget* words : w.around)
            words->setVisible(matters);
    }
    const auto risk = patterns::riskOf(m_plan.shared());
    if (!risk)
        return m_required->setText(
            tr("Until these three are answered it is taken for the gravest, and no level is asked for."));
    const safety::RequiredLevel r = safety::requiredLevelOf(*risk, true);
    QString text = words::sentence(message("risk.path", {r.path, std::string(safety::nameOf(r.level))}));
    if (r.isRaised)
        text += ' ' + words::sentence(message("risk.raised"));
    m_required->setText(text);
}

} // namespace ts::app
