#include "app/places/bench/run_bar.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>

namespace ts::app {

RunBar::RunBar(BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
    , m_theme(theme)
    , m_row(new QHBoxLayout(this))
    , m_time(new QLabel(this))
{
    m_row->setContentsMargins(0, 0, 0, 0);
    m_row->setSpacing(2);
    m_time->setObjectName("bench.time");
    m_time->setFont(m_theme.mono(13));
    m_row->addWidget(m_time);
    addPace();
    auto* back = addButton("bench.back", tr("Back"), tr("Back to before the last event (,)"));
    m_pause = addButton("bench.pause", tr("Pause"), QString());
    auto* step = addButton("bench.step", tr("Next"), tr("On to the next event (.)"));
    auto* restart = addButton("bench.restart", tr("Restart"), tr("From rest (Ctrl+Home)"));
    connect(m_pause, &QToolButton::clicked, this, [this] { m_session.setRunning(!m_session.isRunning()); });
    connect(back, &QToolButton::clicked, &m_session, &BenchSession::stepBack);
    connect(step, &QToolButton::clicked, &m_session, &BenchSession::stepForward);
    connect(restart, &QToolButton::clicked, &m_session, &BenchSession::restart);
    connect(&m_session, &BenchSession::frameChanged, this, &RunBar::refresh);
    connect(&m_session, &BenchSession::runChanged, this, &RunBar::refresh);
    connect(&m_session, &BenchSession::runningChanged, this, &RunBar::refresh);
    refresh();
}

QToolButton* RunBar::addButton(const char* name, const QString& text, const QString& help)
{
    auto* button = new QToolButton(this);
    button->setObjectName(name);
    button->setText(text);
    button->setToolTip(help);
    button->setAutoRaise(true);
    button->setFont(m_theme.body());
    button->setFocusPolicy(Qt::TabFocus);
    m_row->addWidget(button);
    return button;
}

/// Slower than the machine: what relays do one after the other within a blink can be followed.
void RunBar::addPace()
{
    m_pace = new QComboBox(this);
    m_pace->setObjectName("bench.pace");
    m_pace->setAccessibleName(tr("How fast it runs"));
    m_pace->setToolTip(tr("How fast it runs: as the machine, or so many times slower"));
    m_pace->setFont(m_theme.body());
    for (int slower : {1, 10, 100, 1000})
        m_pace->addItem(QStringLiteral("1:%1").arg(slower), slower);
    connect(
        m_pace, &QComboBox::currentIndexChanged, this, [this] { m_session.setPace(m_pace->currentData().toInt()); });
    m_row->addWidget(m_pace);
}

void RunBar::refresh()
{
    m_pause->setText(m_session.isRunning() ? tr("Pause") : tr("Go on"));
    if (!m_session.hasRun()) {
        m_time->clear();
        return;
    }
    const int digits = m_session.pace() >= 100 ? 4 : m_session.pace() > 1 ? 3 : 2;
    QString text = QStringLiteral("%1 s").arg(secondsOf(m_session.run().now()).si(), 0, 'f', digits);
    if (const auto on = m_session.run().state().faults.size(); on > 0)
        text = (on == 1 ? tr("1 fault on, ") : tr("%1 faults on, ").arg(on)) + text;
    if (m_session.isSlow())
        text += tr(", slower than real time");
    m_time->setText(text);
}

} // namespace ts::app
