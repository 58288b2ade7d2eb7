#pragma once
// Circuits for tests: the demo from its file, and small ones built in a few lines.

#include "core/io/dossier_file.h"
#include "core/simulation/scenario_run.h"

#include <gtest/gtest.h>

namespace ts::test {

inline std::string sourcePath(const std::string& relative)
{
    return std::string(TS_SOURCE_DIR) + "/" + relative;
}

inline const std::string& demoPath()
{
    static const std::string path = sourcePath("data/demo/larkspur_db2_chip_blower.sentry");
    return path;
}

inline DossierFile demoFile()
{
    auto file = io::loadDossier(demoPath());
    EXPECT_TRUE(file) << file.error().message.id;
    return *file;
}

/// A contactor that is fed through its own opening contact, at the demo's 24 V: it chatters as long as there is supply.
inline void addSelfInterruptingContactor(Circuit& circuit)
{
    Device self;
    self.id = {900};
    self.tag = "Q90";
    self.kind = "contactor";
    self.parameters = {{"coil_voltage_v", 24.0}, {"coil_current", std::string("dc")},
        {"auxiliary_contacts", std::vector<std::string>{"21-22"}}};
    circuit.devices.push_back(self);
    const DeviceId supply = circuit.device("G1")->id;
    const auto wire = [&circuit](int id, TerminalRef from, TerminalRef to) {
        Wire w;
        w.id = {id};
        w.from = std::move(from);
        w.to = std::move(to);
        circuit.wires.push_back(w);
    };
    wire(901, {supply, "+"}, {self.id, "21"});
    wire(902, {self.id, "22"}, {self.id, "A1"});
    wire(903, {self.id, "A2"}, {supply, "-"});
}

/// A parameter that is a word; a bare literal would become a flag.
inline std::string word(const char* text)
{
    return text;
}

/// A circuit by calls: device("Q1", "contactor", {...}), wire("Q1:A1", "S1:14").
class CircuitBuilder {
public:
    CircuitBuilder& device(std::string tag, std::string kind, ParameterMap parameters = {}, std::string place = "plate")
    {
        Device d;
        d.id = {++m_last};
        d.tag = std::move(tag);
        d.kind = std::move(kind);
        d.parameters = std::move(parameters);
        d.place = std::move(place);
        m_circuit.devices.push_back(std::move(d));
        return *this;
    }
    CircuitBuilder& wire(std::string_view from, std::string_view to, double lengthM = 0.5)
    {
        Wire w;
        w.id = {++m_last};
        w.number = std::to_string(m_last);
        w.from = terminal(from);
        w.to = terminal(to);
        w.lengthM = lengthM;
        m_circuit.wires.push_back(w);
        return *this;
    }
    CircuitBuilder& interlock(std::string_view first, std::string_view second)
    {
        m_circuit.interlocks.push_back({m_circuit.device(first)->id, m_circuit.device(second)->id});
        return *this;
    }
    const Circuit& circuit() const { return m_circuit; }
    Plant plant() const
    {
        auto compiled = compile(m_circuit);
        EXPECT_TRUE(compiled) << compiled.error().message.id;
        return *compiled;
    }

private:
    TerminalRef terminal(std::string_view text) const
    {
        const std::size_t colon = text.find(':');
        const Device* d = m_circuit.device(text.substr(0, colon));
        EXPECT_NE(d, nullptr) << text;
        return {d->id, std::string(text.substr(colon + 1))};
    }
    Circuit m_circuit;
    int m_last = 0;
};

/// One running circuit: actions at moments, and questions about what is.
class Bench {
public:
    explicit Bench(Plant plant)
        : m_plant(std::move(plant))
        , m_state(initialState(m_plant))
    {
        to(0.0);
    }
    Bench& to(double s)
    {
        pause = advance(m_plant, m_state, {}, {timeNs(seconds(s))}, m_trace, m_workspace);
        return *this;
    }
    Bench& act(std::string_view tag, std::string_view word)
    {
        auto s = stimulusFor(m_plant, tag, word, m_state.now);
        EXPECT_TRUE(s) << tag << " " << word;
        return apply(*s);
    }
    /// Press for a while and let go.
    Bench& tap(std::string_view tag, double heldS = 0.3)
    {
        act(tag, "press");
        to(now() + heldS);
        return act(tag, "release");
    }
    Bench& set(std::string_view knob, double value)
    {
        Stimulus s;
        s.kind = Stimulus::Kind::SetKnob;
        s.slot = -1;
        for (std::size_t k = 0; k < m_plant.knobs.size(); ++k)
            if (m_plant.knobs[k].name == knob)
                s.slot = static_cast<int>(k);
        EXPECT_GE(s.slot, 0) << knob;
        s.value = value;
        return apply(s);
    }
    Bench& fault(std::string_view text, bool on = true)
    {
        const auto site = faultFrom(m_plant, text);
        EXPECT_TRUE(site) << text;
        Stimulus s;
        s.kind = on ? Stimulus::Kind::PutFault : Stimulus::Kind::ClearFault;
        s.fault = site->fault;
        return apply(s);
    }
    bool is(std::string_view tag, std::string_view state) const
    {
        const auto answer = isInState(m_plant, m_state, tag, state);
        EXPECT_TRUE(answer) << tag << " " << state;
        return *answer;
    }
    double now() const { return secondsOf(m_state.now).si(); }
    Frame frame() { return observe(m_plant, m_state); }
    Complex voltage(std::string_view a, std::string_view b)
    {
        const Frame f = frame();
        return f.nodes[nodeOf(a)].alternatingV - f.nodes[nodeOf(b)].alternatingV;
    }
    double directVoltage(std::string_view a, std::string_view b)
    {
        const Frame f = frame();
        return f.nodes[nodeOf(a)].directV - f.nodes[nodeOf(b)].directV;
    }
    const Plant& plant() const { return m_plant; }
    const State& state() const { return m_state; }
    const Trace& trace() const { return m_trace; }
    Pause pause = Pause::Reached;

private:
    Bench& apply(Stimulus s)
    {
        s.at = m_state.now;
        pause = advance(m_plant, m_state, {&s, 1}, {m_state.now}, m_trace, m_workspace);
        return *this;
    }
    std::size_t nodeOf(std::string_view name) const
    {
        const std::size_t colon = name.find(':');
        const int t = m_plant.terminalIndex(name.substr(0, colon), name.substr(colon + 1));
        EXPECT_GE(t, 0) << name;
        return static_cast<std::size_t>(m_plant.terminals[static_cast<std::size_t>(t)].node);
    }
    Plant m_plant;
    State m_state;
    Trace m_trace;
    Workspace m_workspace;
};

/// The demo, reset and running at full speed at t = 4 s.
inline Bench runningDemo()
{
    Bench b(*compile(demoFile().dossier.circuit));
    b.to(0.5).tap("S3").to(1.5).tap("S2").to(4.0);
    EXPECT_TRUE(b.is("M1", "driven"));
    return b;
}

} // namespace ts::test
