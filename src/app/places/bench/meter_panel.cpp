#include "app/places/bench/meter_panel.h"

#include "app/widgets/marks.h"
#include "core/base/at.h"

#include <QCompleter>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

constexpr int kMostKept = 4, kKeptHeight = 20;

void paintLight(QWidget* w)
{
    QPalette p = w->palette();
    for (auto role : {QPalette::WindowText, QPalette::ButtonText})
        p.setColor(role, Qt::white);
    w->setPalette(p);
}

} // namespace

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
    addModes(*form);
    m_red = addProbe("meter.red", tr("Red probe"));
    m_black = addProbe("meter.black", tr("Black probe"));
    m_third = addProbe("meter.third", tr("Blue probe"));
    const auto row = [&](const QString& name, QWidget* w) {
        auto* label = new QLabel(name, this);
        label->setObjectName(w->objectName() + ".label");
        paintLight(label);
        label->setBuddy(w);
        form->addRow(label, w);
        return label;
    };
    row(tr("+ red"), m_red);
    row(tr("- black"), m_black);
    m_thirdLabel = row(tr("3 blue"), m_third);
    m_keptRows = new QVBoxLayout;
    m_keptRows->setSpacing(0);
    form->addRow(m_keptRows);
    setMode(MeterMode::Volts);
    connect(&session, &BenchSession::runChanged, this, &MeterPanel::fill);
    connect(&session, &BenchSession::frameChanged, this, [this] {
        refreshKept();
        if (reading() != m_painted)
            update();
    });
}

void MeterPanel::addModes(QFormLayout& form)
{
    auto* row = new QHBoxLayout;
    row->setSpacing(2);
    const auto add = [&](const char* name, const QString& text, const QString& help) {
        auto* button = new QToolButton(this);
        button->setObjectName(name);
        button->setText(text);
        button->setToolTip(help);
        button->setAccessibleName(help);
        button->setAutoRaise(true);
        button->setFocusPolicy(Qt::TabFocus);
        button->setStyleSheet(
            QStringLiteral("QToolButton{color:white;border:1px solid transparent;border-radius:3px;padding:2px 7px}"
                           "QToolButton:checked{background:white;color:black}QToolButton:focus{border-color:white}"));
        row->addWidget(button);
        return button;
    };
    struct Mode {
        MeterMode mode;
        const char* name;
        QString text, help;
    };
    for (const Mode& m : {Mode{MeterMode::Volts, "meter.volts", tr("V"), tr("Volts between two terminals")},
             {MeterMode::Amperes, "meter.amperes", tr("A"), tr("Clamp around the wires at one terminal")},
             {MeterMode::Ohms, "meter.ohms", tr("ohm"), tr("Ohms between two terminals, with nothing fed")},
             {MeterMode::Sequence, "meter.sequence", tr("123"), tr("Phase sequence at three terminals")}}) {
        QToolButton* button = add(m.name, m.text, m.help);
        button->setCheckable(true);
        connect(button, &QToolButton::clicked, this, [this, mode = m.mode] { setMode(mode); });
        m_modes << button;
    }
    row->addStretch(1);
    connect(
        add("meter.keep", tr("Keep"), tr("Keep this reading in view")), &QToolButton::clicked, this, &MeterPanel::keep);
    form.addRow(row);
}

void MeterPanel::setMode(MeterMode mode)
{
    m_mode = mode;
    for (int k = 0; k < m_modes.size(); ++k)
        m_modes[k]->setChecked(k == static_cast<int>(mode));
    m_third->setVisible(mode == MeterMode::Sequence);
    m_thirdLabel->setVisible(mode == MeterMode::Sequence);
    m_next = 0;
    updateGeometry();
    update();
}

QSize MeterPanel::sizeHint() const
{
    const int third = m_mode == MeterMode::Sequence ? 28 : 0;
    return {248, 178 + third + static_cast<int>(m_kept.size()) * kKeptHeight};
}

/// What is measured now stays in view; the oldest makes room.
void MeterPanel::keep()
{
    const QString dashes = QStringLiteral(" - ");
    Kept kept{m_mode, {}, {m_red->currentText(), m_black->currentText(), m_third->currentText()}};
    kept.terminals = kept.probes[0];
    if (m_mode != MeterMode::Amperes)
        kept.terminals += dashes + kept.probes[1];
    if (m_mode == MeterMode::Sequence)
        kept.terminals += dashes + kept.probes[2];
    if (kept.probes[0].isEmpty() || (m_mode != MeterMode::Amperes && kept.probes[1].isEmpty()))
        return;
    if (m_kept.size() >= kMostKept)
        m_kept.removeFirst();
    m_kept << kept;
    showKept();
}

