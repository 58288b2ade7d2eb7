#include "app/places/checks/finding_board.h"

#include "app/places/checks/finding_line.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/word_flow.h"
#include "app/words/words.h"
#include "core/studies/study.h"
#include "wording/record_words.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPushButton>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace ts::app {
namespace {

constexpr int kIndent = 22;

QString reading(const Finding& f)
{
    return words::sentence(f.what);
}

QPushButton* flatButton(const QString& name, const QString& text, QWidget* parent)
{
    auto* button = new QPushButton(text, parent);
    button->setObjectName(name);
    button->setFlat(true);
    return button;
}

} // namespace

FindingBoard::FindingBoard(const Theme& theme, QWidget* parent)
    : TallColumn(parent)
    , m_theme(theme)
    , m_column(new QVBoxLayout(this))
    , m_role(QStringLiteral("designed"))
{
    m_column->setContentsMargins(0, 0, 8, 8);
    m_column->setSpacing(2);
    m_column->addStretch(1);
}

void FindingBoard::clear()
{
    for (QWidget* row : m_rows)
        delete row;
    m_rows.clear();
    m_lines.clear();
}

void FindingBoard::showNothing(const QString& why)
{
    m_checked = nullptr;
    clear();
    auto* label = plainLabel(why, m_theme.body(), this);
    label->setObjectName("checks.nothing");
    m_column->insertWidget(0, label);
    m_rows.push_back(label);
}

void FindingBoard::show(std::shared_ptr<const Checked> checked, const Dossier& dossier,
    const std::vector<RecordEntry>& record, FindingPowers powers)
{
    const bool isSame = m_checked && *m_checked == *checked && m_record == record && m_dossier == dossier;
    m_checked = std::move(checked);
    m_dossier = dossier;
    m_record = record;
    m_powers = std::move(powers);
    if (!isSame)
        buildSoon();
}

/// A row may have asked for it: it must not go away while it does.
void FindingBoard::buildSoon()
{
    if (m_isDue)
        return;
    m_isDue = true;
    QMetaObject::invokeMethod(
        this,
        [this] {
            m_isDue = false;
            if (m_checked)
                build();
        },
        Qt::QueuedConnection);
}

void FindingBoard::build()
{
    const auto* focused = dynamic_cast<const FindingLine*>(focusWidget());
    const bool isInSheet = !focused && focusWidget() && isAncestorOf(focusWidget()) && focusWidget()->hasFocus();
    const std::string keyboard = focused && focused->hasFocus() ? focused->key() : isInSheet ? m_opened : std::string();
    clear();
    std::array order{Remedy::Wiring, Remedy::Part, Remedy::Entry, Remedy::Claim, Remedy::Trial};
    const auto gravest = [this](Remedy r) {
        Severity worst = Severity::Note;
        for (const Finding& f : m_checked->findings)
            if (f.remedy == r)
                worst = std::min(worst, f.severity);
        return worst;
    };
    std::stable_sort(order.begin(), order.end(), [&](Remedy a, Remedy b) { return gravest(a) < gravest(b); });
    for (Remedy r : order)
        addGroup(r);
    addMissing();
    for (FindingLine* line : m_lines)
        if (!keyboard.empty() && line->key() == keyboard)
            line->setFocus();
}

void FindingBoard::addGroup(Remedy remedy)
{
    std::vector<const Finding*> of;
    for (const Finding& f : m_checked->findings)
        if (f.remedy == remedy)
            of.push_back(&f);
    if (of.empty())
        return;
    const auto accepted = std::count_if(of.begin(), of.end(),
        [this](const Finding* f) { return record::acceptanceOf(m_record, *f, reading(*f).toStdString()).has_value(); });
    const QString title = words::word("remedy." + std::string(nameOf(remedy)));
    auto* heading = plainLabel(accepted > 0 ? tr("%1: %2, of these accepted %3").arg(title).arg(of.size()).arg(accepted)
                                            : tr("%1: %2").arg(title).arg(of.size()),
        m_theme.bold(), this);
    heading->setObjectName(QStringLiteral("checks.group.") + QString::fromUtf8(nameOf(remedy).data()));
    heading->setContentsMargins(0, m_rows.empty() ? 0 : 8, 0, 0);
    m_column->insertWidget(m_column->count() - 1, heading);
    m_rows.push_back(heading);
    for (const Finding* f : of)
        addFinding(*f);
}

