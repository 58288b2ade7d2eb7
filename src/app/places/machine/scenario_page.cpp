#include "app/places/machine/scenario_page.h"

#include "app/widgets/plain_text.h"
#include "app/widgets/upright_scroll.h"
#include "app/widgets/word_flow.h"
#include "core/edit/circuit_edits.h"
#include "core/edit/scenario_edits.h"
#include "core/simulation/hands.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

using Pin = ScenarioLine::Pin;

constexpr double kHeldS = 0.3; ///< so long a hand stays on a button that is operated

QStringList listOf(const std::vector<std::string>& words)
{
    QStringList list;
    for (const std::string& word : words)
        list << QString::fromStdString(word);
    return list;
}

/// The words of a sentence are made anew by each edit: who was typing goes on in the same word.
class FocusKept {
public:
    explicit FocusKept(WordFlow* flow)
        : m_flow(flow)
    {
        const QWidget* focus = flow->window()->focusWidget();
        if (focus && flow->isAncestorOf(focus))
            m_name = focus->objectName();
    }
    ~FocusKept()
    {
        if (auto* word = m_name.isEmpty() ? nullptr : m_flow->findChild<QWidget*>(m_name))
            word->setFocus();
    }
    FocusKept(const FocusKept&) = delete;
    FocusKept& operator=(const FocusKept&) = delete;

private:
    WordFlow* m_flow;
    QString m_name;
};

void fill(
    ChoiceWord* word, const QStringList& all, const QString& now, const std::function<QString(const QString&)>& text)
{
    QStringList items = all;
    if (!items.contains(now))
        items << now; // what the file says, even if the circuit has it no more
    for (const QString& item : items)
        word->addItem(text(item), item);
    word->setCurrentIndex(word->findData(now));
}

} // namespace

ScenarioPage::ScenarioPage(const PlaceParts& parts, QWidget* parent)
    : QWidget(parent)
    , m_document(parts.document)
    , m_theme(parts.theme)
    , m_work(this)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    m_head = new WordFlow(m_theme.body(), this);
    m_head->setObjectName("timeline.head");
    column->addWidget(m_head);
    auto* scroll = new UprightScroll(this);
    m_line = new ScenarioLine(m_theme, scroll);
    scroll->setWidget(m_line);
    column->addWidget(scroll, 1);
    m_sentence = new WordFlow(m_theme.body(), this);
    m_sentence->setObjectName("timeline.sentence");
    column->addWidget(m_sentence);
    m_verdict = plainLabel(QString(), m_theme.bold(), this);
    m_verdict->setObjectName("timeline.verdict");
    column->addWidget(m_verdict);
    auto* row = new QHBoxLayout;
    const auto button = [&](const QString& text, const char* name, auto pressed) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(QLatin1String(name));
        connect(b, &QPushButton::clicked, this, pressed);
        row->addWidget(b);
        return b;
    };
    m_needScenario = {button(tr("Something is done here"), "timeline.add_step", [this] { addStep(); }),
        button(tr("Something is expected here"), "timeline.add_expectation", [this] { addExpectation(); })};
    m_remove = button(tr("Take it out"), "timeline.remove", [this] {
        if (m_line->chosen())
            remove(*m_line->chosen());
    });
    m_needScenario.push_back(button(tr("Play it on the Bench"), "timeline.play", [this] { play(); }));
    row->addStretch(1);
    button(tr("A new scenario"), "timeline.new", [this] { addScenario(); });
    m_needScenario.push_back(button(tr("Take out the whole scenario"), "timeline.remove_all", [this] {
        change(tr("Take out a scenario"), [id = m_id](const Dossier& d) { return edit::withoutScenario(d, id); });
    }));
    column->addLayout(row);
    connect(m_line, &ScenarioLine::chose, this, &ScenarioPage::showPin);
    connect(m_line, &ScenarioLine::moved, this, &ScenarioPage::move);
    connect(m_line, &ScenarioLine::removeWanted, this, &ScenarioPage::remove);
    connect(&m_document, &Document::changed, this, [this] {
        if (isVisible())
            takeDocument();
    });
    connect(&m_document, &Document::loaded, this, [this] {
        m_shown.reset();
        m_id = {};
    });
}

const Scenario* ScenarioPage::scenario() const
{
    const auto& all = m_document.dossier().scenarios;
    const auto it = std::find_if(all.begin(), all.end(), [this](const Scenario& s) { return s.id == m_id; });
    return it != all.end() ? &*it : all.empty() ? nullptr : &all.front();
}

