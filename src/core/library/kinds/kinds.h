#pragma once
// The kinds themselves, one source file a family. Only registry.cpp includes this.

#include "core/library/kind.h"

namespace ts::kinds {

extern const DeviceKind breaker, contactor, contactorRelay, controlTransformer, emergencyStop, fuse, lamp, motor,
    overloadRelay, pushButton, safetyRelay, supply24VDc, supplyThreePhase, terminalBlock;

} // namespace ts::kinds