void FindingBoard::addFinding(const Finding& finding)
{
    const std::string key = record::keyOf(finding);
    const auto accepted = record::acceptanceOf(m_record, finding, reading(finding).toStdString());
    const QString state = !accepted ? words::word("severity." + std::string(nameOf(finding.severity)))
        : accepted->readsTheSame    ? tr("accepted")
                                    : tr("accepted as something else");
    auto* line = new FindingLine(
        key, finding.severity, accepted && accepted->readsTheSame, reading(finding), state, m_theme, this);
    line->setObjectName(QStringLiteral("checks.finding.%1").arg(m_lines.size()));
    connect(line, &FindingLine::clicked, this, [this, key] { open(m_opened == key ? std::string() : key); });
    m_column->insertWidget(m_column->count() - 1, line);
    m_rows.push_back(line);
    m_lines.push_back(line);
    if (key != m_opened)
        return;
    line->setOpen(true);
    QWidget* sheet = sheetOf(finding);
    m_column->insertWidget(m_column->count() - 1, sheet);
    m_rows.push_back(sheet);
}

QWidget* FindingBoard::sheetOf(const Finding& f)
{
    auto* sheet = new QWidget(this);
    sheet->setObjectName("checks.sheet");
    auto* column = new QVBoxLayout(sheet);
    column->setContentsMargins(kIndent, 2, 0, 6);
    column->setSpacing(4);
    const QString rests = tr("Rests on: %1. Look up: %2.")
                              .arg(words::sentence(f.evidence), QString::fromStdString(f.clause));
    for (const auto& [name, text] : {std::pair{"checks.consequence", words::sentence(f.consequence)},
             {"checks.mend", words::sentence(f.mend)}, {"checks.rests", rests}}) {
        auto* label = plainLabel(text, m_theme.body(), sheet);
        label->setObjectName(name);
        column->addWidget(label);
    }
    if (f.what.id == "finding.sizing.not_judged")
        column->addWidget(entriesIn(sheet));
    auto* row = new QHBoxLayout;
    auto* go = flatButton("checks.go", tr("Go there"), sheet);
    connect(go, &QPushButton::clicked, this, [this, target = f.target] { emit showWanted(target); });
    row->addWidget(go);
    if (m_powers.canPlay(f)) {
        auto* play = flatButton("checks.play", tr("Let it happen on the Bench"), sheet);
        connect(play, &QPushButton::clicked, this, [this, f] { emit playWanted(f); });
        row->addWidget(play);
    }
    if (m_powers.canMend(f) && m_mending.isEmpty()) {
        auto* mends = flatButton("checks.mends", tr("What would mend it?"), sheet);
        connect(mends, &QPushButton::clicked, this, [this, f] { emit mendsWanted(f); });
        row->addWidget(mends);
    }
    row->addStretch(1);
    column->addLayout(row);
    if (!m_mending.isEmpty())
        column->addWidget(mendsOf(f, sheet));
    column->addWidget(acceptanceOf(f, sheet));
    return sheet;
}

/// Each figure is entered where it is missed.
QWidget* FindingBoard::entriesIn(QWidget* parent)
{
    auto* box = new QWidget(parent);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    for (std::size_t k = 0; k < m_missing.size(); ++k) {
        const MissingLine& line = m_missing[k];
        auto* flow = new WordFlow(m_theme.body(), box);
        flow->say(line.text + (line.canBeEntered ? QStringLiteral(":") : QString()));
        column->addWidget(flow);
        if (!line.canBeEntered)
            continue;
        auto* value = new TextWord(m_theme, QStringLiteral("checks.enter.%1").arg(k), line.text, flow);
        value->setPlaceholderText(tr("figure"));
        flow->put(value);
        ChoiceWord* whose = nullptr;
        if (!line.part.isEmpty()) {
            whose = new ChoiceWord(
                m_theme, QStringLiteral("checks.enter.whose.%1").arg(k), tr("What it is entered for"), flow);
            whose->addItem(tr("for all parts %1").arg(line.part));
            whose->addItem(tr("for this one"));
            flow->put(whose);
        }
        connect(value, &QLineEdit::returnPressed, this, [this, k, value, whose] {
            emit entered(static_cast<int>(k), value->text().trimmed(), whose && whose->currentIndex() == 0);
        });
    }
    return box;
}

