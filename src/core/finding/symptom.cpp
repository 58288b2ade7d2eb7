#include "core/finding/symptom.h"

#include "core/simulation/scenario_run.h"

#include <algorithm>
#include <sstream>

namespace ts::finding {
namespace {

constexpr std::string_view kThen = "->";

std::vector<std::string> partsOf(std::string_view text, char separator)
{
    std::vector<std::string> parts;
    std::istringstream in{std::string(text)};
    for (std::string part; std::getline(in, part, separator);)
        parts.push_back(part);
    return parts;
}

/// What its front shows.
std::vector<std::string> relayWords()
{
    std::vector<std::string> words{"outputs_on", "outputs_off"};
    for (const char* light : {"supply", "channel_1", "channel_2", "fault", "reset"})
        for (const char* how : {"_dark", "_lit", "_blinks"})
            words.push_back(std::string(light) + how);
    std::erase(words, "reset_lit"); // it only blinks
    return words;
}

Unexpected syntax(const std::string& part)
{
    return failure(ErrorCode::Syntax, message("symptom.syntax", {part}));
}

/// "operate S2" as bring() reads it.
Expected<std::vector<std::string>> broughtBy(const Plant& plant, const std::string& action, const std::string& tag)
{
    std::vector<std::string> bring;
    const bool isBrief = action == "operate";
    for (const std::string& word :
        isBrief ? std::vector<std::string>{"press", "release"} : std::vector<std::string>{action}) {
        if (const auto known = stimuliFor(plant, tag, word, 0); !known)
            return Unexpected{known.error()};
        bring.push_back(tag + " " + word);
    }
    return bring;
}

Expected<Symptom> seenIn(const Plant& plant, const std::string& text)
{
    std::vector<std::string> words = wordsIn(text);
    Symptom s;
    if (!words.empty() && words.front() == "not") {
        s.isNot = true;
        words.erase(words.begin());
    }
    if (words.size() != 2)
        return syntax(text);
    s.device = words[0];
    s.state = words[1];
    if (const auto known = isSeen(plant, initialState(plant), s); !known)
        return Unexpected{known.error()};
    return s;
}

} // namespace

std::vector<std::string> wordsIn(const std::string& text)
{
    std::istringstream in(text);
    std::vector<std::string> words;
    for (std::string word; in >> word;)
        words.push_back(word);
    return words;
}

Expected<bool> isSeen(const Plant& plant, const State& state, const Symptom& s)
{
    const int device = plant.deviceIndex(s.device);
    if (device >= 0 && !plant.devices[static_cast<std::size_t>(device)].motors.empty()
        && (s.state == "right" || s.state == "left"))
        return (measuring::lookOf(plant, state, device) == s.device + " " + s.state) != s.isNot;
    const auto isIn = isInState(plant, state, s.device, s.state);
    if (!isIn)
        return Unexpected{isIn.error()};
    return *isIn != s.isNot;
}

Expected<std::vector<Symptom>> symptomsFrom(const Plant& plant, std::string_view text)
{
    const std::size_t arrow = text.find(kThen);
    measuring::Situation in{measuring::Power::On, {}, {}, {}};
    if (arrow != text.npos)
        for (const std::string& part : partsOf(text.substr(0, arrow), ';')) {
            const auto words = wordsIn(part);
            if (words.size() != 2)
                return syntax(part);
            const auto bring = broughtBy(plant, words[0], words[1]);
            if (!bring)
                return Unexpected{bring.error()};
            in.bring.insert(in.bring.end(), bring->begin(), bring->end());
        }
    std::vector<Symptom> symptoms;
    for (const std::string& part : partsOf(arrow == text.npos ? text : text.substr(arrow + kThen.size()), ',')) {
        auto symptom = seenIn(plant, part);
        if (!symptom)
            return Unexpected{symptom.error()};
        symptom->in = in;
        symptoms.push_back(*std::move(symptom));
    }
    if (symptoms.empty())
        return syntax(std::string(text));
    return symptoms;
}

std::vector<std::string> handsOn(const Plant& plant)
{
    std::vector<std::string> hands;
    for (const PlantDevice& d : plant.devices) {
        const auto has = [&d](std::string_view word) {
            return std::any_of(d.actions.begin(), d.actions.end(), [word](const auto& a) { return a.first == word; });
        };
        if (has("press") && has("release"))
            hands.push_back("operate " + d.tag);
        for (const auto& [word, what] : d.actions)
            if (plant.movers[static_cast<std::size_t>(what.first)].spec.driver == MoverSpec::Driver::Operator)
                hands.push_back(word + " " + d.tag);
    }
    return hands;
}

std::vector<std::pair<std::string, std::vector<std::string>>> statesSeenOn(const Plant& plant)
{
    using Words = std::vector<std::string>;
    const State rest = initialState(plant);
    std::vector<std::pair<std::string, Words>> seen;
    for (std::size_t d = 0; d < plant.devices.size(); ++d) {
        const PlantDevice& device = plant.devices[d];
        const bool isHand = std::any_of(device.movers.begin(), device.movers.end(), [&](int m) {
            return plant.movers[static_cast<std::size_t>(m)].spec.driver == MoverSpec::Driver::Operator;
        });
        if (isHand || measuring::lookOf(plant, rest, static_cast<int>(d)).empty())
            continue;
        Words states = !device.motors.empty() ? Words{"driven", "at_rest", "right", "left"}
            : !device.relays.empty()          ? relayWords()
            : !device.lamps.empty()           ? Words{"lit", "dark"}
            : !device.protections.empty()     ? Words{"whole", "tripped"}
                                              : Words{"in", "out"};
        states.push_back("burnt");
        std::erase_if(states, [&](const std::string& word) {
            return !isSeen(plant, rest, {{}, device.tag, word, false});
        });
        if (!states.empty())
            seen.emplace_back(device.tag, std::move(states));
    }
    std::stable_partition(
        seen.begin(), seen.end(), [](const auto& s) { return s.second.front() == "driven"; }); // what
                                                                                               // people
                                                                                               // look
                                                                                               // at
    return seen;
}

} // namespace ts::finding
