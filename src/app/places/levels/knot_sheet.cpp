#include "app/places/levels/knot_sheet.h"

#include "app/widgets/plain_text.h"
#include "app/words/words.h"

#include <QCoreApplication>
#include <QVBoxLayout>

#include <algorithm>

namespace ts::app {
namespace {

using safety::FunctionLevel;
using safety::SubsystemLevel;

QString tr(const char* text)
{
    return QCoreApplication::translate("KnotSheet", text);
}

QString fromStd(std::string_view text)
{
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

class RowMaker {
public:
    explicit RowMaker(const FunctionLevel& level)
        : m_level(level)
    {
    }

    std::vector<ValueRow> taken() { return std::move(m_rows); }

    void heading(const QString& text) { m_rows.push_back({ValueRow::Kind::Heading, text, -1, {}}); }

    void add(int value, QString name = {})
    {
        if (value < 0)
            return;
        const safety::ExplainedValue& v = m_level.explanation[value];
        if (name.isEmpty())
            name = shortName(v.what);
        const bool isTypical = std::any_of(
            v.inputs.begin(), v.inputs.end(), [this](int i) { return m_level.explanation[i].basis == Basis::Typical; });
        if (isTypical)
            name += tr(", typical");
        m_rows.push_back({ValueRow::Kind::Value, name, value, words::number(v.si, v.unit)});
    }

    void addMissing(const SubsystemLevel& s)
    {
        for (const Message& m : s.unmet)
            m_rows.push_back({ValueRow::Kind::Warning, words::sentence(m), -1, {}});
        if (s.best)
            m_rows.push_back({ValueRow::Kind::Warning,
                words::sentence(message("level.best_category", {s.name, std::string(safety::nameOf(*s.best))})), -1,
                {}});
    }

    static QString nameOf(const SubsystemLevel& s)
    {
        return tr("%1: %2, %3")
            .arg(fromStd(s.name),
                s.isEncapsulated ? tr("category %1 by its sheet").arg(fromStd(s.category))
                                 : tr("category %1 claimed").arg(fromStd(s.category)),
                s.level ? "PL " + fromStd(safety::nameOf(*s.level)) : tr("no level"));
    }

private:
    static QString shortName(const std::string& what)
    {
        static const QHash<QString, const char*> kShort{{"value.nop", QT_TRANSLATE_NOOP("KnotSheet", "works")},
            {"value.mttfd", "MTTFd"}, {"value.t10d", QT_TRANSLATE_NOOP("KnotSheet", "T10d")}, {"value.dc", "DC"},
            {"value.channel_mttfd", QT_TRANSLATE_NOOP("KnotSheet", "MTTFd of its channel")},
            {"value.channel_capped", QT_TRANSLATE_NOOP("KnotSheet", "capped at")},
            {"value.subsystem_mttfd", QT_TRANSLATE_NOOP("KnotSheet", "MTTFd of each channel")},
            {"value.ccf", QT_TRANSLATE_NOOP("KnotSheet", "common cause points")}};
        const auto known = kShort.constFind(fromStd(what));
        return known == kShort.constEnd() ? words::word(what) : tr(*known);
    }

    const FunctionLevel& m_level;
    std::vector<ValueRow> m_rows;
};

void addUse(RowMaker& rows, const FunctionLevel& level, const KnotUse& use)
{
    const SubsystemLevel& s = level.subsystems[use.subsystem];
    rows.heading(RowMaker::nameOf(s));
    const safety::ChannelLevel* channel = use.channel < 0 ? nullptr
        : use.isTest && s.test                            ? &*s.test
                                                          : &s.channels[static_cast<std::size_t>(use.channel)];
    if (channel && use.part < channel->parts.size()) {
        const safety::PartLevel& p = channel->parts[use.part];
        for (int v : {p.operations, p.mttfd, p.t10d, p.coverage})
            rows.add(v);
        if (channel->parts.size() > 1)
            rows.add(channel->mttfd);
        if (channel->capped != channel->mttfd)
            rows.add(channel->capped);
    }
    if (s.channels.size() > 1)
        rows.add(s.mttfd);
    rows.add(s.coverage);
    rows.add(s.commonCause);
    rows.add(s.pfhd, tr("PFHd of the subsystem"));
    rows.addMissing(s);
}

} // namespace

std::vector<ValueRow> functionRows(const FunctionLevel& level)
{
    RowMaker rows(level);
    rows.add(level.pfhd, tr("PFHd of the whole function"));
    for (const SubsystemLevel& s : level.subsystems) {
        rows.heading(RowMaker::nameOf(s));
        rows.add(s.pfhd, tr("PFHd"));
        rows.addMissing(s);
    }
    return rows.taken();
}

std::vector<ValueRow> knotRows(const FunctionLevel& level, const PathKnot& knot)
{
    RowMaker rows(level);
    for (const KnotUse& use : knot.uses)
        if (use.subsystem < level.subsystems.size()
            && (use.channel < static_cast<int>(level.subsystems[use.subsystem].channels.size()) || use.isTest))
            addUse(rows, level, use);
    return rows.taken();
}

KnotSheet::KnotSheet(const Theme& theme, QWidget* parent)
    : QScrollArea(parent)
    , m_theme(theme)
{
    setObjectName("levels.knot");
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
}

void KnotSheet::show(const QString& title, std::vector<ValueRow> rows)
{
    bool isSameShape = title == m_title && rows.size() == m_rows.size() && widget();
    for (std::size_t k = 0; isSameShape && k < rows.size(); ++k)
        isSameShape = rows[k].kind == m_rows[k].kind;
    m_title = title;
    m_rows = std::move(rows);
    if (!isSameShape)
        rebuild();
    for (std::size_t k = 0; k < m_rows.size(); ++k)
        m_buttons[k]->setRow(m_rows[k]);
    setAsked(m_asked);
}

void KnotSheet::setAsked(int value)
{
    m_asked = value;
    for (ValueButton* b : m_buttons)
        b->setAsked(value >= 0 && b->value() == value);
}

void KnotSheet::rebuild()
{
    m_buttons.clear();
    auto* inside = new QWidget;
    auto* list = new QVBoxLayout(inside);
    list->setContentsMargins(4, 2, 8, 4);
    list->setSpacing(1);
    list->addWidget(plainLabel(m_title, m_theme.bold(), inside));
    for (std::size_t k = 0; k < m_rows.size(); ++k) {
        auto* button = new ValueButton(m_theme, inside);
        button->setObjectName(QStringLiteral("value.%1").arg(k));
        connect(button, &ValueButton::clicked, this, [this, button] { emit asked(button->value()); });
        list->addWidget(button);
        m_buttons.push_back(button);
    }
    list->addStretch(1);
    setWidget(inside);
}

} // namespace ts::app
