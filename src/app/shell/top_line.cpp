#include "app/shell/top_line.h"

#include "app/shell/course.h"

#include <QActionGroup>
#include <QEvent>
#include <QHBoxLayout>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>

namespace ts::app {
namespace {

constexpr int kName = 200, kShortName = 140, kWide = 1240;

} // namespace

TopLine::TopLine(const ActionTable& actions, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_actions(actions)
    , m_theme(theme)
{
    setObjectName("top");
    setFixedHeight(58);
    setAutoFillBackground(true);
    setBackgroundRole(QPalette::Base);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 0, 12, 0);
    row->setSpacing(8);
    m_name = new QPushButton(this);
    m_name->setObjectName("dossier");
    m_name->setFlat(true);
    m_name->setFont(theme.bold());
    m_name->setToolTip(tr("Open, save, write the report"));
    m_name->installEventFilter(this);
    auto* menu = new QMenu(m_name);
    for (const ActionSpec& s : actions.specs())
        if (s.inMenu)
            menu->addAction(actions.action(s.id));
    m_name->setMenu(menu);
    row->addWidget(m_name);
    m_course = new Course(theme, this);
    row->addWidget(m_course);
    row->addStretch(1);
    m_search = tool("search", {});
    row->addWidget(m_search);
    row->addWidget(tool("edit.undo", tr("Undo")));
    row->addWidget(tool("edit.redo", tr("Redo")));
    auto* view = new QToolButton(this);
    view->setObjectName("tool.view");
    view->setText(tr("View"));
    view->setAutoRaise(true);
    view->setPopupMode(QToolButton::InstantPopup);
    view->setMenu(viewMenu(view));
    view->setToolTip(tr("How circuits, sizes and colours are shown"));
    row->addWidget(view);
    m_look = tool("view.theme", tr("Dark"));
    row->addWidget(m_look);
    takeTheme();
    fitWidth();
}

QToolButton* TopLine::tool(const QString& id, const QString& text)
{
    auto* button = new QToolButton(this);
    button->setDefaultAction(m_actions.action(id));
    button->setObjectName("tool." + id);
    button->setAutoRaise(true);
    button->setToolButtonStyle(Qt::ToolButtonTextOnly);
    button->setText(text);
    return button;
}

/// One section a question.
QMenu* TopLine::viewMenu(QWidget* parent)
{
    auto* menu = new QMenu(parent);
    QActionGroup* group = nullptr;
    QString last;
    for (const ActionSpec& s : m_actions.specs()) {
        if (!s.holds)
            continue;
        if (s.group != last) {
            if (!last.isEmpty())
                menu->addSeparator();
            group = new QActionGroup(menu);
            group->setExclusionPolicy(
                s.group.isEmpty() ? QActionGroup::ExclusionPolicy::None : QActionGroup::ExclusionPolicy::Exclusive);
        }
        last = s.group;
        group->addAction(m_actions.action(s.id));
        menu->addAction(m_actions.action(s.id));
    }
    return menu;
}

void TopLine::setName(const QString& name, bool isModified, bool isReadOnly)
{
    m_shown = name.isEmpty() ? tr("No dossier") : name;
    m_state = (isModified ? QStringLiteral(" *") : QString()) + (isReadOnly ? tr(", read only") : QString());
    fitName();
    m_name->setToolTip((name.isEmpty() ? QString() : name + '\n') + tr("Open, save, write the report"));
}

/// In a narrow window the search is its key alone, what it does is told on demand; and a long name gives way.
void TopLine::fitWidth()
{
    const bool isWide = width() >= kWide;
    layout()->setSpacing(isWide ? 8 : 4);
    m_name->setFixedWidth(isWide ? kName : kShortName);
    m_search->setText(isWide ? tr("Find anything   Ctrl+K") : tr("Ctrl+K"));
    m_search->setToolTip(tr("Find anything: devices, terminals, wires, functions, findings, actions (Ctrl+K)"));
    m_search->setAccessibleName(tr("Find anything"));
}

void TopLine::resizeEvent(QResizeEvent*)
{
    fitWidth();
}

/// The name gives way, not what stands behind it.
void TopLine::fitName()
{
    constexpr int kBeside = 48; // padding and the sign of the menu
    const QFontMetrics metrics(m_name->font());
    const int room = m_name->width() - kBeside - metrics.horizontalAdvance(m_state);
    m_name->setText(metrics.elidedText(m_shown, Qt::ElideRight, room) + m_state);
}

bool TopLine::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == m_name && event->type() == QEvent::Resize)
        fitName();
    return QWidget::eventFilter(watched, event);
}

void TopLine::takeTheme()
{
    m_name->setStyleSheet(QStringLiteral(
        "QPushButton{border:none;background:transparent;text-align:left;padding:6px 20px 6px 8px;color:%1}"
        "QPushButton:focus{text-decoration:underline}")
                              .arg(m_theme.colours().ink.name()));
    m_look->setText(m_theme.isDark() ? tr("Light") : tr("Dark"));
}

} // namespace ts::app
