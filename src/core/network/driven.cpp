#include "core/network/driven.h"

#include "core/base/at.h"
#include "core/base/check.h"
#include "core/network/port_system.h"

#include <algorithm>
#include <bit>

namespace ts::network {
namespace {

/// Which super-nodes count.
std::vector<bool> decisive(const Network& n, const SuperNodes& super, std::span<const int> seen)
{
    Islands islands = islandsByElements(n, super.of, super.count());
    for (int node : seen)
        islands.isDriven[at(islands.sets.find(super.of[at(node)]))] = true;
    std::vector<bool> counts(at(super.count()));
    for (int s = 0; s < super.count(); ++s)
        counts[at(s)] = s == kReference || islands.isDriven[at(islands.sets.find(s))];
    return counts;
}

class Writer {
public:
    explicit Writer(std::vector<std::uint64_t>& words)
        : m_words(words)
    {
    }
    /// Two to a word.
    void put(const std::vector<std::uint32_t>& numbers)
    {
        for (std::size_t k = 0; k < numbers.size(); k += 2)
            m_words.push_back(
                std::uint64_t{numbers[k]} << 32 | (k + 1 < numbers.size() ? numbers[k + 1] : std::uint32_t{0}));
    }
    void put(int p, int q)
    {
        m_words.push_back(std::uint64_t{static_cast<std::uint32_t>(p)} << 32 | static_cast<std::uint32_t>(q));
    }
    void put(Complex z)
    {
        m_words.push_back(std::bit_cast<std::uint64_t>(z.real()));
        m_words.push_back(std::bit_cast<std::uint64_t>(z.imag()));
    }

private:
    std::vector<std::uint64_t>& m_words;
};

} // namespace

SuperNodes superNodesOf(const Network& n)
{
    DisjointSets sets(n.nodeCount);
    for (const Link& l : n.links)
        if (l.closed)
            sets.join(l.p, l.q);
    SuperNodes super;
    super.of.resize(at(n.nodeCount));
    for (int node = 0; node < n.nodeCount; ++node) {
        const int root = sets.find(node); // the first
        super.of[at(node)] = root == node ? super.count() : super.of[at(root)];
        if (root == node)
            super.first.push_back(node);
    }
    TS_CHECK(super.of[kReference] == 0);
    return super;
}

Islands islandsByElements(const Network& n, std::span<const int> superOf, int superCount)
{
    Islands islands{DisjointSets(superCount), std::vector<bool>(at(superCount), false)};
    const auto join = [&](std::span<const int> nodes) {
        int with = kReference;
        for (int node : nodes)
            if (const int s = superOf[at(node)]; s != kReference) {
                if (with != kReference)
                    islands.sets.join(with, s);
                with = s;
            }
    };
    for (const Source& s : n.sources)
        join(std::array{s.p, s.q});
    for (const CurrentSource& s : n.currentSources)
        join(std::array{s.p, s.q});
    for (const Impedance& z : n.impedances)
        join(std::array{z.p, z.q});
    for (const Transformer& t : n.transformers)
        join(std::array{t.p1, t.p2, t.s1, t.s2});
    for (const Motor& m : n.motors)
        join(std::span(m.terminals).first(at(terminalCount(m))));
    const auto drive = [&](int p, int q) {
        for (int node : {p, q})
            islands.isDriven[at(islands.sets.find(superOf[at(node)]))] = true;
    };
    for (const Source& s : n.sources)
        if (s.emf != Complex{})
            drive(s.p, s.q);
    for (const CurrentSource& s : n.currentSources)
        drive(s.p, s.q);
    return islands;
}

std::vector<bool> decisiveContent(const Network& n, std::span<const int> seen, std::vector<std::uint64_t>& content)
{
    constexpr std::uint32_t kNobody = 0xFFFFFFFF;
    const SuperNodes super = superNodesOf(n);
    const std::vector<bool> ofSuper = decisive(n, super, seen);
    std::vector<bool> counts(at(n.nodeCount));
    std::vector<std::uint32_t> joinedWith(at(n.nodeCount));
    for (int node = 0; node < n.nodeCount; ++node) {
        const std::size_t s = at(super.of[at(node)]);
        counts[at(node)] = ofSuper[s];
        joinedWith[at(node)] = ofSuper[s] ? static_cast<std::uint32_t>(super.first[s]) : kNobody;
    }
    Writer writer(content);
    writer.put(joinedWith);
    content.push_back(n.sources.size() << 32 | n.currentSources.size());
    // An element with all ends at the reference carries nothing, unless it is a source.
    const auto matters = [&](std::initializer_list<int> ends) {
        return std::any_of(ends.begin(), ends.end(),
            [&](int node) { return super.of[at(node)] != kReference && ofSuper[at(super.of[at(node)])]; });
    };
    for (const Source& s : n.sources)
        if (s.emf != Complex{} || matters({s.p, s.q})) {
            writer.put(s.p, s.q);
            writer.put(s.emf);
            writer.put(s.impedance);
        }
    for (const CurrentSource& s : n.currentSources) {
        writer.put(s.p, s.q);
        writer.put(s.current);
    }
    for (const Impedance& z : n.impedances)
        if (matters({z.p, z.q})) {
            writer.put(z.p, z.q);
            writer.put(z.impedance);
        }
    for (const Transformer& t : n.transformers)
        if (matters({t.p1, t.p2, t.s1, t.s2})) {
            writer.put(t.p1, t.s1);
            writer.put(Complex(t.ratio));
            writer.put(t.shortCircuitSecondary);
            writer.put(t.magnetisingPrimary);
        }
    return counts;
}

} // namespace ts::network