void ScenarioPage::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    takeDocument();
}

void ScenarioPage::takeDocument()
{
    const Scenario* s = scenario();
    m_id = s ? s->id : ScenarioId{};
    const bool isSame = m_shown && m_shown->scenario == m_id && m_shown->course;
    m_line->showScenario(
        s ? *s : Scenario{}, plant(), isSame ? std::make_shared<ScenarioCourse>(*m_shown->course) : nullptr);
    showHead();
    showPin();
    showVerdict();
    for (QPushButton* b : m_needScenario)
        b->setEnabled(s != nullptr);
    if (!m_shown || m_shown->of != m_document.snapshot() || m_shown->scenario != m_id)
        run();
}

void ScenarioPage::run()
{
    const Scenario* s = scenario();
    if (!s)
        return m_work.drop();
    m_work.run(
        [of = m_document.snapshot(), scenario = *s](std::stop_token stop) -> std::optional<Shown> {
            std::vector<std::string> tags;
            for (const Expectation& e : scenario.expectations)
                if (std::find(tags.begin(), tags.end(), e.subject) == tags.end())
                    tags.push_back(e.subject);
            Shown shown{of, scenario.id, compile(of->circuit), failure(ErrorCode::NotFound, message("?"))};
            shown.course = shown.plant ? courseOf(*shown.plant, scenario, tags, stop)
                                       : Expected<ScenarioCourse>(Unexpected{shown.plant.error()});
            return stop.stop_requested() ? std::nullopt : std::optional(std::move(shown));
        },
        [this](const std::shared_ptr<const Shown>& shown) { take(shown); });
}

void ScenarioPage::take(const std::shared_ptr<const Shown>& shown)
{
    const bool isFirst = !plant();
    m_shown = shown;
    if (const Scenario* s = scenario(); s && s->id == shown->scenario)
        m_line->showScenario(*s, plant(), shown->course ? std::make_shared<ScenarioCourse>(*shown->course) : nullptr);
    if (isFirst)
        showPin();
    showVerdict();
}

void ScenarioPage::showVerdict()
{
    const Scenario* s = scenario();
    if (!s)
        return m_verdict->setText(tr("No scenario yet: describe one here, or keep what was done on the Bench."));
    if (!m_shown || m_shown->scenario != s->id)
        return m_verdict->setText(QString());
    if (!m_shown->course)
        return m_verdict->setText(tr("It cannot be run: %1").arg(words::sentence(m_shown->course.error())));
    if (m_shown->course->run.pause == Pause::Chatter)
        return m_verdict->setText(tr("The circuit chatters: what is expected after that does not come about."));
    const auto& all = m_shown->course->run.expectations;
    const auto met = std::count_if(all.begin(), all.end(), [](const ExpectationResult& r) { return r.isMet; });
    m_verdict->setText(all.empty() ? tr("Nothing is expected: it shows nothing wrong, whatever happens.")
            : met == static_cast<std::ptrdiff_t>(all.size()) ? tr("All %1 expectations come about.").arg(all.size())
                                                             : tr("%1 of %2 expectations do not come about.")
                                                                   .arg(static_cast<std::ptrdiff_t>(all.size()) - met)
                                                                   .arg(all.size()));
}

/// "[Emergency stop] lasts [8.00 s] and happens [2] times in a working hour."
void ScenarioPage::showHead()
{
    const FocusKept kept(m_head);
    m_head->clear();
    const Scenario* s = scenario();
    if (!s)
        return;
    m_head->say(tr("Scenario"));
    auto* which = new ChoiceWord(m_theme, QStringLiteral("timeline.which"), tr("Which scenario"), m_head);
    for (const Scenario& one : m_document.dossier().scenarios)
        which->addItem(QString::fromStdString(one.name), one.id.value);
    which->setCurrentIndex(which->findData(s->id.value));
    connect(
        which, &QComboBox::activated, this,
        [this, which](int k) {
            m_id = {which->itemData(k).toInt()};
            takeDocument();
        },
        Qt::QueuedConnection);
    m_head->put(which);
    m_head->say(tr(", called"));
    auto* name = new TextWord(m_theme, QStringLiteral("timeline.name"), tr("Name of the scenario"), m_head);
    name->setText(QString::fromStdString(s->name));
    connect(
        name, &QLineEdit::editingFinished, this,
        [this, name, before = s->name] {
            const std::string now = name->text().trimmed().toStdString();
            if (now != before)
                change(tr("Name a scenario"),
                    [id = m_id, now](const Dossier& d) { return edit::withScenarioNamed(d, id, now); });
        },
        Qt::QueuedConnection);
    m_head->put(name);
    m_head->say(tr(", lasts"));
    auto* length = new NumberWord(m_theme, QStringLiteral("timeline.length"), tr("Length in seconds"), m_head);
    length->setRange(0.01, kLongestScenarioS);
    length->setDecimals(2);
    length->setSuffix(QStringLiteral(" s"));
    length->setValue(s->lengthS);
    length->setKeyboardTracking(false);
    connect(
        length, &QDoubleSpinBox::valueChanged, this,
        [this](double to) {
            change(
                tr("Length of a scenario"),
                [id = m_id, to](const Dossier& d) { return edit::withScenarioLength(d, id, to); },
                QStringLiteral("timeline.length"));
        },
        Qt::QueuedConnection);
    m_head->put(length);
    m_head->say(tr("."));
}

