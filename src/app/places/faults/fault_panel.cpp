#include "app/places/faults/fault_panel.h"

#include "app/places/faults/outcome_mark.h"
#include "app/places/faults/scene_strip.h"
#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/checks/as_built.h"

#include <QCheckBox>
#include <QEvent>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QString nameText(std::string_view name)
{
    return QString::fromUtf8(name.data(), static_cast<qsizetype>(name.size()));
}

QString wordOf(const char* before, std::string_view name)
{
    return words::word(std::string(before) + std::string(name));
}

QString shareText(double share)
{
    return words::number(share, "%");
}

} // namespace

FaultPanel::FaultPanel(const Theme& theme, QWidget* parent)
    : TallColumn(parent)
    , m_theme(theme)
{
    setObjectName("faults.panel");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->setSpacing(8);
    const auto text = [&](const char* name, const QFont& font) {
        QLabel* label = plainLabel({}, font, this);
        label->setObjectName(name);
        column->addWidget(label);
        return label;
    };
    m_title = text("faults.title", theme.verdict());
    m_outcomeWord = text("faults.outcome", theme.bold());
    m_outcomeWord->setIndent(18);
    m_what = text("faults.what", theme.body());
    m_scenes = new SceneStrip(theme, this);
    column->addWidget(m_scenes);
    m_more = text("faults.more", theme.body());
    const auto list = [&](const char* name, const QString& accessible, int height) {
        auto* l = new QListWidget(this);
        l->setObjectName(name);
        l->setAccessibleName(accessible);
        l->setWordWrap(true);
        l->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        l->setFixedHeight(height);
        column->addWidget(l);
        return l;
    };
    m_pairs = list("faults.pairs", tr("Faults that make a loss together with this one; Enter goes there"), 64);
    m_excluded = text("faults.excluded", theme.body());
    auto* line = new QHBoxLayout;
    const auto button = [&](const char* name, const QString& label) {
        auto* b = new QPushButton(label, this);
        b->setObjectName(name);
        line->addWidget(b);
        return b;
    };
    m_bench = button("faults.bench", tr("Show this moment on the Bench"));
    m_mend = button("faults.mend", tr("What would mend it?"));
    m_exclude = button("faults.exclude", tr("Exclude ..."));
    m_include = button("faults.include", tr("Take the exclusion back"));
    line->addStretch(1);
    column->addLayout(line);
    m_reason = new QLineEdit(this);
    m_reason->setObjectName("faults.reason");
    m_reason->setPlaceholderText(tr("Reason for leaving this fault out, then Enter"));
    m_reason->setAccessibleName(tr("Reason of the exclusion"));
    m_reason->hide();
    column->addWidget(m_reason);
    m_wholeRoute = new QCheckBox(this);
    m_wholeRoute->setObjectName("faults.whole_route");
    m_wholeRoute->hide();
    column->addWidget(m_wholeRoute);
    m_mending = text("faults.mending", theme.body());
    m_mends = list("faults.mends", tr("Changes that mend it; Enter carries one out"), 120);
    m_built = text("faults.built", theme.body());
    m_built->setTextFormat(Qt::RichText); // a table of our own words and numbers, escaped
    m_findings = text("faults.findings", theme.body());
    column->addStretch(1);
    connect(m_bench, &QPushButton::clicked, this, &FaultPanel::benchWanted);
    connect(m_mend, &QPushButton::clicked, this, &FaultPanel::mendsWanted);
    connect(m_mends, &QListWidget::itemActivated, this, [this] { emit mendChosen(m_mends->currentRow()); });
    connect(m_pairs, &QListWidget::itemActivated, this,
        [this](QListWidgetItem* item) { emit faultWanted(item->data(Qt::UserRole).toInt()); });
    connect(m_exclude, &QPushButton::clicked, this, &FaultPanel::askForReason);
    connect(m_include, &QPushButton::clicked, this, [this] {
        std::vector<std::string> ids = m_routeShorts;
        ids.push_back(m_fault);
        emit exclusionUnwanted(ids);
    });
    connect(m_reason, &QLineEdit::returnPressed, this, [this] {
        emit exclusionWanted(m_reason->text(), m_wholeRoute->isChecked() ? m_routeShorts : std::vector{m_fault});
    });
    clear();
}

