#include "app/places/find/bridge_dialog.h"

#include "app/document/moment.h"
#include "app/widgets/plain_text.h"
#include "app/widgets/upright_scroll.h"
#include "app/words/words.h"
#include "core/base/date.h"
#include "core/record/record.h"
#include "core/simulation/plant.h"
#include "wording/bridge_words.h"

#include <QComboBox>
#include <QCompleter>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QLineEdit* field(const char* name, const QString& says, QWidget* parent)
{
    auto* edit = new QLineEdit(parent);
    edit->setObjectName(name);
    edit->setPlaceholderText(says);
    edit->setAccessibleName(says);
    return edit;
}

std::string written(const QLineEdit* edit)
{
    return edit->text().trimmed().toStdString();
}

} // namespace

BridgeDialog::BridgeDialog(Document& document, const Theme& theme, QWidget* parent)
    : QDialog(parent)
    , m_document(document)
    , m_theme(theme)
    , m_working(this)
{
    setObjectName("bridge");
    setWindowTitle(tr("Before a bridge"));
    resize(720, 560);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 12, 16, 12);
    column->setSpacing(10);
    auto* first = plainLabel(tr("A bridge takes away what lies between its ends. Most often the answer is another one: "
                                "the right part, the right fuse, a supply with a current limit."),
        theme.body(), this);
    first->setWordWrap(true);
    column->addWidget(first);
    addEnds(*column);
    auto* scroll = new UprightScroll(this);
    m_cost = plainLabel({}, theme.body(), scroll);
    m_cost->setObjectName("bridge.cost");
    m_cost->setWordWrap(true);
    m_cost->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    scroll->setWidget(m_cost);
    column->addWidget(scroll, 1);
    addEntry(*column);
    m_inForce = new QWidget(this);
    m_list = new QVBoxLayout(m_inForce);
    m_list->setContentsMargins(0, 0, 0, 0);
    column->addWidget(m_inForce);
    connect(&m_document, &Document::recorded, this, &BridgeDialog::showInForce);
    fillTerminals();
    showInForce();
}

void BridgeDialog::addEnds(QVBoxLayout& column)
{
    auto* row = new QHBoxLayout;
    const auto end = [this](const char* name, const QString& accessible) {
        auto* box = new QComboBox(this);
        box->setObjectName(name);
        box->setAccessibleName(accessible);
        box->setEditable(true);
        box->setInsertPolicy(QComboBox::NoInsert);
        box->completer()->setCompletionMode(QCompleter::PopupCompletion);
        connect(box, &QComboBox::editTextChanged, this, [this] {
            m_working.drop();
            m_cost->clear();
            m_enter->setEnabled(false);
        });
        return box;
    };
    m_from = end("bridge.from", tr("First terminal"));
    m_to = end("bridge.to", tr("Second terminal"));
    m_ask = new QPushButton(tr("What it costs"), this);
    m_ask->setObjectName("bridge.ask");
    row->addWidget(plainLabel(tr("Between"), m_theme.body(), this));
    row->addWidget(m_from, 1);
    row->addWidget(plainLabel(tr("and"), m_theme.body(), this));
    row->addWidget(m_to, 1);
    row->addWidget(m_ask);
    column.addLayout(row);
    connect(m_ask, &QPushButton::clicked, this, &BridgeDialog::ask);
}

void BridgeDialog::addEntry(QVBoxLayout& column)
{
    m_who = field("bridge.who", tr("who enters it"), this);
    m_owner = field("bridge.owner", tr("who answers for it"), this);
    m_until = field("bridge.until", tr("off by, as 2026-12-05"), this);
    m_reason = field("bridge.reason", tr("why it is needed"), this);
    m_enter = new QPushButton(tr("Put it into the record"), this);
    m_enter->setObjectName("bridge.enter");
    m_enter->setEnabled(false);
    auto* people = new QHBoxLayout;
    for (QLineEdit* e : {m_who, m_owner, m_until})
        people->addWidget(e);
    auto* why = new QHBoxLayout;
    why->addWidget(m_reason, 1);
    why->addWidget(m_enter);
    column.addLayout(people);
    column.addLayout(why);
    connect(m_enter, &QPushButton::clicked, this, &BridgeDialog::enter);
}