void ScenarioPage::showPin()
{
    const FocusKept kept(m_sentence);
    m_sentence->clear();
    const auto pin = m_line->chosen();
    m_remove->setEnabled(pin.has_value());
    if (!scenario())
        return;
    if (!pin)
        m_sentence->say(
            tr("Click on a flag or a square, or go there with the arrow keys: its sentence stands here and is "
               "changed here. A click beside them sets the moment for something new."));
    else if (pin->kind == Pin::Kind::Step)
        addStepWords(pin->place);
    else
        addExpectationWords(pin->place);
}

namespace {

NumberWord* timeWord(
    const Theme& theme, const char* name, const QString& says, double value, double most, QWidget* parent)
{
    auto* word = new NumberWord(theme, QLatin1String(name), says, parent);
    word->setRange(0.0, most);
    word->setDecimals(2);
    word->setSingleStep(0.1);
    word->setSuffix(QStringLiteral(" s"));
    word->setValue(value);
    word->setKeyboardTracking(false);
    return word;
}

} // namespace

void ScenarioPage::addStepWords(std::size_t place)
{
    const Scenario& whole = *scenario();
    const Step& s = whole.steps[place];
    const QString target = QString::fromStdString(s.target), action = QString::fromStdString(s.action);
    m_sentence->say(tr("After"));
    auto* at = timeWord(m_theme, "timeline.at", tr("When"), s.atS, whole.lengthS, m_sentence);
    connect(
        at, &QDoubleSpinBox::valueChanged, this,
        [this, place](double to) {
            move({Pin::Kind::Step, place}, to);
        },
        Qt::QueuedConnection);
    m_sentence->put(at);
    auto* what = new ChoiceWord(m_theme, QStringLiteral("timeline.target"), tr("What is operated"), m_sentence);
    const bool isSite = action == QLatin1String("fault") || action == QLatin1String("clear_fault");
    fill(
        what, targets(), isSite ? QString() : target, [](const QString& t) { return t.isEmpty() ? tr("a fault") : t; });
    connect(
        what, &QComboBox::activated, this,
        [this, what, place](int k) {
            const QString to = what->itemData(k).toString();
            const QStringList actions = actionsOf(to);
            const std::string operated = isFaultSite(to.toStdString()) ? firstFault() : to.toStdString();
            changeStep(place, [&](Step& step) {
                step.target = operated;
                if (!actions.contains(QString::fromStdString(step.action)) && !actions.isEmpty())
                    step.action = actions.front().toStdString();
                step.value = step.action == "operate" ? kHeldS : 0.0;
            });
        },
        Qt::QueuedConnection);
    m_sentence->put(what);
    m_sentence->say(tr(":"));
    auto* does = new ChoiceWord(m_theme, QStringLiteral("timeline.action"), tr("What is done"), m_sentence);
    fill(does, actionsOf(isSite ? QString() : target), action,
        [](const QString& a) { return words::actionWord(a.toStdString()); });
    connect(
        does, &QComboBox::activated, this,
        [this, does, place](int k) {
            const std::string to = does->itemData(k).toString().toStdString();
            changeStep(place, [&to](Step& step) {
                step.action = to;
                step.value = to == "operate" ? kHeldS : 0.0;
            });
        },
        Qt::QueuedConnection);
    m_sentence->put(does);
    if (isSite) {
        auto* site = new TextWord(
            m_theme, QStringLiteral("timeline.site"), tr("Fault, as S0/11-12:shorted"), m_sentence);
        site->setText(target);
        connect(
            site, &QLineEdit::editingFinished, this,
            [this, site, place, target] {
                if (site->text() != target)
                    changeStep(place, [to = site->text().trimmed().toStdString()](Step& step) { step.target = to; });
            },
            Qt::QueuedConnection);
        m_sentence->put(site);
    }
    if (action == QLatin1String("operate") || action == QLatin1String("set")) {
        const bool isHeld = action == QLatin1String("operate");
        m_sentence->say(isHeld ? tr("and held for") : tr("to, times its voltage,"));
        auto* value = timeWord(
            m_theme, "timeline.value", tr("How long, or how much"), s.value, isHeld ? whole.lengthS : 2.0, m_sentence);
        if (!isHeld)
            value->setSuffix(QString());
        connect(
            value, &QDoubleSpinBox::valueChanged, this,
            [this, place](double to) {
                changeStep(
                    place, [to](Step& step) { step.value = to; }, QStringLiteral("timeline.value"));
            },
            Qt::QueuedConnection);
        m_sentence->put(value);
    }
    m_sentence->say(tr("."));
    m_sentence->chainAfter(m_line);
}

