#pragma once
// What flows while each motor runs and starts, and what the control circuit then carries: read from runs. Internal to
// sizing/.

#include "core/exploration/behaviour.h"
#include "core/simulation/conductors.h"

#include <map>

namespace ts::sizing {

constexpr double kCarries = 0.2; ///< of a motor's line current: less is what a monitor or the control circuit takes

/// One motor running by itself, or with what must run before it.
struct RunningLoad {
    DeviceId motor;
    std::size_t slot = 0;
    State state;
    Frame frame;
    std::optional<Frame> pulling; ///< the moment at which coils take most, armatures still out
    bool isFedByDrive = false;
    double lineA = 0; ///< in its lines, as it runs now
    double ratedA = 0; ///< of its plate: what its lines carry at its rated load
    double protectedA = 0; ///< in its lines, what its protection against overload lets flow for long; 0: none is there
    struct Start {
        double largestA = 0, heatA2s = 0, forS = 0; ///< forS: until nothing changed any more
    };
    std::map<int, Start> starts; ///< by link: poles of fuses, releases and contactors, from the push to steady running
    /// What each link and wire of the plant carries for it at the plate's load; 0: nothing of it, or hardly any.
    std::vector<double> linksA, wiresA;
    std::vector<double> wireStartsA; ///< by wire of the plant: the largest that it carries for it at the start
    std::string said;
    DeviceId drive; ///< that feeds it; none: the lines do
    double driveInputA = 0, driveOutputA = 0; ///< of the drive's sheet; 0: nobody has written it
    Conductors toDrive, fromDrive; ///< what lies between the lines and it, and between it and the motor

    double ratedThrough(int link) const { return linksA[static_cast<std::size_t>(link)]; }
};

/// What is no motor on three lines, as it runs or heats.
struct OtherLoad {
    DeviceId device;
    std::size_t slot = 0;
    State state;
    Frame frame;
};

struct Loads {
    Plant plant; ///< every wire a resistance, at 70 degC: what lower limits are reckoned with
    Plant cold; ///< the same of pure copper at 20 degC: for the largest short circuits; its states are the plant's
    std::vector<RunningLoad> running;
    std::vector<OtherLoad> others;
    Frame rest; ///< switched on, nothing started
    std::vector<DeviceId> neverRan;
};

/// Fails as compile() does, and with Cancelled.
Expected<Loads> loadsOf(
    const Circuit& circuit, const std::function<void(std::size_t, std::size_t)>& listener, std::stop_token stop);

/// A starting value of sizing_defaults.csv, in its own unit; the row must exist.
double sizingFallback(std::string_view kind, std::string_view parameter, std::string_view column = "nominal");

/// Resistance of a wire by its class (5 where nobody has said) at 20 degC in ohm/m; log-log between the rows of
/// conductor_resistance.csv. Class 6 may have as much as 5.
double ohmPerM(const Wire& wire);
/// Class 1 or 2.
inline bool isStiff(const Wire& wire)
{
    return wire.conductorClass == "1" || wire.conductorClass == "2";
}
constexpr double kHot = 1.1965; ///< resistance at 70 against 20 degC (conductor_resistance.csv)

double currentOf(const PlantWire& wire, const Frame& frame);

/// What flows right after these faults came to a state, before anything opens; none where the circuit chatters.
std::optional<Frame> frameWith(const Plant& plant, const State& state, std::span<const Fault> faults);

/// The state that a deed ends in; what runs only while it is held is held on.
State stateAfter(const Plant& plant, const exploration::Deed& deed, Workspace& workspace, const std::stop_token& stop);

} // namespace ts::sizing
