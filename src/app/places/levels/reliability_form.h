#pragma once
// What is known about one device's reliability: from its maker's sheet, or a typical value (marked as such everywhere),
// or with its part of the parts list.

#include "app/document/document.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QPushButton;

namespace ts::app {

class ReliabilityForm : public QWidget {
    Q_OBJECT
public:
    ReliabilityForm(Document& document, const Theme& theme, QWidget* parent);
    void show(DeviceId device);

signals:
    void taken();

private:
    void showKind();
    void take();
    std::optional<double> numberIn(const QLineEdit* line);

    Document& m_document;
    DeviceId m_device;
    QFormLayout* m_form = nullptr;
    QComboBox* m_kind = nullptr;
    QLineEdit* m_value = nullptr;
    QComboBox* m_typical = nullptr;
    QLineEdit* m_share = nullptr;
    QComboBox* m_level = nullptr;
    QComboBox* m_category = nullptr;
    QLineEdit* m_source = nullptr;
    QLabel* m_trouble = nullptr;
    QPushButton* m_take = nullptr;
};

} // namespace ts::app
