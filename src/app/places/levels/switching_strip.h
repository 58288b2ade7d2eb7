#pragma once
// How often things work: duty of the machine and the time between two operations of each part. A slider for the
// hand, a box for the number; each change is one edit, a whole drag one step of undo.

#include "app/document/document.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QDoubleSpinBox;
class QLabel;
class QSlider;

namespace ts::app {

class SwitchingStrip : public QWidget {
    Q_OBJECT
public:
    SwitchingStrip(Document& document, const Theme& theme, QWidget* parent);
    /// Called with every change of the document, too.
    void setFunction(FunctionId function);

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    struct Row {
        DeviceId device; ///< none: days, then hours
        QSlider* slider = nullptr;
        QDoubleSpinBox* box = nullptr;
        QLabel* note = nullptr;
    };
    void rebuild();
    Row addRow(int line, const QString& id, const QString& shown, const QString& name, double low, double high,
        const QString& unit, bool isLogarithmic);
    void refresh();
    std::vector<DeviceId> devices() const;
    void editDuty();
    void editCycle(DeviceId device, double s);

    Document& m_document;
    const Theme& m_theme;
    FunctionId m_function;
    std::vector<Row> m_rows;
    std::vector<DeviceId> m_shown;
    int m_gesture = 0;
    int m_halves = 2; ///< side by side
    bool m_isRefreshing = false;
};

} // namespace ts::app
