#include "app/places/bench/page_turner.h"

#include "app/places/bench/paths_view.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"

#include <QMenu>

namespace ts::app {

PageTurner::PageTurner(PathsView& view, QWidget* parent)
    : QToolButton(parent)
    , m_view(view)
{
    setToolTip(tr("What is on which page (Page Up and Page Down turn them)"));
    connect(&view, &PathsView::pageChanged, this, &PageTurner::takePage);
    connect(this, &QToolButton::clicked, this, &PageTurner::openList);
}

void PageTurner::show(const Circuit& circuit, bool isPower, const wording::Habits& habits)
{
    const auto graph = diagram::wiredGraph(circuit);
    if (!graph)
        return;
    diagram::ControlDrawing whole;
    if (isPower) {
        whole.scene = withPhaseNames(diagram::powerDrawing(*graph), habits);
        whole.rowEnds = {whole.scene.height};
    } else {
        whole = diagram::controlDrawing(*graph, habits.school);
    }
    showPages(*graph, std::move(whole));
}

void PageTurner::showPages(const diagram::WiredGraph& graph, diagram::ControlDrawing whole)
{
    std::vector<diagram::Page> pages = diagram::pagesOf(graph, whole, m_view.legibleSheet());
    m_names.clear();
    for (const diagram::Page& page : pages) {
        QStringList tags;
        for (const std::string& tag : diagram::subjectsOf(graph, page))
            tags << QString::fromStdString(tag);
        m_names.push_back(tags.join(QLatin1Char(' ')));
    }
    if (pages.size() > 1) {
        pages.push_back({std::move(whole.scene), std::move(whole.paths)});
        m_names.push_back(tr("the whole drawing, small"));
    }
    m_view.setPages(std::move(pages));
}

void PageTurner::takePage()
{
    const int page = m_view.page(), count = m_view.pageCount();
    setVisible(count > 1);
    if (count > 1)
        setText(page == count - 1 ? tr("whole")
                                  : (m_isShort ? tr("%1 of %2") : tr("Page %1 of %2")).arg(page + 1).arg(count - 1));
}

void PageTurner::setShort(bool isShort)
{
    m_isShort = isShort;
    takePage();
}

void PageTurner::openList()
{
    auto* menu = new QMenu(this);
    menu->setObjectName("bench.pages");
    menu->setAttribute(Qt::WA_DeleteOnClose);
    for (std::size_t k = 0; k < m_names.size(); ++k) {
        const bool isWhole = k + 1 == m_names.size();
        QAction* action = menu->addAction(isWhole ? m_names[k] : QStringLiteral("%1   %2").arg(k + 1).arg(m_names[k]));
        action->setCheckable(true);
        action->setChecked(static_cast<int>(k) == m_view.page());
        connect(action, &QAction::triggered, this, [this, k] { m_view.showPage(static_cast<int>(k)); });
    }
    menu->popup(mapToGlobal(QPoint(0, height())));
}

} // namespace ts::app
