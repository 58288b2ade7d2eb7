#include "app/places/functions/functions_place.h"

#include "app/places/functions/demand_sentence.h"
#include "app/places/functions/function_edit.h"
#include "app/places/functions/risk_sentence.h"
#include "app/places/functions/timing_sentence.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/tall_column.h"
#include "app/widgets/upright_scroll.h"
#include "app/words/words.h"
#include "core/analysis/response.h"
#include "core/checks/check.h"
#include "core/edit/function_edits.h"
#include "core/library/registry.h"
#include "core/suggestions/suggestion.h"
#include "wording/function_pictures.h"

#include <QHBoxLayout>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

constexpr int kListHeight = 52, kBesideWidth = 400, kScrollBar = 18;

} // namespace

FunctionsPlace::FunctionsPlace(const PlaceParts& parts, QWidget* parent)
    : Place(QStringLiteral("functions"), tr("Functions"), parent)
    , m_document(parts.document)
    , m_selection(parts.selection)
    , m_book(parts.book)
    , m_theme(parts.theme)
    , m_suggesting(this)
{
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(16, 10, 16, 10);
    page->setSpacing(10);
    page->addWidget(chooser());
    auto* row = new QHBoxLayout;
    row->setSpacing(24);
    page->addLayout(row, 1);
    auto* scroll = new UprightScroll(this);
    m_forms = new TallColumn(scroll);
    scroll->setWidget(m_forms);
    row->addWidget(scroll, 1);
    m_scroll = scroll;
    m_missing = plainLabel({}, m_theme.body(), this);
    m_missing->setObjectName("functions.missing");
    m_missing->setAlignment(Qt::AlignTop);
    row->addWidget(m_missing, 1);
    row->addWidget(beside());
    auto* column = new QVBoxLayout(m_forms);
    column->setContentsMargins(0, 0, 12, 0);
    column->setSpacing(12);
    m_demand = new DemandSentence(m_document, m_theme, m_forms);
    m_risk = new RiskSentence(m_document, m_theme, m_forms);
    m_timing = new TimingSentence(m_document, m_theme, m_forms);
    for (QWidget* part : std::initializer_list<QWidget*>{m_demand, m_risk, m_timing})
        column->addWidget(part);
    column->addStretch(1);

    connect(&m_document, &Document::changed, this, &FunctionsPlace::takeDocument);
    connect(
        &m_selection, &Selection::functionChosen, this, [this] { show(m_selection.functionIn(m_document.dossier())); });
    connect(&m_book, &StudyBook::changed, this, &FunctionsPlace::takeResults);
    takeDocument();
}

/// Which function, side by side, and what makes one more or one less.
QWidget* FunctionsPlace::chooser()
{
    auto* bar = new QWidget(this);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    m_list = new QListWidget(bar);
    m_list->setObjectName("functions.list");
    m_list->setAccessibleName(tr("Safety functions"));
    m_list->setFlow(QListView::LeftToRight);
    m_list->setSpacing(2);
    m_list->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setFixedHeight(kListHeight);
    row->addWidget(m_list, 1);
    const auto button = [&](const char* name, const QString& text) {
        auto* b = new QPushButton(text, bar);
        b->setObjectName(name);
        row->addWidget(b);
        return b;
    };
    m_suggest = button("functions.suggest", tr("Suggest from the scenarios"));
    m_new = button("functions.new", tr("Another"));
    m_new->setAccessibleName(tr("Another function"));
    m_remove = button("functions.remove", tr("Take out"));
    m_remove->setAccessibleName(tr("Take this function out"));
    connect(m_list, &QListWidget::currentRowChanged, this, [this](int k) {
        if (k >= 0)
            show({m_list->item(k)->data(Qt::UserRole).toInt()});
    });
    connect(m_suggest, &QPushButton::clicked, this, &FunctionsPlace::suggest);
    connect(m_new, &QPushButton::clicked, this, &FunctionsPlace::addNew);
    connect(m_remove, &QPushButton::clicked, this, &FunctionsPlace::remove);
    return bar;
}

/// The machine as the function sees it, and the sentence as it stands in the report.
QWidget* FunctionsPlace::beside()
{
    auto* scroll = new UprightScroll(this);
    scroll->setFixedWidth(kBesideWidth + kScrollBar);
    m_beside = new TallColumn(scroll);
    scroll->setWidget(m_beside);
    auto* column = new QVBoxLayout(m_beside);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    m_map = new FigureView(m_theme, m_beside);
    m_map->setObjectName("functions.map");
    m_map->setAccessibleName(tr("The machine as this function sees it"));
    m_map->setToolTip(tr("Enter or a double click puts it into the function or takes it out."));
    column->addWidget(m_map);
    m_consequences = plainLabel({}, m_theme.small(), m_beside);
    m_consequences->setObjectName("demand.consequences");
    column->addWidget(m_consequences);
    column->addStretch(1);
    m_caution = plainLabel({}, m_theme.small(), m_beside);
    m_caution->setObjectName("functions.caution");
    column->addWidget(m_caution);
    m_sentence = plainLabel({}, m_theme.small(), m_beside);
    m_sentence->setObjectName("functions.sentence");
    column->addWidget(m_sentence);
    m_state = plainLabel({}, m_theme.small(), m_beside);
    m_state->setObjectName("functions.state");
    column->addWidget(m_state);
    connect(m_map, &FigureView::opened, this, &FunctionsPlace::turnOver);
    return scroll;
}