void ScenarioPage::addExpectationWords(std::size_t place)
{
    const Scenario& whole = *scenario();
    const Expectation& e = whole.expectations[place];
    const QString subject = QString::fromStdString(e.subject), state = QString::fromStdString(e.state);
    m_sentence->say(tr("After"));
    auto* at = timeWord(m_theme, "timeline.at", tr("When"), e.atS, whole.lengthS, m_sentence);
    connect(
        at, &QDoubleSpinBox::valueChanged, this,
        [this, place](double to) {
            move({Pin::Kind::Expectation, place}, to);
        },
        Qt::QueuedConnection);
    m_sentence->put(at);
    auto* who = new ChoiceWord(m_theme, QStringLiteral("timeline.subject"), tr("What is looked at"), m_sentence);
    fill(who, subjects(), subject, [](const QString& t) { return t; });
    connect(
        who, &QComboBox::activated, this,
        [this, who, place](int k) {
            const std::string to = who->itemData(k).toString().toStdString();
            const auto states = plant() ? stateWordsOf(*plant(), to) : std::vector<std::string>{};
            changeExpectation(place, [&](Expectation& x) {
                x.subject = to;
                if (!states.empty() && std::find(states.begin(), states.end(), x.state) == states.end())
                    x.state = states.front();
            });
        },
        Qt::QueuedConnection);
    m_sentence->put(who);
    m_sentence->say(tr("is to be"));
    QStringList states;
    for (const std::string& word : plant() ? stateWordsOf(*plant(), e.subject) : std::vector<std::string>{})
        states << QString::fromStdString(word);
    auto* is = new ChoiceWord(m_theme, QStringLiteral("timeline.state"), tr("Expected state"), m_sentence);
    fill(is, states, state, [](const QString& w) { return words::stateWord(w.toStdString()); });
    connect(
        is, &QComboBox::activated, this,
        [this, is, place](int k) {
            const std::string to = is->itemData(k).toString().toStdString();
            changeExpectation(place, [&to](Expectation& x) { x.state = to; });
        },
        Qt::QueuedConnection);
    m_sentence->put(is);
    m_sentence->say(tr("."));
    m_sentence->chainAfter(m_line);
}

/// Whoever a hand can reach, and nobody: a fault.
QStringList ScenarioPage::targets() const
{
    return plant() ? listOf(handTargets(*plant())) << QString() : QStringList();
}

/// Something to begin with: which one is written beside it.
std::string ScenarioPage::firstFault() const
{
    const auto sites = plant() ? faultSites(*plant()) : std::vector<FaultSite>{};
    return sites.empty() ? std::string() : sites.front().text();
}

QStringList ScenarioPage::subjects() const
{
    QStringList all;
    for (const PlantDevice& d : plant() ? plant()->devices : std::vector<PlantDevice>{})
        if (!stateWordsOf(*plant(), d.tag).empty())
            all << QString::fromStdString(d.tag);
    return all;
}

QStringList ScenarioPage::actionsOf(const QString& target) const
{
    return plant() ? listOf(handActions(*plant(), target.toStdString())) : QStringList();
}

void ScenarioPage::change(const QString& label, const Document::Edit& edit, const QString& gesture)
{
    if (!m_document.edit(label, edit, gesture))
        takeDocument(); // as it was
}

