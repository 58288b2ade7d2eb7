#pragma once
// Proving what was built: the plan as a day's work, the step in hand with its probes in the drawing, what is proved by
// now, and what no step shows.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "core/measuring/readings.h"
#include "core/measuring/suspects.h"

class QLabel;
class QPushButton;

namespace ts::app {

class DayLine;
class MarkedDrawing;
class StepCard;

class TestsPlace : public Place {
    Q_OBJECT
public:
    TestsPlace(const PlaceParts& parts, QWidget* parent);
    Mark mark() const override;
    std::vector<PlaceView> views() override;

protected:
    void showEvent(QShowEvent*) override;

private:
    void takePlan();
    void takeStanding();
    void showStep();
    void goTo(int step);
    void goOn();
    void enter();
    void showRuns();
    void takeTimes();
    void tellProgress();
    void lookForSuspects();
    measuring::StepRead readAt(std::size_t step) const; ///< the last reading there
    QStringList historyOf(const measuring::StepState& state) const;
    QString verdictOf(const measuring::StepState& state) const;

    Document& m_document;
    StudyBook& m_book;
    const Theme& m_theme;
    std::shared_ptr<const measuring::TestPlan> m_plan;
    std::vector<measuring::StepState> m_states; ///< by step
    std::size_t m_current = 0;
    Latest<Expected<std::vector<measuring::Suspect>>> m_looking;
    QLabel *m_said = nullptr, *m_hidden = nullptr;
    QPushButton* m_make = nullptr;
    DayLine* m_day = nullptr;
    StepCard* m_card = nullptr;
    MarkedDrawing* m_drawing = nullptr;
    QWidget* m_work = nullptr;
};

} // namespace ts::app
