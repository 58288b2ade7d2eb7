// Every network of physics.json against an independent implementation: node voltages, element currents,
// currents through ideal contacts. Tolerances are those stated in the file.

#include "core/network/motor_circuit.h"
#include "core/network/solver.h"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <fstream>
#include <map>

namespace ts::network {
namespace {

using nlohmann::json;

const json& reference()
{
    static const json data = json::parse(std::ifstream(TS_SOURCE_DIR "/tests/data/physics.json"));
    return data;
}

Complex complexOf(const json& j)
{
    return {j[0].get<double>(), j[1].get<double>()};
}

MotorCircuit motorOf(const std::string& name)
{
    const json& m = reference()["motors"][name];
    return {m["R1"], m["X1"], m["Rfe"], m["Xm"], m["Ra"], m["Xa"], m["Rb"], m["Xb"]};
}

struct Built {
    Network network;
    std::map<std::string, int> node{{"0", 0}};
    std::vector<double> slips;
    std::vector<std::pair<std::string, int>> sources, impedances, transformers, motors, links;

    int nodeOf(const std::string& name)
    {
        const auto [it, added] = node.try_emplace(name, network.nodeCount);
        if (added)
            ++network.nodeCount;
        return it->second;
    }
};

Built build(const json& net)
{
    Built b;
    for (const json& e : net["elements"]) {
        const std::string type = e["type"], name = e["name"];
        std::vector<int> t;
        for (const json& n : e["terms"])
            t.push_back(b.nodeOf(n));
        if (type == "source") {
            b.sources.emplace_back(name, b.network.sources.size());
            b.network.sources.push_back({t[0], t[1], complexOf(e["E"]), complexOf(e["z"])});
        } else if (type == "Z") {
            b.impedances.emplace_back(name, b.network.impedances.size());
            b.network.impedances.push_back({t[0], t[1], complexOf(e["z"])});
        } else if (type == "ideal") {
            b.links.emplace_back(name, b.network.links.size());
            b.network.links.push_back({t[0], t[1], e["closed"]});
        } else if (type == "transformer") {
            b.transformers.emplace_back(name, b.network.transformers.size());
            b.network.transformers.push_back(
                {t[0], t[1], t[2], t[3], e["n"], complexOf(e["Zk2"]), complexOf(e["Zm1"])});
        } else {
            b.motors.emplace_back(name, b.network.motors.size());
            Motor m;
            m.circuit = motorOf(e["motor"]);
            m.sixTerminal = type == "motor6";
            m.starWindings = e.value("star_windings", true);
            std::copy(t.begin(), t.end(), m.terminals.begin());
            b.network.motors.push_back(m);
            b.slips.push_back(e["slip"]);
        }
    }
    return b;
}

/// The reference gives every super-node a leak to earth; our solver leaks floating islands only, so the
/// leak is part of the network that is compared.
void addLeak(Network& network, double leakS)
{
    const auto prepared = Prepared::make(network);
    ASSERT_TRUE(prepared);
    int next = 1;
    for (int node = 0; node < network.nodeCount; ++node)
        if (prepared->superNode(node) == next) {
            network.impedances.push_back({node, kReference, 1.0 / leakS});
            ++next;
        }
}

class ReferenceNetwork : public testing::TestWithParam<std::size_t> { };

TEST_P(ReferenceNetwork, AgreesInEveryVoltageAndCurrent)
{
    const json& net = reference()["networks"][GetParam()];
    const json& tolerance = reference()["tolerance"];
    Built b = build(net);
    if (net["floating_nodes"].empty())
        addLeak(b.network, net["g_leak"]);
    const auto prepared = Prepared::make(b.network);
    ASSERT_TRUE(prepared);
    Solution solution;
    prepared->solve(b.slips, solution);
    const auto voltage = [&](const std::string& n) {
        return solution.voltage[static_cast<std::size_t>(prepared->superNode(b.node.at(n)))];
    };

    double largestV = 0.0, largestI = 0.0;
    for (const auto& [n, v] : net["V"].items())
        largestV = std::max(largestV, std::abs(complexOf(v)));
    for (const auto& [n, list] : net["I"].items())
        for (const json& i : list)
            largestI = std::max(largestI, std::abs(complexOf(i)));
    const double vTolerance = tolerance["networks_abs_V"].get<double>()
        + tolerance["networks_rel"].get<double>() * largestV;
    const double iTolerance = tolerance["networks_abs_A"].get<double>()
        + tolerance["networks_rel"].get<double>() * largestI;

    // Floating nodes: differences only, against the first of them.
    const auto& floating = net["floating_nodes"];
    const auto isFloating = [&](const std::string& n) {
        return std::find(floating.begin(), floating.end(), n) != floating.end();
    };
    Complex shift{};
    if (!floating.empty()) {
        const std::string first = floating[0];
        shift = complexOf(net["V"][first]) - voltage(first);
        EXPECT_TRUE(prepared->isFloating(prepared->superNode(b.node.at(first))));
    }
    for (const auto& [n, v] : net["V"].items())
        EXPECT_LE(std::abs(voltage(n) + (isFloating(n) ? shift : Complex{}) - complexOf(v)), vTolerance)
            << "node " << n;

    ElementCurrents c;
    elementCurrents(b.network, *prepared, solution, b.slips, c);
    const auto compare = [&](const std::string& name, std::size_t k, Complex got) {
        EXPECT_LE(std::abs(got - complexOf(net["I"][name][k])), iTolerance) << name << " terminal " << k;
    };
    for (const auto& [name, i] : b.sources)
        compare(name, 0, c.sources[static_cast<std::size_t>(i)]);
    for (const auto& [name, i] : b.impedances)
        compare(name, 0, c.impedances[static_cast<std::size_t>(i)]);
    for (const auto& [name, i] : b.transformers) {
        compare(name, 0, c.transformers[static_cast<std::size_t>(i)][0]);
        compare(name, 2, c.transformers[static_cast<std::size_t>(i)][1]);
    }
    for (const auto& [name, i] : b.motors)
        for (std::size_t k = 0; k < net["I"][name].size(); ++k)
            compare(name, k, c.motors[static_cast<std::size_t>(i)][k]);
    const std::vector<Complex> links = linkCurrents(b.network, *prepared, solution, c);
    for (const auto& [name, i] : b.links)
        if (net["I_ideal"].contains(name)) {
            EXPECT_LE(std::abs(links[static_cast<std::size_t>(i)] - complexOf(net["I_ideal"][name])), iTolerance)
                << name;
        }
}

INSTANTIATE_TEST_SUITE_P(
    Physics, ReferenceNetwork, testing::Range<std::size_t>(0, reference()["networks"].size()), [](const auto& each) {
        std::string name = reference()["networks"][each.param]["id"];
        for (char& ch : name)
            if (!std::isalnum(static_cast<unsigned char>(ch)))
                ch = '_';
        return name;
    });

TEST(ReferenceMotor, DerivedFiguresFollowFromTheCircuit)
{
    for (const auto& [name, m] : reference()["motors"].items()) {
        const MotorCircuit circuit = motorOf(name);
        const json& d = m["derived"];
        const double u = m["U"].get<double>() / std::sqrt(3.0);
        const double slip = d["s_rated"];
        const Complex i = u / sequenceImpedance(circuit, slip);
        EXPECT_NEAR(std::abs(i), d["I"].get<double>(), 1e-6 * std::abs(i)) << name;
        EXPECT_NEAR(std::abs(u / sequenceImpedance(circuit, 1.0)) / std::abs(i), d["LRC"].get<double>(), 1e-5) << name;
        const double ws = 2.0 * 3.14159265358979 * m["f"].get<double>() / m["pp"].get<double>();
        const double standstill = airGapTorque(circuit, 1.0, {u, 0.0}, ws);
        EXPECT_NEAR(standstill / d["Tn"].get<double>(), d["Mst"].get<double>(), 1e-4) << name;
    }
}

} // namespace
} // namespace ts::network
