#pragma once
// Series-parallel structure of a two-terminal graph. What is not series-parallel (a bridge, a dangling contact)
// stays as a core of several edges, each of them a tree; nothing is dropped.

#include <memory>
#include <vector>

namespace ts::diagram {

struct Tree {
    enum class Kind { Leaf, Series, Parallel };
    Kind kind = Kind::Leaf;
    int edge = -1; ///< leaf: the caller's edge
    int from = 0, to = 0; ///< vertices
    std::vector<Tree> children; ///< series: in order from `from` to `to`

    /// The same seen from the other end.
    Tree reversed() const;
    /// Number of leaves.
    int leaves() const;
};

struct PlainEdge {
    int edge = 0; ///< the caller's number; smaller ones go first in parallel groups
    int from = 0, to = 0;
};

/// Reduces until nothing more can be merged. Vertices in `keep` are never swallowed by a series. Pure.
std::vector<Tree> seriesParallel(const std::vector<PlainEdge>& edges, const std::vector<int>& keep);

} // namespace ts::diagram
