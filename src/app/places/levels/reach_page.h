#pragma once
// A page of the level desk: what would reach the required level, the least effort first, and what of it was run again
// on the changed circuit. Each can be carried out as one step of undo.

#include "app/document/document.h"
#include "app/document/latest.h"
#include "app/document/study_book.h"
#include "app/widgets/theme.h"
#include "core/improving/improvement.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QTreeWidget;

namespace ts::app {

class ReachPage : public QWidget {
    Q_OBJECT
public:
    ReachPage(Document& document, const StudyBook& book, const Theme& theme, QWidget* parent);
    void show(FunctionId function);
    void startOrCancel();
    bool isBusy() const { return m_work.isBusy(); }
    const improving::Improved* result() const { return m_result && *m_result ? &**m_result : nullptr; }
    QTreeWidget& list() { return *m_list; }

signals:
    void finished();

private:
    void fill();
    void takeSelection();
    void carryOut();

    Document& m_document;
    const StudyBook& m_book;
    Latest<Expected<improving::Improved>> m_work;
    std::shared_ptr<const Expected<improving::Improved>> m_result;
    Snapshot m_of;
    FunctionId m_function;
    QPushButton *m_start = nullptr, *m_do = nullptr;
    QLabel *m_state = nullptr, *m_now = nullptr;
    QTreeWidget* m_list = nullptr;
};

} // namespace ts::app