void FaultPanel::askForReason()
{
    m_reason->clear();
    m_reason->show();
    m_wholeRoute->setChecked(false);
    m_wholeRoute->setVisible(!m_routeShorts.empty());
    m_reason->setFocus();
}

void FaultPanel::clear()
{
    for (QLabel* l : {m_title, m_outcomeWord, m_what, m_more, m_excluded, m_built, m_findings})
        l->clear();
    for (QWidget* w : std::initializer_list<QWidget*>{
             m_bench, m_mend, m_exclude, m_include, m_reason, m_wholeRoute, m_outcomeWord, m_mending, m_mends, m_pairs})
        w->hide();
    m_scenes->show(nullptr, nullptr);
}

void FaultPanel::showFault(
    const faults::Sweep& sweep, const Dossier& dossier, const Plant& plant, int place, faults::Moment moment)
{
    m_reason->hide();
    m_mending->hide();
    m_mends->hide();
    m_pairs->hide();
    m_mend->hide();
    m_bench->setVisible(place >= 0);
    m_outcomeWord->setVisible(place >= 0);
    if (place < 0) {
        m_title->setText(tr("Nothing of this kind"));
        for (QLabel* l : {m_what, m_more, m_excluded})
            l->clear();
        m_exclude->hide();
        m_include->hide();
        m_scenes->show(nullptr, nullptr);
        return;
    }
    const auto k = static_cast<std::size_t>(place), m = static_cast<std::size_t>(moment);
    const faults::SweptFault& f = sweep.faults[k];
    const faults::FaultOutcome& o = sweep.outcomes[k];
    m_outcome = o.outcomes[m];
    m_title->setText(words::sweptFaultText(f, dossier.circuit));
    m_mend->setVisible(o.overall == faults::Outcome::Lost || o.overall == faults::Outcome::Hidden);
    m_outcomeWord->setText(wordOf("outcome.", faults::nameOf(m_outcome)) + tr(", if it comes ")
        + wordOf("moment.", faults::nameOf(moment)));
    m_what->setText(o.isRun ? words::runText(o.runs[m], plant) : tr("Excluded faults were not run."));
    QStringList more;
    if (const QString welds = words::consequenceText(f, o, moment, plant); !welds.isEmpty())
        more << welds;
    if (const faults::Limit limit = o.limits[static_cast<std::size_t>(moment)]; limit != faults::Limit::None)
        more << tr("Only with %1; the scenes show the nominal run.").arg(wordOf("case.", faults::nameOf(limit)));
    const auto named = [&](int other) {
        return words::sweptFaultText(sweep.faults[static_cast<std::size_t>(other)], dossier.circuit);
    };
    if (o.mate >= 0)
        more << tr("It makes a loss together with each of these. Enter goes to one.");
    if (o.hides >= 0)
        more << tr("With it, nobody notices: %1").arg(named(o.hides));
    if (!o.forgottenBy.empty())
        more << tr("Noticed, but forgotten by: %1").arg(QString::fromStdString(o.forgottenBy));
    m_more->setText(more.join('\n'));
    m_more->setVisible(!more.isEmpty());
    showPairs(sweep, dossier, plant, place);
    m_excluded->setText(f.isExcluded ? tr("Excluded under ISO 13849-2 table %1: %2")
                                           .arg(QString::fromStdString(f.table), QString::fromStdString(f.reason))
            : f.table.empty() ? QString()
                              : tr("May be excluded under ISO 13849-2 table %1, if: %2")
                                    .arg(QString::fromStdString(f.table), QString::fromStdString(f.condition)));
    m_excluded->setVisible(!m_excluded->text().isEmpty());
    m_fault = f.id;
    m_routeShorts.clear();
    QStringList routes;
    for (RouteId id : f.family == faults::Family::Short ? f.routes : std::vector<RouteId>{})
        if (const Route* route = dossier.circuit.route(id)) {
            m_routeShorts.push_back("route/" + std::to_string(id.value) + ":short");
            routes << QString::fromStdString(route->name);
        }
    m_wholeRoute->setText(tr("all shorts in %1").arg(routes.join(QStringLiteral(", "))));
    const bool isOurs = std::any_of(dossier.exclusions.begin(), dossier.exclusions.end(), [&](const FaultExclusion& e) {
        return e.fault == f.id || std::find(m_routeShorts.begin(), m_routeShorts.end(), e.fault) != m_routeShorts.end();
    });
    m_exclude->setVisible(!f.isExcluded && !f.table.empty());
    m_include->setVisible(isOurs);
    update();
}

