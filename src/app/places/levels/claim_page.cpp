#include "app/places/levels/claim_page.h"

#include "app/places/levels/claim_counting.h"
#include "app/places/levels/claim_parts.h"
#include "app/places/levels/common_cause.h"
#include "app/places/levels/evidence.h"
#include "app/places/levels/reliability_form.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/tall_column.h"
#include "app/words/words.h"
#include "core/analysis/fault_analysis.h"
#include "core/edit/function_edits.h"
#include "core/suggestions/claim_suggestion.h"
#include "wording/path_words.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

constexpr int kStrandHeight = 230;
constexpr const char* kCategories[] = {"B", "1", "2", "3", "4"};

} // namespace

ClaimPage::ClaimPage(Document& document, StudyBook& book, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_book(book)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(chainRow());
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    m_inside = new TallColumn(scroll);
    m_column = new QVBoxLayout(m_inside);
    m_column->setContentsMargins(0, 0, 12, 0);
    m_column->setSpacing(6);
    scroll->setWidget(m_inside);
    column->addWidget(scroll, 1);
    connect(m_subsystems, &QComboBox::activated, this, [this](int k) {
        m_subsystem = static_cast<std::size_t>(k);
        show(m_function, m_level);
    });
}

/// Which subsystem, and what makes the chain: from the wiring, one more, one less, another name.
QWidget* ClaimPage::chainRow()
{
    auto* box = new QWidget(this);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    m_which = new WordFlow(m_theme.body(), box);
    m_which->say(tr("Of the chain,"));
    m_subsystems = new ChoiceWord(m_theme, QStringLiteral("claim.subsystems"), tr("Subsystem"), m_which);
    m_which->put(m_subsystems);
    m_which->say(tr("is looked at; it is called"));
    m_name = new TextWord(m_theme, QStringLiteral("claim.name"), tr("Name of the subsystem"), m_which);
    m_which->put(m_name);
    m_which->say(tr("."));
    row->addWidget(m_which, 1);
    m_more = new QPushButton(tr("Another subsystem"), box);
    m_more->setObjectName("claim.more");
    m_more->setMenu(new QMenu(m_more));
    row->addWidget(m_more);
    m_less = new QPushButton(tr("Take it out"), box);
    m_less->setObjectName("claim.less");
    row->addWidget(m_less);
    auto* wired = new QPushButton(tr("Read the chain from the wiring"), box);
    wired->setObjectName("claim.from_wiring");
    wired->setToolTip(tr("Puts what senses, decides and switches in the place of the chain that is there. Nothing is "
                         "claimed for it yet; it can be undone."));
    row->addWidget(wired);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        const std::string name = m_name->text().trimmed().toStdString();
        if (!name.empty())
            changeSubsystem(tr("Name of a subsystem"), [&name](ClaimedSubsystem& s) { s.name = name; });
    });
    connect(m_more->menu(), &QMenu::aboutToShow, this, &ClaimPage::fillMore);
    connect(m_less, &QPushButton::clicked, this, [this] {
        change(tr("Take a subsystem out"), [this](SafetyFunction& f) {
            if (m_subsystem < f.claim.size())
                f.claim.erase(f.claim.begin() + static_cast<std::ptrdiff_t>(m_subsystem));
        });
    });
    connect(wired, &QPushButton::clicked, this, &ClaimPage::readFromWiring);
    return box;
}

void ClaimPage::fillMore()
{
    QMenu* menu = m_more->menu();
    menu->clear();
    const auto append = [this](ClaimedSubsystem s) {
        change(tr("Another subsystem"), [this, &s](SafetyFunction& f) {
            m_subsystem = f.claim.size();
            f.claim.push_back(std::move(s));
        });
    };
    connect(menu->addAction(tr("of channels and parts")), &QAction::triggered, this, [append] {
        ClaimedSubsystem s;
        s.name = tr("subsystem").toStdString();
        s.category = safety::Category::B;
        append(s);
    });
    const auto plant = compile(m_document.dossier().circuit);
    for (DeviceId id : plant ? encapsulatedDevices(m_document.dossier().circuit, *plant) : std::vector<DeviceId>{}) {
        const Device* d = m_document.dossier().circuit.device(id);
        const QString name = QString::fromStdString(d->tag + (d->label.empty() ? "" : " " + d->label));
        connect(menu->addAction(tr("%1, with its manufacturer's PFHd").arg(name)), &QAction::triggered, this,
            [append, id, name] {
                ClaimedSubsystem s;
                s.name = name.toStdString();
                s.encapsulated = id;
                append(s);
            });
    }
}

