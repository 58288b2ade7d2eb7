#pragma once
// A scenario as a line of time: above it what hands and the plant do, each where it is held, below it what is expected,
// with the state that a run shows lying under each. Marks are taken hold of and moved; the keyboard does the same.

#include "app/widgets/theme.h"
#include "core/simulation/scenario_course.h"

#include <QWidget>

#include <memory>
#include <optional>

namespace ts::app {

class ScenarioLine : public QWidget {
    Q_OBJECT
public:
    struct Pin {
        enum class Kind : std::uint8_t { Step, Expectation };
        Kind kind = Kind::Step;
        std::size_t place = 0; ///< in the scenario's list
        bool operator==(const Pin&) const = default;
    };

    ScenarioLine(const Theme& theme, QWidget* parent);
    /// `course` may be null: not run yet, or in vain. What is chosen stays if it is still there.
    /// Without a plant it is not known what takes a hand away again, without a course what comes of it.
    void showScenario(
        const Scenario& scenario, const Plant* plant, std::shared_ptr<const ScenarioCourse> course = nullptr);
    std::size_t stepCount() const { return m_scenario.steps.size(); }
    std::size_t expectationCount() const { return m_scenario.expectations.size(); }
    std::optional<Pin> chosen() const { return m_chosen; }
    void choose(std::optional<Pin> pin);
    /// Where something new would be put.
    double cursorS() const { return m_cursorS; }
    QSize sizeHint() const override { return {700, minimumHeight()}; }
    /// Where a pin is, for whoever points at it.
    QPointF pointOf(Pin pin) const;
    double secondsAt(double x) const;
    /// "2.00 s: S1 press", "3.00 s: M1 expected turning, as it is".
    QString textOf(Pin pin) const;
    /// Whether a run shows what is expected there; none: not known.
    std::optional<bool> isMet(std::size_t expectation) const;

signals:
    void chose();
    void moved(ts::app::ScenarioLine::Pin pin, double toS); ///< while it is dragged, too
    void removeWanted(ts::app::ScenarioLine::Pin pin);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Row {
        QString name;
        std::vector<Pin> pins;
        const SeenBand* band = nullptr;
    };
    double timeOf(Pin pin) const;
    double xOf(double s) const;
    double yOf(std::size_t row) const;
    double rowHeight() const;
    std::size_t rowOf(Pin pin) const;
    std::vector<Pin> inOrder() const;
    std::optional<Pin> at(QPointF p) const;
    void readRows();
    void paintAxis(QPainter& p) const;
    void paintRow(QPainter& p, std::size_t row) const;
    void paintStep(QPainter& p, Pin pin, double y) const;
    void paintExpectation(QPainter& p, Pin pin, double y) const;
    void paintWords(QPainter& p, const std::vector<Pin>& inTime, double y) const;
    QString wordsOf(Pin pin) const;
    bool isWrong(Pin pin) const;
    void sayWhatIsChosen();

    const Theme& m_theme;
    Scenario m_scenario;
    std::vector<bool> m_isLetGo; ///< by step
    std::shared_ptr<const ScenarioCourse> m_course;
    std::vector<Row> m_rows; ///< of steps first
    std::size_t m_stepRows = 0;
    std::optional<Pin> m_chosen;
    double m_cursorS = 0;
    bool m_isHeld = false;
};

} // namespace ts::app
