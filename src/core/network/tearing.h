#pragma once
// Where a large network is best torn: nodes with many neighbours (a supply's lines, a control rail) are taken out as
// hubs until what is left falls apart into small groups. What one group does reaches another only through the hubs, so
// that solving grows with the number of groups. Source: bordered block-diagonal form, I. S. Duff, A. M. Erisman, J. K.
// Reid, Direct Methods for Sparse Matrices, 2nd ed. 2017.

#include <span>
#include <vector>

namespace ts::network {

struct Torn {
    std::vector<int> hubs; ///< ascending
    std::vector<std::vector<int>> groups; ///< each ascending, by their first nodes
};

/// `neighbours` of each node; those outside `island` do not count. A small island stays one group, and so does what no
/// node of many neighbours holds together. Pure.
Torn torn(const std::vector<int>& island, const std::vector<std::vector<int>>& neighbours);

} // namespace ts::network
