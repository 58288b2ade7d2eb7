#include "app/places/levels/level_sheet.h"

#include "app/widgets/marks.h"
#include "app/words/words.h"

#include <QCoreApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QVBoxLayout>

namespace ts::app {
namespace {

using safety::FunctionLevel;
using safety::SubsystemLevel;

constexpr int kHead = 48;
constexpr int kLeastColumn = 228; ///< so that a row's words can be read; more columns scroll sideways

QString tr(const char* text)
{
    return QCoreApplication::translate("LevelSheet", text);
}

QString fromStd(std::string_view text)
{
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

class CardMaker {
public:
    CardMaker(const FunctionLevel& f, const SubsystemLevel& s)
        : m_f(f)
        , m_s(s)
    {
    }

    SheetCard made()
    {
        m_card.title = fromStd(m_s.name);
        m_card.subtitle = m_s.isEncapsulated ? tr("as its maker gives it, category %1").arg(fromStd(m_s.category))
                                             : tr("claimed as category %1").arg(fromStd(m_s.category));
        m_card.isShort = !m_s.level;
        m_card.verdict = m_s.level ? "PL " + fromStd(safety::nameOf(*m_s.level)) : tr("no level");
        for (const auto& c : m_s.channels) {
            m_card.rows.push_back({SheetRow::Kind::Heading, tr("Channel %1").arg(fromStd(c.name)), -1, {}});
            for (const auto& p : c.parts)
                for (int v : {p.operations, p.mttfd, p.t10d, p.coverage})
                    add(v, fromStd(p.tag));
            if (c.parts.size() > 1)
                add(c.mttfd, {});
            if (c.capped != c.mttfd)
                add(c.capped, {});
        }
        if (!m_s.channels.empty())
            m_card.rows.push_back({SheetRow::Kind::Heading, tr("Together"), -1, {}});
        if (m_s.channels.size() > 1)
            add(m_s.mttfd, {});
        add(m_s.coverage, {});
        add(m_s.commonCause, {});
        add(m_s.pfhd, {});
        for (const Message& m : m_s.unmet)
            m_card.rows.push_back({SheetRow::Kind::Warning, words::sentence(m), -1, {}});
        if (m_s.best)
            m_card.rows.push_back({SheetRow::Kind::Warning,
                words::sentence(message("level.best_category", {m_s.name, std::string(safety::nameOf(*m_s.best))})), -1,
                {}});
        return std::move(m_card);
    }

private:
    void add(int value, const QString& subject)
    {
        if (value < 0)
            return;
        const safety::ExplainedValue& v = m_f.explanation[value];
        static const QHash<QString, const char*> kShort{{"value.nop", QT_TRANSLATE_NOOP("LevelSheet", "works")},
            {"value.mttfd", "MTTFd"}, {"value.t10d", QT_TRANSLATE_NOOP("LevelSheet", "T10d")}, {"value.dc", "DC"},
            {"value.channel_mttfd", QT_TRANSLATE_NOOP("LevelSheet", "channel MTTFd")},
            {"value.channel_capped", QT_TRANSLATE_NOOP("LevelSheet", "capped at")},
            {"value.subsystem_mttfd", QT_TRANSLATE_NOOP("LevelSheet", "MTTFd of each channel")},
            {"value.ccf", QT_TRANSLATE_NOOP("LevelSheet", "common cause points")}};
        const auto known = kShort.constFind(fromStd(v.what));
        QString name = known == kShort.constEnd() ? words::word(v.what) : tr(*known);
        const bool isTypical = std::any_of(
            v.inputs.begin(), v.inputs.end(), [this](int i) { return m_f.explanation[i].basis == Basis::Typical; });
        if (isTypical)
            name += tr(", typical");
        m_card.rows.push_back({SheetRow::Kind::Value, subject.isEmpty() ? name : subject + "  " + name, value,
            words::number(v.si, v.unit)});
    }

    const FunctionLevel& m_f;
    const SubsystemLevel& m_s;
    SheetCard m_card;
};

} // namespace

std::vector<SheetCard> sheetCards(const FunctionLevel& level)
{
    std::vector<SheetCard> cards;
    for (const SubsystemLevel& s : level.subsystems)
        cards.push_back(CardMaker(level, s).made());
    return cards;
}

ValueButton::ValueButton(const Theme& theme, QWidget* parent)
    : QAbstractButton(parent)
    , m_theme(theme)
{
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void ValueButton::setRow(const SheetRow& row)
{
    m_row = row;
    setAccessibleName(row.text + " " + row.number);
    setFocusPolicy(row.kind == SheetRow::Kind::Value ? Qt::StrongFocus : Qt::NoFocus);
    setEnabled(row.kind == SheetRow::Kind::Value);
    setToolTip(row.kind == SheetRow::Kind::Value ? tr("Where from?") : row.text);
    setCursor(row.kind == SheetRow::Kind::Value ? Qt::PointingHandCursor : Qt::ArrowCursor);
    updateGeometry();
    update();
}

void ValueButton::setAsked(bool asked)
{
    m_asked = asked;
    update();
}

void ValueButton::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_I && isEnabled())
        click();
    else
        QAbstractButton::keyPressEvent(e);
}

void ValueButton::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    const QRectF area = rect();
    if (m_row.kind == SheetRow::Kind::Heading) {
        p.setPen(c.ink);
        p.setFont(m_theme.bold());
        p.drawText(
            area, Qt::AlignLeft | Qt::AlignBottom, p.fontMetrics().elidedText(m_row.text, Qt::ElideRight, width()));
        return;
    }
    if (m_row.kind == SheetRow::Kind::Warning) {
        paintMark(p, QRectF(0, 4, 10, 10), Mark::Wrong, c);
        p.setPen(c.lost);
        p.setFont(m_theme.small());
        p.drawText(area.adjusted(16, 0, 0, 0), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, m_row.text);
        return;
    }
    if (m_asked)
        p.fillRect(area.adjusted(-2, 1, 2, -1), c.liveFill);
    p.setPen(c.quiet);
    p.setFont(m_theme.small());
    p.drawText(area.adjusted(2, 0, -92, 0), Qt::AlignLeft | Qt::AlignVCenter,
        p.fontMetrics().elidedText(m_row.text, Qt::ElideRight, width() - 94));
    p.setPen(c.ink);
    p.setFont(m_theme.mono(13));
    p.drawText(area.adjusted(0, 0, -2, 0), Qt::AlignRight | Qt::AlignVCenter, m_row.number);
    const int w = p.fontMetrics().horizontalAdvance(m_row.number);
    p.setPen(QPen(c.quiet, 1, Qt::DotLine)); // can be asked
    p.drawLine(QPointF(width() - 2 - w, height() - 3), QPointF(width() - 2, height() - 3));
    if (hasFocus())
        paintFocus(p, area, c.ink);
}

