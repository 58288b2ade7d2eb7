#include "core/edit/reliability_edits.h"

#include <algorithm>

namespace ts::edit {
namespace {

struct Bounded {
    std::optional<double> Reliability::*value;
    const char* unit;
    double least, most;
};

/// As in the dossier file (docs/formats/dossier.md).
constexpr Bounded kValues[]{{&Reliability::b10dCycles, "", 1, 1e12}, {&Reliability::b10Cycles, "", 1, 1e12},
    {&Reliability::mttfdYears, "y", 1e-3, 1e6}, {&Reliability::mttfYears, "y", 1e-3, 1e6},
    {&Reliability::fitDangerous, "", 1e-6, 1e9}, {&Reliability::pfhdPerHour, "1/h", 1e-14, 1}};

Expected<void> checked(const Reliability& r)
{
    for (const Bounded& b : kValues)
        if (const auto& value = r.*b.value; value && !(*value >= b.least && *value <= b.most))
            return failure(ErrorCode::OutOfRange,
                message("edit.reliability_range", {Measured{b.least, b.unit}, Measured{b.most, b.unit}}));
    if (const char* trouble = troubleOf(r))
        return failure(ErrorCode::Refused, message(trouble));
    if (r.dangerousShare && !(*r.dangerousShare >= 0.001 && *r.dangerousShare <= 1.0))
        return failure(
            ErrorCode::OutOfRange, message("edit.reliability_range", {Measured{0.001, "%"}, Measured{1.0, "%"}}));
    return {};
}

} // namespace

int waysOf(const Reliability& r)
{
    int count = !r.typicalPart.empty();
    for (const Bounded& b : kValues)
        count += (r.*b.value).has_value();
    return count;
}

const char* troubleOf(const Reliability& r)
{
    const int ways = waysOf(r);
    if (ways > 1 || (ways == 0 && !r.performanceLevel))
        return "file.one_reliability";
    return r.pfhdPerHour && !r.performanceLevel ? "file.pfhd_without_level" : nullptr;
}

Expected<Dossier> withReliability(const Dossier& dossier, DeviceId id, const std::optional<Reliability>& reliability)
{
    if (reliability)
        if (auto ok = checked(*reliability); !ok)
            return Unexpected{ok.error()};
    Dossier changed = dossier;
    const auto device = std::find_if(
        changed.circuit.devices.begin(), changed.circuit.devices.end(), [id](const Device& d) { return d.id == id; });
    if (device == changed.circuit.devices.end())
        return failure(ErrorCode::NotFound, message("edit.no_device"));
    device->reliability = reliability;
    return changed;
}

} // namespace ts::edit