void FindingBoard::setMissing(std::vector<MissingLine> missing)
{
    m_missing = std::move(missing);
}

/// How the search stands, and each change that was tried and holds, with what else it brings.
QWidget* FindingBoard::mendsOf(const Finding&, QWidget* parent)
{
    auto* box = new QWidget(parent);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(2);
    auto* head = new QHBoxLayout;
    m_mendingLabel = plainLabel(m_mending, m_theme.bold(), box);
    m_mendingLabel->setObjectName("checks.mending");
    head->addWidget(m_mendingLabel, 1);
    if (m_isMending) {
        auto* stop = flatButton("checks.mending.stop", tr("Stop"), box);
        connect(stop, &QPushButton::clicked, this, &FindingBoard::stopMending);
        head->addWidget(stop);
    }
    column->addLayout(head);
    for (std::size_t k = 0; k < m_mends.size(); ++k) {
        auto* row = new QHBoxLayout;
        auto* take = flatButton(QStringLiteral("checks.mend.%1").arg(k), tr("Do it"), box);
        take->setAccessibleName(tr("Do it: %1").arg(m_mends[k].what));
        connect(take, &QPushButton::clicked, this, [this, k] { emit mendChosen(static_cast<int>(k)); });
        auto* text = plainLabel(m_mends[k].what + ". " + m_mends[k].brings, m_theme.body(), box);
        text->setObjectName(QStringLiteral("checks.mend.text.%1").arg(k));
        row->addWidget(take, 0, Qt::AlignTop);
        row->addWidget(text, 1);
        column->addLayout(row);
    }
    return box;
}

void FindingBoard::tellMending(const QString& text, bool isBusy)
{
    const bool isOnlyText = isBusy && m_isMending && m_mendingLabel && !m_isDue;
    m_mending = text;
    m_isMending = isBusy;
    m_mends.clear();
    if (isOnlyText)
        m_mendingLabel->setText(text);
    else
        buildSoon();
}

void FindingBoard::showMends(const QString& text, std::vector<MendLine> mends)
{
    m_mending = text;
    m_isMending = false;
    m_mends = std::move(mends);
    buildSoon();
}

/// A sentence that is filled in; what was accepted stays, with who and why.
QWidget* FindingBoard::acceptanceOf(const Finding& f, QWidget* parent)
{
    auto* box = new QWidget(parent);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    const QString accepted = QString::fromStdString(wording::acceptedText(m_record, f));
    if (!accepted.isEmpty()) {
        auto* label = plainLabel(accepted, m_theme.body(), box);
        label->setObjectName("checks.accepted");
        column->addWidget(label);
    }
    auto* flow = new WordFlow(m_theme.body(), box);
    flow->say(accepted.isEmpty() ? tr("Run it as it is, says") : tr("Withdrawn by"));
    auto* who = new TextWord(m_theme, "checks.who", tr("Name"), flow);
    who->setText(m_who);
    who->setPlaceholderText(tr("name"));
    flow->put(who);
    flow->say(tr(", who has"));
    auto* role = new ChoiceWord(m_theme, "checks.role", tr("What that person does"), flow);
    for (std::string_view r : kRecordRoles)
        role->addItem(words::word("role." + std::string(r)), QString::fromUtf8(r.data(), static_cast<int>(r.size())));
    role->setCurrentIndex(role->findData(m_role));
    flow->put(role);
    flow->say(tr("it, because"));
    auto* why = new TextWord(m_theme, "checks.why", tr("Reason"), flow);
    why->setPlaceholderText(tr("reason in your own words"));
    flow->put(why);
    auto* done = flatButton("checks.accept", accepted.isEmpty() ? tr("Accept") : tr("Withdraw"), flow);
    flow->put(done);
    column->addWidget(flow);
    column->addWidget(
        plainLabel(tr("An accepted finding stays one, and no verdict is better for it. The entry stays in the record."),
            m_theme.small(), box));
    const auto take = [this, f, who, role, why, isWithdrawal = !accepted.isEmpty()] {
        m_who = who->text();
        m_role = role->currentData().toString();
        const QString words = why->text();
        isWithdrawal ? emit withdrawWanted(f, m_who, m_role, words) : emit acceptWanted(f, m_who, m_role, words);
    };
    connect(done, &QPushButton::clicked, this, take);
    connect(why, &QLineEdit::returnPressed, this, take);
    return box;
}

