#include "core/safety/stop_reading.h"

#include "core/library/table.h"

namespace ts::safety {
namespace {

struct Removal {
    bool isRemoved = false;
    TimeNs at = 0;
    int left = 0; ///< terminals that stay fed
    double speedRadPerS = 0;
};

Removal removalIn(const ActuatorHistory& h)
{
    Removal r;
    int fed = 0;
    for (const PathChange& p : h.paths) {
        if (p.at <= h.demand) {
            fed = p.fedTerminals;
            continue;
        }
        if (fed >= 2 && p.fedTerminals < 2) {
            r.at = p.at;
            r.speedRadPerS = p.speedRadPerS;
        }
        fed = p.fedTerminals;
    }
    r.left = fed;
    r.isRemoved = fed < 2;
    return r;
}

struct Rest {
    bool turnedAtDemand = false, atRest = true, movedAgain = false;
    TimeNs at = 0;
};

Rest restIn(const ActuatorHistory& h)
{
    Rest r;
    bool turns = false, rested = false;
    for (const MotionChange& m : h.motions) {
        if (m.at <= h.demand) {
            turns = m.turns;
            continue;
        }
        if (m.turns && rested)
            r.movedAgain = true;
        if (turns && !m.turns) {
            r.at = m.at;
            rested = true;
        }
        turns = m.turns;
    }
    for (const MotionChange& m : h.motions)
        if (m.at <= h.demand)
            r.turnedAtDemand = m.turns;
    r.atRest = !turns;
    return r;
}

} // namespace

Seconds arcTime()
{
    static const double longest = deviceDefault("contactor", "arc_time_ac").high;
    return seconds(longest);
}

ActuatorStop readStop(const ActuatorHistory& h)
{
    ActuatorStop stop;
    stop.tag = h.tag;
    const Removal removal = removalIn(h);
    const Rest rest = restIn(h);
    if (!rest.turnedAtDemand) {
        stop.runShowsIt = false;
        stop.why = message("stop.not_running");
        return stop;
    }
    const auto after = [&](TimeNs t) { return secondsOf(t - h.demand); };
    stop.removalSpeedRadPerS = removal.speedRadPerS;
    if (removal.isRemoved && removal.at > 0)
        stop.removedAfter = after(removal.at) + arcTime();
    else if (removal.isRemoved)
        stop.removedAfter = seconds(0.0); // it was coasting already
    if (rest.atRest && !rest.movedAgain)
        stop.restAfter = after(rest.at)
            + (removal.isRemoved && removal.at > 0 && removal.at < rest.at ? arcTime() : seconds(0.0));
    if (rest.movedAgain) {
        stop.why = message("stop.moves_again");
        return stop;
    }
    if (!rest.atRest) {
        stop.why = message(removal.isRemoved ? "stop.still_moving" : "stop.never_removed");
        return stop;
    }
    if (!removal.isRemoved) {
        // At rest under power, but nothing in this vocabulary watches standstill: no stop category 2.
        stop.why = message("stop.never_removed");
        return stop;
    }
    stop.stops = true;
    stop.terminalsLive = removal.left == 1;
    const Seconds limit = h.releaseTimes + arcTime();
    const Seconds removed = *stop.removedAfter;
    if (removed.si() <= limit.si() + 1e-9) {
        stop.category = 0;
        stop.why = message("stop.immediate", {Measured{removed.si(), "s"}, Measured{limit.si(), "s"}});
    } else if (h.rampedToRest && removal.at >= rest.at) {
        stop.category = 1;
        stop.why = message("stop.controlled", {Measured{stop.restAfter->si(), "s"}, Measured{removed.si(), "s"}});
    } else {
        stop.why = message("stop.late", {Measured{removed.si(), "s"}, Measured{limit.si(), "s"}});
    }
    return stop;
}

} // namespace ts::safety
