#pragma once
// The panel that patterns put devices and wires into. It remembers the first refusal, so that patterns read as lists of
// what is wired; result() hands it on. Everything goes through core/edit.

#include "core/edit/circuit_edits.h"

#include <string>
#include <string_view>

namespace ts::patterns {

/// Two terminals with a contact between them, "K1:13" and "K1:14".
struct Pair {
    std::string a, b;
};

/// Where a wire runs: length and route follow.
enum class WireRun {
    Cabinet,
    Door,
    Field,
    Mains, ///< in the cabinet, for all motors
    Power, ///< in the cabinet, for this starter's motor
    MotorCable
};

class Panel {
public:
    Panel(DossierFile file, double controlCableM, RouteKind controlCable);

    /// What follows is of this starter: from the second on, tags of a starter's own devices get its number behind their
    /// letter ("Q1" becomes "Q21", "M1" "M2"). Those that all share keep theirs.
    void beginStarter(int number, double powerAreaMm2, double motorAreaMm2);
    void setMainsArea(double areaMm2) { m_mainsAreaMm2 = areaMm2; }
    void beginShared() { m_starter = 1; }
    /// "Q1", "Q1:13" or "Q1/main" as the starter's own. A name behind "=" is taken as it stands.
    std::string own(std::string_view name) const;

    /// Adds a device and returns its tag.
    std::string device(std::string tag, std::string kind, std::string label, std::string place,
        ParameterMap parameters = {}, std::string part = {});
    void wire(std::string_view from, std::string_view to, WireRun run = WireRun::Cabinet);
    /// Wires `from` to the contact's first end and returns its second end.
    std::string through(std::string_view from, const Pair& contact, WireRun run = WireRun::Cabinet);

    /// The next free closing or opening contact of a contactor or relay: its add-on block grows by one.
    Pair closing(const std::string& tag) { return contact(tag, true); }
    Pair opening(const std::string& tag) { return contact(tag, false); }

    void interlock(std::string_view first, std::string_view second);
    void brakeOn(std::string_view brake, std::string_view motor);
    void part(const Part& part);
    /// Returns its id.
    ScenarioId scenario(Scenario scenario);
    DossierFile& file() { return m_file; }
    void refuse(Error error);

    const Circuit& circuit() const { return m_file.dossier.circuit; }
    Expected<DossierFile> result() const;

private:
    Pair contact(const std::string& local, bool closes);
    void take(Expected<DossierFile> changed);
    DossierFile m_file;
    double m_controlCableM, m_mainsAreaMm2 = 1.5, m_powerAreaMm2 = 1.5, m_motorAreaMm2 = 1.5;
    int m_starter = 1;
    std::optional<Error> m_trouble;
};

/// A conductor that grows from terminal to terminal, each with two wires at most.
class Rail {
public:
    Rail() = default;
    explicit Rail(std::string start)
        : m_last(start.starts_with('=') ? std::move(start) : "=" + start)
    {
    }
    void join(Panel& panel, const std::string& terminal, WireRun run = WireRun::Cabinet)
    {
        panel.wire(m_last, terminal, run);
        m_last = "=" + panel.own(terminal);
    }
    /// A contact fed by the rail; returns its other end.
    std::string through(Panel& panel, const Pair& contact, WireRun run = WireRun::Cabinet)
    {
        join(panel, contact.a, run);
        return contact.b;
    }
    /// As it stands, whichever starter's turn it is.
    const std::string& end() const { return m_last; }

private:
    std::string m_last; ///< behind "="
};

} // namespace ts::patterns
