#include "core/simulation/safety_relay.h"

namespace ts {
namespace {

void watchChannels(const SafetyRelayLogic& sheet, RelayWord& w, TimeNs now, std::optional<TimeNs>& wakeAt)
{
    const bool two = sheet.channel2 >= 0;
    if (!w.channel1)
        w.wasOff1 = true;
    if (!w.channel2 || !two)
        w.wasOff2 = true;
    // Both have been off at the same time: whatever was remembered is cleared.
    if (!w.channel1 && (!w.channel2 || !two))
        w.lockedOut = false;
    if (two && w.channel1 != w.channel2) {
        if (w.differSince < 0)
            w.differSince = now;
        if (sheet.discrepancyS > 0.0) {
            const TimeNs limit = w.differSince + timeNs(seconds(sheet.discrepancyS));
            if (now >= limit)
                w.lockedOut = true;
            else
                wakeAt = limit;
        }
    } else {
        w.differSince = -1;
    }
    // One channel came back although the other one never opened.
    if (w.channel1 && w.channel2 && !(w.wasOff1 && w.wasOff2) && !w.outputs)
        w.lockedOut = true;
}

/// True if the reset circuit asks for the outputs now. `wasReady`: before this instant. A reset that becomes visible in
/// the same instant as readiness was held or is stuck: it counts as on already.
bool resetAsks(const SafetyRelayLogic& sheet, RelayWord& w, bool wasReady, bool resetOn, bool relaysAtRest, TimeNs now)
{
    const bool waitsForEdge = sheet.resetKind != SafetyRelayLogic::Reset::Automatic;
    if (!w.ready || (waitsForEdge && !wasReady)) {
        w.resetSince = resetOn ? -2 : -1; // -2: was already on when the relay became ready
        return false;
    }
    const bool wasOn = w.resetSince >= 0;
    switch (sheet.resetKind) {
    case SafetyRelayLogic::Reset::Automatic:
        w.resetSince = resetOn ? 0 : -1;
        return resetOn && relaysAtRest;
    case SafetyRelayLogic::Reset::Manual: {
        const bool rising = resetOn && w.resetSince == -1;
        w.resetSince = resetOn ? (w.resetSince == -1 ? now : w.resetSince) : -1;
        return rising && relaysAtRest;
    }
    case SafetyRelayLogic::Reset::Monitored:
        if (resetOn) {
            if (w.resetSince == -1)
                w.resetSince = now;
            return false;
        }
        const TimeNs held = now - w.resetSince;
        w.resetSince = -1;
        return wasOn && relaysAtRest && held >= timeNs(seconds(sheet.resetShortestS))
            && held <= timeNs(seconds(sheet.resetLongestS));
    }
    return false;
}

Light shining(bool on)
{
    return on ? Light::Steady : Light::Off;
}

} // namespace

RelayLights lightsOf(const SafetyRelayLogic& sheet, const RelayWord& w)
{
    const bool isNew = w.powered && !sheet.isConfigured;
    const bool differ = w.channel1 != w.channel2;
    RelayLights l;
    l.supply = isNew ? Light::Blinking : shining(w.powered);
    l.channel1 = w.channel1 ? Light::Steady : differ ? Light::Blinking : Light::Off;
    l.channel2 = w.channel2 ? Light::Steady : differ ? Light::Blinking : Light::Off;
    l.outputs = w.outputs ? Light::Steady : w.delayed ? Light::Blinking : Light::Off;
    l.reset = w.ready ? Light::Blinking : Light::Off;
    l.fault = w.lockedOut ? Light::Steady : differ || isNew ? Light::Blinking : Light::Off;
    return l;
}

RelayAnswer relayStep(const SafetyRelayLogic& sheet, const RelayWord& before, const RelayInputs& in, TimeNs now)
{
    RelayAnswer answer{before, std::nullopt};
    RelayWord& w = answer.word;
    w.powered = before.powered ? in.supplyV >= sheet.supplyOffV : in.supplyV >= sheet.supplyOnV;
    if (!w.powered) {
        RelayWord off; // the delayed outputs live on the same supply and drop with it
        if (sheet.lockOutSurvivesSupplyLoss && before.lockedOut) {
            off.lockedOut = true;
            off.wasOff1 = before.wasOff1;
            off.wasOff2 = before.wasOff2;
        }
        answer.word = off;
        return answer;
    }
    if (!sheet.isConfigured)
        return {RelayWord{.powered = true}, std::nullopt};
    w.channel1 = in.channel1V >= sheet.senseV;
    w.channel2 = sheet.channel2 < 0 ? w.channel1 : in.channel2V >= sheet.senseV;
    if (w.outputs && !(w.channel1 && w.channel2)) {
        w.outputs = false;
        w.wasOff1 = w.wasOff2 = false;
        if (sheet.firstDelayed >= 0)
            w.delayEnds = now + timeNs(seconds(sheet.delayS));
    }
    watchChannels(sheet, w, now, answer.wakeAt);
    w.ready = w.channel1 && w.channel2 && w.wasOff1 && w.wasOff2 && !w.lockedOut && !w.outputs;
    if (resetAsks(sheet, w, before.ready, in.resetV >= sheet.senseV, in.relaysAtRest, now)) {
        w.outputs = true;
        w.ready = false;
    }
    if (w.outputs)
        w.delayEnds = -1;
    w.delayed = sheet.firstDelayed >= 0 && (w.outputs || (w.delayEnds >= 0 && now < w.delayEnds));
    if (w.delayed && !w.outputs && (!answer.wakeAt || w.delayEnds < *answer.wakeAt))
        answer.wakeAt = w.delayEnds;
    return answer;
}

} // namespace ts
