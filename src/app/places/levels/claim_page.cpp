#include "app/places/levels/claim_page.h"

#include "app/widgets/plain_text.h"
#include "app/widgets/tall_column.h"
#include "core/edit/claim_edits.h"
#include "core/edit/function_edits.h"
#include "core/library/table.h"
#include "wording/wording.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QLineEdit>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

constexpr const char* kCategories[] = {"B", "1", "2", "3", "4"};

/// What the widget shows is put there only if it differs, so that showing is no edit.
void put(QLineEdit* line, const std::string& text)
{
    if (!line->hasFocus() && line->text().toStdString() != text)
        line->setText(QString::fromStdString(text));
}

std::string evidenceOf(const std::map<std::string, std::string>& all, const std::string& about)
{
    const auto found = all.find(about);
    return found == all.end() ? std::string() : found->second;
}

void setEvidence(std::map<std::string, std::string>& all, const std::string& about, const std::string& seen)
{
    if (seen.empty())
        all.erase(about);
    else
        all[about] = seen;
}

} // namespace

ClaimPage::ClaimPage(Document& document, const SweepBook& sweeps, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_sweeps(sweeps)
    , m_theme(theme)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    m_subsystems = new QComboBox(this);
    m_subsystems->setObjectName("claim.subsystems");
    m_subsystems->setAccessibleName(tr("Subsystem"));
    m_subsystems->setMinimumWidth(280);
    column->addWidget(m_subsystems, 0, Qt::AlignLeft);
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
    m_subsystems->setVisible(!f->claim.empty());
    std::string shape = std::to_string(id.value) + "/" + std::to_string(m_subsystem);
    if (!f->claim.empty())
        for (const ClaimedChannel& c : f->claim[m_subsystem].channels)
            for (const ClaimedPart& p : c.parts)
                shape += "/" + std::to_string(p.device.value) + p.role;
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

QWidget* ClaimPage::section(const QString& title)
{
    m_column->addSpacing(6);
    m_column->addWidget(plainLabel(title, m_theme.bold(), m_inside));
    auto* inside = new QWidget(m_inside);
    m_column->addWidget(inside);
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
    if (!f.claim.empty() && !f.claim[m_subsystem].encapsulated) {
        addSubsystem(f);
        addParts(f);
        addAnswers();
    } else if (!f.claim.empty()) {
        m_column->addWidget(plainLabel(tr("This subsystem brings PFHd, PL and category from its maker; they are changed with its part."), m_theme.body(), m_inside));
    }
    addConditions(f);
    addReadings();
    m_column->addStretch(1);
}

QString ClaimPage::conditionsText(const safety::SubsystemLevel& level) const
{
    QString html = QStringLiteral("<table cellspacing='0' cellpadding='2'>");
    for (const safety::Condition& c : level.conditions) {
        const bool isMet = c.met == safety::Met::Yes;
        html += "<tr><td>" + wording::sentence(c.wanted).toHtmlEscaped() + "</td><td>&nbsp;&nbsp;" + wording::sentence(c.found).toHtmlEscaped() + "</td><td>&nbsp;&nbsp;" + (isMet ? "" : "<b>")
            + wording::word("met." + std::string(safety::nameOf(c.met))).toHtmlEscaped() + (isMet ? "" : "</b>") + "</td></tr>";
    }
    html += "</table>";
    for (const Message& m : level.unmet)
        html += "<p>" + wording::sentence(m).toHtmlEscaped() + "</p>";
    if (level.best)
        html += "<p>" + wording::sentence(message("level.best_category", {level.name, std::string(safety::nameOf(*level.best))})).toHtmlEscaped() + "</p>";
    return html;
}

void ClaimPage::addSubsystem(const SafetyFunction&)
{
    auto* inside = section(tr("Category and its conditions"));
    auto* form = new QFormLayout(inside);
    form->setContentsMargins(0, 0, 0, 0);
    auto* category = new QComboBox(inside);
    category->setObjectName("claim.category");
    category->setAccessibleName(tr("Claimed category"));
    category->setMaximumWidth(80);
    for (const char* c : kCategories)
        category->addItem(QString::fromLatin1(c));
    auto* tried = new QCheckBox(tr("well-tried parts and principles are confirmed (category 1)"), inside);
    tried->setObjectName("claim.well_tried");
    auto* conditions = new QLabel(inside);
    conditions->setObjectName("claim.conditions");
    conditions->setTextFormat(Qt::RichText);
    conditions->setWordWrap(true);
    form->addRow(tr("Category"), category);
    form->addRow({}, tried);
    form->addRow(conditions);
    connect(category, &QComboBox::activated, this, [this, category] { changeSubsystem(tr("Claim a category"), [category](ClaimedSubsystem& s) { s.category = category->currentText().toStdString(); }); });
    connect(tried, &QCheckBox::clicked, this, [this](bool is) { changeSubsystem(tr("Well-tried parts"), [is](ClaimedSubsystem& s) { s.wellTried = is; }); });
    m_refresh.push_back([this, category, tried, conditions](const SafetyFunction& f) {
        category->setCurrentText(QString::fromStdString(f.claim[m_subsystem].category));
        tried->setChecked(f.claim[m_subsystem].wellTried);
        if (m_subsystem < m_level.subsystems.size())
            conditions->setText(conditionsText(m_level.subsystems[m_subsystem]));
    });
}

QString ClaimPage::builtText(const SafetyFunction& f, DeviceId device) const
{
    const auto swept = m_sweeps.fresh(f.id);
    if (!swept || !swept->analysis.sweep.hasPairs || m_subsystem >= swept->analysis.built.subsystems.size())
        return tr("not tried with faults");
    for (const auto& channel : swept->analysis.built.subsystems[m_subsystem].channels)
        for (const faults::PartCoverage& p : channel)
            if (p.device == device)
                return !p.built ? tr("wired: no fault of it counts") : p.uncovered.empty() ? tr("wired: noticed, %1").arg(wording::number(*p.built, "%")) : tr("wired: nothing notices %1").arg(QString::fromStdString(swept->analysis.sweep.faults[static_cast<std::size_t>(p.uncovered.front())].id));
    return {};
}

void ClaimPage::addParts(const SafetyFunction& function)
{
    auto* inside = section(tr("Parts, and what tests them"));
    auto* grid = new QGridLayout(inside);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(10);
    grid->setColumnStretch(1, 2);
    grid->setColumnStretch(4, 1);
    for (const auto& [column, text] : {std::pair{1, tr("measure that is claimed")}, {2, tr("DC")}, {3, tr("as built")}, {4, tr("failure excluded, because")}})
        grid->addWidget(plainLabel(text, m_theme.small(), inside), 0, column);
    const ClaimedSubsystem& s = function.claim[m_subsystem];
    int line = 1;
    for (std::size_t c = 0; c < s.channels.size(); ++c)
        for (std::size_t p = 0; p < s.channels[c].parts.size(); ++p, ++line) {
            const ClaimedPart& part = s.channels[c].parts[p];
            const Device* device = m_document.dossier().circuit.device(part.device);
            grid->addWidget(plainLabel(QString::fromStdString((device ? device->tag : "?") + " " + part.role), m_theme.body(), inside), line, 0);
            auto* measure = new QComboBox(inside);
            measure->setObjectName(QStringLiteral("claim.measure.%1.%2").arg(c).arg(p));
            measure->setAccessibleName(tr("Measure for %1").arg(QString::fromStdString(device ? device->tag : "?")));
            measure->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
            measure->setMinimumContentsLength(24);
            measure->addItem(tr("untested"), QString());
            const Table& table = dcMeasuresTable();
            for (std::size_t row = 0; row < table.rowCount(); ++row) {
                const std::string id = std::string(table.cell(row, "stage")) + "|" + std::string(table.cell(row, "measure"));
                measure->addItem(QString::fromStdString(std::string(table.cell(row, "stage")) + ": " + std::string(table.cell(row, "measure"))), QString::fromStdString(id));
            }
            auto* dc = new QDoubleSpinBox(inside);
            dc->setObjectName(QStringLiteral("claim.dc.%1.%2").arg(c).arg(p));
            dc->setAccessibleName(tr("Diagnostic coverage in per cent"));
            dc->setDecimals(1);
            dc->setSuffix(QStringLiteral(" %"));
            auto* built = plainLabel({}, m_theme.small(), inside);
            auto* excluded = new QLineEdit(inside);
            excluded->setObjectName(QStringLiteral("claim.excluded.%1.%2").arg(c).arg(p));
            excluded->setAccessibleName(tr("Why its failure is excluded"));
            excluded->setPlaceholderText(tr("not excluded"));
            int column = 1;
            for (QWidget* w : std::initializer_list<QWidget*>{measure, dc, built, excluded})
                grid->addWidget(w, line, column++);
            const auto changePart = [this, c, p](const QString& label, const std::function<void(ClaimedPart&)>& what) {
                changeSubsystem(label, [&](ClaimedSubsystem& x) { what(x.channels[c].parts[p]); });
            };
            connect(measure, &QComboBox::activated, this, [measure, changePart](int k) {
                changePart(tr("Claim a measure"), [&](ClaimedPart& x) {
                    x.measure = measure->itemData(k).toString().toStdString();
                    x.dc = k == 0 ? 0.0 : dcMeasuresTable().number(static_cast<std::size_t>(k - 1), "dc_max").value_or(0.0);
                });
            });
            connect(dc, &QDoubleSpinBox::editingFinished, this, [dc, changePart] {
                changePart(tr("Claim a coverage"), [&](ClaimedPart& x) {
                    if (std::abs(dc->value() / 100.0 - x.dc) > 0.0005)
                        x.dc = dc->value() / 100.0;
                });
            });
            connect(excluded, &QLineEdit::editingFinished, this, [excluded, changePart] { changePart(tr("Exclude a failure"), [&](ClaimedPart& x) { x.excludedBecause = excluded->text().trimmed().toStdString(); }); });
            m_refresh.push_back([this, c, p, measure, dc, built, excluded](const SafetyFunction& f) {
                const ClaimedPart& x = f.claim[m_subsystem].channels[c].parts[p];
                measure->setCurrentIndex(std::max(0, measure->findData(QString::fromStdString(x.measure))));
                const std::size_t row = static_cast<std::size_t>(std::max(0, measure->currentIndex() - 1));
                const bool isTested = measure->currentIndex() > 0;
                dc->setRange(isTested ? 100.0 * dcMeasuresTable().number(row, "dc_min").value_or(0.0) : 0.0, isTested ? 100.0 * dcMeasuresTable().number(row, "dc_max").value_or(0.0) : 0.0);
                dc->setEnabled(isTested && dc->minimum() < dc->maximum());
                dc->setValue(100.0 * x.dc);
                built->setText(builtText(f, x.device));
                put(excluded, x.excludedBecause);
            });
        }
}

void ClaimPage::addAnswers()
{
    auto* inside = section(tr("Against common cause failures (65 points are needed for categories 2, 3 and 4)"));
    auto* grid = new QGridLayout(inside);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setColumnStretch(1, 1);
    const Table& table = ccfMeasuresTable();
    for (std::size_t row = 0; row < table.rowCount(); ++row) {
        const std::string id(table.cell(row, "id"));
        auto* box = new QCheckBox(tr("%1  %2").arg(table.number(row, "points").value_or(0)).arg(QString::fromStdString(std::string(table.cell(row, "measure")))), inside);
        box->setObjectName("claim.ccf." + QString::fromStdString(id));
        auto* evidence = new QLineEdit(inside);
        evidence->setObjectName("claim.ccf_evidence." + QString::fromStdString(id));
        evidence->setAccessibleName(tr("Where it can be seen: %1").arg(box->text()));
        evidence->setPlaceholderText(tr("where it can be seen"));
        grid->addWidget(box, static_cast<int>(row), 0);
        grid->addWidget(evidence, static_cast<int>(row), 1);
        connect(box, &QCheckBox::clicked, this, [this, id](bool is) {
            changeSubsystem(tr("Answer against common cause"), [&](ClaimedSubsystem& s) {
                std::erase(s.ccfAnswers, id);
                if (is)
                    s.ccfAnswers.push_back(id);
            });
        });
        connect(evidence, &QLineEdit::editingFinished, this, [this, id, evidence] {
            changeSubsystem(tr("Evidence"), [&](ClaimedSubsystem& s) { setEvidence(s.ccfEvidence, id, evidence->text().trimmed().toStdString()); });
        });
        m_refresh.push_back([this, id, box, evidence](const SafetyFunction& f) {
            const ClaimedSubsystem& s = f.claim[m_subsystem];
            box->setChecked(std::find(s.ccfAnswers.begin(), s.ccfAnswers.end(), id) != s.ccfAnswers.end());
            put(evidence, evidenceOf(s.ccfEvidence, id));
        });
    }
}

void ClaimPage::addConditions(const SafetyFunction& function)
{
    auto* inside = section(tr("What no arithmetic can show (until all are answered the PFHd is only in the range of a PL)"));
    auto* grid = new QGridLayout(inside);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setColumnStretch(1, 1);
    struct Answer {
        const char* id;
        bool Conditions::*into;
    };
    std::vector<Answer> answers{{"basic_principles", &Conditions::basicPrinciples}, {"well_tried_principles", &Conditions::wellTriedPrinciples},
        {"systematic_failures", &Conditions::systematicFailures}, {"environment", &Conditions::environment}};
    if (safety::hasApplicationSoftware(m_document.dossier().circuit, function))
        answers.push_back({"software", &Conditions::software});
    int line = 0;
    for (const Answer& a : answers) {
        auto* box = new QCheckBox(wording::word("condition." + std::string(a.id)), inside);
        box->setObjectName(QStringLiteral("claim.condition.%1").arg(QLatin1String(a.id)));
        auto* evidence = new QLineEdit(inside);
        evidence->setAccessibleName(tr("Where it can be seen: %1").arg(box->text()));
        evidence->setPlaceholderText(tr("where it can be seen"));
        grid->addWidget(box, line, 0);
        grid->addWidget(evidence, line++, 1);
        connect(box, &QCheckBox::clicked, this, [this, into = a.into](bool is) { change(tr("Answer a condition"), [&](SafetyFunction& f) { f.conditions.*into = is; }); });
        connect(evidence, &QLineEdit::editingFinished, this, [this, evidence, id = std::string(a.id)] {
            change(tr("Evidence"), [&](SafetyFunction& f) { setEvidence(f.conditions.evidence, id, evidence->text().trimmed().toStdString()); });
        });
        m_refresh.push_back([box, evidence, a](const SafetyFunction& f) {
            box->setChecked(f.conditions.*a.into);
            put(evidence, evidenceOf(f.conditions.evidence, a.id));
        });
    }
    if (answers.size() < 5)
        return;
    for (const auto& [name, label, into] : {std::tuple{"claim.software_version", tr("version of the application software"), &Conditions::softwareVersion}, {"claim.software_checksum", tr("its checksum"), &Conditions::softwareChecksum}}) {
        auto* edit = new QLineEdit(inside);
        edit->setObjectName(QString::fromLatin1(name));
        edit->setAccessibleName(label);
        grid->addWidget(plainLabel(label, m_theme.body(), inside), line, 0);
        grid->addWidget(edit, line++, 1);
        const auto member = into;
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, member] { change(tr("Application software"), [&](SafetyFunction& f) { f.conditions.*member = edit->text().trimmed().toStdString(); }); });
        m_refresh.push_back([edit, member](const SafetyFunction& f) { put(edit, f.conditions.*member); });
    }
}