void ScenarioPage::changeStep(std::size_t place, const std::function<void(Step&)>& what, const QString& gesture)
{
    const Scenario* s = scenario();
    if (!s || place >= s->steps.size())
        return;
    Step step = s->steps[place];
    what(step);
    if (step != s->steps[place])
        change(
            tr("Change a step"),
            [id = m_id, place, step](const Dossier& d) { return edit::withStep(d, id, place, step); }, gesture);
}

void ScenarioPage::changeExpectation(
    std::size_t place, const std::function<void(Expectation&)>& what, const QString& gesture)
{
    const Scenario* s = scenario();
    if (!s || place >= s->expectations.size())
        return;
    Expectation expectation = s->expectations[place];
    what(expectation);
    if (expectation != s->expectations[place])
        change(
            tr("Change what is expected"),
            [id = m_id, place, expectation](
                const Dossier& d) { return edit::withExpectation(d, id, place, expectation); },
            gesture);
}

void ScenarioPage::move(Pin pin, double toS)
{
    const QString gesture = QStringLiteral("timeline.move.%1.%2").arg(static_cast<int>(pin.kind)).arg(pin.place);
    if (pin.kind == Pin::Kind::Step)
        changeStep(
            pin.place, [toS](Step& s) { s.atS = toS; }, gesture);
    else
        changeExpectation(
            pin.place, [toS](Expectation& e) { e.atS = toS; }, gesture);
}

void ScenarioPage::remove(Pin pin)
{
    m_line->choose(std::nullopt);
    if (pin.kind == Pin::Kind::Step)
        change(
            tr("Take out a step"), [id = m_id, pin](const Dossier& d) { return edit::withoutStep(d, id, pin.place); });
    else
        change(tr("Take out what is expected"),
            [id = m_id, pin](const Dossier& d) { return edit::withoutExpectation(d, id, pin.place); });
}

void ScenarioPage::addStep()
{
    const Scenario* s = scenario();
    const QStringList all = targets();
    if (!s || all.size() < 2)
        return;
    // As the hand before it does, if there is one; it is changed in the sentence.
    const Step* last = s->steps.empty() ? nullptr : &s->steps.back();
    Step step = last ? *last : Step{0, actionsOf(all.front()).front().toStdString(), all.front().toStdString(), 0};
    step.atS = m_line->cursorS();
    if (step.action == "operate")
        step.value = std::min(step.value, s->lengthS - step.atS);
    const std::size_t place = s->steps.size();
    change(tr("Add a step"), [id = m_id, step](const Dossier& d) { return edit::withStep(d, id, std::nullopt, step); });
    m_line->choose(Pin{Pin::Kind::Step, place});
    m_line->setFocus();
}

void ScenarioPage::addExpectation()
{
    const Scenario* s = scenario();
    const QStringList all = subjects();
    if (!s || all.isEmpty())
        return;
    const auto& actuators = plant()->actuators;
    const std::string subject = !s->expectations.empty() ? s->expectations.back().subject
        : !actuators.empty()                             ? plant()->deviceOfActuator(0).tag
                                                         : all.front().toStdString();
    const auto states = stateWordsOf(*plant(), subject);
    const Expectation e{m_line->cursorS(), subject, states.empty() ? std::string("in") : states.front()};
    const std::size_t place = s->expectations.size();
    change(tr("Expect something"),
        [id = m_id, e](const Dossier& d) { return edit::withExpectation(d, id, std::nullopt, e); });
    m_line->choose(Pin{Pin::Kind::Expectation, place});
    m_line->setFocus();
}

void ScenarioPage::addScenario()
{
    Scenario fresh;
    QString name = tr("New scenario");
    for (int k = 2; m_document.dossier().scenario(name.toStdString()); ++k)
        name = tr("New scenario, %1").arg(k);
    fresh.name = name.toStdString();
    fresh.lengthS = 10.0;
    m_document.editFile(tr("A new scenario"),
        [&fresh](const DossierFile& file) { return Expected<DossierFile>(edit::withScenario(file, fresh)); });
    if (const Scenario* made = m_document.dossier().scenario(fresh.name))
        m_id = made->id;
    takeDocument();
}

void ScenarioPage::play()
{
    const Scenario* s = scenario();
    if (!s || !plant())
        return;
    if (const auto script = stimuliOf(*plant(), *s))
        emit playWanted(*script, timeNs(seconds(s->lengthS)));
}

} // namespace ts::app
