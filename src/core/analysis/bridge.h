#pragma once
// Before two terminals are joined for a while: which functions lose by it, what lies between them and opens nothing any
// more, and where it is a fuse or a breaker, what nothing protects then.

#include "core/analysis/fault_analysis.h"

namespace ts {

/// One function with the bridge in, its single faults tried with it and without.
struct BridgedFunction {
    FunctionId function;
    bool isLost = false; ///< with nothing else wrong
    std::optional<Message> why; ///< it is lost, or could not be tried
    struct Losing {
        std::string id; ///< of a fault
        Message what;
    };
    std::vector<Losing> losing; ///< faults that lose it with the bridge and not without; parts and wires before shorts
    std::optional<safety::Level> before, after; ///< at most, as single faults leave it
};

/// A protective device with a pole between the two terminals.
struct BridgedProtection {
    DeviceId device;
    std::string element; ///< "1-2"
    std::vector<WireId> wires; ///< behind it, up to the next protective device
    std::vector<DeviceId> devices; ///< the same
    double thinnestMm2 = 0; ///< of these wires; 0: there are none
};

struct BridgeCost {
    bool isJoined = false; ///< by wires already: a bridge changes nothing
    std::vector<std::pair<DeviceId, std::string>> contacts; ///< "21-22" of a device: what they do not part any more
    std::vector<BridgedProtection> protections;
    std::vector<BridgedFunction> functions; ///< of all that lose by it or could not be tried
    std::size_t held = 0; ///< functions of which no single fault says otherwise than before
    double volts = 0; ///< between the terminals after switching on
    std::vector<DeviceId> givesWay; ///< fuses and breakers that trip within seconds of the bridge
};

/// The same circuit with a wire between two terminals, "S10:21" and "S10:22". Fails with NotFound for one that is not
/// there, with Refused for twice the same.
Expected<Dossier> withBridge(const Dossier& dossier, const std::string& from, const std::string& to);

/// Fails as withBridge() and compile() do, and with Cancelled.
Expected<BridgeCost> bridgeCost(
    const Dossier& dossier, const std::string& from, const std::string& to, std::stop_token stop = {});

} // namespace ts
