#pragma once
// Scenarios as lines of time: what is done when and what is expected, moved and changed where it stands, with what a
// run of the circuit as it is shows at once.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "app/places/machine/scenario_line.h"

class QLabel;
class QPushButton;

namespace ts::app {

class ChoiceWord;
class TextWord;
class WordFlow;

class ScenarioPage : public QWidget {
    Q_OBJECT
public:
    ScenarioPage(const PlaceParts& parts, QWidget* parent);
    bool isBusy() const { return m_work.isBusy(); }
    ScenarioLine& line() { return *m_line; }
    /// None where the dossier has none.
    const Scenario* scenario() const;

signals:
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Shown {
        Snapshot of;
        ScenarioId scenario;
        Expected<Plant> plant;
        Expected<ScenarioCourse> course;
    };
    void takeDocument();
    void run();
    void take(const std::shared_ptr<const Shown>& shown);
    void showHead();
    void showPin();
    void showVerdict();
    void addStepWords(std::size_t place);
    void addExpectationWords(std::size_t place);
    void change(const QString& label, const Document::Edit& edit, const QString& gesture = {});
    void changeStep(std::size_t place, const std::function<void(Step&)>& what, const QString& gesture = {});
    void changeExpectation(
        std::size_t place, const std::function<void(Expectation&)>& what, const QString& gesture = {});
    void move(ScenarioLine::Pin pin, double toS);
    void remove(ScenarioLine::Pin pin);
    void addStep();
    void addExpectation();
    void addScenario();
    void play();
    const Plant* plant() const { return m_shown && m_shown->plant ? &*m_shown->plant : nullptr; }
    /// Of the plant's devices: those a hand can do something to, and the lines of its supplies.
    QStringList targets() const;
    std::string firstFault() const;
    QStringList subjects() const;
    QStringList actionsOf(const QString& target) const;

    Document& m_document;
    const Theme& m_theme;
    ScenarioId m_id;
    std::shared_ptr<const Shown> m_shown; ///< of an older dossier until the newest was run
    WordFlow *m_head = nullptr, *m_sentence = nullptr;
    ScenarioLine* m_line = nullptr;
    QLabel* m_verdict = nullptr;
    std::vector<QPushButton*> m_needScenario;
    QPushButton* m_remove = nullptr;
    Latest<Shown> m_work; ///< last: its thread ends before what it tells
};

} // namespace ts::app