void ClaimPage::readFromWiring()
{
    const SafetyFunction* now = m_document.dossier().function(m_function);
    if (!now)
        return;
    SafetyFunction changed = *now;
    m_document.edit(tr("Read the chain from the wiring"), [&changed](const Dossier& d) -> Expected<Dossier> {
        auto claim = suggestedClaim(d, changed);
        if (!claim)
            return Unexpected{claim.error()};
        changed.claim = std::move(*claim);
        return edit::withFunctionChanged(d, changed);
    });
}

void ClaimPage::show(FunctionId id, const safety::FunctionLevel& level)
{
    if (id != m_function)
        m_subsystem = 0;
    m_function = id;
    m_level = level;
    const SafetyFunction* f = m_document.dossier().function(id);
    setEnabled(f != nullptr);
    if (!f)
        return;
    m_subsystem = std::min(m_subsystem, f->claim.empty() ? 0 : f->claim.size() - 1);
    m_subsystems->clear();
    for (const ClaimedSubsystem& s : f->claim)
        m_subsystems->addItem(QString::fromStdString(s.name));
    m_subsystems->setCurrentIndex(static_cast<int>(m_subsystem));
    m_which->setVisible(!f->claim.empty());
    m_less->setVisible(!f->claim.empty());
    if (!f->claim.empty())
        putWords(m_name, f->claim[m_subsystem].name);
    std::string shape = std::to_string(id.value) + "/" + std::to_string(m_subsystem);
    if (!f->claim.empty())
        shape += f->claim[m_subsystem].encapsulated ? "/encapsulated" : "/designed";
    if (shape != m_shape) {
        m_shape = shape;
        rebuild(*f);
    }
    for (const Refresh& refresh : m_refresh)
        refresh(*f);
}

void ClaimPage::change(const QString& label, const std::function<void(SafetyFunction&)>& what)
{
    const SafetyFunction* now = m_document.dossier().function(m_function);
    if (!now)
        return;
    SafetyFunction changed = *now;
    what(changed);
    if (changed != *now)
        m_document.edit(label, [&changed](const Dossier& d) { return edit::withFunctionChanged(d, changed); });
}

void ClaimPage::changeSubsystem(const QString& label, const std::function<void(ClaimedSubsystem&)>& what)
{
    change(label, [&](SafetyFunction& f) {
        if (m_subsystem < f.claim.size())
            what(f.claim[m_subsystem]);
    });
}

/// A part of the page under its own heading; none: it needs no heading.
QWidget* ClaimPage::section(QVBoxLayout* into, const QString& title)
{
    if (!title.isEmpty()) {
        into->addSpacing(6);
        into->addWidget(plainLabel(title, m_theme.bold(), m_inside));
    }
    auto* inside = new QWidget(m_inside);
    into->addWidget(inside);
    return inside;
}

void ClaimPage::rebuild(const SafetyFunction& f)
{
    m_refresh.clear();
    while (QLayoutItem* item = m_column->takeAt(0)) {
        if (QWidget* old = item->widget()) {
            for (QObject* child : old->findChildren<QObject*>())
                child->disconnect(this); // a line that loses the keyboard by this has nothing more to say
            delete old;
        }
        delete item;
    }
    auto* halves = new TallColumn(m_inside);
    auto* row = new QHBoxLayout(halves);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(24);
    auto *left = new QVBoxLayout, *right = new QVBoxLayout;
    for (QVBoxLayout* half : {left, right})
        half->setSpacing(6);
    row->addLayout(left, 1);
    row->addLayout(right, 1);
    m_column->addWidget(halves);
    if (!f.claim.empty())
        addStrand(right);
    if (!f.claim.empty() && !f.claim[m_subsystem].encapsulated) {
        addSubsystem(left);
        addParts(left);
        addAnswers(right);
    } else if (!f.claim.empty()) {
        auto* form = new ReliabilityForm(
            m_document, m_theme, section(left, tr("What its manufacturer gives for the whole device")));
        (new QVBoxLayout(form->parentWidget()))->addWidget(form);
        m_refresh.push_back(
            [this, form](const SafetyFunction& now) { form->show(now.claim[m_subsystem].encapsulated); });
    }
    left->addStretch(1);
    right->addStretch(1);
    addConditions(f);
    addCounting();
    addReadings();
    m_column->addStretch(1);
}

