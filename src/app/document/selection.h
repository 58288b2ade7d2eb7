#pragma once
// What is selected, by id: an element, a device or a wire; and which safety function is looked at. Places set it and
// look at it; nobody keeps rows or pointers.

#include "core/model/dossier.h"

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

    /// Then no device is selected.
    WireId wire() const { return m_wire; }

    void select(DeviceId device, const std::string& role = {}) { take(device, role, {}); }
    void selectWire(WireId wire) { take({}, {}, wire); }
    void clear() { take({}, {}, {}); }

    /// The function that is looked at: the one chosen, or the dossier's first; none in a dossier without.
    FunctionId functionIn(const Dossier& dossier) const
    {
        return dossier.function(m_function) ? m_function
            : dossier.functions.empty()     ? FunctionId{}
                                            : dossier.functions.front().id;
    }
    void chooseFunction(FunctionId function)
    {
        if (function == m_function)
            return;
        m_function = function;
        emit functionChosen();
    }

signals:
    void changed();
    void functionChosen();

private:
    void take(DeviceId device, const std::string& role, WireId wire)
    {
        if (device == m_device && role == m_role && wire == m_wire)
            return;
        m_device = device;
        m_role = role;
        m_wire = wire;
        emit changed();
    }
    DeviceId m_device;
    std::string m_role;
    WireId m_wire;
    FunctionId m_function;
};

} // namespace ts::app
