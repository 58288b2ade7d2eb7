#pragma once
// What a good electrician tries on a circuit before trusting it, tried: an overload tripped in each running state, a
// wire of a stop button broken, start and stop held together, an inch button tapped, a coil's terminal earthed, a
// motor's frame on a line, a load shorted, a monitor's wire taken off, a contactor that does not pull in, a line lost
// where nothing watches, another hand that resets. Running states are those that hands bring about (behaviour.h). What
// is seen only; what it means is said by the checks.

#include "core/exploration/behaviour.h"

namespace ts::exploration {

struct TrialSeen {
    enum class What : std::uint8_t {
        NoOverload, ///< no thermal protection carries the current of `actuator`
        OverloadKept, ///< `device` was tripped, and `actuator` stayed driven
        TripUnseen, ///< no lamp tells a trip of `device` from an ordinary stop
        StopWireDead, ///< with `wire` of `device` broken `actuator` runs on, and `device` stops it no more
        StartWins, ///< with `other` held, `device` does not stop `actuator`
        TapCaught, ///< `device`, let go after `value` s, leaves `actuator` driven, though held longer it does not
        EarthKept, ///< with `terminal` earthed `other` does not stop `actuator`
        TwoEarthsKept, ///< one earth fault at the control supply changes nothing; with a second one at the coil of
                       ///< `device` (`terminal`: both) `other` does not stop `actuator`
        FrameLive, ///< a line touches the frame of `actuator`, which has `value` V against earth 5 s later
        MonitorDead, ///< with `wire` of `device` broken `actuator` runs on, and `device` would not stop it
        NoDisconnector, ///< nothing that a hand switches takes all lines from `actuator`
        LampLies, ///< `device` is lit as if `actuator` were driven, though `other` did not pull in
        ShortStays, ///< `device` shorted: nothing opens, `value` A go on flowing
        NeverPulls, ///< nothing that hands do moves the armature of `device`
        SameDirection, ///< `device` and `other` turn `actuator` the same way
        MotorVoltage, ///< `actuator` runs on `value` V, between two lines or at a winding, and its plate says
                      ///< `terminal` V
        Serves, ///< no fault: what hands saw `device` to be for, "start", "stop", "running", "stopped" (`terminal`)
        HeldOut, ///< with two starts held the coil of `device` is fed and its armature kept from going in
        StuckRestarts, ///< with `device` stuck in, `other` stops `actuator`, which starts again when it is let go
        NeverLit, ///< nothing that was tried makes `device` show anything
        ReturnLive, ///< with `device` opened the coil of `other` drops, and its return side is live, at `value` V
        EarthStays, ///< an earth fault at `terminal` of `device`: nothing opens, `value` A go on flowing
        OnlyElectronics, ///< `other` stops `actuator`, of which only the electronics of `device` then hold the lines
                         ///< off
        TripsAlike, ///< a trip of `device` and one of `other` change the same lamps
        LossUnseen, ///< with the line `terminal` lost `actuator` stays on the others for `value` s: nothing sees it
        SequenceUnseen, ///< with two lines exchanged `actuator` turns the other way: nothing sees it
        SignalStops, ///< `other` stops `actuator` only through a signalling contact of `device`
        OnlyRead, ///< `device` protects, was operated, and nothing followed but that `other`, a controller, read it
        ResetBeside, ///< `device`, a relay that waits for its reset, is also reset by `other` (`terminal`: what else it
                     ///< does, "starts", "protects" or nothing)
        LockLifted, ///< `device` stopped `actuator` and is still operated; `other` starts it all the same
        TurnedOver, ///< `other` puts `actuator` on its other direction while it turns; by itself it would take `value`
                    ///< s to stand
        Unseparated ///< the coil of `device` hangs on the lines themselves, with `value` motors or control devices
                    ///< (`terminal`: which of the two, "motors" or "devices")
    };
    What what = What::NoOverload;
    DeviceId device, other, actuator;
    WireId wire;
    std::string terminal; ///< "Q1:A2"
    double value = 0;
    std::vector<Done> way; ///< how the running state was reached, from switching on
    std::string said; ///< the same in the kinds' words
    std::vector<Stimulus> script; ///< from switching on: that way, and then what was tried
    TimeNs until = 0; ///< by then it can be seen
    bool operator==(const TrialSeen&) const = default;
};
std::string_view nameOf(TrialSeen::What); ///< "no_overload", "overload_kept" ...

struct Trials {
    std::vector<TrialSeen> seen; ///< in the order of What, then of devices
    std::vector<DeviceId> neverRan; ///< actuators that nothing brought to run: nothing was tried with them
    std::size_t states = 0, runs = 0;
    std::size_t leftOut = 0; ///< states that hands bring about, and from which not everything was tried
    std::size_t undecided = 0; ///< runs in which the circuit chatters
    bool operator==(const Trials&) const = default;
};

/// Same result whatever the machine. Fails as compile() does, and with Cancelled.
Expected<Trials> trialsOf(const Circuit& circuit,
    const std::function<void(std::size_t done, std::size_t total)>& listener = {}, std::stop_token stop = {});

} // namespace ts::exploration