/// What is met in one sentence; what is not, each by itself.
QString ClaimPage::conditionsText(const safety::SubsystemLevel& level) const
{
    QStringList met, missing;
    for (const safety::Condition& c : level.conditions) {
        const QString what = tr("%1 (%2)").arg(words::sentence(c.wanted), words::sentence(c.found)).toHtmlEscaped();
        if (c.met == safety::Met::Yes)
            met << what;
        else
            missing << tr("<b>%1: %2</b>")
                           .arg(words::word("met." + std::string(safety::nameOf(c.met))).toHtmlEscaped(), what);
    }
    QString html = missing.join(QStringLiteral("<br>"));
    if (!met.isEmpty())
        html += (html.isEmpty() ? QString() : QStringLiteral("<br>"))
            + tr("As claimed, met: %1.").arg(met.join(QStringLiteral("; ")));
    for (const Message& m : level.unmet)
        html += "<br><b>" + words::sentence(m).toHtmlEscaped() + "</b>";
    if (level.best)
        html += "<br>"
            + words::sentence(message("level.best_category", {level.name, std::string(safety::nameOf(*level.best))}))
                  .toHtmlEscaped();
    return html;
}

/// The subsystem as a strand of the function's path: who it hangs on, what it acts on, who looks at it.
void ClaimPage::addStrand(QVBoxLayout* into)
{
    auto* drawing = new FigureView(m_theme, section(into, {}));
    drawing->setObjectName("claim.strand");
    drawing->setAccessibleName(tr("The subsystem in the wiring"));
    drawing->setMinimumHeight(kStrandHeight);
    (new QVBoxLayout(drawing->parentWidget()))->addWidget(drawing);
    drawing->parentWidget()->layout()->setContentsMargins(0, 0, 0, 0);
    m_strand = drawing;
    connect(drawing, &QObject::destroyed, this, [this] { m_strand = nullptr; });
    connect(drawing, &FigureView::opened, this, [this](int k) {
        const SafetyFunction* f = m_document.dossier().function(m_function);
        if (!f || !m_path || k < 0 || k >= static_cast<int>(m_strandKnots.size()))
            return;
        for (const KnotUse& use :
            m_path->knots[static_cast<std::size_t>(m_strandKnots[static_cast<std::size_t>(k)])].uses)
            if (use.subsystem != m_subsystem) { // the neighbour's subsystem
                m_subsystem = use.subsystem;
                return show(m_function, m_level);
            }
    });
    m_refresh.push_back([this](const SafetyFunction& f) { showStrand(f); });
}

void ClaimPage::showStrand(const SafetyFunction& f)
{
    m_path = m_book.fresh(kPath, about(f.id));
    if (!m_path && isVisible() && !m_book.isBusy(kPath.id, about(f.id)) && !m_book.trouble(kPath.id, about(f.id)))
        m_book.ask(kPath.id, about(f.id));
    wording::Strand strand;
    figures::PathWords words = wording::pathWords();
    if (m_path) {
        const auto built = m_book.fresh(kBuilt, about(f.id));
        strand = wording::strandOf(
            wording::pathContent(m_document.dossier(), f, m_level, *m_path, built.get(), nullptr), *m_path,
            m_subsystem);
    } else if (const Error* trouble = m_book.trouble(kPath.id, about(f.id)))
        words.none = words::sentence(*trouble).toStdString();
    m_strandKnots = strand.knots;
    m_strand->show([content = strand.content, words](double width, double height, int chosen) {
        return figures::functionPath(content, words, width, height, chosen);
    });
}

/// Lights up what somebody is about to answer for.
void ClaimPage::lookAt(DeviceId device)
{
    if (!m_path || !m_strand)
        return;
    for (std::size_t k = 0; k < m_strandKnots.size(); ++k)
        if (m_path->knots[static_cast<std::size_t>(m_strandKnots[k])].device == device)
            return m_strand->choose(static_cast<int>(k));
}

