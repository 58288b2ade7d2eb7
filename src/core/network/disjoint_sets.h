#pragma once
// Union-find over 0..n-1; the smallest member is the representative, so results do not depend on order.

#include <numeric>
#include <vector>

namespace ts::network {

class DisjointSets {
public:
    explicit DisjointSets(int count)
        : m_parent(static_cast<std::size_t>(count))
    {
        std::iota(m_parent.begin(), m_parent.end(), 0);
    }
    int find(int x)
    {
        while (at(x) != x) {
            at(x) = at(at(x));
            x = at(x);
        }
        return x;
    }
    void join(int a, int b)
    {
        a = find(a);
        b = find(b);
        if (a < b)
            at(b) = a;
        else
            at(a) = b;
    }

private:
    int& at(int i) { return m_parent[static_cast<std::size_t>(i)]; }
    std::vector<int> m_parent;
};

} // namespace ts::network
