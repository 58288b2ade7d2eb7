#include "report/field_sheet.h"

#include "core/figures/scene_svg.h"
#include "core/measuring/rehearsal.h"
#include "wording/cautions.h"
#include "wording/test_words.h"
#include "wording/wording.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <sodium.h>

#include <array>

namespace ts::report {
namespace {

using figures::escaped;
using measuring::kEndless;
using Json = nlohmann::ordered_json;

/// As a content policy names what it lets run (CSP level 3, 2.3.1).
std::string policyHash(std::string_view text)
{
    std::array<unsigned char, crypto_hash_sha256_BYTES> digest{};
    crypto_hash_sha256(digest.data(), reinterpret_cast<const unsigned char*>(text.data()), text.size());
    std::string base64(sodium_base64_ENCODED_LEN(digest.size(), sodium_base64_VARIANT_ORIGINAL), '\0');
    sodium_bin2base64(base64.data(), base64.size(), digest.data(), digest.size(), sodium_base64_VARIANT_ORIGINAL);
    base64.resize(base64.find('\0'));
    return "'sha256-" + base64 + "'";
}

Json readingJson(const measuring::Reading& r)
{
    if (!r.word.empty())
        return {{"word", r.word}};
    return {{"low", r.low < kEndless ? Json(r.low) : Json(nullptr)},
        {"high", r.high < kEndless ? Json(r.high) : Json(nullptr)}};
}

Json stepJson(const Circuit& circuit, const measuring::TestStep& s)
{
    return {{"id", s.id}, {"stage", wording::word("stage." + std::string(wordOf(s.stage)))},
        {"makesSafe", s.stage == measuring::Stage::Isolation}, {"dead", measuring::isDead(s.stage)},
        {"power", wording::word("power." + std::string(wordOf(s.in.power)))},
        {"how", wording::situationLines(circuit, s.in)}, {"look", wording::lookText(s.look)},
        {"expect", readingJson(s.expect)}, {"expected", wording::readingText(s.expect, s.look.with)},
        {"unit", unitOf(s.look.with)}, {"ohms", isOhms(s.look.with)}, {"cautions", wording::testCautions(s, circuit)}};
}

/// In a script element nothing may end it.
std::string inScript(std::string json)
{
    for (std::size_t at = json.find('<'); at != json.npos; at = json.find('<', at + 1))
        json.replace(at, 1, "\\u003c");
    return json;
}

} // namespace

Expected<std::string> fieldSheet(const DossierFile& file, const measuring::TestPlan& plan)
{
    const Circuit& circuit = file.dossier.circuit;
    const auto states = measuring::standingOf(plan, file);
    Json steps = Json::array();
    for (std::size_t k = 0; k < plan.steps.size(); ++k)
        if (states[k].open || plan.steps[k].stage == measuring::Stage::Isolation)
            steps.push_back(stepJson(circuit, plan.steps[k]));
    const Json sheet{{"machine", file.dossier.machine.name}, {"circuit", measuring::circuitHash(circuit)},
        {"overload", measuring::kOverloadOhm}, {"caution", wording::word("caution.text")}, {"steps", steps}};
    const std::string_view script = fieldSheetScript(), style = fieldSheetStyle();
    std::string html = fmt::format("<!doctype html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n"
                                   "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; "
                                   "script-src {}; style-src {}\">\n"
                                   "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">\n"
                                   "<title>{}</title>\n<style>{}</style>\n</head>\n<body>\n<main id=\"sheet\"></main>\n"
                                   "<script type=\"application/json\" id=\"plan\">{}</script>\n<script>{}</script>\n"
                                   "</body>\n</html>\n",
        policyHash(script), policyHash(style), escaped(file.dossier.machine.name), style, inScript(sheet.dump()),
        script);
    if (html.size() > kLargestSheetBytes)
        return failure(ErrorCode::OutOfRange, message("sheet.too_large", {static_cast<long long>(html.size())}));
    return html;
}

} // namespace ts::report