void ClaimPage::addSubsystem(QVBoxLayout* into)
{
    auto* inside = section(into, {});
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 0, 0);
    auto* flow = new WordFlow(m_theme.body(), inside);
    flow->say(tr("Claimed is category"));
    auto* category = new ChoiceWord(m_theme, QStringLiteral("claim.category"), tr("Claimed category"), flow);
    category->setPlaceholderText(tr("which?"));
    for (const char* c : kCategories)
        category->addItem(QString::fromLatin1(c));
    flow->put(category);
    flow->say(tr("."));
    auto* tried = new ToggleWord(
        m_theme, QStringLiteral("claim.well_tried"), tr("Well-tried parts and principles are confirmed."), flow);
    flow->put(tried);
    auto* estimated = new ToggleWord(m_theme, QStringLiteral("claim.estimated"),
        tr("A brake, valve or the like without data: PFHd by the category."), flow);
    flow->put(estimated);
    auto* conditions = new QLabel(inside);
    conditions->setObjectName("claim.conditions");
    conditions->setTextFormat(Qt::RichText);
    conditions->setWordWrap(true);
    conditions->setFont(m_theme.small());
    column->addWidget(flow);
    column->addWidget(conditions);
    connect(category, &QComboBox::activated, this, [this, category] {
        changeSubsystem(tr("Claim a category"), [category](ClaimedSubsystem& s) {
            s.category = safety::categoryNamed(category->currentText().toStdString());
        });
    });
    connect(tried, &QAbstractButton::clicked, this,
        [this](bool is) { changeSubsystem(tr("Well-tried parts"), [is](ClaimedSubsystem& s) { s.wellTried = is; }); });
    connect(estimated, &QAbstractButton::clicked, this, [this](bool is) {
        changeSubsystem(tr("Estimate by the category"), [is](ClaimedSubsystem& s) { s.estimatedOutput = is; });
    });
    m_refresh.push_back([this, category, tried, estimated, conditions](const SafetyFunction& f) {
        category->setCurrentText(QString::fromStdString(std::string(safety::wordOf(f.claim[m_subsystem].category))));
        tried->setChecked(f.claim[m_subsystem].wellTried);
        estimated->setChecked(f.claim[m_subsystem].estimatedOutput);
        if (m_subsystem < m_level.subsystems.size())
            conditions->setText(conditionsText(m_level.subsystems[m_subsystem]));
    });
}

QString ClaimPage::builtText(const SafetyFunction& f, DeviceId device) const
{
    const auto found = m_book.fresh(kBuilt, about(f.id));
    if (!found || !found->sweep.hasPairs || m_subsystem >= found->built.subsystems.size())
        return found ? tr("second faults not tried") : tr("not tried with faults");
    for (const auto& channel : found->built.subsystems[m_subsystem].channels)
        for (const faults::PartCoverage& p : channel)
            if (p.device == device)
                return !p.built           ? tr("tried: no fault of it counts")
                    : p.uncovered.empty() ? tr("tried: noticed, %1").arg(words::number(*p.built, "%"))
                                          : tr("tried: nothing notices %1")
                                                .arg(words::sweptFaultLabel(
                                                    found->sweep.faults[static_cast<std::size_t>(p.uncovered.front())],
                                                    m_document.dossier().circuit));
    return {};
}

/// What the wiring shows by itself, and what came of it when faults were tried.
QString ClaimPage::wiredText(const SafetyFunction& f, DeviceId device) const
{
    const std::string watched = wording::watchWords(m_document.dossier(), m_path.get(), device);
    const QString built = builtText(f, device);
    if (watched.empty())
        return built;
    return tr("In the wiring %1; %2").arg(QString::fromStdString(watched), built);
}

void ClaimPage::addParts(QVBoxLayout* into)
{
    auto* inside = section(into, {});
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 0, 0);
    auto* parts = new ClaimParts(
        m_theme,
        [this](
            const QString& label, const std::function<void(ClaimedSubsystem&)>& what) { changeSubsystem(label, what); },
        inside);
    column->addWidget(parts);
    connect(parts, &ClaimParts::dataWanted, this, &ClaimPage::askReliability);
    connect(parts, &ClaimParts::lookedAt, this, &ClaimPage::lookAt);
    m_refresh.push_back([this, parts](const SafetyFunction& f) {
        parts->show(
            m_document.dossier(), f.claim[m_subsystem], [this, f](DeviceId device) { return wiredText(f, device); });
    });
}

