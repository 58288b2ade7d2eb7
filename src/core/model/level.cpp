#include "core/model/level.h"

namespace ts::safety {

std::string_view nameOf(Level level)
{
    return std::string_view("abcde").substr(static_cast<std::size_t>(level), 1);
}

std::string_view nameOf(Category category)
{
    return std::string_view("B1234").substr(static_cast<std::size_t>(category), 1);
}

std::optional<Level> levelNamed(std::string_view name)
{
    for (Level l : {Level::A, Level::B, Level::C, Level::D, Level::E})
        if (nameOf(l) == name)
            return l;
    return std::nullopt;
}

std::optional<Category> categoryNamed(std::string_view name)
{
    for (Category c : {Category::B, Category::One, Category::Two, Category::Three, Category::Four})
        if (nameOf(c) == name)
            return c;
    return std::nullopt;
}

} // namespace ts::safety
