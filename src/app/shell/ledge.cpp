#include "app/shell/ledge.h"

#include "wording/wording.h"

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

void Ledge::setFindings(std::vector<Finding> findings, bool isStale, bool nothingChecked)
{
    m_findings = std::move(findings);
    m_isStale = isStale;
    m_nothingChecked = nothingChecked;
    if (!isStale)
        m_said.clear();
    refresh();
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
    for (const Finding& f : m_findings)
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
    if (m_nothingChecked)
        return tr("No safety function in this dossier: nothing is checked");
    if (m_isStale)
        return tr("Checking ...");
    const auto list = inOrder();
    if (list.empty())
        return tr("No finding: level reached as claimed, stop category as chosen, claim refers to what is there. "
                  "Nothing else was checked.");
    return wording::sentence(list.front()->what) + ". " + wording::sentence(list.front()->mend);
}

void Ledge::refresh()
{
    m_line->setText(line());
    m_line->setToolTip(line());
    const auto list = inOrder();
    m_open->setVisible(!list.empty() && m_said.isEmpty());
    m_open->setText(m_isOpen ? tr("Close") : list.size() == 1 ? tr("More") : tr("All %1 findings").arg(list.size()));
    QStringList texts;
    for (const Finding* f : list)
        texts << wording::sentence(f->what) + ". " + wording::sentence(f->consequence) + ". "
                + wording::sentence(f->mend) + ". (" + wording::sentence(f->evidence) + "; "
                + QString::fromStdString(f->clause) + ")";
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
    const Mark mark = !m_said.isEmpty() ? Mark::Wrong
        : m_nothingChecked              ? Mark::Untouched
        : m_isStale                     ? Mark::Stale
        : m_findings.empty()            ? Mark::InOrder
                                        : Mark::Wrong;
    paintMark(p, QRectF(16, m_line->geometry().center().y() - 4, 10, 10), mark, c);
}

} // namespace ts::app