void MeterPanel::showKept()
{
    while (QLayoutItem* item = m_keptRows->takeAt(0)) {
        item->widget()->setParent(nullptr);
        item->widget()->deleteLater();
        delete item;
    }
    for (int k = 0; k < m_kept.size(); ++k) {
        auto* row = new QPushButton(this);
        row->setObjectName(QStringLiteral("meter.kept.%1").arg(k + 1));
        row->setFlat(true);
        row->setFont(m_theme.small());
        row->setFixedHeight(kKeptHeight);
        row->setToolTip(tr("Click to let it go"));
        row->setStyleSheet(QStringLiteral("text-align: left; color: white"));
        row->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
        connect(
            row, &QPushButton::clicked, this,
            [this, k] {
                m_kept.removeAt(k);
                showKept();
            },
            Qt::QueuedConnection);
        m_keptRows->addWidget(row);
    }
    refreshKept();
    updateGeometry();
}

void MeterPanel::refreshKept()
{
    for (int k = 0; k < m_keptRows->count(); ++k) {
        const Kept& kept = m_kept[k];
        const MeterReading r = readingOf(
            kept.mode, {terminalNamed(kept.probes[0]), terminalNamed(kept.probes[1]), terminalNamed(kept.probes[2])});
        static_cast<QPushButton*>(m_keptRows->itemAt(k)->widget())
            ->setText(QStringLiteral("%1: %2 %3").arg(kept.terminals, r.value, r.unit));
    }
}

int MeterPanel::terminalNamed(const QString& name) const
{
    const int index = name.isEmpty() ? -1 : m_red->findText(name);
    return index < 0 ? -1 : m_red->itemData(index).toInt();
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
    m_ohmMeter.forget();
    std::vector<std::pair<QString, int>> terminals{{QString(), -1}};
    if (m_session.hasRun())
        for (std::size_t t = 0; t < m_session.plant().terminals.size(); ++t)
            if (const PlantTerminal& terminal = m_session.plant().terminals[t]; !terminal.inner)
                terminals.emplace_back(
                    QString::fromStdString(m_session.plant().devices[at(terminal.device)].tag + ":" + terminal.marking),
                    static_cast<int>(t));
    if (terminals != m_terminals) {
        m_terminals = std::move(terminals);
        offerTerminals();
    }
    refreshKept();
}

void MeterPanel::offerTerminals()
{
    for (QComboBox* box : probes()) {
        const QString before = box->currentText();
        box->clear();
        for (const auto& [name, slot] : m_terminals)
            box->addItem(name, slot);
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
    QComboBox* box = probes()[m_next];
    for (std::size_t t = 0; t < m_session.plant().terminals.size(); ++t) {
        const PlantTerminal& terminal = m_session.plant().terminals[t];
        if (!terminal.inner && terminal.marking == ref.marking
            && m_session.plant().devices[at(terminal.device)].id == ref.device)
            box->setCurrentIndex(box->findData(static_cast<int>(t)));
    }
    m_next = (m_next + 1) % (m_mode == MeterMode::Sequence ? 3 : m_mode == MeterMode::Amperes ? 1 : 2);
    update();
}

MeterReading MeterPanel::readingOf(MeterMode mode, const Probes& probes) const
{
    if (!m_session.hasRun())
        return {QStringLiteral("- - -"), {}, {}};
    return meterReading(m_session.plant(), m_session.run().state(), m_session.frame(), mode, probes, m_ohmMeter);
}

MeterReading MeterPanel::reading() const
{
    return readingOf(m_mode, {terminalIndex(m_red), terminalIndex(m_black), terminalIndex(m_third)});
}

void MeterPanel::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    paintPanel(p, rect(), c.meter, c.line);
    const MeterReading r = m_painted = reading();
    p.setPen(c.meterInk);
    p.setFont(m_theme.small());
    p.drawText(QRectF(14, 8, 120, 16), Qt::AlignVCenter, tr("Meter"));
    p.drawText(QRectF(14, 8, width() - 28, 16), Qt::AlignRight | Qt::AlignVCenter,
        m_next == 0       ? tr("next click: red")
            : m_next == 1 ? tr("next click: black")
                          : tr("next click: blue"));
    p.setFont(m_theme.mono(r.unit.isEmpty() && r.value.size() > 8 ? 16 : 28));
    p.drawText(QRectF(14, 26, width() - (r.unit.isEmpty() ? 28 : 84), 40), Qt::AlignRight | Qt::AlignVCenter, r.value);
    p.setFont(m_theme.mono(13));
    p.drawText(QRectF(width() - 64, 30, 56, 20), Qt::AlignLeft | Qt::AlignVCenter, r.unit);
    p.setFont(m_theme.small());
    p.drawText(QRectF(14, 56, width() - 28, 16), Qt::AlignRight | Qt::AlignVCenter, r.detail);
}

} // namespace ts::app