/// What the map shows is put into the function, or taken out of it.
void FunctionsPlace::turnOver(int spot)
{
    const SafetyFunction* f = m_document.dossier().function(m_function);
    if (!f)
        return;
    const auto devices = wording::mapDevices(m_document.dossier(), *f);
    if (spot < 0 || spot >= static_cast<int>(devices.size()))
        return;
    const DeviceId id = devices[static_cast<std::size_t>(spot)];
    const Device* device = m_document.dossier().circuit.device(id);
    const auto plant = compile(m_document.dossier().circuit);
    if (!device || !plant)
        return;
    const auto triggers = possibleTriggers(*plant);
    changeFunction(m_document, m_function, tr("What belongs to a function"), [&](SafetyFunction& x) {
        if (isActuator(*device)) {
            if (std::erase(x.mustRest, id) == 0)
                x.mustRest.push_back(id);
            std::sort(x.mustRest.begin(), x.mustRest.end());
        } else if (id != x.trigger.device
            && std::erase_if(x.alsoBy, [id](const Trigger& t) { return t.device == id; }) == 0) {
            const auto trigger = std::find_if(
                triggers.begin(), triggers.end(), [id](const Trigger& t) { return t.device == id; });
            if (trigger != triggers.end())
                x.alsoBy.push_back(*trigger);
        }
    });
}

void FunctionsPlace::show(FunctionId function)
{
    if (m_isStale)
        takeDocument();
    if (function == m_function || !m_document.dossier().function(function))
        return;
    m_function = function;
    m_selection.chooseFunction(function);
    for (int k = 0; k < m_list->count(); ++k)
        if (m_list->item(k)->data(Qt::UserRole).toInt() == function.value)
            m_list->setCurrentRow(k);
    takeFunction();
}

void FunctionsPlace::showEvent(QShowEvent* e)
{
    QWidget::showEvent(e);
    if (m_isStale)
        takeDocument();
}

void FunctionsPlace::takeDocument()
{
    m_isStale = !isVisible(); // forms are filled where somebody sees them: a slider elsewhere must not pay for them
    if (m_isStale && m_list->count() > 0)
        return;
    const auto& functions = m_document.dossier().functions;
    m_function = m_selection.functionIn(m_document.dossier());
    // Items are kept where they are, so that the keyboard stays in the list.
    while (m_list->count() > static_cast<int>(functions.size()))
        delete m_list->takeItem(m_list->count() - 1);
    for (std::size_t k = 0; k < functions.size(); ++k) {
        const SafetyFunction& f = functions[k];
        if (m_list->count() <= static_cast<int>(k))
            new QListWidgetItem(m_list);
        QListWidgetItem* item = m_list->item(static_cast<int>(k));
        const QString need = !f.reliedOnByPerson ? tr("protects equipment")
            : !f.requiredLevel
            ? tr("level not decided")
            : tr("needs PL %1").arg(QString::fromStdString(std::string(safety::nameOf(*f.requiredLevel))));
        item->setText(QString::fromStdString(f.name) + "\n" + need + tr(", stop category %1").arg(f.stopCategory));
        item->setData(Qt::UserRole, f.id.value);
        if (f.id == m_function)
            m_list->setCurrentRow(static_cast<int>(k));
    }
    m_suggest->setEnabled(!m_document.dossier().scenarios.empty());
    m_new->setEnabled(!m_document.dossier().circuit.devices.empty());
    m_remove->setEnabled(!functions.empty());
    takeFunction();
}

void FunctionsPlace::takeFunction()
{
    const SafetyFunction* f = m_document.dossier().function(m_function);
    m_forms->setVisible(f != nullptr);
    m_scroll->setVisible(f != nullptr);
    m_missing->setVisible(f == nullptr);
    m_map->setVisible(f != nullptr);
    m_sentence->setVisible(f != nullptr);
    m_consequences->setVisible(f != nullptr);
    m_caution->setVisible(f != nullptr);
    if (!f) {
        m_state->setText(tr(
            "No function yet. Those that the scenarios show can be suggested; level and claim are yours to decide."));
        takeMissing();
        return;
    }
    m_state->clear();
    m_sentence->setText(tr("In the report: %1").arg(words::functionSentence(*f, m_document.dossier().circuit)));
    const auto content = wording::mapContent(m_document.dossier(), *f);
    m_map->setFixedHeight(static_cast<int>(figures::machineMap(content, wording::mapWords(), kBesideWidth, 0).height));
    m_map->show([content](double width, double height, int chosen) {
        return figures::machineMap(content, wording::mapWords(), width, height, chosen);
    });
    m_demand->show(*f);
    m_risk->show(*f);
    m_timing->show(*f);
    takeResults();
}

