#pragma once
// A page of the Faults place: what holds in every order of operation of one motor, and the shortest order that shows
// the opposite, to be played on the Bench. Works in the background with progress and can be cancelled.

#include "app/document/latest.h"
#include "app/document/study_book.h"
#include "app/places/faults/result_list.h"
#include "core/exploration/explore.h"

#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace ts::app {

class OrdersPage : public QWidget {
    Q_OBJECT
public:
    OrdersPage(Document& document, StudyBook& book, const Theme& theme, QWidget* parent);
    void startOrCancel();
    bool isBusy() const;
    bool hasResult() const { return current().value != nullptr; }
    /// The motor to be looked at.
    void choose(DeviceId motor);
    void setWithFaults(bool withFaults);
    ResultList& list() { return *m_list; }

signals:
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);

private:
    /// One line of the list: a proof and the faults that were present.
    struct Line {
        const exploration::Proof* proof = nullptr;
        std::vector<Fault> faults;
        QString heading;
        bool isPlayable = true; ///< not with bridged contacts and levers taken off
    };
    void takeDocument();
    void tellProgress();
    void tellState();
    void fill();
    void addMotor(const exploration::MotorExplored& motor);
    void addInterlock(const exploration::InterlockJudged& judged);
    void addProof(QTreeWidgetItem* heading, const exploration::Proof& proof, const QString& claim,
        std::vector<Fault> faults, const QString& with, bool isPlayable);
    void takeSelection();
    void play();
    using Held = StudyBook::Held<exploration::Explored>;
    Held current() const;
    Subject subject() const;
    void exploreFaults();
    std::shared_ptr<const Plant> plantOf(const Snapshot& snapshot);
    QString tagOf(DeviceId id) const;

    Document& m_document;
    const Theme& m_theme;
    StudyBook& m_book;
    Latest<Expected<exploration::Explored>> m_faultWork; ///< with each single fault: only when somebody asks, for this
                                                         ///< page alone
    std::shared_ptr<const exploration::Explored> m_withFaults; ///< of `m_withFaultsOf`
    Snapshot m_withFaultsOf;
    DeviceId m_withFaultsMotor;
    std::optional<Error> m_faultTrouble;
    std::shared_ptr<WorkProgress> m_faultProgress;
    std::shared_ptr<const exploration::Explored> m_shown; ///< what is listed
    Snapshot m_plantOf;
    std::shared_ptr<const Plant> m_plant;
    std::shared_ptr<const Circuit> m_circuit; ///< whose motors are listed
    std::vector<Line> m_lines;
    QComboBox* m_motors = nullptr;
    QCheckBox* m_faults = nullptr;
    QPushButton *m_start = nullptr, *m_bench = nullptr;
    QLabel *m_state = nullptr, *m_title = nullptr, *m_answer = nullptr, *m_order = nullptr, *m_scope = nullptr;
    ResultList* m_list = nullptr;
};

} // namespace ts::app
