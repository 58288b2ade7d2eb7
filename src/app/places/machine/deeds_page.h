#pragma once
// What the circuit does, found out by trying every hand: a person looks at each sentence and says that it should be so,
// which keeps it as a scenario, or that it is wrong, which makes a finding of it until the circuit is another.

#include "app/document/latest.h"
#include "app/frame/place.h"
#include "core/exploration/behaviour.h"
#include "core/simulation/plant.h"

class QLabel;
class QListWidget;
class QPushButton;

namespace ts {
struct SuggestedScenario;
}

namespace ts::app {

class DeedsPage : public QWidget {
    Q_OBJECT
public:
    DeedsPage(const PlaceParts& parts, QWidget* parent);
    bool isBusy() const { return m_work.isBusy(); }
    /// Null before it was found out.
    const exploration::Behaviour* behaviour() const { return m_found ? &m_found->behaviour : nullptr; }

signals:
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Found {
        Snapshot dossier; ///< of which it is
        Plant plant;
        exploration::Behaviour behaviour;
    };
    using Answer = Expected<Found>;

    void findOut();
    void take(const Answer& answer);
    void showChosen();
    const exploration::Deed* chosen() const;
    void play();
    void keep(const QString& label, std::vector<SuggestedScenario> suggested);
    void keepAll();

    Document& m_document;
    const Theme& m_theme;
    std::optional<Found> m_found;
    QListWidget* m_list = nullptr;
    QLabel *m_state = nullptr, *m_what = nullptr, *m_steps = nullptr;
    QPushButton *m_play = nullptr, *m_right = nullptr, *m_wrong = nullptr, *m_all = nullptr;
    Latest<Answer> m_work; ///< last: its thread ends before what it tells
};

} // namespace ts::app
