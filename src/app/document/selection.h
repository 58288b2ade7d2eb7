#pragma once
// What is selected, by id. Places set it and look at it; nobody keeps rows or pointers.

#include "core/model/circuit.h"

#include <QObject>

#include <string>

namespace ts::app {

class Selection : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    DeviceId device() const { return m_device; }
    /// Element of the device ("13-14"); empty: the whole device.
    const std::string& role() const { return m_role; }

    void select(DeviceId device, const std::string& role = {})
    {
        if (device == m_device && role == m_role)
            return;
        m_device = device;
        m_role = role;
        emit changed();
    }
    void clear() { select({}); }

signals:
    void changed();

private:
    DeviceId m_device;
    std::string m_role;
};

} // namespace ts::app
