#include "app/places/bench/bench_place.h"

#include "app/places/bench/device_state.h"
#include "app/places/bench/door_view.h"
#include "app/places/bench/inspector.h"
#include "app/places/bench/meter_panel.h"
#include "app/places/bench/paths_view.h"
#include "app/places/bench/plate_view.h"
#include "app/places/bench/trace_view.h"
#include "core/diagram/control_layout.h"
#include "core/diagram/power_layout.h"

#include <QAccessible>
#include <QHBoxLayout>
#include <QSplitter>
#include <QToolButton>
#include <QVBoxLayout>

namespace ts::app {

BenchPlace::BenchPlace(Document& document, Selection& selection, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_selection(selection)
    , m_theme(theme)
{
    setObjectName("place.bench");
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 12, 16, 12);
    row->setSpacing(16);
    row->addWidget(leftSide());
    row->addWidget(middle(), 1);
    row->addWidget(rightSide());

    connect(&document, &Document::loaded, this, [this] { m_circuit = {}; });
    connect(&document, &Document::changed, this, &BenchPlace::takeDocument);
    connect(&selection, &Selection::changed, this, [this] {
        m_paths->setSelected(m_selection.device(), m_selection.role());
        m_plate->setSelected(m_selection.device());
        m_inspector->show(m_selection.device(), m_selection.role());
        describeSelection();
    });
    connect(m_paths, &PathsView::symbolPicked, &selection, &Selection::select);
    connect(m_plate, &PlateView::devicePicked, this, [this](DeviceId id) { m_selection.select(id); });
    connect(m_trace, &TraceView::devicePicked, this, [this](int device) { m_selection.select(m_session.plant().devices[static_cast<std::size_t>(device)].id); });
    connect(m_paths, &PathsView::terminalPicked, m_meter, &MeterPanel::probe);
    connect(m_meter, &MeterPanel::probesChanged, this, [this] { m_paths->setProbes(m_meter->red(), m_meter->black()); });
    connect(&m_session, &BenchSession::frameChanged, this, &BenchPlace::updateHead);
    connect(&m_session, &BenchSession::runningChanged, this, &BenchPlace::updateHead);
    takeDocument();
}

QWidget* BenchPlace::leftSide()
{
    auto* side = new QWidget(this);
    side->setFixedWidth(248);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(12);
    m_door = new DoorView(m_session, m_theme, side);
    m_plate = new PlateView(m_session, m_theme, side);
    column->addWidget(m_door);
    column->addWidget(m_plate, 1);
    return side;
}

QToolButton* BenchPlace::headButton(const QString& name, const QString& text)
{
    auto* button = new QToolButton(this);
    button->setObjectName(name);
    button->setText(text);
    button->setAutoRaise(true);
    button->setFont(m_theme.body());
    button->setFocusPolicy(Qt::TabFocus);
    return button;
}

QWidget* BenchPlace::middle()
{
    auto* middle = new QWidget(this);
    auto* column = new QVBoxLayout(middle);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(4);
    auto* head = new QHBoxLayout;
    head->setSpacing(4);
    m_control = headButton("bench.control", tr("Control circuit"));
    m_power = headButton("bench.power", tr("Power circuit"));
    for (QToolButton* b : {m_control, m_power})
        b->setCheckable(true);
    connect(m_control, &QToolButton::clicked, this, [this] { showPower(false); });
    connect(m_power, &QToolButton::clicked, this, [this] { showPower(true); });
    m_time = new QLabel(this);
    m_time->setObjectName("bench.time");
    m_time->setFont(m_theme.mono(13));
    m_pause = headButton("bench.pause", tr("Pause"));
    QToolButton* back = headButton("bench.back", tr("Back"));
    QToolButton* step = headButton("bench.step", tr("Next event"));
    QToolButton* restart = headButton("bench.restart", tr("From rest"));
    connect(m_pause, &QToolButton::clicked, this, [this] { m_session.setRunning(!m_session.isRunning()); });
    connect(back, &QToolButton::clicked, &m_session, &BenchSession::stepBack);
    connect(step, &QToolButton::clicked, &m_session, &BenchSession::stepForward);
    connect(restart, &QToolButton::clicked, &m_session, &BenchSession::restart);
    head->addWidget(m_control);
    head->addWidget(m_power);
    head->addStretch(1);
    head->addWidget(m_time);
    for (QToolButton* b : {back, m_pause, step, restart})
        head->addWidget(b);
    column->addLayout(head);
    auto* splitter = new QSplitter(Qt::Vertical, middle);
    m_paths = new PathsView(m_session, m_theme, splitter);
    m_paths->setObjectName("paths");
    m_paths->setAccessibleName(tr("Current paths"));
    m_trace = new TraceView(m_session, m_theme, splitter);
    splitter->addWidget(m_paths);
    splitter->addWidget(m_trace);
    splitter->setStretchFactor(0, 1);
    splitter->setSizes({500, 206});
    splitter->setChildrenCollapsible(false);
    column->addWidget(splitter, 1);
    return middle;
}

QWidget* BenchPlace::rightSide()
{
    auto* side = new QWidget(this);
    side->setFixedWidth(256);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(12);
    m_inspector = new Inspector(m_session, m_theme, side);
    m_meter = new MeterPanel(m_session, m_theme, side);
    column->addWidget(m_inspector, 1);
    column->addWidget(m_meter);
    return side;
}

/// A changed claim leaves the running circuit alone; a changed circuit starts anew.
void BenchPlace::takeDocument()
{
    const Circuit& circuit = m_document.dossier().circuit;
    if (circuit == m_circuit && m_session.hasRun())
        return;
    m_circuit = circuit;
    // What was built for the old plant goes first: its buttons and cards look into the session by index.
    m_session.setPlant(nullptr);
    showCircuit({});
    auto plant = compile(circuit);
    if (plant && !circuit.devices.empty())
        m_session.setPlant(std::make_shared<const Plant>(std::move(*plant)));
    showCircuit(circuit);
    showPower(m_showsPower);
}

/// The drawing is painted: what is selected in it is told to screen readers in words.
void BenchPlace::describeSelection()
{
    QString text;
    if (m_session.hasRun())
        for (std::size_t i = 0; i < m_session.plant().devices.size(); ++i) {
            const PlantDevice& d = m_session.plant().devices[i];
            if (d.id == m_selection.device())
                text = QString::fromStdString(d.tag + " " + m_selection.role()) + ": "
                    + deviceState(m_session.plant(), m_session.frame(), static_cast<int>(i)).lines.join(QStringLiteral(", "));
        }
    m_paths->setAccessibleDescription(text);
    QAccessibleEvent event(m_paths, QAccessible::DescriptionChanged);
    QAccessible::updateAccessibility(&event);
}

void BenchPlace::showCircuit(const Circuit& circuit)
{
    m_door->setCircuit(circuit);
    m_plate->setCircuit(circuit);
    m_inspector->setCircuit(circuit);
}

void BenchPlace::showPower(bool power)
{
    m_showsPower = power;
    m_control->setChecked(!power);
    m_power->setChecked(power);
    if (const auto graph = diagram::wiredGraph(m_circuit))
        m_paths->setScene(power ? diagram::powerDrawing(*graph) : diagram::controlDrawing(*graph).scene);
}

void BenchPlace::updateHead()
{
    m_pause->setText(m_session.isRunning() ? tr("Pause") : tr("Go on"));
    if (!m_session.hasRun()) {
        m_time->clear();
        return;
    }
    QString text = QStringLiteral("%1 s").arg(secondsOf(m_session.run().now()).si(), 0, 'f', 2);
    if (const auto on = m_session.run().state().faults.size(); on > 0)
        text = tr("%n fault(s) on, ", nullptr, static_cast<int>(on)).replace(QStringLiteral("(s)"), on == 1 ? QString() : QStringLiteral("s")) + text;
    if (m_session.isSlow())
        text += tr(", slower than real time");
    m_time->setText(text);
}

} // namespace ts::app
