#include "app/places/bench/feeding_view.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"
#include "core/base/at.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {

FeedingView::FeedingView(BenchSession& session, const Theme& theme, int device, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
    , m_theme(theme)
    , m_device(device)
    , m_trial(this)
{
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 6, 0, 0);
    all->setSpacing(2);
    const auto add = [&](const char* name, const QFont& font) {
        QLabel* label = plainLabel(QString(), font, this);
        label->setObjectName(name);
        all->addWidget(label);
        return label;
    };
    m_heading = add("feeding.heading", m_theme.bold());
    m_way = add("feeding.way", m_theme.body());
    m_rows = new QVBoxLayout;
    m_rows->setSpacing(2);
    all->addLayout(m_rows);
    m_try = new QPushButton(tr("Would it come then?"), this);
    m_try->setObjectName("feeding.try");
    m_try->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    connect(m_try, &QPushButton::clicked, this, &FeedingView::tryOut);
    all->addWidget(m_try);
    m_tried = add("feeding.tried", m_theme.body());
    connect(&session, &BenchSession::frameChanged, this, &FeedingView::refresh);
    refresh();
    fill();
}

void FeedingView::refresh()
{
    if (!m_session.hasRun() || m_device >= static_cast<int>(m_session.plant().devices.size()))
        return;
    const Frame& frame = m_session.frame();
    Looked looked{frame.travel, frame.lampLit, frame.actuators, frame.faults};
    if (looked == m_looked)
        return; // most frames change nothing but time
    m_looked = std::move(looked);
    auto now = feedingOf(m_session.plant(), m_session.run().state(), frame, m_device);
    if (!now || *now == m_feeding)
        return;
    m_feeding = std::move(*now);
    fill();
}

QString FeedingView::nameOf(int link) const
{
    const PlantLink& l = m_session.plant().links[at(link)];
    const QString role = QString::fromStdString(l.role);
    return l.device < 0 ? tr("wire %1").arg(role)
                        : QString::fromStdString(m_session.plant().devices[at(l.device)].tag) + ' ' + role;
}

QString FeedingView::rowOf(const Gap& gap) const
{
    const PlantLink& l = m_session.plant().links[at(gap.link)];
    const QString name = nameOf(gap.link),
                  tag = l.device < 0 ? QString() : QString::fromStdString(m_session.plant().devices[at(l.device)].tag);
    switch (gap.closes) {
    case Gap::Closes::Hand:
        return tr("%1: %2").arg(name, words::doWord(gap.action));
    case Gap::Closes::Coil:
        return tr("%1: %2 must pull in").arg(name, tag);
    case Gap::Closes::NoCoil:
        return tr("%1: %2 must drop out").arg(name, tag);
    case Gap::Closes::Reset:
        return gap.action.empty() ? tr("%1: has tripped").arg(name)
                                  : tr("%1: has tripped. %2").arg(name, words::doWord(gap.action));
    case Gap::Closes::Program:
        return tr("%1: %2 must close it").arg(name, tag);
    case Gap::Closes::Repair:
        return tr("%1: broken, or held open").arg(name);
    }
    return name;
}

void FeedingView::fill()
{
    m_trial.drop();
    while (QLayoutItem* item = m_rows->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->setParent(nullptr);
            w->deleteLater();
        }
        delete item;
    }
    QStringList way;
    for (int link : m_feeding.way)
        if (m_session.plant().links[at(link)].device >= 0 && !m_session.plant().links[at(link)].role.empty())
            if (const QString name = nameOf(link); way.isEmpty() || way.last() != name)
                way << name;
    m_heading->setText(m_feeding.isFed   ? tr("What feeds it")
            : m_feeding.gaps.empty()     ? tr("Why it is off")
            : m_feeding.gaps.size() == 1 ? tr("One open contact keeps it off")
                                         : tr("%1 open contacts keep it off").arg(m_feeding.gaps.size()));
    const QString none = tr("No way leads to it from any supply.");
    m_way->setText(!m_feeding.hasWay ? none
            : way.isEmpty()          ? tr("It lies straight at its supply.")
                                     : tr("By way of %1").arg(way.join(QStringLiteral(", "))));
    if (m_feeding.hasWay && !m_feeding.isFed && m_feeding.gaps.empty())
        m_way->setText(m_way->text() + tr(": all closed. What it has is not enough, or there is no supply."));
    bool hands = false;
    m_drawn.clear();
    for (const Gap& gap : m_feeding.gaps) {
        hands |= !gap.action.empty();
        const PlantLink& l = m_session.plant().links[at(gap.link)];
        auto* row = new QPushButton(tr("%1  %2").arg(m_rows->count() + 1).arg(rowOf(gap)), this);
        row->setObjectName("feeding.gap." + QString::number(m_rows->count() + 1));
        row->setToolTip(row->text());
        row->setFlat(true);
        row->setStyleSheet(QStringLiteral("text-align: left"));
        row->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        if (l.device >= 0) {
            const DrawnElement element{m_session.plant().devices[at(l.device)].id, l.role};
            m_drawn.push_back(element);
            connect(
                row, &QPushButton::clicked, this, [this, element] { emit gapPicked(element.first, element.second); },
                Qt::QueuedConnection);
        }
        m_rows->addWidget(row);
    }
    m_try->setVisible(hands && !m_feeding.isFed);
    m_tried->clear();
    m_tried->hide();
    announce();
}

void FeedingView::tryOut()
{
    m_tried->setText(tr("is being tried ..."));
    m_tried->show();
    auto plant = std::make_shared<const Plant>(m_session.plant());
    m_trial.run(
        [plant, state = m_session.run().state(), feeding = m_feeding, device = m_device](std::stop_token) {
            Workspace workspace;
            return std::optional(feedsWhenTried(*plant, state, feeding, device, workspace));
        },
        [this](const std::shared_ptr<const bool>& comes) {
            m_tried->setText(*comes ? tr("Tried: after these hands it comes.")
                                    : tr("Tried: after these hands it still does not come."));
        });
}

} // namespace ts::app
