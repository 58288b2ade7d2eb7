#pragma once
// A panel to practise on: simulated, with something in it that is hidden, operated and measured by short lines as
// somebody at it would do it. It remembers what was done that can hurt: ohms on live parts, dead work without proof of
// zero voltage, a fuse drawn under load, a step that is dangerous with what is hidden there.

#include "core/finding/finder.h"
#include "core/measuring/dangers.h"

#include <random>

namespace ts::practice {

struct Lapse {
    enum class Kind : std::uint8_t { OhmsOnLive, NotProvedDead, FuseUnderLoad, Dangerous };
    Kind kind = Kind::Dangerous;
    std::string what; ///< what was done: "press S2"
    bool operator==(const Lapse&) const = default;
};
std::string_view wordOf(Lapse::Kind); ///< "ohms_on_live", "not_proved_dead" ...

/// What a meter shows: a figure in SI, or 9.9E+37 where it overflows.
inline constexpr double kOverload = 9.9e37;

class PracticePanel {
public:
    /// Fed and at rest. `seed`: of where parts lie within their tolerances.
    PracticePanel(std::shared_ptr<const Plant> right, std::unique_ptr<measuring::StandIn> built,
        std::vector<std::string> stops, unsigned seed);

    /// "lock_off", "prove_dead", "switch_on", "press S2", "lift 34 Q2:13", "refit 34 Q2:13", "probe red Q1:A1",
    /// "look P1". What is seen then, empty if nothing. Fails with Syntax for a line that is none, with NotFound for
    /// what is not there, with Refused for what nobody does: that is a lapse, and kept.
    Expected<std::string> operate(const std::string& line);
    /// With the probes as they stand; each reading wants them put anew. Fails with Refused.
    Expected<double> measure(measuring::Instrument with);

    const std::vector<Lapse>& lapses() const { return m_lapses; }
    std::size_t measurements() const { return m_measurements; }
    double seconds() const { return m_seconds; } ///< what it would have taken (measuring.csv)
    bool isLive() const { return m_in.power != measuring::Power::LockedOff; }

private:
    Expected<std::string> act(const std::string& action, const std::string& tag);
    Expected<std::string> lift(const std::string& number, const std::string& terminal, bool isBack);
    Expected<std::string> probe(const std::string& colour, const std::string& terminal);
    Expected<std::string> look(const std::string& what);
    Expected<std::string> bring(measuring::Situation in, const std::string& line);
    bool drivesSomething() const;
    Unexpected refused(Lapse::Kind kind, const std::string& line);
    double within(const measuring::Reading& range, measuring::Instrument with);

    std::shared_ptr<const Plant> m_right;
    std::unique_ptr<measuring::StandIn> m_built;
    measuring::StandIn m_asDrawn;
    std::vector<std::string> m_stops;
    std::mt19937 m_random;
    measuring::Situation m_in{measuring::Power::On, {}, {}, {}};
    bool m_isProvedDead = false;
    std::string m_red, m_black;
    std::map<std::string, double> m_read; ///< the same place reads the same again
    std::vector<Lapse> m_lapses;
    std::size_t m_measurements = 0;
    double m_seconds = 0;
};

} // namespace ts::practice
