#pragma once
// The calculation as a sheet: one card per subsystem, every number a button that tells where it comes from.

#include "app/widgets/theme.h"
#include "core/safety/level.h"

#include <QAbstractButton>
#include <QWidget>

#include <vector>

namespace ts::app {

/// A line of a card.
struct SheetRow {
    enum class Kind { Heading, Value, Warning };
    Kind kind = Kind::Value;
    QString text;
    int value = -1; ///< index into the explanation
    QString number;
    bool operator==(const SheetRow&) const = default;
};
struct SheetCard {
    QString title, subtitle, verdict;
    bool isShort = false; ///< has no level
    std::vector<SheetRow> rows;
};

/// Pure: the calculation as cards.
std::vector<SheetCard> sheetCards(const safety::FunctionLevel& level);

/// A number that can be asked.
class ValueButton : public QAbstractButton {
    Q_OBJECT
public:
    ValueButton(const Theme& theme, QWidget* parent);
    void setRow(const SheetRow& row);
    int value() const { return m_row.value; }
    void setAsked(bool asked);
    QSize sizeHint() const override { return {220, m_row.kind == SheetRow::Kind::Warning ? 32 : 18}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override; ///< I asks, as Space does

private:
    const Theme& m_theme;
    SheetRow m_row;
    bool m_asked = false;
};

class LevelSheet : public QWidget {
    Q_OBJECT
public:
    LevelSheet(const Theme& theme, QWidget* parent);
    void setLevel(const safety::FunctionLevel& level);
    void setAsked(int value);

signals:
    void asked(int value);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void rebuild();
    const Theme& m_theme;
    std::vector<SheetCard> m_cards;
    std::vector<QWidget*> m_columns;
    std::vector<std::vector<ValueButton*>> m_buttons;
    int m_asked = -1;
};

} // namespace ts::app
