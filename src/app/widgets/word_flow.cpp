#include "app/widgets/word_flow.h"

#include "app/widgets/marks.h"

#include <QEvent>
#include <QLabel>
#include <QLayout>
#include <QPainter>
#include <QStyleOptionComboBox>
#include <QWheelEvent>

#include <memory>
#include <vector>

namespace ts::app {
namespace {

constexpr int kGap = 5, kLineGap = 4, kWordHeight = 24, kArrow = 14, kShortest = 46;

bool isGlued(const QWidget* w)
{
    const auto* label = qobject_cast<const QLabel*>(w);
    return label && !label->text().isEmpty() && QStringLiteral(",.;:)").contains(label->text().front());
}

/// The dotted line under what can be another word.
void underline(QPainter& p, const QRect& area, const Colours& c, bool isEnabled)
{
    p.setPen(QPen(isEnabled ? c.ink : c.line, 1, Qt::DotLine));
    p.drawLine(QPointF(area.left() + 1, area.bottom() - 1.5), QPointF(area.right() - 1, area.bottom() - 1.5));
}

/// What every editor among words has on it: its line, and the mark of the keyboard.
void finish(QPainter& p, const QWidget* word, const Colours& c)
{
    underline(p, word->rect(), c, word->isEnabled());
    if (word->hasFocus())
        paintFocus(p, word->rect(), c.ink);
}

QSize sizeOf(const QString& text, const QFont& font, int extra)
{
    return {std::max(kShortest, QFontMetrics(font).horizontalAdvance(text) + extra), kWordHeight};
}

} // namespace

/// Lines of words, as in a text.
class WordLayout : public QLayout {
public:
    using QLayout::QLayout;
    void addItem(QLayoutItem* item) override { m_items.emplace_back(item); }
    int count() const override { return static_cast<int>(m_items.size()); }
    QLayoutItem* itemAt(int k) const override
    {
        return k >= 0 && k < count() ? m_items[static_cast<std::size_t>(k)].get() : nullptr;
    }
    QLayoutItem* takeAt(int k) override
    {
        if (k < 0 || k >= count())
            return nullptr;
        QLayoutItem* item = m_items[static_cast<std::size_t>(k)].release();
        m_items.erase(m_items.begin() + k);
        return item;
    }
    Qt::Orientations expandingDirections() const override { return Qt::Horizontal; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override { return lay(width, false); }
    QSize sizeHint() const override { return {400, heightForWidth(400)}; }
    QSize minimumSize() const override
    {
        int widest = 0;
        for (const auto& item : m_items)
            if (!item->isEmpty())
                widest = std::max(widest, std::min(item->minimumSize().width(), 200));
        return {widest, kWordHeight};
    }
    void setGeometry(const QRect& area) override
    {
        QLayout::setGeometry(area);
        lay(area.width(), true);
    }

private:
    int lay(int width, bool isMoving) const
    {
        int x = 0, y = 0;
        for (std::size_t k = 0; k < m_items.size(); ++k) {
            if (m_items[k]->isEmpty()) // hidden
                continue;
            const QSize size = m_items[k]->sizeHint();
            const bool glued = isGlued(m_items[k]->widget());
            // What is glued to a word goes with it.
            const bool hasGlued = k + 1 < m_items.size() && !m_items[k + 1]->isEmpty()
                && isGlued(m_items[k + 1]->widget());
            const int gluedWidth = hasGlued ? m_items[k + 1]->sizeHint().width() : 0;
            const int own = std::min(size.width(), width - gluedWidth), gap = x == 0 || glued ? 0 : kGap;
            if (x > 0 && x + gap + own + gluedWidth > width && !glued) {
                x = 0;
                y += kWordHeight + kLineGap;
            } else {
                x += gap;
            }
            if (isMoving)
                m_items[k]->setGeometry(QRect(geometry().left() + x, geometry().top() + y, own, kWordHeight));
            x += own;
        }
        return y + kWordHeight;
    }

    std::vector<std::unique_ptr<QLayoutItem>> m_items;
};

WordFlow::WordFlow(const QFont& font, QWidget* parent)
    : QWidget(parent)
{
    setFont(font);
    m_layout = new WordLayout(this);
    m_layout->setContentsMargins(0, 0, 0, 0);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

std::vector<QWidget*> WordFlow::say(const QString& words)
{
    std::vector<QWidget*> said;
    for (const QString& word : words.split(' ', Qt::SkipEmptyParts)) {
        auto* label = new QLabel(word, this);
        label->setTextFormat(Qt::PlainText);
        label->setFont(font());
        m_layout->addWidget(label);
        label->show(); // also in a sentence that is seen already
        said.push_back(label);
    }
    return said;
}

void WordFlow::put(QWidget* word)
{
    word->setParent(this);
    m_layout->addWidget(word);
    word->show();
}

void WordFlow::clear()
{
    while (QLayoutItem* item = m_layout->takeAt(0)) {
        delete item->widget();
        delete item;
    }
}

void WordFlow::chainAfter(QWidget* before)
{
    for (int k = 0; k < m_layout->count(); ++k) {
        QWidget* w = m_layout->itemAt(k)->widget();
        if (w->focusPolicy() == Qt::NoFocus)
            continue;
        setTabOrder(before, w);
        before = w;
    }
}

QString WordFlow::text() const
{
    QString text;
    for (int k = 0; k < m_layout->count(); ++k) {
        const QWidget* w = m_layout->itemAt(k)->widget();
        if (w->isHidden())
            continue;
        QString word;
        if (const auto* label = qobject_cast<const QLabel*>(w))
            word = label->text();
        else if (const auto* choice = qobject_cast<const QComboBox*>(w))
            word = choice->currentIndex() < 0 ? choice->placeholderText() : choice->currentText();
        else if (const auto* toggle = qobject_cast<const QAbstractButton*>(w))
            word = toggle->isChecked() || !toggle->isCheckable() ? toggle->text() : QString();
        else if (const auto* line = qobject_cast<const QLineEdit*>(w))
            word = line->text();
        else if (const auto* box = qobject_cast<const QAbstractSpinBox*>(w))
            word = box->text();
        if (!word.isEmpty())
            text += (text.isEmpty() || isGlued(w) ? QString() : QStringLiteral(" ")) + word;
    }
    return text;
}

bool WordFlow::event(QEvent* e)
{
    const bool done = QWidget::event(e);
    if (e->type() == QEvent::LayoutRequest || e->type() == QEvent::Resize)
        setMinimumHeight(m_layout->heightForWidth(width()));
    return done;
}

ChoiceWord::ChoiceWord(const Theme& theme, const QString& name, const QString& accessible, QWidget* parent)
    : QComboBox(parent)
    , m_theme(theme)
{
    setObjectName(name);
    setAccessibleName(accessible);
    setFont(theme.bold());
    setCursor(Qt::PointingHandCursor);
    connect(this, &QComboBox::currentIndexChanged, this, [this] { updateGeometry(); });
}

QString ChoiceWord::shown() const
{
    return currentIndex() < 0 ? placeholderText() : currentText();
}

QSize ChoiceWord::sizeHint() const
{
    return sizeOf(shown(), font(), kArrow + 4);
}

void ChoiceWord::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    p.setFont(font());
    p.setPen(!isEnabled() ? c.quiet : currentIndex() < 0 ? c.lost : c.ink);
    const QRect room = rect().adjusted(1, 0, -kArrow, 0);
    p.drawText(
        room, Qt::AlignLeft | Qt::AlignVCenter, p.fontMetrics().elidedText(shown(), Qt::ElideRight, room.width()));
    underline(p, rect(), c, isEnabled());
    const double x = width() - kArrow + 3, y = height() / 2.0 - 2;
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(isEnabled() ? c.quiet : c.line);
    p.drawPolygon(QPolygonF({{x, y}, {x + 7, y}, {x + 3.5, y + 4.5}}));
    if (hasFocus())
        paintFocus(p, rect(), c.ink);
}

void ChoiceWord::wheelEvent(QWheelEvent* e)
{
    e->ignore();
}

ToggleWord::ToggleWord(const Theme& theme, const QString& name, const QString& text, QWidget* parent)
    : QAbstractButton(parent)
    , m_theme(theme)
{
    setObjectName(name);
    setAccessibleName(text);
    setText(text);
    setCheckable(true);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setFont(theme.bold());
}

QSize ToggleWord::sizeHint() const
{
    return sizeOf(text(), font(), 22);
}

void ToggleWord::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    const Colours& c = m_theme.colours();
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF mark(2, height() / 2.0 - 5, 10, 10);
    p.setPen(QPen(isEnabled() ? c.ink : c.line, 1.4));
    p.setBrush(isChecked() ? QBrush(isEnabled() ? c.ink : c.line) : QBrush(Qt::NoBrush));
    p.drawEllipse(mark.adjusted(1, 1, -1, -1));
    QFont words = font();
    words.setBold(isChecked());
    p.setFont(words);
    p.setPen(!isEnabled() || !isChecked() ? c.quiet : c.ink);
    p.drawText(rect().adjusted(17, 0, 0, 0), Qt::AlignLeft | Qt::AlignVCenter, text());
    underline(p, rect().adjusted(16, 0, -2, 0), c, isEnabled());
    if (hasFocus())
        paintFocus(p, rect(), c.ink);
}

TextWord::TextWord(const Theme& theme, const QString& name, const QString& accessible, QWidget* parent)
    : QLineEdit(parent)
    , m_theme(theme)
{
    setObjectName(name);
    setAccessibleName(accessible);
    setFrame(false);
    setFont(theme.bold());
    connect(this, &QLineEdit::textChanged, this, [this] { updateGeometry(); });
}

QSize TextWord::sizeHint() const
{
    return sizeOf(text().isEmpty() ? placeholderText() : text(), font(), 12);
}

void TextWord::paintEvent(QPaintEvent* e)
{
    QLineEdit::paintEvent(e);
    QPainter p(this);
    finish(p, this, m_theme.colours());
}

template <class Box>
BoxWord<Box>::BoxWord(const Theme& theme, const QString& name, const QString& accessible, QWidget* parent)
    : Box(parent)
    , m_theme(theme)
{
    this->setObjectName(name);
    this->setAccessibleName(accessible);
    this->setFrame(false);
    this->setButtonSymbols(QAbstractSpinBox::NoButtons);
    this->setFont(theme.bold());
    this->setKeyboardTracking(false);
    QObject::connect(this, &Box::textChanged, this, [this] { this->updateGeometry(); });
}

template <class Box> QSize BoxWord<Box>::sizeHint() const
{
    return sizeOf(this->text(), this->font(), 14);
}

template <class Box> void BoxWord<Box>::paintEvent(QPaintEvent* e)
{
    Box::paintEvent(e);
    QPainter p(this);
    finish(p, this, m_theme.colours());
}

template <class Box> void BoxWord<Box>::wheelEvent(QWheelEvent* e)
{
    e->ignore();
}

template class BoxWord<QDoubleSpinBox>;
template class BoxWord<QSpinBox>;

} // namespace ts::app
