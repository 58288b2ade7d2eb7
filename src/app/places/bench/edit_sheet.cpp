#include "app/places/bench/edit_sheet.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QComboBox>
#include <QCompleter>
#include <QCoreApplication>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

constexpr int kBoxTextWidth = 200;
constexpr int kLongList = 24; ///< from here on one types instead of looking

void clear(QVBoxLayout& column)
{
    while (QLayoutItem* item = column.takeAt(0)) {
        delete item->widget();
        delete item;
    }
}

} // namespace

QString targetName(const Circuit& circuit, const offers::Picked& target)
{
    if (const Wire* w = circuit.wire(target.wire))
        return QCoreApplication::translate("EditSheet", "wire %1, %2 to %3")
            .arg(QString::fromStdString(w->number), QString::fromStdString(circuit.nameOf(w->from)),
                QString::fromStdString(circuit.nameOf(w->to)));
    const Device* d = circuit.device(target.device);
    if (!d)
        return {};
    const QString tag = QString::fromStdString(d->tag);
    return target.role.empty() ? tag : tag + " " + words::word("element." + target.role);
}

EditSheet::EditSheet(Document& document, const Theme& theme, QWidget* parent)
    : QScrollArea(parent)
    , m_document(document)
    , m_theme(theme)
{
    setObjectName("edit");
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
    connect(&m_trial, &EditTrial::finished, this, &EditSheet::showTrial);
    connect(&document, &Document::changed, this, &EditSheet::leave); // also by its own edit
}

void EditSheet::open(const offers::Picked& target, const offers::Offer& offer)
{
    m_isOpen = true;
    m_target = target;
    m_offer = offer;
    m_fields.clear();
    auto* inside = new QWidget;
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(12, 10, 12, 10);
    column->setSpacing(6);
    m_title = words::word("do." + offer.id);
    m_title.remove(QStringLiteral(" ..."));
    auto* title = plainLabel(m_title, m_theme.verdict(), inside);
    title->setObjectName("change.title");
    column->addWidget(title);
    const QString name = targetName(m_document.dossier().circuit, target);
    if (!name.isEmpty())
        column->addWidget(plainLabel(name, m_theme.body(), inside));
    for (const offers::Question& q : offer.questions)
        addQuestion(*column, q);
    column->addSpacing(8);
    column->addWidget(plainLabel(tr("What it would mean"), m_theme.bold(), inside));
    column->addWidget(
        plainLabel(tr("Read from the wiring, each contact open by itself and all others closed; then run."),
            m_theme.small(), inside));
    m_meaning = new QVBoxLayout;
    column->addLayout(m_meaning);
    m_runs = new QVBoxLayout;
    column->addLayout(m_runs);
    column->addSpacing(8);
    m_do = new QPushButton(tr("Do it (Enter)"), inside);
    m_do->setObjectName("change.do");
    auto* no = new QPushButton(tr("Leave it (Esc)"), inside);
    no->setObjectName("change.leave");
    connect(m_do, &QPushButton::clicked, this, &EditSheet::makeIt);
    connect(no, &QPushButton::clicked, this, &EditSheet::leave);
    column->addWidget(m_do);
    column->addWidget(no);
    column->addStretch(1);
    setWidget(inside);
    work();
    QWidget* first = m_fields.empty() ? m_do : m_fields.front().second;
    first->setFocus(Qt::OtherFocusReason);
}

void EditSheet::addQuestion(QVBoxLayout& column, const offers::Question& q)
{
    const QString words = words::word("question." + q.id);
    column.addWidget(plainLabel(words, m_theme.small(), this));
    if (q.choices.empty()) {
        auto* line = new QLineEdit(QString::fromStdString(q.preset), this);
        line->setObjectName("change." + QString::fromStdString(q.id));
        line->setAccessibleName(words);
        connect(line, &QLineEdit::textChanged, this, &EditSheet::work);
        column.addWidget(line);
        m_fields.emplace_back(q.id, line);
        return;
    }
    auto* box = new QComboBox(this);
    box->setObjectName("change." + QString::fromStdString(q.id));
    box->setAccessibleName(words);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(12);
    for (const offers::Choice& c : q.choices)
        box->addItem(words::sentence(c.text), QString::fromStdString(c.value));
    if (q.choices.size() > kLongList) {
        box->setEditable(true);
        box->setInsertPolicy(QComboBox::NoInsert);
        box->completer()->setCompletionMode(QCompleter::PopupCompletion);
        box->completer()->setFilterMode(Qt::MatchContains);
    }
    box->setCurrentIndex(box->findData(QString::fromStdString(q.preset)));
    column.addWidget(box);
    auto* whole = plainLabel(QString(), m_theme.small(), this); // what the box is too narrow for
    column.addWidget(whole);
    const auto say = [box, whole] {
        whole->setText(box->currentText());
        whole->setVisible(box->fontMetrics().horizontalAdvance(box->currentText()) > kBoxTextWidth);
    };
    say();
    connect(box, &QComboBox::currentTextChanged, this, [this, say] {
        say();
        work();
    });
    m_fields.emplace_back(q.id, box);
}

