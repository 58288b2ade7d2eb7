#include "app/shell/search.h"

#include "app/widgets/marks.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QPointer>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {
constexpr int kMostShown = 200, kWidth = 560, kHeight = 420;
}

std::vector<const SearchItem*> found(const std::vector<SearchItem>& items, const QString& query)
{
    const QStringList words = query.split(QLatin1Char(' '), Qt::SkipEmptyParts);
    std::vector<const SearchItem*> list;
    for (const SearchItem& item : items) {
        const QString whole = item.kind + QLatin1Char(' ') + item.text + QLatin1Char(' ') + item.detail;
        if (std::all_of(
                words.begin(), words.end(), [&](const QString& w) { return whole.contains(w, Qt::CaseInsensitive); }))
            list.push_back(&item);
    }
    const auto weight = [&](const SearchItem* item) {
        return item->text.compare(query, Qt::CaseInsensitive) == 0 ? 0
            : item->text.startsWith(query, Qt::CaseInsensitive)    ? 1
                                                                   : 2;
    };
    if (!query.isEmpty())
        std::stable_sort(
            list.begin(), list.end(), [&](const SearchItem* a, const SearchItem* b) { return weight(a) < weight(b); });
    return list;
}

SearchBox::SearchBox(const Theme& theme, QWidget* window)
    : QFrame(window)
    , m_theme(theme)
    , m_line(new QLineEdit(this))
    , m_list(new QListWidget(this))
{
    setObjectName("search");
    hide();
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 12, 12, 12);
    m_line->setObjectName("search.line");
    m_line->setAccessibleName(tr("Find anything"));
    m_line->setPlaceholderText(tr("device, terminal, wire, finding, or what to do"));
    m_list->setObjectName("search.list");
    m_list->setAccessibleName(tr("Found"));
    m_list->setFrameShape(QFrame::NoFrame);
    m_list->setFont(theme.body());
    m_list->setFocusPolicy(Qt::NoFocus);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setTextElideMode(Qt::ElideRight);
    column->addWidget(m_line);
    column->addWidget(m_list, 1);
    m_line->installEventFilter(this);
    connect(m_line, &QLineEdit::textChanged, this, &SearchBox::refill);
    connect(m_list, &QListWidget::itemClicked, this, &SearchBox::chooseCurrent);
}

void SearchBox::open(std::vector<SearchItem> items)
{
    m_items = std::move(items);
    m_before = window()->focusWidget();
    move((parentWidget()->width() - kWidth) / 2, 60);
    m_line->clear();
    refill();
    show();
    raise();
    m_line->setFocus(Qt::OtherFocusReason);
}

void SearchBox::refill()
{
    m_list->clear();
    m_shown = found(m_items, m_line->text());
    const std::size_t shown = std::min<std::size_t>(m_shown.size(), kMostShown);
    for (std::size_t k = 0; k < shown; ++k) {
        const SearchItem& item = *m_shown[k];
        auto* row = new QListWidgetItem(item.text
                + (item.detail.isEmpty() ? QString() : QStringLiteral("   ") + item.detail)
                + QStringLiteral("   (%1)").arg(item.kind),
            m_list);
        row->setToolTip(row->text());
    }
    if (m_shown.size() > shown)
        (new QListWidgetItem(tr("... and %1 more: write more of the word").arg(m_shown.size() - shown), m_list))
            ->setFlags(Qt::NoItemFlags);
    if (m_shown.empty())
        (new QListWidgetItem(tr("Nothing is called that"), m_list))->setFlags(Qt::NoItemFlags);
    m_list->setCurrentRow(m_shown.empty() ? -1 : 0);
    const int wanted = m_line->sizeHint().height() + 44 + m_list->count() * std::max(18, m_list->sizeHintForRow(0));
    resize(kWidth, std::min({wanted, kHeight, parentWidget()->height() - 120}));
}

void SearchBox::step(int by)
{
    if (m_shown.empty())
        return;
    const int last = std::min(static_cast<int>(m_shown.size()), kMostShown) - 1;
    m_list->setCurrentRow(std::clamp(m_list->currentRow() + by, 0, last));
}

void SearchBox::chooseCurrent()
{
    const int row = m_list->currentRow();
    if (row < 0 || row >= static_cast<int>(m_shown.size()))
        return;
    const auto choose = m_shown[static_cast<std::size_t>(row)]->choose; // what it does may open this box again
    hide();
    if (m_before)
        m_before->setFocus(Qt::OtherFocusReason);
    choose();
}

bool SearchBox::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == m_line && event->type() == QEvent::FocusOut)
        hide();
    if (watched != m_line || event->type() != QEvent::KeyPress)
        return QFrame::eventFilter(watched, event);
    switch (static_cast<QKeyEvent*>(event)->key()) {
    case Qt::Key_Down:
        step(1);
        return true;
    case Qt::Key_Up:
        step(-1);
        return true;
    case Qt::Key_PageDown:
        step(10);
        return true;
    case Qt::Key_PageUp:
        step(-10);
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        chooseCurrent();
        return true;
    case Qt::Key_Escape:
        hide();
        if (m_before)
            m_before->setFocus(Qt::OtherFocusReason);
        return true;
    default:
        return QFrame::eventFilter(watched, event);
    }
}

void SearchBox::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.fillRect(rect(), m_theme.colours().panel);
    p.setPen(QPen(m_theme.colours().ink, 2));
    p.drawRect(rect().adjusted(1, 1, -1, -1));
}

} // namespace ts::app
