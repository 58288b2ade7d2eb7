#include "app/places/levels/source_panel.h"

#include "app/words/words.h"

#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace ts::app {
namespace {

QLabel* said(const QString& text, const QFont& font, QWidget* parent)
{
    auto* label = new QLabel(text, parent);
    label->setFont(font);
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return label;
}

QString basisWord(Basis basis)
{
    static constexpr const char* kIds[] = {
        "basis.entered", "basis.part", "basis.clause", "basis.textbook", "basis.assumed", "basis.typical"};
    return words::word(kIds[static_cast<int>(basis)]);
}

} // namespace

SourcePanel::SourcePanel(const Theme& theme, QWidget* parent)
    : QScrollArea(parent)
    , m_theme(theme)
{
    setObjectName("levels.source");
    setAccessibleName(tr("Where from?"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setFocusPolicy(Qt::NoFocus);
}

void SourcePanel::show(const safety::FunctionLevel& level, int value)
{
    auto* inside = new QWidget;
    auto* list = new QVBoxLayout(inside);
    list->setContentsMargins(12, 10, 12, 10);
    list->setSpacing(6);
    list->addWidget(said(tr("Where from?"), m_theme.bold(), inside));
    if (value < 0 || value >= static_cast<int>(level.explanation.values.size())) {
        list->addWidget(said(tr("Click a number, or go to it with Tab and press Space."), m_theme.body(), inside));
        list->addSpacing(8);
        list->addWidget(said(tr("This rests on"), m_theme.bold(), inside));
        for (const Message& m : level.assumptions)
            list->addWidget(said(words::sentence(m), m_theme.small(), inside));
    } else {
        const safety::ExplainedValue& v = level.explanation[value];
        const QString subject = QString::fromStdString(v.subject);
        list->addWidget(
            said((subject.isEmpty() ? QString() : subject + ": ") + words::word(v.what), m_theme.body(), inside));
        QLabel* number = said(words::number(v.si, v.unit), m_theme.verdict(), inside);
        number->setObjectName("source.number");
        list->addWidget(number);
        list->addWidget(said(words::word(v.formula), m_theme.mono(11), inside));
        for (int i : v.inputs) {
            const safety::ExplainedValue& input = level.explanation[i];
            auto* button = new QPushButton(QString::fromStdString(input.subject) + " " + words::word(input.what) + "\n"
                    + words::number(input.si, input.unit),
                inside);
            button->setObjectName(QStringLiteral("source.input.%1").arg(i));
            button->setStyleSheet(QStringLiteral("text-align:left;padding:4px 6px"));
            button->setToolTip(button->text());
            button->setMinimumWidth(40);
            button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
            connect(button, &QPushButton::clicked, this, [this, i] { emit asked(i); });
            list->addWidget(button);
        }
        list->addWidget(said(basisWord(v.basis) + ": " + QString::fromStdString(v.source), m_theme.small(), inside));
    }
    list->addStretch(1);
    setWidget(inside);
}

} // namespace ts::app
