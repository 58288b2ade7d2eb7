#pragma once
// The numbers of flat records, once: name (with its unit), range, and what stands for nothing written. The JSON reader
// and printer and the lists read this table; a test holds the schemas of docs/formats against it.

#include "core/model/circuit.h"

#include <array>

namespace ts::io {

template <class Record> struct OptionalField {
    const char* name;
    double low, high;
    std::optional<double> Record::*value;
};
template <class Record> struct NumberField {
    const char* name;
    double low, high;
    double Record::*value;
};

/// Of these, a reliability has exactly one, or a typical part instead.
inline constexpr std::array kReliabilityNumbers{
    OptionalField<Reliability>{"b10d_cycles", 1, 1e12, &Reliability::b10dCycles},
    OptionalField<Reliability>{"b10_cycles", 1, 1e12, &Reliability::b10Cycles},
    OptionalField<Reliability>{"mttfd_years", 1e-3, 1e6, &Reliability::mttfdYears},
    OptionalField<Reliability>{"mttf_years", 1e-3, 1e6, &Reliability::mttfYears},
    OptionalField<Reliability>{"fit_dangerous", 1e-6, 1e9, &Reliability::fitDangerous},
    OptionalField<Reliability>{"pfhd_per_hour", 1e-14, 1, &Reliability::pfhdPerHour},
};
inline constexpr OptionalField<Reliability> kDangerousShare{"dangerous_share", 0.001, 1, &Reliability::dangerousShare};

inline constexpr std::array kWireNumbers{
    NumberField<Wire>{"area_mm2", 0.05, 1000, &Wire::areaMm2},
    NumberField<Wire>{"length_m", 0, 10000, &Wire::lengthM},
};

} // namespace ts::io
