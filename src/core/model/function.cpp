#include "core/model/function.h"

#include <algorithm>
#include <array>

namespace ts {

bool SafetyFunction::isTriggeredBy(DeviceId device) const
{
    return trigger.device == device
        || std::any_of(alsoBy.begin(), alsoBy.end(), [device](const Trigger& t) { return t.device == device; });
}

std::string elementWords(std::string_view element)
{
    if (element == "main")
        return "main poles";
    return (element.find('-') == element.npos ? "" : "contact ") + std::string(element);
}

std::string partWords(std::string_view tag, std::string_view element)
{
    return std::string(tag) + (element.empty() ? "" : " ") + elementWords(element);
}

namespace {

constexpr std::array<std::string_view, 3> kRestartWords{"start_action", "reset", "release"};
constexpr std::array<std::string_view, 6> kSafeguardWords{
    "unsaid", "guard", "fine_curtain", "body_curtain", "two_hand", "mat"};

} // namespace

std::string_view restartWord(RestartRule rule)
{
    return kRestartWords[static_cast<std::size_t>(rule)];
}

std::string_view safeguardWord(Safeguard safeguard)
{
    return kSafeguardWords[static_cast<std::size_t>(safeguard)];
}

std::span<const std::string_view> safeguardWords()
{
    return kSafeguardWords;
}

Safeguard safeguardNamed(std::string_view word)
{
    const auto found = std::find(kSafeguardWords.begin(), kSafeguardWords.end(), word);
    return found == kSafeguardWords.end() ? Safeguard::Unsaid : static_cast<Safeguard>(found - kSafeguardWords.begin());
}

RestartRule restartNamed(std::string_view word)
{
    const auto found = std::find(kRestartWords.begin(), kRestartWords.end(), word);
    return found == kRestartWords.end() ? RestartRule::StartAction
                                        : static_cast<RestartRule>(found - kRestartWords.begin());
}

} // namespace ts
