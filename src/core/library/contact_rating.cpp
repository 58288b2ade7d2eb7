#include "core/library/contact_rating.h"

#include "core/library/table.h"

#include <algorithm>

namespace ts {

Expected<std::vector<RatedAt>> contactRatings(const std::vector<std::string>& words, std::string_view tag)
{
    std::vector<RatedAt> all;
    for (const std::string& word : words) {
        const std::string_view text = word;
        const std::size_t at = std::min(text.find('@'), text.size());
        const auto current = numberFrom(text.substr(0, at));
        const auto volts = numberFrom(text.substr(std::min(at + 1, text.size())));
        if (!current || !volts || *current < 0.01 || *current > 1000 || *volts < 1 || *volts > 1000)
            return failure(ErrorCode::OutOfRange, message("kind.contact_rating", {std::string(tag), word}));
        all.push_back({*current, *volts});
    }
    return all;
}

std::optional<double> ratedAt(const std::vector<RatedAt>& ratings, double voltageV)
{
    const RatedAt* next = nullptr;
    for (const RatedAt& r : ratings)
        if (r.voltageV >= voltageV && (!next || r.voltageV < next->voltageV))
            next = &r;
    return next ? std::optional(next->currentA) : std::nullopt;
}

Expected<std::vector<double>> voltsByPoles(const std::vector<std::string>& words, std::string_view tag)
{
    std::vector<double> volts;
    for (const std::string& word : words) {
        const auto v = numberFrom(word);
        if (!v || *v < 1 || *v > 1500 || (!volts.empty() && *v < volts.back()) || volts.size() == 4)
            return failure(ErrorCode::OutOfRange, message("kind.volts_by_poles", {std::string(tag), word}));
        volts.push_back(*v);
    }
    return volts;
}

Expected<void> checkRatings(std::span<const ParameterSpec> specs, const Parameters& parameters)
{
    for (const ParameterSpec& spec : specs) {
        if (spec.name == "contact_rating_ac15_a" || spec.name == "contact_rating_dc13_a")
            if (auto ok = contactRatings(parameters.words(spec.name), parameters.tag()); !ok)
                return Unexpected{ok.error()};
        if (spec.name == "dc_volts_by_poles")
            if (auto ok = voltsByPoles(parameters.words(spec.name), parameters.tag()); !ok)
                return Unexpected{ok.error()};
    }
    return {};
}

} // namespace ts
