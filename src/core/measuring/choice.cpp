#include "core/measuring/choice.h"

#include <algorithm>
#include <bit>
#include <queue>

namespace ts::measuring {

void Shown::add(const Shown& other)
{
    for (std::size_t w = 0; w < m_words.size(); ++w)
        m_words[w] |= other.m_words[w];
}

std::size_t Shown::beyond(const Shown& other) const
{
    std::size_t count = 0;
    for (std::size_t w = 0; w < m_words.size(); ++w)
        count += static_cast<std::size_t>(std::popcount(m_words[w] & ~other.m_words[w]));
    return count;
}

Shown Shown::without(const Shown& other) const
{
    Shown left = *this;
    for (std::size_t w = 0; w < m_words.size(); ++w)
        left.m_words[w] &= ~other.m_words[w];
    return left;
}

std::size_t Shown::count() const
{
    std::size_t count = 0;
    for (const std::uint64_t w : m_words)
        count += static_cast<std::size_t>(std::popcount(w));
    return count;
}

std::vector<std::size_t> chosenOf(std::span<const Option> options, Shown& shown)
{
    const Shown before = shown;
    std::vector<std::size_t> taken;
    struct Worth {
        double perSecond;
        std::size_t option;
        bool operator<(const Worth& o) const
        {
            return perSecond != o.perSecond ? perSecond < o.perSecond : option > o.option;
        }
    };
    std::priority_queue<Worth> queue;
    const auto worth = [&](std::size_t k) {
        return Worth{static_cast<double>(options[k].shows.beyond(shown)) / std::max(options[k].seconds, 1.0), k};
    };
    for (std::size_t k = 0; k < options.size(); ++k)
        if (options[k].isRequired) {
            taken.push_back(k);
            shown.add(options[k].shows);
        }
    for (std::size_t k = 0; k < options.size(); ++k)
        if (!options[k].isRequired)
            queue.push(worth(k));
    while (!queue.empty()) { // what an option is worth only falls: the top is right once it has been looked at again
        const Worth top = queue.top();
        queue.pop();
        const Worth now = worth(top.option);
        if (now.perSecond <= 0)
            continue;
        if (!queue.empty() && now < queue.top()) {
            queue.push(now);
            continue;
        }
        taken.push_back(top.option);
        shown.add(options[top.option].shows);
    }
    for (std::size_t i = taken.size(); i-- > 0;) {
        if (options[taken[i]].isRequired)
            continue;
        Shown others = before;
        for (std::size_t j = 0; j < taken.size(); ++j)
            if (j != i)
                others.add(options[taken[j]].shows);
        if (options[taken[i]].shows.beyond(others) == 0)
            taken.erase(taken.begin() + static_cast<std::ptrdiff_t>(i));
    }
    return taken;
}

} // namespace ts::measuring
