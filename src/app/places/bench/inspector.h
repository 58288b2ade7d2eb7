#pragma once
// What is selected on the Bench: its state, what can be meant with it, what can be done to it by hand, and every fault
// that can be put on it.

#include "app/places/bench/bench_session.h"
#include "app/places/bench/feeding_view.h"
#include "app/widgets/theme.h"
#include "app/words/words.h"
#include "core/faults/sweep.h"
#include "core/model/dossier.h"
#include "core/offers/offer.h"

#include <QCheckBox>
#include <QScrollArea>

class QLabel;
class QSpinBox;
class QVBoxLayout;

namespace ts::app {

class Inspector : public QScrollArea {
    Q_OBJECT
public:
    Inspector(BenchSession& session, const Theme& theme, QWidget* parent);
    /// Null: nothing is open.
    void setDossier(Snapshot dossier, const wording::Habits& habits);
    /// The same with the run that comes next: it is then built up once.
    void expect(Snapshot dossier);
    void show(const offers::Picked& target);
    /// What the last fault sweep said of each fault, by its id; shown beside the fault.
    void setOutcomes(std::map<std::string, faults::Outcome> outcomes);
    const std::vector<offers::Offer>& offers() const { return m_offers; }

signals:
    void offerPicked(const ts::offers::Offer& offer);
    void elementPicked(const ts::offers::Picked& element); ///< one that keeps what is selected off
    void gapsChanged(const std::vector<ts::app::DrawnElement>& gaps); ///< of what is selected; empty: none to be shown

private:
    void rebuild();
    void addNothing();
    void addDevice(int device);
    void addMotorPlate(const Device& device);
    void addContacts();
    void addTripCaution(int index);
    void addFeeding(int device);
    void addWire(const Wire& wire);
    void addOffers();
    void addActions(int device);
    void addKnobs(int device);
    void addFaults(int device);
    void addFault(const FaultSite& site, const QString& text);
    QLabel* addHeading(const QString& text);
    void refresh();
    const Circuit& circuit() const { return m_dossier->circuit; }

    BenchSession& m_session;
    const Theme& m_theme;
    Snapshot m_dossier = std::make_shared<const Dossier>();
    wording::Habits m_habits;
    offers::Picked m_target;
    std::map<std::string, faults::Outcome> m_outcomes;
    std::vector<offers::Offer> m_offers;
    bool m_showsAll = false; ///< also what concerns the device as a whole
    QVBoxLayout* m_list = nullptr;
    QLabel* m_state = nullptr;
    std::vector<std::pair<Fault, QCheckBox*>> m_faults;
    struct Knob {
        int slot = 0;
        QCheckBox* isThere = nullptr;
        QSpinBox* level = nullptr;
    };
    std::vector<Knob> m_knobs;
};

} // namespace ts::app
