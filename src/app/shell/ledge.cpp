#include "app/shell/ledge.h"

#include "app/words/words.h"
#include "core/checks/check.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QToolButton>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

/// One line, with an ellipsis where it does not fit; its text stays whole for those who have it read to them.
class LedgeLine : public QLabel {
public:
    using QLabel::QLabel;

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter p(this);
        p.setPen(palette().color(QPalette::WindowText));
        p.drawText(rect(), Qt::AlignVCenter | Qt::AlignLeft | Qt::TextSingleLine,
            fontMetrics().elidedText(text(), Qt::ElideRight, width()));
    }
};

} // namespace

Ledge::Ledge(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
    , m_line(new LedgeLine(this))
    , m_open(new QToolButton(this))
    , m_list(new QLabel(this))
{
    setObjectName("ledge");
    m_line->setObjectName("ledge.line");
    m_line->setTextFormat(Qt::PlainText);
    m_line->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    m_open->setObjectName("ledge.open");
    m_open->setAutoRaise(true);
    m_list->setObjectName("ledge.list");
    m_list->setWordWrap(true);
    m_list->setTextFormat(Qt::PlainText);
    m_list->setVisible(false);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(36, 4, 16, 4);
    column->setSpacing(2);
    auto* row = new QHBoxLayout;
    row->addWidget(m_line, 1);
    row->addWidget(m_open);
    column->addLayout(row);
    column->addWidget(m_list);
    connect(m_open, &QToolButton::clicked, this, [this] {
        m_isOpen = !m_isOpen;
        refresh();
    });
    refresh();
}

void Ledge::setState(State state)
{
    const bool isNew = !state.isBehind && state.findings != m_state.findings;
    m_state = std::move(state);
    if (isNew)
        m_said.clear();
    refresh();
}

void Ledge::take(const StudyBook& book, const Dossier& dossier)
{
    State state;
    if (const auto checked = book.newest(kChecks)) {
        state.findings = checked.value->findings;
        state.checks = static_cast<int>(checked.value->checks.size());
        state.open = static_cast<int>(std::count_if(checked.value->checks.begin(), checked.value->checks.end(),
            [](const CheckMade& c) { return !c.isWhole(); }));
    }
    state.isBehind = book.isBehind();
    state.nothingChecked = dossier.functions.empty() && state.findings.empty();
    setState(std::move(state));
}

void Ledge::setSelectedTag(const std::string& tag)
{
    m_tag = tag;
    m_said.clear();
    refresh();
}

void Ledge::say(const QString& text)
{
    m_said = text;
    refresh();
}

/// Those that concern the selection first.
std::vector<const Finding*> Ledge::inOrder() const
{
    std::vector<const Finding*> list;
    for (const Finding& f : m_state.findings)
        list.push_back(&f);
    std::stable_sort(list.begin(), list.end(), [this](const Finding* a, const Finding* b) {
        const auto concerns = [this](const Finding* f) {
            return std::find(f->devices.begin(), f->devices.end(), m_tag) != f->devices.end();
        };
        return concerns(a) > concerns(b);
    });
    return list;
}

QString Ledge::line() const
{
    if (!m_said.isEmpty())
        return m_said;
    if (m_state.nothingChecked)
        return tr("No safety function in this dossier: nothing is checked");
    const auto list = inOrder();
    if (!list.empty())
        return words::sentence(list.front()->what) + ". " + words::sentence(list.front()->mend);
    if (m_state.isBehind || m_state.checks == 0)
        return tr("Checking ...");
    return m_state.open > 0 ? tr("No finding so far, but %1 of %2 checks were not made, or in part only")
                                  .arg(m_state.open)
                                  .arg(m_state.checks)
                            : tr("No finding from %1 checks; nothing else was checked").arg(m_state.checks);
}

void Ledge::refresh()
{
    m_line->setText(line());
    m_line->setToolTip(line());
    const auto list = inOrder();
    m_open->setVisible(!list.empty() && m_said.isEmpty());
    const QString findings = list.size() == 1 ? tr("1 finding") : tr("All %1 findings").arg(list.size());
    m_open->setText(m_isOpen ? tr("Close")
            : m_state.open   ? tr("%1, %2 of %3 checks open").arg(findings).arg(m_state.open).arg(m_state.checks)
                             : findings);
    QStringList texts;
    for (const Finding* f : list)
        texts << words::sentence(f->what) + ". " + words::sentence(f->consequence) + ". " + words::sentence(f->mend)
                + ". (" + words::sentence(f->evidence) + "; " + QString::fromStdString(f->clause) + ")";
    m_list->setText(texts.join(QStringLiteral("\n")));
    m_list->setVisible(m_isOpen && !list.empty() && m_said.isEmpty());
    update();
}

void Ledge::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    p.fillRect(rect(), c.panel);
    p.setPen(c.line);
    p.drawLine(rect().topLeft(), rect().topRight());
    const bool isToBeMended = std::any_of(m_state.findings.begin(), m_state.findings.end(),
        [](const Finding& f) { return f.severity != Severity::Note; });
    const Mark mark = !m_said.isEmpty() ? Mark::Open
        : m_state.nothingChecked        ? Mark::Untouched
        : isToBeMended                  ? Mark::Wrong
        : m_state.isBehind              ? Mark::Working
        : m_state.open > 0              ? Mark::Claimed
        : m_state.findings.empty()      ? Mark::InOrder
                                        : Mark::Open;
    paintMark(p, QRectF(16, m_line->geometry().center().y() - 4, 10, 10), mark, c);
}

} // namespace ts::app