void ClaimPage::askReliability(DeviceId device)
{
    const Device* d = m_document.dossier().circuit.device(device);
    if (!d)
        return;
    auto* dialog = new QDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setObjectName("reliability.dialog");
    dialog->setWindowTitle(tr("Reliability of %1").arg(QString::fromStdString(d->tag)));
    auto* form = new ReliabilityForm(m_document, m_theme, dialog);
    (new QVBoxLayout(dialog))->addWidget(form);
    form->show(device);
    connect(form, &ReliabilityForm::taken, dialog, &QDialog::accept);
    dialog->open();
}

void ClaimPage::addAnswers(QVBoxLayout* into)
{
    auto* inside = section(
        into, tr("What do the two channels share? (65 points are needed for categories 2, 3 and 4)"));
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 0, 0);
    auto* answers = new CommonCause(
        m_theme,
        [this](
            const QString& label, const std::function<void(ClaimedSubsystem&)>& what) { changeSubsystem(label, what); },
        inside);
    column->addWidget(answers);
    connect(answers, &CommonCause::everywhereWanted, this, &ClaimPage::answerEverywhere);
    m_refresh.push_back([this, answers](const SafetyFunction& f) {
        answers->show(m_document.dossier().circuit, f.claim[m_subsystem]);
    });
}

/// What keeps common causes away is mostly the same for the whole panel.
void ClaimPage::answerEverywhere()
{
    change(tr("Answer against common cause everywhere"), [this](SafetyFunction& f) {
        if (m_subsystem >= f.claim.size())
            return;
        const ClaimedSubsystem here = f.claim[m_subsystem];
        for (ClaimedSubsystem& s : f.claim)
            if (!s.encapsulated) {
                s.ccfAnswers = here.ccfAnswers;
                s.ccfEvidence = here.ccfEvidence;
            }
    });
}

void ClaimPage::addConditions(const SafetyFunction& function)
{
    auto* inside = section(
        m_column, tr("What no arithmetic can show (until all are answered the PFHd is only in the range of a PL)"));
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    struct Answer {
        const char* id;
        bool Conditions::*into;
    };
    std::vector<Answer> answers{{"basic_principles", &Conditions::basicPrinciples},
        {"well_tried_principles", &Conditions::wellTriedPrinciples},
        {"systematic_failures", &Conditions::systematicFailures}, {"environment", &Conditions::environment}};
    if (safety::hasApplicationSoftware(m_document.dossier().circuit, function))
        answers.push_back({"software", &Conditions::software});
    for (const Answer& a : answers) {
        auto* flow = new WordFlow(m_theme.body(), inside);
        auto* box = new ToggleWord(m_theme, QStringLiteral("claim.condition.%1").arg(QLatin1String(a.id)),
            words::word("condition." + std::string(a.id)), flow);
        flow->put(box);
        flow->say(tr(", seen in"));
        auto* evidence = new TextWord(m_theme, QStringLiteral("claim.condition_evidence.%1").arg(QLatin1String(a.id)),
            tr("Where it can be seen: %1").arg(box->text()), flow);
        evidence->setPlaceholderText(tr("where?"));
        flow->put(evidence);
        flow->say(tr("."));
        column->addWidget(flow);
        connect(box, &QAbstractButton::clicked, this, [this, into = a.into](bool is) {
            change(tr("Answer a condition"), [&](SafetyFunction& f) { f.conditions.*into = is; });
        });
        connect(evidence, &QLineEdit::editingFinished, this, [this, evidence, id = std::string(a.id)] {
            change(tr("Evidence"), [&](SafetyFunction& f) {
                setEvidence(f.conditions.evidence, id, evidence->text().trimmed().toStdString());
            });
        });
        m_refresh.push_back([box, evidence, a](const SafetyFunction& f) {
            box->setChecked(f.conditions.*a.into);
            putWords(evidence, evidenceOf(f.conditions.evidence, a.id));
        });
    }
    if (answers.size() < 5)
        return;
    for (const auto& [name, label, into] :
        {std::tuple{"claim.software_version", tr("version of the application software"), &Conditions::softwareVersion},
            {"claim.software_checksum", tr("its checksum"), &Conditions::softwareChecksum}}) {
        auto* flow = new WordFlow(m_theme.body(), inside);
        flow->say(label + ':');
        auto* edit = new TextWord(m_theme, QString::fromLatin1(name), label, flow);
        edit->setPlaceholderText(tr("which?"));
        flow->put(edit);
        column->addWidget(flow);
        const auto member = into;
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, member] {
            change(tr("Application software"),
                [&](SafetyFunction& f) { f.conditions.*member = edit->text().trimmed().toStdString(); });
        });
        m_refresh.push_back([edit, member](const SafetyFunction& f) { putWords(edit, f.conditions.*member); });
    }
}

