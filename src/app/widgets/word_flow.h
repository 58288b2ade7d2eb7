#pragma once
// A sentence that is edited where it stands: its words flow like text, and those that can be chosen, entered or left
// out are small editors among them. They look like words: bold, with a dotted line under what can be another.

#include "app/widgets/theme.h"

#include <QAbstractButton>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QSpinBox>
#include <QWidget>

#include <vector>

namespace ts::app {

class WordLayout;

class WordFlow : public QWidget {
    Q_OBJECT
public:
    WordFlow(const QFont& font, QWidget* parent);
    /// Plain words; what begins with a comma or a full stop stays at the word before it.
    std::vector<QWidget*> say(const QString& words);
    /// An editor as the next word.
    void put(QWidget* word);
    void clear(); ///< of everything; the editors go with it
    /// The keyboard goes through the words in the order of reading, after this one.
    void chainAfter(QWidget* before);
    /// The sentence as it reads now.
    QString text() const;

protected:
    bool event(QEvent*) override;

private:
    WordLayout* m_layout;
};

/// One of several.
class ChoiceWord : public QComboBox {
    Q_OBJECT
public:
    ChoiceWord(const Theme& theme, const QString& name, const QString& accessible, QWidget* parent);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent*) override;
    void wheelEvent(QWheelEvent*) override; ///< turning over a sentence changes no word

private:
    QString shown() const;
    const Theme& m_theme;
};

/// In the sentence or not.
class ToggleWord : public QAbstractButton {
    Q_OBJECT
public:
    ToggleWord(const Theme& theme, const QString& name, const QString& text, QWidget* parent);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
};

/// A text as long as it is.
class TextWord : public QLineEdit {
    Q_OBJECT
public:
    TextWord(const Theme& theme, const QString& name, const QString& accessible, QWidget* parent);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    const Theme& m_theme;
};

/// A number as wide as it is.
template <class Box> class BoxWord : public Box {
public:
    BoxWord(const Theme& theme, const QString& name, const QString& accessible, QWidget* parent);
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent*) override;
    void wheelEvent(QWheelEvent*) override;

private:
    const Theme& m_theme;
};
extern template class BoxWord<QDoubleSpinBox>;
extern template class BoxWord<QSpinBox>;
using NumberWord = BoxWord<QDoubleSpinBox>;
using CountWord = BoxWord<QSpinBox>;

} // namespace ts::app
