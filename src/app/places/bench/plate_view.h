#pragma once
// The plate behind the door: every device that is not on the door, with what its own eyes show.

#include "app/places/bench/bench_session.h"
#include "app/places/bench/device_state.h"
#include "app/widgets/theme.h"
#include "core/model/circuit.h"

#include <QAbstractButton>
#include <QScrollArea>

namespace ts::app {

class PlateCard : public QAbstractButton {
    Q_OBJECT
public:
    PlateCard(int device, QString tag, QString label, BenchSession& session, const Theme& theme, QWidget* parent);
    void setSelected(bool selected);
    bool isWide() const { return m_state.isWide; }
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void look();
    int m_device;
    QString m_tag, m_label;
    BenchSession& m_session;
    const Theme& m_theme;
    DeviceState m_state;
    bool m_selected = false;
};

class PlateView : public QScrollArea {
    Q_OBJECT
public:
    PlateView(BenchSession& session, const Theme& theme, QWidget* parent);
    void setCircuit(const Circuit& circuit);
    void setSelected(DeviceId device);

signals:
    void devicePicked(ts::DeviceId device);

private:
    BenchSession& m_session;
    const Theme& m_theme;
    std::vector<std::pair<DeviceId, PlateCard*>> m_cards;
};

} // namespace ts::app
