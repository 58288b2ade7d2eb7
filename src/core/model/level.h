#pragma once
// Performance levels and categories as values, with the words that stand for them in files. Source: ISO 13849-1
// clauses 4.5.1 and 6.2. What is reckoned with them: safety/arithmetic.h.

#include <optional>
#include <string_view>

namespace ts::safety {

enum class Level { A, B, C, D, E };
enum class Category { B, One, Two, Three, Four };

std::string_view nameOf(Level); ///< "a" .. "e"
std::string_view nameOf(Category); ///< "B", "1" .. "4"
std::optional<Level> levelNamed(std::string_view);
std::optional<Category> categoryNamed(std::string_view);
/// The word, or nothing for none.
template <class Named> std::string_view wordOf(const std::optional<Named>& value)
{
    return value ? nameOf(*value) : std::string_view();
}

} // namespace ts::safety
