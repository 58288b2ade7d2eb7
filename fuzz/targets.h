#pragma once
// What is done with a text from outside: each reader, and behind it the whole way. A target returns for every text;
// what it finds wrong in the program ends it (TS_CHECK).

#include <span>
#include <string>
#include <string_view>

namespace ts::fuzz {

struct Target {
    std::string_view name; ///< of its folder in tests/corpus, too
    void (*run)(std::string_view text);
    std::string (*seed)() = nullptr; ///< a text that it accepts, where it would be too large for the corpus
};
std::span<const Target> targets();

} // namespace ts::fuzz
