#pragma once
// Which part of the parts list each device of the claim is: a slider from the one that wears out first to the one that
// lasts longest. A whole drag is one step of undo.

#include "app/document/document.h"
#include "app/widgets/theme.h"

#include <QWidget>

class QLabel;
class QSlider;

namespace ts::app {

class PartStrip : public QWidget {
    Q_OBJECT
public:
    PartStrip(Document& document, const Theme& theme, QWidget* parent);
    /// Called with every change of the document, too.
    void setFunction(FunctionId function);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    struct Row {
        DeviceId device;
        std::vector<std::string> parts; ///< ids, by B10d
        QSlider* slider = nullptr;
        QLabel* note = nullptr;
        bool isSame(const Row& o) const { return device == o.device && parts == o.parts; }
    };
    std::vector<Row> rows() const;
    void rebuild(std::vector<Row> rows);
    void refresh();
    void choose(const Row& row, int k);

    Document& m_document;
    const Theme& m_theme;
    FunctionId m_function;
    std::vector<Row> m_rows;
    QLabel* m_none = nullptr;
    int m_gesture = 0;
    bool m_isRefreshing = false;
};

} // namespace ts::app
