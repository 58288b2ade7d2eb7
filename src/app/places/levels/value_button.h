#pragma once
// A number of the calculation that tells where it comes from.

#include "app/widgets/theme.h"

#include <QAbstractButton>

namespace ts::app {

/// A line among numbers.
struct ValueRow {
    enum class Kind { Heading, Value, Warning };
    Kind kind = Kind::Value;
    QString text;
    int value = -1; ///< index into the explanation
    QString number;
    bool operator==(const ValueRow&) const = default;
};

class ValueButton : public QAbstractButton {
    Q_OBJECT
public:
    ValueButton(const Theme& theme, QWidget* parent);
    void setRow(const ValueRow& row);
    int value() const { return m_row.value; }
    void setAsked(bool asked);
    QSize sizeHint() const override;
    bool hasHeightForWidth() const override { return m_row.kind != ValueRow::Kind::Value; }
    int heightForWidth(int width) const override;

protected:
    void paintEvent(QPaintEvent*) override;
    void keyPressEvent(QKeyEvent*) override; ///< I asks, as Space does

private:
    QFont headingFont() const;
    const Theme& m_theme;
    ValueRow m_row;
    bool m_asked = false;
};

} // namespace ts::app
