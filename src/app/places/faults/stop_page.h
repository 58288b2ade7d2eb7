#pragma once
// A page of the Faults place: when power goes and when it stands still, in every case that was run, actuator by
// actuator.

#include "app/document/function_box.h"
#include "app/document/study_book.h"
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
    StopPage(Document& document, Selection& selection, StudyBook& book, const Theme& theme, QWidget* parent);
    void startOrCancel();
    bool isBusy() const { return m_book.isBusy(kWorstStop.id, about(m_functions->function())); }
    bool hasResult() const { return current().value != nullptr; }
    ResultList& list() { return *m_list; }

private:
    using Held = StudyBook::Held<StopStudy>;
    void takeDocument();
    void tellProgress();
    void tellState();
    void tellCaution();
    void fill();
    void addActuator(
        const ActuatorStudy& actuator, const Dossier& dossier, const std::vector<faults::SweptFault>& faults);
    Held current() const { return m_book.newest(kWorstStop, about(m_functions->function())); }

    Document& m_document;
    StudyBook& m_book;
    std::shared_ptr<const StopStudy> m_shown; ///< what is listed
    FunctionBox* m_functions = nullptr;
    QPushButton* m_start = nullptr;
    QLabel *m_state = nullptr, *m_caution = nullptr;
    SpreadStrip* m_strip = nullptr;
    ResultList* m_list = nullptr;
};

} // namespace ts::app
