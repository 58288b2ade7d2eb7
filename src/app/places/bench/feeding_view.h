#pragma once
// Why a coil, lamp or motor has its voltage, or what keeps it off: the way that feeds it, each contact that is open on
// it with what would close it, and whether it would come then.

#include "app/document/latest.h"
#include "app/places/bench/bench_session.h"
#include "app/widgets/theme.h"
#include "core/base/ids.h"
#include "core/simulation/feeding.h"

#include <QWidget>

class QLabel;
class QPushButton;
class QVBoxLayout;

namespace ts::app {

/// An element of a device, as drawings name it.
using DrawnElement = std::pair<DeviceId, std::string>;

class FeedingView : public QWidget {
    Q_OBJECT
public:
    /// `device` is an index into the session's plant, and has a coil, a lamp or a motor.
    FeedingView(BenchSession& session, const Theme& theme, int device, QWidget* parent);
    /// Says its gaps to who has been connected since it was made.
    void announce() { emit gapsChanged(m_drawn); }

signals:
    void gapPicked(ts::DeviceId device, const std::string& role);
    /// In the order of the way, one for each that is drawn.
    void gapsChanged(const std::vector<ts::app::DrawnElement>& gaps);

private:
    void refresh();
    void fill();
    QString nameOf(int link) const;
    QString rowOf(const Gap& gap) const;
    void tryOut();

    BenchSession& m_session;
    const Theme& m_theme;
    int m_device;
    /// What decides about it.
    struct Looked {
        std::vector<std::uint8_t> travel, lampLit;
        std::vector<MotorMode> actuators;
        std::vector<Fault> faults;
        bool operator==(const Looked&) const = default;
    };
    Looked m_looked;
    Feeding m_feeding;
    std::vector<DrawnElement> m_drawn;
    QLabel *m_heading, *m_way, *m_tried;
    QVBoxLayout* m_rows;
    QPushButton* m_try;
    Latest<bool> m_trial;
};

} // namespace ts::app