void FunctionsPlace::takeMissing()
{
    if (m_document.dossier().circuit.devices.empty())
        return m_missing->setText(tr("Where there is a machine, here stands what must come to rest, and by what."));
    QStringList lines{tr("Nothing can be judged before somebody says what stops what. Still nobody's:")};
    if (const auto checked = m_book.newest(kChecks))
        for (const Finding& f : checked.value->findings)
            if (f.id == "motors" || f.id == "protective_devices")
                lines << QStringLiteral("\u2022 ") + words::sentence(f.what);
    m_missing->setText(lines.join(QStringLiteral("\n")));
}

void FunctionsPlace::takeResults()
{
    emit stateChanged();
    if (!isVisible())
        return;
    const SafetyFunction* f = m_document.dossier().function(m_function);
    if (!f)
        return takeMissing();
    const auto levels = m_book.newest(kLevels);
    const FunctionResult* found = nullptr;
    if (levels)
        for (const FunctionResult& r : levels.value->functions)
            if (r.function == m_function)
                found = &r;
    m_consequences->setText(words::categoryConsequences(*f, m_document.dossier(), found).join('\n'));
    const auto path = m_book.fresh(kPath, about(m_function));
    m_caution->setText(words::stopCautions(m_document.dossier(), path.get(), found));
    const auto single = m_book.newest(kSingleFaults, about(m_function));
    const auto second = m_book.fresh(kSecondFaults, about(m_function));
    m_timing->setBudget(*f,
        found ? responseOf(
            m_document.dossier().circuit, *f, worstStops(*found), widerOf(single.value.get(), second.get()))
              : std::nullopt);
}

Mark FunctionsPlace::mark() const
{
    const auto& functions = m_document.dossier().functions;
    if (const auto found = markOfFindings(m_book, {Target::Aspect::Demand}))
        return *found;
    const bool isOpen = std::any_of(functions.begin(), functions.end(),
        [](const SafetyFunction& f) { return f.reliedOnByPerson && (!f.requiredLevel || !f.risk); });
    return isOpen ? Mark::Open : markWithoutFindings(m_book, m_document.dossier(), {kLevels.id, kWorstStop.id});
}

bool FunctionsPlace::canShow(const Target& target) const
{
    return target.aspect == Target::Aspect::Demand;
}

void FunctionsPlace::showTarget(const Target& target)
{
    if (target.function)
        show(target.function);
}

void FunctionsPlace::suggest()
{
    m_suggesting.run(
        [snapshot = m_document.snapshot()](std::stop_token stop)
            -> std::optional<Expected<std::vector<SafetyFunction>>> { return suggestedFunctions(*snapshot, stop); },
        [this](std::shared_ptr<const Expected<std::vector<SafetyFunction>>> found) {
            if (!*found)
                return m_state->setText(words::sentence(found->error()));
            std::vector<SafetyFunction> functions;
            for (SafetyFunction f : **found) {
                const auto& known = m_document.dossier().functions;
                if (std::any_of(
                        known.begin(), known.end(), [&f](const SafetyFunction& k) { return k.trigger == f.trigger; }))
                    continue;
                f.name = words::suggestedName(f, m_document.dossier().circuit).toStdString();
                functions.push_back(std::move(f));
            }
            if (functions.empty())
                return m_state->setText(tr("The scenarios show no further function: nothing else that stays operated "
                                           "takes the power from a motor."));
            m_document.editFile(tr("Suggest safety functions"),
                [&functions](const DossierFile& file) { return edit::withFunctions(file, functions); });
        });
}

/// Begins with what the circuit has: the first trigger, all motors.
void FunctionsPlace::addNew()
{
    const Dossier& d = m_document.dossier();
    const auto plant = compile(d.circuit);
    SafetyFunction f;
    f.name = tr("New function").toStdString();
    if (plant) {
        const auto triggers = possibleTriggers(*plant);
        if (!triggers.empty())
            f.trigger = triggers.front();
        for (const PlantMotor& m : plant->motors)
            f.mustRest.push_back(plant->devices[static_cast<std::size_t>(m.device)].id);
    }
    if (!d.scenarios.empty())
        f.demandScenario = d.scenarios.front().id;
    if (m_document.editFile(
            tr("Another safety function"), [&f](const DossierFile& file) { return edit::withFunctions(file, {f}); }))
        show(m_document.dossier().functions.back().id);
}

void FunctionsPlace::remove()
{
    m_document.edit(
        tr("Take a safety function out"), [this](const Dossier& d) { return edit::withoutFunction(d, m_function); });
}

} // namespace ts::app
