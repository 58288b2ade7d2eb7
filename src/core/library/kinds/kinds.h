#pragma once
// The kinds themselves, one source file a family. Only registry.cpp includes this.

#include "core/library/kind.h"

namespace ts::kinds {

extern const DeviceKind brake, breaker, contactor, contactorRelay, controllerInput, controlTransformer, currentMonitor,
    currentTransformer, drive, emergencyStop, enablingSwitch, exposedPart, externalCall, fuse, guardSwitch, heater,
    heaterThreePhase, horn, keySwitch, lamp, lightCurtain, motor, motorDirect, motorProtectionSwitch, motorSinglePhase,
    overloadRelay, phaseMonitor, plugInRelay, pushButton, relayExtension, resistor, safetyController, safetyRelay,
    selector, softStarter, solenoid, solidStateRelay, standstillMonitor, supply24VDc, supplyExternal, supplySinglePhase,
    supplyThreePhase, switchDisconnector, terminalBlock, timer;

} // namespace ts::kinds
