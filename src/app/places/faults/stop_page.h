#pragma once
// A page of the Faults place: when power goes and when it stands still, in every case that was run, actuator by
// actuator.

#include "app/document/function_box.h"
#include "app/document/result_book.h"
#include "app/places/faults/result_list.h"
#include "core/analysis/stop_study.h"
#include "core/faults/fault_list.h"

#include <QWidget>

class QLabel;
class QPushButton;

namespace ts::app {

class SpreadStrip;

class StopPage : public QWidget {
    Q_OBJECT
public:
    StopPage(Document& document, Selection& selection, const Theme& theme, QWidget* parent);
    void startOrCancel();
    bool isBusy() const { return m_book.isBusy(); }
    bool hasResult() const { return !m_book.isEmpty(); }
    std::vector<Finding> findings() const;
    /// Of all functions, what holds for the dossier as it is.
    std::vector<std::shared_ptr<const StopStudy>> fresh() const;
    ResultList& list() { return *m_list; }

signals:
    void finished();

private:
    struct Studied {
        StopStudy study;
        std::vector<faults::SweptFault> faults;
    };
    using Book = ResultBook<FunctionId, Studied>;
    void takeDocument();
    void tellProgress();
    void tellState();
    void fill();
    void addActuator(const ActuatorStudy& actuator, const Book::Result& result);
    std::shared_ptr<const Book::Result> current() const { return m_book.newest(m_functions->function()); }

    Document& m_document;
    Book m_book;
    FunctionBox* m_functions = nullptr;
    QPushButton* m_start = nullptr;
    QLabel* m_state = nullptr;
    SpreadStrip* m_strip = nullptr;
    ResultList* m_list = nullptr;
};

} // namespace ts::app