LevelSheet::LevelSheet(const Theme& theme, QWidget* parent)
    : QWidget(parent)
    , m_theme(theme)
{
    setObjectName("levels.sheet");
}

void LevelSheet::setLevel(const FunctionLevel& level)
{
    std::vector<SheetCard> cards = sheetCards(level);
    bool sameShape = cards.size() == m_cards.size();
    for (std::size_t i = 0; sameShape && i < cards.size(); ++i) {
        sameShape = cards[i].rows.size() == m_cards[i].rows.size();
        for (std::size_t r = 0; sameShape && r < cards[i].rows.size(); ++r)
            sameShape = cards[i].rows[r].kind == m_cards[i].rows[r].kind;
    }
    m_cards = std::move(cards);
    if (!sameShape)
        rebuild();
    for (std::size_t i = 0; i < m_cards.size(); ++i)
        for (std::size_t r = 0; r < m_cards[i].rows.size(); ++r)
            m_buttons[i][r]->setRow(m_cards[i].rows[r]);
    setAsked(m_asked);
    update();
}

void LevelSheet::setAsked(int value)
{
    m_asked = value;
    for (const auto& column : m_buttons)
        for (ValueButton* b : column)
            b->setAsked(value >= 0 && b->value() == value);
}

void LevelSheet::rebuild()
{
    for (QWidget* w : m_columns)
        delete w;
    m_columns.clear();
    m_buttons.clear();
    delete layout();
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    for (std::size_t i = 0; i < m_cards.size(); ++i) {
        auto* column = new QWidget(this);
        column->setMinimumWidth(kLeastColumn);
        auto* list = new QVBoxLayout(column);
        list->setContentsMargins(14, kHead + 4, 14, 12);
        list->setSpacing(1);
        m_buttons.emplace_back();
        for (std::size_t r = 0; r < m_cards[i].rows.size(); ++r) {
            auto* button = new ValueButton(m_theme, column);
            button->setObjectName(QStringLiteral("value.%1.%2").arg(i).arg(r));
            connect(button, &ValueButton::clicked, this, [this, button] { emit asked(button->value()); });
            list->addWidget(button);
            m_buttons.back().push_back(button);
        }
        list->addStretch(1);
        row->addWidget(column, 1);
        m_columns.push_back(column);
    }
}

void LevelSheet::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    for (std::size_t i = 0; i < m_columns.size(); ++i) {
        const QRectF box = m_columns[i]->geometry();
        paintPanel(p, box, c.panel, c.line);
        p.setPen(c.ink);
        p.setFont(m_theme.bold());
        p.drawText(QRectF(box.left() + 14, box.top() + 10, box.width() - 100, 20), Qt::AlignVCenter,
            p.fontMetrics().elidedText(m_cards[i].title, Qt::ElideRight, static_cast<int>(box.width()) - 100));
        p.setFont(m_theme.small());
        p.setPen(c.quiet);
        p.drawText(
            QRectF(box.left() + 14, box.top() + 30, box.width() - 28, 16), Qt::AlignVCenter, m_cards[i].subtitle);
        p.setFont(m_theme.verdict());
        p.setPen(m_cards[i].isShort ? c.lost : c.ink);
        p.drawText(QRectF(box.left() + 14, box.top() + 8, box.width() - 28, 26), Qt::AlignRight | Qt::AlignVCenter,
            m_cards[i].verdict);
        if (i + 1 < m_columns.size()) { // one after the other: all must work
            const QPointF from(box.right() + 2, box.top() + 30),
                to(m_columns[i + 1]->geometry().left() - 2, box.top() + 30);
            p.setPen(QPen(c.ink, 2));
            p.drawLine(from, to);
        }
    }
}

} // namespace ts::app