void FaultPanel::showPairs(const faults::Sweep& sweep, const Dossier& dossier, const Plant& plant, int place)
{
    m_pairs->clear();
    for (const faults::FaultPair& p : sweep.pairs) {
        if (p.first != place && p.second != place)
            continue;
        const int other = p.first == place ? p.second : p.first;
        auto* item = new QListWidgetItem(
            words::sweptFaultText(sweep.faults[static_cast<std::size_t>(other)], dossier.circuit) + ": "
                + words::runText(p.run, plant),
            m_pairs);
        item->setData(Qt::UserRole, other);
    }
    m_pairs->setVisible(m_pairs->count() > 0);
}

void FaultPanel::showStory(std::shared_ptr<const faults::Story> story, std::shared_ptr<const Plant> plant)
{
    m_scenes->show(std::move(story), std::move(plant));
}

void FaultPanel::tellMending(const QString& text)
{
    m_mends->hide();
    m_mending->setText(text);
    m_mending->show();
}

void FaultPanel::showMends(const improving::Tried& tried, const Dossier& dossier, const Plant& plant)
{
    tellMending(tried.mends.empty()
            ? tr("%1 changes were carried out and run: none of them mends it.").arg(tried.changeCount)
            : tr("%1 changes were carried out and run; these make it better. Enter carries one out.")
                  .arg(tried.changeCount));
    m_mends->clear();
    for (const improving::Mend& m : tried.mends)
        m_mends->addItem(words::mendText(m, dossier, plant));
    m_mends->setVisible(!tried.mends.empty());
}