void ClaimPage::addReadings()
{
    auto* inside = section(tr("How the standard is read (for the whole dossier)"));
    auto* form = new QFormLayout(inside);
    form->setFieldGrowthPolicy(QFormLayout::FieldsStayAtSizeHint);
    form->setContentsMargins(0, 0, 0, 0);
    struct Reading {
        const char* name;
        QString label;
        std::string ArithmeticChoice::*into;
        std::vector<std::pair<std::string, QString>> words;
    };
    const std::vector<Reading> readings{{"claim.edition", tr("Edition of ISO 13849-1"), &ArithmeticChoice::edition, {{"2015", "2015"}, {"2023", "2023"}}},
        {"claim.method", tr("PFHd from the table"), &ArithmeticChoice::method, {{"row", tr("at the next lower row")}, {"interpolated", tr("between two rows")}}},
        {"claim.different", tr("Class of two different channels"), &ArithmeticChoice::differentChannels, {{"joined", tr("of the joined value")}, {"lower", tr("of the lower channel")}}},
        {"claim.test_half", tr("Test equipment has half of"), &ArithmeticChoice::testEquipment, {{"capped", tr("the capped channel's MTTFd")}, {"uncapped", tr("the channel's MTTFd without cap")}}},
        {"claim.untested", tr("Untested parts in DCavg"), &ArithmeticChoice::untestedParts, {{"as_zero", tr("count with DC 0")}, {"left_out", tr("are left out")}}},
        {"claim.category_b", tr("Category B above 30 years"), &ArithmeticChoice::categoryBAbove30, {{"category_1_column", tr("reads the column of category 1")}, {"last_row", tr("stays at its last row")}}}};
    for (const Reading& r : readings) {
        auto* box = new QComboBox(inside);
        box->setObjectName(QString::fromLatin1(r.name));
        box->setAccessibleName(r.label);
        for (const auto& [word, text] : r.words)
            box->addItem(text, QString::fromStdString(word));
        form->addRow(r.label, box);
        connect(box, &QComboBox::activated, this, [this, box, into = r.into](int k) {
            const std::string word = box->itemData(k).toString().toStdString();
            if (m_document.dossier().arithmetic.*into != word)
                m_document.edit(tr("Another reading"), [&](const Dossier& d) -> Expected<Dossier> {
                    Dossier changed = d;
                    changed.arithmetic.*into = word;
                    return changed;
                });
        });
        m_refresh.push_back([this, box, into = r.into](const SafetyFunction&) { box->setCurrentIndex(std::max(0, box->findData(QString::fromStdString(m_document.dossier().arithmetic.*into)))); });
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
    m_refresh.push_back([this, tolerance](const SafetyFunction&) { tolerance->setChecked(m_document.dossier().arithmetic.toleranceOnLimits); });
}

} // namespace ts::app
