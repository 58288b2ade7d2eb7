#pragma once
// A machine is chosen in sentences; beside them grows what follows: the drawing with what the last word changed marked,
// the scenarios run, how its functions stand with faults, and for the word in hand why it is advised and what the other
// schools would do. One button makes it the dossier; of a machine that was made so, the choices can be changed later.
// At the foot, how well the motors' equivalent circuits meet their plates.

#include "app/frame/place.h"
#include "app/places/machine/plan_preview.h"
#include "core/patterns/advice.h"

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

class PlanDrawing;
class PlanSentences;
class TextWord;

class PlanPage : public QWidget {
    Q_OBJECT
public:
    PlanPage(const PlaceParts& parts, QWidget* parent);
    const PlanPreview& preview() const { return *m_preview; }

signals:
    void dossierWanted(const ts::DossierFile& file);
    void besideWanted(const ts::Circuit& circuit, const QString& name);

protected:
    void showEvent(QShowEvent* event) override;

private:
    QWidget* head();
    QWidget* consequenceSide();
    QWidget* drawingHead(QWidget* parent);
    void takeChoices();
    void takeResult();
    void showRuns();
    void takeStanding();
    void look(const patterns::ChoiceName& choice);
    void showWord();
    void showSchools();
    void takeReason();
    void takeDocument();
    void showMotors();
    void beginAnother();
    void build();
    bool isChanging() const { return !m_beginsNew && !m_document.dossier().machine.plan.starters.empty(); }
    ChosenWords reasons() const;
    const patterns::Plan& planOf(const patterns::ChoiceName& choice) const;
    std::optional<patterns::Advice> adviceOn(const patterns::ChoiceName& choice) const;

    Document& m_document;
    const Theme& m_theme;
    PlanPreview* m_preview;
    ChosenWords m_reasons; ///< in a person's words
    std::optional<patterns::ChoiceName> m_looked;
    bool m_beginsNew = false; ///< though the dossier has a plan
    Snapshot m_restsOn; ///< the dossier that the preview was made from
    PlannedMachine m_shown; ///< the plan of the dossier that the sentences began with

    PlanSentences* m_sentences = nullptr;
    QLabel *m_whose = nullptr, *m_summary = nullptr, *m_why = nullptr, *m_schoolsHead = nullptr, *m_motors = nullptr;
    QPushButton *m_another = nullptr, *m_build = nullptr, *m_beside = nullptr;
    QVBoxLayout *m_runs = nullptr, *m_stands = nullptr, *m_schools = nullptr;
    TextWord* m_reason = nullptr;
    PlanDrawing *m_control = nullptr, *m_power = nullptr;
    std::array<QPushButton*, 2> m_toDrawing{};
};

} // namespace ts::app
