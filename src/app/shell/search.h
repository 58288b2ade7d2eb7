#pragma once
// Find anything: devices, terminals, wires, findings, actions, and what can be meant with what is selected. Words in
// any order.

#include "app/frame/search_item.h"
#include "app/widgets/theme.h"

#include <QFrame>
#include <QString>

#include <functional>
#include <vector>

class QLineEdit;
class QListWidget;

namespace ts::app {

/// Those in which every word of the query occurs; the ones whose text begins with it first. All, if the query is empty.
std::vector<const SearchItem*> found(const std::vector<SearchItem>& items, const QString& query);

class SearchBox : public QFrame {
    Q_OBJECT
public:
    SearchBox(const Theme& theme, QWidget* window);
    /// Shows itself over the window, with what can be found now.
    void open(std::vector<SearchItem> items);
    const std::vector<SearchItem>& items() const { return m_items; }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void paintEvent(QPaintEvent*) override;

private:
    void refill();
    void chooseCurrent();
    void step(int by);

    const Theme& m_theme;
    std::vector<SearchItem> m_items;
    std::vector<const SearchItem*> m_shown;
    QLineEdit* m_line;
    QListWidget* m_list;
    QWidget* m_before = nullptr; ///< what had the keyboard
};

} // namespace ts::app
