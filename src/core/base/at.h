#pragma once
// Slots and indices are int, because -1 means none; containers count in size_t.

#include <cstddef>

namespace ts {

/// An index that is there, as containers take it.
constexpr std::size_t at(int index)
{
    return static_cast<std::size_t>(index);
}

} // namespace ts
