#include "app/places/faults/result_list.h"

#include <QHeaderView>
#include <QPainter>

namespace ts::app {
namespace {

constexpr int kNumber = Qt::UserRole;

} // namespace

ResultList::ResultList(const QStringList& columns, const Theme& theme, QWidget* parent)
    : QTreeWidget(parent)
    , m_theme(theme)
{
    setHeaderLabels(columns);
    setRootIsDecorated(false);
    setUniformRowHeights(false);
    setWordWrap(true);
    setIndentation(8);
    setFrameShape(QFrame::NoFrame);
    setIconSize({11, 11});
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    header()->setSectionResizeMode(0, QHeaderView::Stretch);
    header()->setStretchLastSection(false);
    for (int c = 1; c < static_cast<int>(columns.size()); ++c)
        header()->setSectionResizeMode(c, QHeaderView::ResizeToContents);
}

QIcon ResultList::iconOf(Mark mark) const
{
    const double ratio = devicePixelRatioF();
    const auto picture = [&](const Colours& colours) {
        QPixmap map(QSize(11, 11) * ratio);
        map.setDevicePixelRatio(ratio);
        map.fill(Qt::transparent);
        QPainter p(&map);
        paintMark(p, QRectF(0.5, 0.5, 10, 10), mark, colours);
        return map;
    };
    QIcon icon(picture(m_theme.colours()));
    Colours onInk = m_theme.colours(); // the row that is selected is dark: its shape says it
    onInk.quiet = onInk.caught = onInk.hidden = onInk.lost = onInk.paper;
    icon.addPixmap(picture(onInk), QIcon::Selected);
    return icon;
}

QTreeWidgetItem* ResultList::heading(const QString& text)
{
    auto* item = new QTreeWidgetItem(this, {text});
    item->setFirstColumnSpanned(true);
    item->setFont(0, m_theme.bold());
    item->setData(0, kNumber, -1);
    item->setFlags(Qt::ItemIsEnabled);
    item->setExpanded(true);
    return item;
}

void ResultList::add(QTreeWidgetItem* heading, Mark mark, const QStringList& texts, int number)
{
    auto* item = new QTreeWidgetItem(heading, texts);
    item->setIcon(0, iconOf(mark));
    item->setData(0, kNumber, number);
    item->setData(0, Qt::AccessibleTextRole, markWord(mark) + ": " + texts.join(", "));
    for (int c = 1; c < static_cast<int>(texts.size()); ++c)
        item->setTextAlignment(c,
            c + 1 == columnCount() && columnCount() == 2 ? Qt::AlignLeft | Qt::AlignTop
                                                         : Qt::AlignRight | Qt::AlignTop);
}

int ResultList::selectedNumber() const
{
    const QList<QTreeWidgetItem*> items = selectedItems();
    return items.isEmpty() ? -1 : items.front()->data(0, kNumber).toInt();
}

} // namespace ts::app
