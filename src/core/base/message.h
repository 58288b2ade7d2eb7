#pragma once
// A sentence that is not yet a sentence: a stable id and typed arguments.
// Core never builds sentences; src/wording does.

#include <compare>
#include <string>
#include <utility>
#include <variant>
#include <vector>

namespace ts {

/// A number in SI units with the unit's symbol ("V", "s", "1/h", "" for a bare number).
struct Measured {
    double si = 0.0;
    std::string unit;
    bool operator==(const Measured&) const = default;
};

struct Message;
/// Messages within a message, said one after the other with commas between.
using Phrases = std::vector<Message>;

using Argument = std::variant<std::string, long long, Measured, Phrases>;

/// A text argument that begins with '@' is the id of a word ("@condition.environment"), to be put into words too.
struct Message {
    std::string id;
    std::vector<Argument> arguments{};

    bool operator==(const Message&) const = default;
};

inline Message message(std::string id, std::vector<Argument> arguments = {})
{
    return Message{std::move(id), std::move(arguments)};
}

} // namespace ts
