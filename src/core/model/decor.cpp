#include "core/model/decor.h"

#include <utility>

namespace ts {

Circuit takeDecor(Circuit& circuit)
{
    Circuit decor;
    for (Device& d : circuit.devices) {
        Device taken;
        taken.label = std::exchange(d.label, {});
        taken.rank = std::exchange(d.rank, 0);
        taken.reliability = std::exchange(d.reliability, std::nullopt);
        taken.remark = std::exchange(d.remark, {});
        if (taken != Device{}) {
            taken.id = d.id;
            decor.devices.push_back(std::move(taken));
        }
    }
    for (Part& p : circuit.parts)
        if (auto reliability = std::exchange(p.reliability, std::nullopt)) {
            Part& taken = decor.parts.emplace_back();
            taken.id = p.id;
            taken.reliability = std::move(reliability);
        }
    for (Wire& w : circuit.wires) {
        Wire taken;
        taken.colour = std::exchange(w.colour, {});
        taken.remark = std::exchange(w.remark, {});
        if (taken != Wire{}) {
            taken.id = w.id;
            decor.wires.push_back(std::move(taken));
        }
    }
    return decor;
}

} // namespace ts
