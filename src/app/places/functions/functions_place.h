#pragma once
// What must happen when: the safety functions as sentences, each decided in three steps (what demands it and what
// stops, how much is needed, how fast and how far). Every answer is one edit.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "app/widgets/theme.h"

class QLabel;
class QListWidget;
class QPushButton;

namespace ts::app {

class DemandSentence;
class FigureView;
class RiskSentence;
class TimingSentence;

class FunctionsPlace : public Place {
    Q_OBJECT
public:
    FunctionsPlace(const PlaceParts& parts, QWidget* parent);
    Mark mark() const override;
    bool canShow(const Target& target) const override;
    void showTarget(const Target& target) override;
    void welcomeNew() override { suggest(); }
    void show(FunctionId function);
    FunctionId function() const { return m_function; }
    /// Takes in what the scenarios show and the dossier does not have yet; in the background.
    void suggest();

protected:
    void showEvent(QShowEvent*) override;

private:
    QWidget* chooser();
    QWidget* beside();
    void turnOver(int spot);
    void takeDocument();
    void takeFunction();
    void takeResults();
    void takeMissing();
    void addNew();
    void remove();

    Document& m_document;
    Selection& m_selection;
    StudyBook& m_book;
    const Theme& m_theme;
    Latest<Expected<std::vector<SafetyFunction>>> m_suggesting;
    FunctionId m_function; ///< that the forms show
    bool m_isStale = false; ///< changed while out of sight
    QListWidget* m_list = nullptr;
    QPushButton *m_suggest = nullptr, *m_new = nullptr, *m_remove = nullptr;
    QLabel *m_state = nullptr, *m_sentence = nullptr, *m_consequences = nullptr, *m_caution = nullptr;
    QWidget *m_forms = nullptr, *m_scroll = nullptr, *m_beside = nullptr;
    FigureView* m_map = nullptr;
    QLabel* m_missing = nullptr; ///< what is nobody's, as long as there is no function
    DemandSentence* m_demand = nullptr;
    RiskSentence* m_risk = nullptr;
    TimingSentence* m_timing = nullptr;
};

} // namespace ts::app
