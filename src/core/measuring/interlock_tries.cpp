#include "core/measuring/interlock_tries.h"

#include "core/base/at.h"
#include "core/exploration/joined_poles.h"

#include <algorithm>

namespace ts::measuring {
namespace {

constexpr double kNothing = 5.0; ///< volts at a coil that gets none
using Texts = std::vector<std::string>;

class Interlocks {
public:
    Interlocks(StandIn& right, const Plant& plant, const std::vector<Way>& ways, const Situation& off)
        : m_right(right)
        , m_plant(plant)
        , m_ways(ways)
        , m_off(off)
    {
    }

    std::vector<InterlockTry> all()
    {
        for (const exploration::Opposed& pair : exploration::opposedContactors(m_plant))
            if (pair.size() == 2) {
                const Texts *first = startOf(pair[0], pair[1]), *second = startOf(pair[1], pair[0]);
                if (second)
                    contacts(pair[0], pair[1], *second);
                if (first)
                    contacts(pair[1], pair[0], *first);
                if (first && second)
                    buttons(*first, *second);
            }
        return std::move(m_found);
    }

private:
    bool isIn(int mover) const { return m_right.trail().back().travel[at(mover)] == 2; }

    /// After which the one is in and the other is not.
    const Texts* startOf(int mover, int other)
    {
        for (const Way& w : m_ways) {
            Situation in = m_off;
            in.bring = w.bring;
            if (m_right.bring(in) && isIn(mover) && !isIn(other))
                return &w.bring;
        }
        return nullptr;
    }

    /// Of the hand that starts: letting go comes after it.
    static std::size_t placeOfPush(const Texts& start)
    {
        const auto tagOf = [](const std::string& operation) { return operation.substr(0, operation.find(' ')); };
        const std::size_t last = start.size() - 1;
        return last > 0 && tagOf(start[last]) == tagOf(start[last - 1]) ? last - 1 : last;
    }

    void contacts(int held, int started, const Texts& start)
    {
        const PlantDevice& device = m_plant.devices[at(m_plant.movers[at(held)].device)];
        const auto push = std::find_if(device.actions.begin(), device.actions.end(),
            [held](const auto& action) { return action.second == std::pair(held, std::uint8_t{2}); });
        const auto coil = std::find_if(
            m_plant.coils.begin(), m_plant.coils.end(), [started](const PlantCoil& c) { return c.mover == started; });
        if (push == device.actions.end() || coil == m_plant.coils.end())
            return;
        Situation in = m_off;
        const auto place = static_cast<std::ptrdiff_t>(placeOfPush(start));
        in.bring.assign(start.begin(), start.begin() + place);
        in.bring.push_back(device.tag + " " + push->first);
        in.bring.push_back(start[at(static_cast<int>(place))]);
        const PlantImpedance& z = m_plant.impedances[at(coil->impedance)];
        const Look volts{Instrument::Volts, {m_plant.nameOfNode(z.p), m_plant.nameOfNode(z.q)}};
        if (!m_right.bring(in))
            return;
        if (const auto reading = m_right.look(volts); reading && reading->high <= kNothing)
            m_found.push_back({std::move(in), volts});
    }

    void buttons(const Texts& first, const Texts& second)
    {
        const std::size_t a = placeOfPush(first), b = placeOfPush(second);
        Situation in = m_off;
        in.bring.assign(first.begin(), first.begin() + static_cast<std::ptrdiff_t>(a) + 1);
        if (first[a] == second[b])
            return;
        in.bring.push_back(second[b]);
        m_found.push_back({std::move(in), std::nullopt});
    }

    StandIn& m_right;
    const Plant& m_plant;
    const std::vector<Way>& m_ways;
    const Situation& m_off;
    std::vector<InterlockTry> m_found;
};

} // namespace

std::vector<InterlockTry> interlockTries(
    StandIn& right, const Plant& plant, const std::vector<Way>& ways, const Situation& off)
{
    return Interlocks(right, plant, ways, off).all();
}

} // namespace ts::measuring
