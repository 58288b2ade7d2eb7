#pragma once
// How core's report gets its sentences without knowing a language: functions handed in by the caller (wording).

#include "core/base/message.h"

#include <functional>
#include <string>
#include <string_view>

namespace ts {

struct Speech {
    std::function<std::string(const Message&)> sentence;
    std::function<std::string(std::string_view)> word;
    std::function<std::string(double, std::string_view)> number;
    std::function<std::string(const struct Plant&, const struct Event&)> event; ///< empty text: not worth a line
};

} // namespace ts
