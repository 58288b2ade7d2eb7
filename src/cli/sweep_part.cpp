#include "cli/sweep_part.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace ts::cli {
namespace {

using namespace faults;
using ReadJson = nlohmann::json; // order does not matter here

constexpr int kMostShards = 1000;
constexpr long long kMostRuns = 1'000'000'000;

class PartReader {
public:
    PartReader(const std::string& name, const PartOf& whole, SecondFaults& found)
        : m_name(name)
        , m_whole(whole)
        , m_found(found)
    {
    }

    Expected<void> read(std::string_view text, std::vector<bool>& seen)
    {
        m_json = ReadJson::parse(text, nullptr, false);
        if (m_json.is_discarded() || !m_json.is_object() || textOf(m_json, "format") != "sweep-2")
            return bad("format");
        if (numberOf("function") != m_whole.sweep.function.value)
            return bad("function");
        if (textOf(m_json, "circuit") != m_whole.circuit)
            return bad("circuit");
        if (auto ok = takeShard(seen); !ok)
            return ok;
        for (const char* key : {"faults", "pairs"})
            if (!m_json.contains(key) || !m_json[key].is_array())
                return bad(key);
        for (const ReadJson& p : m_json["pairs"])
            if (!takePair(p))
                return bad("pairs");
        for (const ReadJson& f : m_json["faults"])
            if (!takeHidden(f))
                return bad("hides");
        m_found.runCount += static_cast<std::size_t>(std::clamp(numberOf("pair_runs"), 0LL, kMostRuns));
        m_found.skippedCount = static_cast<int>(std::clamp(numberOf("skipped_in_pairs"), 0LL, kMostRuns));
        m_found.checkedCount = static_cast<int>(std::clamp(numberOf("checked_of_skipped"), 0LL, kMostRuns));
        return {};
    }

private:
    Unexpected bad(const char* what) const
    {
        return failure(ErrorCode::Refused, message("sweep.bad_part", {m_name, std::string(what)}));
    }
    static std::string textOf(const ReadJson& json, const char* key)
    {
        const auto it = json.find(key);
        return it != json.end() && it->is_string() ? it->get<std::string>() : std::string();
    }
    long long numberOf(const char* key) const
    {
        const auto it = m_json.find(key);
        return it != m_json.end() && it->is_number_integer() ? it->get<long long>() : -1;
    }
    /// Its place among the faults, or -1.
    int faultOf(const ReadJson& json, const char* key) const
    {
        const std::vector<SweptFault>& faults = m_whole.sweep.faults;
        const SweptFault* f = faultNamed(faults, textOf(json, key));
        return f ? static_cast<int>(f - faults.data()) : -1;
    }
    int deviceOf(const std::string& tag) const
    {
        const auto& devices = m_whole.plant.devices;
        const auto it = std::find_if(
            devices.begin(), devices.end(), [&](const PlantDevice& d) { return d.tag == tag; });
        return it == devices.end() ? -1 : static_cast<int>(it - devices.begin());
    }

    Expected<void> takeShard(std::vector<bool>& seen) const
    {
        const long long shard = numberOf("shard"), shards = numberOf("shards");
        if (shards < 1 || shards > kMostShards || shard < 1 || shard > shards
            || (!seen.empty() && static_cast<long long>(seen.size()) != shards))
            return bad("shard");
        seen.resize(static_cast<std::size_t>(shards));
        if (seen[static_cast<std::size_t>(shard) - 1])
            return failure(ErrorCode::Refused, message("sweep.part_twice", {m_name, shard, shards}));
        seen[static_cast<std::size_t>(shard) - 1] = true;
        return {};
    }

    bool takePair(const ReadJson& p)
    {
        if (!p.is_object())
            return false;
        FaultPair pair{faultOf(p, "first"), faultOf(p, "second")};
        const auto moment = std::find_if(
            kMoments.begin(), kMoments.end(), [&](Moment m) { return nameOf(m) == textOf(p, "moment"); });
        int loss = 0;
        while (loss <= static_cast<int>(Loss::StartsAlone) && nameOf(static_cast<Loss>(loss)) != textOf(p, "loss"))
            ++loss;
        pair.run.lostMotor = deviceOf(textOf(p, "lost"));
        const auto hidden = p.find("first_is_hidden");
        if (pair.first < 0 || pair.second < 0 || moment == kMoments.end() || loss > static_cast<int>(Loss::StartsAlone)
            || pair.run.lostMotor < 0 || hidden == p.end() || !hidden->is_boolean())
            return false;
        pair.moment = *moment;
        pair.run.loss = static_cast<Loss>(loss);
        pair.firstIsHidden = hidden->get<bool>();
        m_found.pairs.push_back(pair);
        return true;
    }

    bool takeHidden(const ReadJson& f)
    {
        if (!f.is_object())
            return false;
        if (!f.contains("hides"))
            return true;
        const int fault = faultOf(f, "fault"), other = faultOf(f, "hides");
        if (fault < 0 || other < 0)
            return false;
        m_found.hides.emplace_back(fault, other);
        return true;
    }

    const std::string& m_name;
    const PartOf& m_whole;
    SecondFaults& m_found;
    ReadJson m_json;
};

} // namespace

Expected<void> addPart(
    std::string_view text, const std::string& name, const PartOf& whole, std::vector<bool>& seen, SecondFaults& found)
{
    return PartReader(name, whole, found).read(text, seen);
}

} // namespace ts::cli
