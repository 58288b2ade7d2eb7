#pragma once
// A page of the Faults place: when power goes and when it stands still, in every case that was run, actuator by actuator.

#include "app/document/function_box.h"
#include "app/document/latest.h"
#include "app/places/faults/result_list.h"
#include "core/analysis/stop_study.h"
#include "core/faults/fault_list.h"

#include <QTimer>

#include <atomic>
#include <map>

class QLabel;
class QPushButton;

namespace ts::app {

class SpreadStrip;

class StopPage : public QWidget {
    Q_OBJECT
public:
    StopPage(Document& document, Selection& selection, const Theme& theme, QWidget* parent);
    void startOrCancel();
    bool isBusy() const { return m_work.isBusy(); }
    bool hasResult() const { return !m_results.empty(); }
    std::vector<Finding> findings() const;
    /// Of all functions, what holds for the dossier as it is.
    std::vector<std::shared_ptr<const StopStudy>> fresh() const;
    ResultList& list() { return *m_list; }

signals:
    void finished();

private:
    struct Result {
        Expected<StopStudy> study = failure(ErrorCode::Cancelled, message("run.cancelled"));
        Snapshot of;
        std::vector<faults::SweptFault> faults;
    };
    struct Progress {
        std::atomic<std::size_t> done{0}, total{0};
    };
    void takeDocument();
    void takeResult(FunctionId function, std::shared_ptr<const Result> result);
    void tellProgress();
    void tellState();
    void fill();
    void addActuator(const ActuatorStudy& actuator, const Result& result);
    std::shared_ptr<const Result> current() const;

    Document& m_document;
    Latest<Result> m_work;
    std::map<FunctionId, std::shared_ptr<const Result>> m_results;
    std::shared_ptr<Progress> m_progress;
    QString m_trouble;
    QTimer m_tick;
    FunctionBox* m_functions = nullptr;
    QPushButton* m_start = nullptr;
    QLabel* m_state = nullptr;
    SpreadStrip* m_strip = nullptr;
    ResultList* m_list = nullptr;
};

} // namespace ts::app
