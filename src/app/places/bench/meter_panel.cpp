#include "app/places/bench/meter_panel.h"

#include "app/widgets/marks.h"
#include "core/base/at.h"

#include <QCompleter>
#include <QCoreApplication>
#include <QFormLayout>
#include <QLabel>

#include <cmath>

namespace ts::app {
namespace {
}

MeterReading meterReading(const Plant& plant, const Frame& f, int red, int black)
{
    if (red < 0 || black < 0)
        return {QStringLiteral("- - -"), QStringLiteral("V"),
            QCoreApplication::translate("MeterPanel", "put both probes on")};
    const int a = plant.terminals[at(red)].node, b = plant.terminals[at(black)].node;
    const NodeReading &na = f.nodes[at(a)], &nb = f.nodes[at(b)];
    if (a != b && (na.floating || nb.floating) && !(na.floating && nb.floating && na.isJoinedWith(nb)))
        return {QCoreApplication::translate("MeterPanel", "floating"), QString(),
            QCoreApplication::translate("MeterPanel", "a probe hangs on nothing")};
    const double dc = na.directV - nb.directV, ac = std::abs(na.alternatingV - nb.alternatingV);
    const bool showsAc = ac > std::abs(dc);
    const double shown = showsAc ? ac : dc;
    QString value = QString::number(shown, 'f', std::abs(shown) < 10 ? 2 : std::abs(shown) < 1000 ? 1 : 0);
    if (value.toDouble() == 0.0)
        value = QStringLiteral("0.00");
    const QString other = showsAc ? (std::abs(dc) > 0.05 ? QStringLiteral("%1 V DC").arg(dc, 0, 'f', 1) : QString())
                                  : (ac > 0.05 ? QStringLiteral("%1 V AC").arg(ac, 0, 'f', 1) : QString());
    return {value, showsAc ? QStringLiteral("V AC") : QStringLiteral("V DC"), other};
}

MeterPanel::MeterPanel(BenchSession& session, const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_session(session)
    , m_theme(theme)
{
    setObjectName("meter");
    setAccessibleName(tr("Meter"));
    auto* form = new QFormLayout(this);
    form->setContentsMargins(12, 76, 12, 10);
    form->setVerticalSpacing(4);
    m_red = addProbe("meter.red", tr("Red probe"));
    m_black = addProbe("meter.black", tr("Black probe"));
    const auto row = [&](const QString& name, QWidget* w) {
        auto* label = new QLabel(name, this);
        label->setObjectName(w->objectName() + ".label");
        QPalette p = label->palette();
        p.setColor(QPalette::WindowText, Qt::white);
        label->setPalette(p);
        label->setBuddy(qobject_cast<QWidget*>(w));
        form->addRow(label, w);
    };
    row(tr("+ red"), m_red);
    row(tr("- black"), m_black);
    connect(&session, &BenchSession::runChanged, this, &MeterPanel::fill);
    connect(&session, &BenchSession::frameChanged, this, qOverload<>(&QWidget::update));
}

QComboBox* MeterPanel::addProbe(const QString& name, const QString& words)
{
    auto* box = new QComboBox(this);
    box->setObjectName(name);
    box->setAccessibleName(words);
    box->setEditable(true);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->completer()->setFilterMode(Qt::MatchContains);
    box->completer()->setCompletionMode(QCompleter::PopupCompletion);
    connect(box, &QComboBox::currentIndexChanged, this, [this] {
        emit probesChanged();
        update();
    });
    return box;
}

void MeterPanel::fill()
{
    for (QComboBox* box : {m_red, m_black}) {
        const QString before = box->currentText();
        box->clear();
        box->addItem(QString(), -1);
        if (m_session.hasRun())
            for (std::size_t t = 0; t < m_session.plant().terminals.size(); ++t) {
                const PlantTerminal& terminal = m_session.plant().terminals[t];
                if (!terminal.inner)
                    box->addItem(QString::fromStdString(
                                     m_session.plant().devices[at(terminal.device)].tag + ":" + terminal.marking),
                        static_cast<int>(t));
            }
        box->setCurrentIndex(std::max(0, box->findText(before)));
    }
}

int MeterPanel::terminalIndex(const QComboBox* box) const
{
    const QVariant index = box->currentData();
    return index.isValid() ? index.toInt() : -1;
}

std::optional<TerminalRef> MeterPanel::terminalOf(const QComboBox* box) const
{
    const int t = m_session.hasRun() ? terminalIndex(box) : -1;
    if (t < 0)
        return std::nullopt;
    const PlantTerminal& terminal = m_session.plant().terminals[at(t)];
    return TerminalRef{m_session.plant().devices[at(terminal.device)].id, terminal.marking};
}

void MeterPanel::probe(const TerminalRef& ref)
{
    if (!m_session.hasRun())
        return;
    QComboBox* box = m_nextIsRed ? m_red : m_black;
    for (std::size_t t = 0; t < m_session.plant().terminals.size(); ++t) {
        const PlantTerminal& terminal = m_session.plant().terminals[t];
        if (!terminal.inner && terminal.marking == ref.marking
            && m_session.plant().devices[at(terminal.device)].id == ref.device)
            box->setCurrentIndex(box->findData(static_cast<int>(t)));
    }
    m_nextIsRed = !m_nextIsRed;
    update();
}

MeterReading MeterPanel::reading() const
{
    if (!m_session.hasRun())
        return {QStringLiteral("- - -"), QStringLiteral("V"), {}};
    return meterReading(m_session.plant(), m_session.frame(), terminalIndex(m_red), terminalIndex(m_black));
}

void MeterPanel::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.meter, c.line);
    const MeterReading r = reading();
    p.setPen(c.meterInk);
    p.setFont(m_theme.small());
    p.drawText(QRectF(14, 8, 120, 16), Qt::AlignVCenter, tr("Meter"));
    p.drawText(QRectF(14, 8, width() - 28, 16), Qt::AlignRight | Qt::AlignVCenter,
        m_nextIsRed ? tr("next click: red") : tr("next click: black"));
    p.setFont(m_theme.mono(28));
    p.drawText(QRectF(14, 26, width() - 84, 40), Qt::AlignRight | Qt::AlignVCenter, r.value);
    p.setFont(m_theme.mono(13));
    p.drawText(QRectF(width() - 64, 30, 56, 20), Qt::AlignLeft | Qt::AlignVCenter, r.unit);
    p.setFont(m_theme.small());
    p.drawText(QRectF(14, 56, width() - 28, 16), Qt::AlignRight | Qt::AlignVCenter, r.detail);
}

} // namespace ts::app
