#pragma once
// What the circuit does, found out by trying every hand: a person looks at each sentence and says that it should be so,
// which keeps it as a scenario, or that it is wrong, which makes a finding of it until the circuit is another.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "core/simulation/plant.h"
#include "core/suggestions/scenario_suggestion.h"

class QLabel;
class QPushButton;

namespace ts::app {

class DeedsMap;
class ScenarioLine;

class DeedsPage : public QWidget {
    Q_OBJECT
public:
    DeedsPage(const PlaceParts& parts, QWidget* parent);
    bool isBusy() const { return m_work.isBusy() || m_keeping.isBusy(); }
    /// Null before it was found out.
    const exploration::Behaviour* behaviour() const { return m_found ? &m_found->behaviour : nullptr; }
    DeedsMap& map() { return *m_map; }
    const ScenarioLine& steps() const { return *m_steps; }

signals:
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Found {
        Snapshot dossier; ///< of which it is
        Plant plant;
        exploration::Behaviour behaviour;
        std::vector<SuggestedScenario> shown; ///< by deed
    };
    using Answer = Expected<Found>;
    static Answer foundIn(const Snapshot& dossier, std::stop_token stop);

    void findOut();
    void take(const Answer& answer);
    void showChosen();
    std::optional<std::size_t> chosen() const; ///< deed
    void play();
    void keep(const QString& label, SuggestedScenario suggested);
    void keepAll();

    Document& m_document;
    const Theme& m_theme;
    std::optional<Found> m_found;
    DeedsMap* m_map = nullptr;
    ScenarioLine* m_steps = nullptr;
    QLabel *m_state = nullptr, *m_what = nullptr, *m_rest = nullptr;
    QPushButton *m_play = nullptr, *m_right = nullptr, *m_wrong = nullptr, *m_all = nullptr;
    Latest<Answer> m_work; ///< these last: their threads end before what they tell
    Latest<Expected<DossierFile>> m_keeping;
};

} // namespace ts::app
