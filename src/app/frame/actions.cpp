#include "app/frame/actions.h"

#include "core/base/check.h"

#include <QWidget>

namespace ts::app {

ActionTable::ActionTable(std::vector<ActionSpec> specs, QWidget* owner)
    : m_specs(std::move(specs))
{
    for (const ActionSpec& s : m_specs) {
        auto* action = new QAction(s.text, owner);
        action->setObjectName(s.id);
        action->setShortcut(s.shortcut);
        action->setShortcutContext(Qt::WindowShortcut);
        if (!s.shortcut.isEmpty())
            action->setToolTip(QStringLiteral("%1 (%2)").arg(s.text, s.shortcut.toString(QKeySequence::NativeText)));
        QObject::connect(action, &QAction::triggered, owner, [run = s.run] { run(); });
        action->setCheckable(bool(s.holds));
        owner->addAction(action);
        m_actions.push_back(action);
    }
}

void ActionTable::update()
{
    for (std::size_t i = 0; i < m_specs.size(); ++i) {
        m_actions[i]->setEnabled(!m_specs[i].isPossible || m_specs[i].isPossible());
        if (m_specs[i].holds)
            m_actions[i]->setChecked(m_specs[i].holds());
    }
}

QAction* ActionTable::action(const QString& id) const
{
    for (std::size_t i = 0; i < m_specs.size(); ++i)
        if (m_specs[i].id == id)
            return m_actions[i];
    TS_CHECK(!"unknown action");
    return nullptr;
}

} // namespace ts::app