void BridgeDialog::fillTerminals()
{
    const auto plant = compile(m_document.dossier().circuit);
    if (!plant)
        return m_cost->setText(words::sentence(plant.error().message));
    QStringList terminals;
    for (const PlantTerminal& t : plant->terminals)
        if (!t.inner)
            terminals << QString::fromStdString(
                plant->devices[static_cast<std::size_t>(t.device)].tag + ":" + t.marking);
    for (QComboBox* box : {m_from, m_to}) {
        box->addItems(terminals);
        box->setCurrentIndex(-1);
    }
}

void BridgeDialog::ask()
{
    m_cost->setText(tr("Trying every function with it and without ..."));
    m_working.run([snapshot = m_document.snapshot(), from = m_from->currentText().trimmed().toStdString(),
                      to = m_to->currentText().trimmed().toStdString()](
                      std::stop_token stop) { return std::optional(bridgeCost(*snapshot, from, to, std::move(stop))); },
        [this](const auto& cost) { showCost(*cost); });
}

void BridgeDialog::showCost(const Expected<BridgeCost>& cost)
{
    if (!cost)
        return m_cost->setText(words::sentence(cost.error().message));
    QStringList lines;
    for (const std::string& line : wording::bridgeLines(m_document.dossier(), *cost,
             m_from->currentText().trimmed().toStdString(), m_to->currentText().trimmed().toStdString()))
        lines << QString::fromStdString(line);
    m_cost->setText(lines.join(QStringLiteral("\n\n")));
    m_enter->setEnabled(!cost->isJoined);
}

void BridgeDialog::enter()
{
    if (!isDate(written(m_until)))
        return m_cost->setText(words::sentence(message("bridge.no_date", {written(m_until)})));
    RecordEntry entry;
    entry.who = written(m_who);
    entry.text = written(m_reason);
    entry.kind = "bypass_opened";
    const std::string from = m_from->currentText().trimmed().toStdString(),
                      to = m_to->currentText().trimmed().toStdString();
    entry.bypass = Bypass{from, to, written(m_owner).empty() ? entry.who : written(m_owner), written(m_until)};
    add(std::move(entry));
}

void BridgeDialog::takeOff(const Bypass& bypass, const QString& tested)
{
    RecordEntry entry;
    entry.who = written(m_who);
    entry.text = tested.trimmed().toStdString();
    entry.kind = "bypass_closed";
    entry.bypass = bypass;
    add(std::move(entry));
}

void BridgeDialog::add(RecordEntry entry)
{
    entry.date = momentNow();
    entry.role = "maintains";
    entry.subject = entry.bypass->from + "+" + entry.bypass->to;
    if (const auto added = m_document.addToRecord(std::move(entry)); !added)
        m_cost->setText(words::sentence(added.error().message));
}

void BridgeDialog::showInForce()
{
    while (QLayoutItem* item = m_list->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->setParent(nullptr);
            w->deleteLater();
        }
        delete item;
    }
    const std::string today = dayNow();
    for (const RecordEntry& e : record::bypassesInForce(m_document.record())) {
        auto* line = new QWidget(m_inForce);
        auto* row = new QHBoxLayout(line);
        row->setContentsMargins(0, 0, 0, 0);
        auto* says = plainLabel(QString::fromStdString(wording::bypassText(e, today)), m_theme.bold(), line);
        says->setWordWrap(true);
        auto* tested = field("bridge.tested", tr("off again: what was tested"), line);
        auto* off = new QPushButton(tr("It is off"), line);
        off->setObjectName("bridge.off");
        row->addWidget(says, 3);
        row->addWidget(tested, 2);
        row->addWidget(off);
        connect(
            off, &QPushButton::clicked, this, [this, bypass = *e.bypass, tested] { takeOff(bypass, tested->text()); });
        m_list->addWidget(line);
    }
}

} // namespace ts::app
