#pragma once
// Who works on what: hands at the left, what moves, heats or holds at the right, a line for each thing that a hand was
// seen to do. One line is chosen; Up and Down go through them.

#include "app/widgets/theme.h"
#include "core/exploration/behaviour.h"

#include <QPainterPath>
#include <QWidget>

#include <optional>

namespace ts::app {

class DeedsMap : public QWidget {
    Q_OBJECT
public:
    DeedsMap(const Theme& theme, QWidget* parent);
    /// `sentences`: of each deed, for who does not see the lines.
    void showDeeds(const std::vector<exploration::Deed>& deeds, const Circuit& circuit, QStringList sentences);
    int count() const { return static_cast<int>(m_lines.size()); }
    std::optional<std::size_t> chosen() const { return m_chosen; }
    void choose(std::optional<std::size_t> deed);
    /// A point on the line of a deed that no other comes near to.
    QPointF pointOn(std::size_t deed) const;
    QSize sizeHint() const override { return {700, minimumHeight()}; }

signals:
    void chose();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct End {
        QString tag, words;
    };
    struct Line {
        std::size_t hand = 0, moved = 0; ///< rows
        exploration::Deed::Effect effect = exploration::Deed::Effect::Starts;
        double lane = 0; ///< where it ends in its row, from -1 to 1: lines to one thing lie beside each other
    };
    double yOf(std::size_t row, std::size_t rows) const;
    QPointF startOf(const Line& line) const;
    QPointF endOf(const Line& line) const;
    double reachOf() const;
    QPainterPath pathOf(const Line& line) const;
    std::optional<std::size_t> at(QPointF p) const;
    void paintEnd(QPainter& p, const End& end, const QRectF& box, bool isChosen) const;
    void paintLine(QPainter& p, std::size_t deed) const;
    void paintLegend(QPainter& p) const;
    void paintTip(QPainter& p, QPointF tip, exploration::Deed::Effect effect, const QColor& colour) const;

    const Theme& m_theme;
    std::vector<End> m_hands, m_moved;
    std::vector<Line> m_lines; ///< by deed
    QStringList m_sentences;
    std::optional<std::size_t> m_chosen;
};

} // namespace ts::app