void FaultPanel::showBuilt(const FaultAnalysis& analysis, const SafetyFunction& function, const Circuit& circuit)
{
    QString html = "<table cellspacing='0' cellpadding='2' width='100%'><tr><td width='196'><b>"
        + tr("Claimed and built") + "</b></td><td width='90' align='right'>" + tr("claimed")
        + "</td><td width='158' align='right'>" + tr("as built") + "</td></tr>";
    const auto row = [&](const QString& what, const QString& claimed, const QString& built, bool isLess) {
        const QString indent = what.startsWith(' ') ? QStringLiteral(" style='padding-left:16px'") : QString();
        html += claimed.isEmpty() ? "<tr><td colspan='2'" + indent + ">" + what.trimmed().toHtmlEscaped() + "</td>"
                                  : "<tr><td" + indent + ">" + what.trimmed().toHtmlEscaped()
                + "</td><td align='right'>" + claimed.toHtmlEscaped() + "</td>";
        html += "<td align='right'>" + (isLess ? "<b>" + built.toHtmlEscaped() + " !</b>" : built.toHtmlEscaped())
            + "</td></tr>";
    };
    for (std::size_t k = 0; k < analysis.built.subsystems.size(); ++k) {
        const faults::SubsystemBuilt& b = analysis.built.subsystems[k];
        const auto category = function.claim[k].category;
        const bool isDesigned = !function.claim[k].encapsulated;
        row(QString::fromStdString(b.name),
            isDesigned ? tr("category %1").arg(nameText(safety::wordOf(category))) : tr("by its manufacturer"),
            wordOf("structure.", faults::nameOf(b.verdict.structure)),
            isDesigned && !checks::isEnoughFor(b.verdict.structure, category));
        for (const auto& channel : b.channels)
            for (const faults::PartCoverage& p : channel) {
                const Device* d = circuit.device(p.device);
                row(tr("    coverage of %1 %2")
                        .arg(QString::fromStdString(d ? d->tag : "?"), QString::fromStdString(p.role)),
                    shareText(p.claimed), p.built ? shareText(*p.built) : tr("no mode counts"),
                    p.built && *p.built < p.claimed - 1e-9);
            }
    }
    for (const ComparedSubsystem& c : analysis.compared) {
        if (c.conditions.empty())
            continue;
        const QString best = !c.category ? (c.isMet == safety::Met::Unknown ? tr("not known") : tr("none"))
            : c.level ? tr("%1, PL %2").arg(nameText(safety::nameOf(*c.category)), nameText(safety::nameOf(*c.level)))
                      : nameText(safety::nameOf(*c.category));
        const auto claim = std::find_if(
            function.claim.begin(), function.claim.end(), [&c](const ClaimedSubsystem& s) { return s.name == c.name; });
        row(tr("Category of %1").arg(QString::fromStdString(c.name)),
            claim == function.claim.end() ? QString() : nameText(safety::wordOf(claim->category)), best,
            c.isMet == safety::Met::No);
        if (c.isMet == safety::Met::Yes)
            row(tr(" all %1 conditions of it are met").arg(c.conditions.size()), {}, {}, false);
        else
            for (const safety::Condition& condition : c.conditions)
                row(" " + words::sentence(condition.wanted), {}, words::sentence(condition.found),
                    condition.met == safety::Met::No);
    }
    for (const ComparedSubsystem& c : analysis.compared)
        if (c.pfhdPerHour)
            row(tr("PFHd of %1 by the Markov model, checked %2, for comparison only")
                    .arg(QString::fromStdString(c.name),
                        analysis.checkIntervalS > 0.0 ? tr("at every demand") : tr("once a year")),
                {}, words::number(*c.pfhdPerHour, "1/h"), false);
    if (analysis.cutSets)
        for (const CutSetLine& line : linesOf(*analysis.cutSets, analysis.sweep, circuit, analysis.checkIntervalS))
            row(QString(line.isSum ? "" : " ") + words::sentence(line.what), {}, words::number(line.perHour, "1/h"),
                false);
    html += "</table>";
    m_built->setText(analysis.built.subsystems.empty() ? QString() : html);
    m_built->setVisible(!analysis.built.subsystems.empty());
    QStringList lines;
    for (const Finding& f : checks::asBuiltFindings(circuit, function, analysis))
        lines << words::sentence(f.what);
    lines << tr("Latest rest after a demand in any run with one fault that is not lost: %1; without a fault: %2.")
                 .arg(words::number(analysis.sweep.worstRestS, "s"), words::number(analysis.sweep.runDownS, "s"));
    lines << tr("%1 runs with one fault (one that has several names, as a wire and the contact it leads to, is run "
                "once and counted under each), %2 with two. Structure with nothing excluded: %3. This is analysis: "
                "which faults were tried on the real machine is for the record.")
                 .arg(analysis.sweep.runCount)
                 .arg(analysis.sweep.pairRunCount)
                 .arg(wordOf("structure.", faults::nameOf(analysis.built.wholeWithoutExclusions)));
    m_findings->setText(lines.join("\n\n"));
}

void FaultPanel::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintPanel(p, QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), m_theme.colours().panel, m_theme.colours().line);
    if (m_outcomeWord->isVisible())
        paintOutcome(p, QRectF(m_outcomeWord->x(), m_outcomeWord->y() + (m_outcomeWord->height() - 11) / 2.0, 11, 11),
            m_outcome, m_theme.colours());
}

} // namespace ts::app
