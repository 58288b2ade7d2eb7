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
enum class WireRun { Cabinet, Door, Field, MotorCable };

class Panel {
public:
    Panel(DossierFile file, double controlCableM, double motorAreaMm2);

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
    void scenario(Scenario scenario);
    void refuse(Error error);

    const Circuit& circuit() const { return m_file.dossier.circuit; }
    Expected<DossierFile> result() const;

private:
    Pair contact(const std::string& tag, bool closes);
    void take(Expected<DossierFile> changed);
    DossierFile m_file;
    double m_controlCableM, m_motorAreaMm2;
    std::optional<Error> m_trouble;
};

/// A conductor that grows from terminal to terminal, each with two wires at most.
class Rail {
public:
    Rail() = default;
    explicit Rail(std::string start)
        : m_last(std::move(start))
    {
    }
    void join(Panel& panel, const std::string& terminal, WireRun run = WireRun::Cabinet)
    {
        panel.wire(m_last, terminal, run);
        m_last = terminal;
    }
    const std::string& end() const { return m_last; }

private:
    std::string m_last;
};

} // namespace ts::patterns
