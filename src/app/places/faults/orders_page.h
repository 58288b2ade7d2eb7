#pragma once
// A page of the Faults place: what holds in every order of operation of one motor, and the shortest order that shows the opposite,
// to be played on the Bench. Works in the background with progress and can be cancelled.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "app/places/faults/result_list.h"
#include "core/exploration/explore.h"
#include "core/model/finding.h"

#include <QTimer>

#include <atomic>
#include <map>

class QCheckBox;
class QComboBox;
class QLabel;
class QPushButton;

namespace ts::app {

class OrdersPage : public QWidget {
    Q_OBJECT
public:
    OrdersPage(Document& document, const Theme& theme, QWidget* parent);
    void startOrCancel();
    bool isBusy() const { return m_work.isBusy(); }
    bool hasResult() const { return !m_results.empty(); }
    /// What was shown wrong without any fault, of all motors explored so far.
    std::vector<Finding> findings() const;
    /// Of all motors, what holds for the dossier as it is.
    std::vector<std::shared_ptr<const exploration::Explored>> fresh() const;
    void setWithFaults(bool withFaults);
    ResultList& list() { return *m_list; }

signals:
    void finished();
    void playWanted(const std::vector<ts::Stimulus>& script, ts::TimeNs until);

private:
    struct Result {
        Expected<exploration::Explored> explored = failure(ErrorCode::Cancelled, message("run.cancelled"));
        Snapshot of;
        std::shared_ptr<const Plant> plant;
    };
    struct Progress {
        std::atomic<std::size_t> done{0}, total{0}, states{0};
    };
    /// One line of the list: a proof and the faults that were present.
    struct Line {
        const exploration::Proof* proof = nullptr;
        std::vector<Fault> faults;
        QString heading;
        bool isPlayable = true; ///< not with bridged contacts and levers taken off
    };
    void takeDocument();
    void takeResult(std::shared_ptr<const Result> result);
    void tellProgress();
    void tellState();
    void fill();
    void addMotor(const exploration::MotorExplored& motor);
    void addInterlock(const exploration::InterlockJudged& judged);
    void addProof(QTreeWidgetItem* heading, const exploration::Proof& proof, const QString& claim, std::vector<Fault> faults, const QString& with, bool isPlayable);
    void takeSelection();
    void play();
    std::shared_ptr<const Result> current() const;
    QString tagOf(DeviceId id) const;

    Document& m_document;
    const Theme& m_theme;
    Latest<Result> m_work;
    std::map<std::string, std::shared_ptr<const Result>> m_results; ///< by motor
    std::shared_ptr<Progress> m_progress;
    std::shared_ptr<const Circuit> m_circuit; ///< whose motors are listed
    std::vector<Line> m_lines;
    QString m_trouble;
    QTimer m_tick;
    QComboBox* m_motors = nullptr;
    QCheckBox* m_faults = nullptr;
    QPushButton *m_start = nullptr, *m_bench = nullptr;
    QLabel *m_state = nullptr, *m_title = nullptr, *m_answer = nullptr, *m_order = nullptr, *m_scope = nullptr;
    ResultList* m_list = nullptr;
};

} // namespace ts::app