QString FindingBoard::missingText(const NotLookedAt& n) const
{
    const SafetyFunction* f = m_dossier.function(n.subject.function());
    const Device* motor = m_dossier.circuit.device(n.subject.motor());
    QString text = words::word("study." + n.study);
    if (f || motor)
        text += ": " + QString::fromStdString(f ? f->name : motor->tag);
    return text + ": " + (n.why.id.empty() ? words::word("check.not_run") : words::sentence(n.why));
}

/// Once each, whichever checks would have read it.
void FindingBoard::addMissing()
{
    std::vector<const NotLookedAt*> all;
    for (const CheckMade& c : m_checked->checks)
        for (const NotLookedAt& n : c.missing)
            if (std::none_of(all.begin(), all.end(), [&n](const NotLookedAt* o) { return *o == n; }))
                all.push_back(&n);
    if (all.empty())
        return;
    auto* heading = plainLabel(tr("Not looked at, or in part only: %1").arg(all.size()), m_theme.bold(), this);
    heading->setObjectName("checks.group.missing");
    heading->setContentsMargins(0, 8, 0, 0);
    m_column->insertWidget(m_column->count() - 1, heading);
    m_rows.push_back(heading);
    for (const NotLookedAt* n : all) {
        auto* row = new QWidget(this);
        auto* line = new QHBoxLayout(row);
        line->setContentsMargins(0, 0, 0, 0);
        line->addWidget(new MarkedLine(Mark::Claimed, missingText(*n), m_theme, row), 1);
        if (n->why.id.empty()) {
            auto* run = flatButton("checks.run", tr("Look at it now"), row);
            run->setAccessibleName(tr("Look at it now: %1").arg(missingText(*n)));
            connect(run, &QPushButton::clicked, this,
                [this, study = QString::fromStdString(n->study), s = n->subject] { emit runWanted(study, s); });
            line->addWidget(run);
        }
        m_column->insertWidget(m_column->count() - 1, row);
        m_rows.push_back(row);
    }
}

const Finding* FindingBoard::opened() const
{
    if (!m_checked || m_opened.empty())
        return nullptr;
    const auto& all = m_checked->findings;
    const auto found = std::find_if(
        all.begin(), all.end(), [this](const Finding& f) { return record::keyOf(f) == m_opened; });
    return found == all.end() ? nullptr : &*found;
}

void FindingBoard::open(const std::string& key)
{
    if (key == m_opened || !m_checked)
        return;
    m_opened = key;
    m_mending.clear();
    m_mends.clear();
    m_isMending = false;
    buildSoon();
    emit openedChanged();
}

void FindingBoard::keyPressEvent(QKeyEvent* e)
{
    const int by = e->key() == Qt::Key_Down ? 1 : e->key() == Qt::Key_Up ? -1 : 0;
    const auto at = std::find(m_lines.begin(), m_lines.end(), focusWidget());
    if (by == 0 || at == m_lines.end())
        return TallColumn::keyPressEvent(e);
    const auto next = (at - m_lines.begin()) + by;
    if (next >= 0 && next < static_cast<std::ptrdiff_t>(m_lines.size()))
        m_lines[static_cast<std::size_t>(next)]->setFocus();
}

} // namespace ts::app
