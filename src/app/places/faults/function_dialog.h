#pragma once
// One safety function as it is bound to the circuit: what demands it, what must rest, in which time and by which stop category, in which
// scenario it is demanded. Nothing is changed before OK, and then in one step of undo.

#include "app/document/document.h"

#include <QDialog>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QListWidget;

namespace ts::app {

class FunctionDialog : public QDialog {
    Q_OBJECT
public:
    FunctionDialog(Document& document, FunctionId function, QWidget* parent);

private:
    void fill(const SafetyFunction& function);
    void take();
    void remove();

    Document& m_document;
    FunctionId m_id;
    std::vector<Trigger> m_triggers;
    QLineEdit* m_name = nullptr;
    QComboBox *m_trigger = nullptr, *m_category = nullptr, *m_scenario = nullptr;
    QListWidget* m_motors = nullptr;
    QDoubleSpinBox* m_allowed = nullptr;
    QCheckBox *m_emergency = nullptr, *m_relied = nullptr;
    QLabel* m_trouble = nullptr;
};

} // namespace ts::app
