#include "app/places/bench/beside_view.h"

#include "app/places/bench/page_turner.h"
#include "app/places/bench/paths_view.h"
#include "app/widgets/plain_text.h"

#include <QElapsedTimer>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

constexpr qint64 kFollowNs = 4'000'000; ///< of the window's thread each time the first one has gone on
constexpr int kSideWidth = 230;

} // namespace

BesideView::BesideView(BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
{
    setObjectName("bench.beside");
    m_other.setClockEnabled(false);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    m_paths = new PathsView(m_other, theme, this);
    m_paths->setObjectName("beside.paths");
    m_paths->setAccessibleName(tr("Current paths of the circuit beside it"));
    row->addWidget(m_paths, 1);
    auto* side = new QWidget(this);
    side->setFixedWidth(kSideWidth);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    m_name = plainLabel({}, theme.bold(), side);
    m_name->setObjectName("beside.name");
    m_name->setWordWrap(true);
    m_pages = new PageTurner(*m_paths, side);
    m_pages->setAutoRaise(true);
    m_differs = plainLabel({}, theme.body(), side);
    m_differs->setObjectName("beside.differs");
    m_differs->setWordWrap(true);
    m_differs->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    auto* away = new QPushButton(tr("Put it away"), side);
    away->setObjectName("beside.away");
    column->addWidget(m_name);
    column->addWidget(m_pages);
    column->addWidget(m_differs, 1);
    column->addWidget(away);
    row->addWidget(side);
    connect(away, &QPushButton::clicked, this, &BesideView::leave);
    connect(&m_session, &BenchSession::frameChanged, this, &BesideView::follow);
    connect(&m_session, &BenchSession::runChanged, this, [this] { m_beside = {}; });
}

Expected<void> BesideView::show(const Circuit& other, const QString& name, bool power, const wording::Habits& habits)
{
    auto plant = compile(other);
    if (!plant)
        return Unexpected{plant.error()};
    m_circuit = other;
    m_beside = {};
    m_other.setPlant(std::make_shared<const Plant>(*std::move(plant)));
    m_isOpen = true;
    m_name->setText(tr("Beside it, with the same hands: %1").arg(name));
    setDrawing(power, habits);
    follow();
    return {};
}

void BesideView::setDrawing(bool power, const wording::Habits& habits)
{
    if (!m_isOpen)
        return;
    m_pages->show(m_circuit, power, habits);
    m_paths->fit();
}

void BesideView::leave()
{
    m_isOpen = false;
    m_other.setPlant(nullptr);
    emit left();
}

void BesideView::follow()
{
    if (!m_isOpen || !m_session.hasRun() || !m_other.hasRun())
        return;
    QElapsedTimer budget;
    budget.start();
    bool isThere = false;
    m_other.drive([&](BenchRun& other) {
        isThere = m_beside.follow(m_session.run(), other, [&budget] { return budget.nsecsElapsed() > kFollowNs; });
    });
    QStringList lines;
    for (const measuring::Differing& d : measuring::differingNow(m_session.run(), m_other.run()))
        lines << tr("%1: %2 above, %3 here")
                     .arg(QString::fromStdString(d.tag), QString::fromStdString(d.first),
                         QString::fromStdString(d.second));
    if (lines.isEmpty())
        lines << tr("What both have looks the same now");
    QStringList missing;
    for (const std::string& m : m_beside.notThere())
        missing << QString::fromStdString(m);
    if (!missing.isEmpty())
        lines << tr("Not there: %1").arg(missing.join(QStringLiteral(", ")));
    if (!isThere)
        lines << tr("It is still catching up");
    if (const QString text = lines.join('\n'); text != m_differs->text())
        m_differs->setText(text);
}

} // namespace ts::app
