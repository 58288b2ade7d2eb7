#include "core/diagram/series_parallel.h"

#include <algorithm>
#include <map>

namespace ts::diagram {
namespace {

int firstEdge(const Tree& t)
{
    if (t.kind == Tree::Kind::Leaf)
        return t.edge;
    int first = firstEdge(t.children.front());
    for (const Tree& c : t.children)
        first = std::min(first, firstEdge(c));
    return first;
}

Tree joined(Tree::Kind kind, Tree a, Tree b)
{
    Tree t;
    t.kind = kind;
    t.from = a.from;
    t.to = b.to;
    for (Tree* part : {&a, &b}) {
        if (part->kind == kind)
            std::move(part->children.begin(), part->children.end(), std::back_inserter(t.children));
        else
            t.children.push_back(std::move(*part));
    }
    return t;
}

bool mergeParallel(std::vector<Tree>& trees)
{
    for (std::size_t i = 0; i < trees.size(); ++i)
        for (std::size_t j = i + 1; j < trees.size(); ++j) {
            const bool same = trees[i].from == trees[j].from && trees[i].to == trees[j].to;
            const bool turned = trees[i].from == trees[j].to && trees[i].to == trees[j].from;
            if (!same && !turned)
                continue;
            Tree other = same ? trees[j] : trees[j].reversed();
            trees[i] = joined(Tree::Kind::Parallel, trees[i], std::move(other));
            std::sort(trees[i].children.begin(), trees[i].children.end(),
                [](const Tree& a, const Tree& b) { return firstEdge(a) < firstEdge(b); });
            trees.erase(trees.begin() + static_cast<std::ptrdiff_t>(j));
            return true;
        }
    return false;
}

bool mergeSeries(std::vector<Tree>& trees, const std::vector<int>& keep)
{
    std::map<int, std::vector<std::size_t>> at;
    for (std::size_t i = 0; i < trees.size(); ++i) {
        at[trees[i].from].push_back(i);
        at[trees[i].to].push_back(i);
    }
    for (const auto& [vertex, list] : at) {
        if (list.size() != 2 || list[0] == list[1] || std::find(keep.begin(), keep.end(), vertex) != keep.end())
            continue;
        Tree first = trees[list[0]].to == vertex ? trees[list[0]] : trees[list[0]].reversed();
        Tree second = trees[list[1]].from == vertex ? trees[list[1]] : trees[list[1]].reversed();
        if (first.from == second.to)
            continue; // a loop that hangs on one vertex
        trees[list[0]] = joined(Tree::Kind::Series, std::move(first), std::move(second));
        trees.erase(trees.begin() + static_cast<std::ptrdiff_t>(list[1]));
        return true;
    }
    return false;
}

} // namespace

Tree Tree::reversed() const
{
    Tree t = *this;
    std::swap(t.from, t.to);
    for (Tree& c : t.children)
        c = c.reversed();
    if (t.kind == Kind::Series)
        std::reverse(t.children.begin(), t.children.end());
    return t;
}

int Tree::leaves() const
{
    if (kind == Kind::Leaf)
        return 1;
    int n = 0;
    for (const Tree& c : children)
        n += c.leaves();
    return n;
}

std::vector<Tree> seriesParallel(const std::vector<PlainEdge>& edges, const std::vector<int>& keep)
{
    std::vector<Tree> trees;
    for (const PlainEdge& e : edges)
        trees.push_back({Tree::Kind::Leaf, e.edge, e.from, e.to, {}});
    while (mergeParallel(trees) || mergeSeries(trees, keep)) { }
    return trees;
}

} // namespace ts::diagram
