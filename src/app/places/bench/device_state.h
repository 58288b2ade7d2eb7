#pragma once
// What can be said about a device at one moment, in words: for its card on the plate and for the inspector.

#include "core/simulation/frame.h"

#include <QString>
#include <QStringList>

#include <vector>

namespace ts::app {

struct DeviceState {
    QStringList lines; ///< "in", "coil 24.0 V"
    QStringList details; ///< longer, for the inspector only
    struct Indicator {
        QString name;
        bool isOn = false;
        bool isAlarm = false;
        bool isBlinking = false;
        bool operator==(const Indicator&) const = default;
    };
    std::vector<Indicator> indicators; ///< of devices that have lights of their own
    bool isOn = false; ///< pulled in, driven, outputs on
    bool isAlarm = false; ///< tripped, melted, locked out
    bool isWide = false;
    bool operator==(const DeviceState&) const = default;
};

/// `device` is an index into the plant.
DeviceState deviceState(const Plant& plant, const Frame& frame, int device);

} // namespace ts::app