void ClaimPage::addCounting()
{
    auto* inside = section(m_column, tr("How often things work, counted from the scenarios (for the whole dossier)"));
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, 0, 0);
    auto* counting = new ClaimCounting(m_document, m_book, m_theme, inside);
    column->addWidget(counting);
    m_refresh.push_back([this, counting](const SafetyFunction& f) { counting->show(f, m_level); });
}

void ClaimPage::addReadings()
{
    auto* inside = section(m_column, tr("How the standard is read (for the whole dossier)"));
    auto* form = new QFormLayout(inside);
    form->setFieldGrowthPolicy(QFormLayout::FieldsStayAtSizeHint);
    form->setContentsMargins(0, 0, 0, 0);
    struct Words {
        const char* name;
        QString label, first, second;
    };
    const std::array<Words, kReadings.size()> all{
        Words{"claim.edition", tr("Edition of ISO 13849-1"), QStringLiteral("2015"), tr("2023: not reckoned with")},
        Words{"claim.method", tr("PFHd from the table"), tr("at the next lower row"), tr("between two rows")},
        Words{"claim.different", tr("Class of two different channels"), tr("of the joined value"),
            tr("of the lower channel")},
        Words{"claim.test_half", tr("Test equipment has half of"), tr("the capped channel's MTTFd"),
            tr("the channel's MTTFd without cap")},
        Words{"claim.untested", tr("Untested parts in DCavg"), tr("count with DC 0"), tr("are left out")},
        Words{"claim.category_b", tr("Category B above 30 years"), tr("reads the column of category 1"),
            tr("stays at its last row")}};
    for (std::size_t k = 0; k < all.size(); ++k) {
        const ReadingField& field = kReadings[k];
        auto* box = new QComboBox(inside);
        box->setObjectName(QString::fromLatin1(all[k].name));
        box->setAccessibleName(all[k].label);
        box->addItems({all[k].first, all[k].second});
        form->addRow(all[k].label, box);
        connect(box, &QComboBox::activated, this, [this, &field](int way) {
            if (field.get(m_document.dossier().arithmetic) != way)
                m_document.edit(tr("Another reading"), [&](const Dossier& d) -> Expected<Dossier> {
                    Dossier changed = d;
                    field.set(changed.arithmetic, way);
                    return changed;
                });
        });
        m_refresh.push_back([this, form, box, &field](const SafetyFunction&) {
            box->setCurrentIndex(field.get(m_document.dossier().arithmetic));
            if (field.get == kEdition.get) // no choice: only the way back for a file that asks for another
                form->setRowVisible(box, box->currentIndex() != 0);
        });
    }
    auto* tolerance = new QCheckBox(tr("classes may be missed by 5 %"), inside);
    tolerance->setObjectName("claim.tolerance");
    form->addRow(tr("Limits of classes"), tolerance);
    connect(tolerance, &QCheckBox::clicked, this, [this](bool is) {
        m_document.edit(tr("Another reading"), [is](const Dossier& d) -> Expected<Dossier> {
            Dossier changed = d;
            changed.arithmetic.toleranceOnLimits = is;
            return changed;
        });
    });
    m_refresh.push_back([this, tolerance](const SafetyFunction&) {
        tolerance->setChecked(m_document.dossier().arithmetic.toleranceOnLimits);
    });
}

} // namespace ts::app
