#pragma once
// A list of results under headings: a mark, what is claimed, what came of it. The keyboard walks it; Enter opens.

#include "app/widgets/marks.h"

#include <QTreeWidget>

namespace ts::app {

class ResultList : public QTreeWidget {
    Q_OBJECT
public:
    ResultList(const QStringList& columns, const Theme& theme, QWidget* parent);
    QTreeWidgetItem* heading(const QString& text);
    /// `number`: told again by itemNumber().
    void add(QTreeWidgetItem* heading, Mark mark, const QStringList& texts, int number);
    /// -1 for a heading or nothing.
    int selectedNumber() const;

private:
    QIcon iconOf(Mark mark) const;

    const Theme& m_theme;
};

} // namespace ts::app