offers::Answers EditSheet::answers() const
{
    offers::Answers answers;
    for (const auto& [id, field] : m_fields) {
        if (const auto* box = qobject_cast<QComboBox*>(field)) {
            const int typed = box->findText(box->currentText(), Qt::MatchFixedString);
            answers[id] = typed >= 0 ? box->itemData(typed).toString().toStdString() : box->currentText().toStdString();
        } else {
            answers[id] = qobject_cast<QLineEdit*>(field)->text().toStdString();
        }
    }
    return answers;
}

/// The change is worked out at once, what it does in time in the background.
void EditSheet::work()
{
    clear(*m_meaning);
    clear(*m_runs);
    m_trial.drop();
    m_after.reset();
    auto changed = offers::carriedOut(m_document.file(), m_target, m_offer.id, answers());
    m_do->setEnabled(changed.has_value());
    if (!changed) {
        addLine(*m_meaning, Mark::Wrong, words::sentence(changed.error().message));
    } else {
        m_after = std::make_shared<const Dossier>(std::move(changed->dossier));
        if (const auto meanings = offers::meaningOf(m_document.dossier().circuit, m_after->circuit))
            showMeaning(*meanings);
        m_trial.tryOut(m_document.snapshot(), m_after);
        showTrial();
    }
    emit previewChanged();
}

void EditSheet::addLine(QVBoxLayout& column, Mark mark, const QString& text)
{
    column.addWidget(new MarkedLine(mark, text, m_theme, this));
}

void EditSheet::showMeaning(const std::vector<offers::Meaning>& meanings)
{
    for (const offers::Meaning& m : meanings) {
        const Mark mark = m.weight == offers::Meaning::Weight::Loss ? Mark::Wrong
            : m.weight == offers::Meaning::Weight::Change           ? Mark::Open
                                                                    : Mark::Untouched;
        addLine(*m_meaning, mark, words::sentence(m.text));
    }
    if (meanings.empty())
        addLine(*m_meaning, Mark::Untouched, tr("the wiring stays as it is"));
}

void EditSheet::showTrial()
{
    clear(*m_runs);
    if (!m_after)
        return;
    const auto result = m_trial.result();
    if (!result) {
        addLine(*m_runs, Mark::Stale, tr("trying it out ..."));
        return;
    }
    if (result->refusal) {
        addLine(*m_runs, Mark::Wrong, words::sentence(result->refusal->message));
        return;
    }
    for (const std::string& name : result->broken)
        addLine(*m_runs, Mark::Wrong, tr("no longer as expected: %1").arg(QString::fromStdString(name)));
    for (const std::string& name : result->mended)
        addLine(*m_runs, Mark::InOrder, tr("now as expected: %1").arg(QString::fromStdString(name)));
    if (result->scenarios > 0 && result->broken.empty() && result->mended.empty())
        addLine(*m_runs, Mark::InOrder, tr("%1 scenarios run as before").arg(result->scenarios));
    if (result->scenarios == 0)
        addLine(*m_runs, Mark::Untouched, tr("there is no scenario to try it with"));
    showFindings();
}

void EditSheet::showFindings()
{
    const auto findings = m_trial.findings();
    if (!findings) {
        addLine(*m_runs, Mark::Stale, tr("looking for what it makes and mends ..."));
        return;
    }
    for (const Finding& f : findings->made)
        addLine(*m_runs, Mark::Wrong, tr("would be found: %1").arg(words::sentence(f.what)));
    for (const Finding& f : findings->taken)
        addLine(*m_runs, findings->seesLess ? Mark::Open : Mark::InOrder,
            (findings->seesLess ? tr("no longer seen, because less runs or is judged: %1") : tr("would be mended: %1"))
                .arg(words::sentence(f.what)));
    if (findings->notJudged)
        return addLine(*m_runs, Mark::Open, tr("not judged: %1").arg(words::sentence(findings->notJudged->message)));
    if (findings->made.empty() && findings->taken.empty())
        addLine(*m_runs, Mark::Untouched,
            tr("levels, stops, starts, trials and sizes find the same; single faults are tried once it is done"));
}

void EditSheet::makeIt()
{
    if (!m_after)
        return;
    const offers::Answers given = answers();
    const QString name = targetName(m_document.dossier().circuit, m_target);
    const bool made = m_document.editFile(name.isEmpty() ? m_title : m_title + ": " + name,
        [&](const DossierFile& file) { return offers::carriedOut(file, m_target, m_offer.id, given); });
    if (!made)
        return;
    const QString what = m_title;
    leave();
    emit done(what);
}

void EditSheet::leave()
{
    if (!m_isOpen)
        return;
    m_isOpen = false;
    m_after.reset();
    m_trial.drop();
    emit previewChanged();
    emit left();
}

void EditSheet::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_Escape)
        return leave();
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter)
        return makeIt();
    QScrollArea::keyPressEvent(e);
}

} // namespace ts::app
