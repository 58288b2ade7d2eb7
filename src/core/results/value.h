#pragma once
// A result of any type, shared and never changed. Who knows the type gets it back (results.h); everybody else passes it
// on.

#include "core/base/check.h"

#include <cstddef>
#include <memory>
#include <typeinfo>
#include <utility>

namespace ts {

class Value {
public:
    Value() = default;
    /// `bytes`: about what it holds in memory, for those who keep many.
    template <class T> static Value of(T value, std::size_t bytes = sizeof(T))
    {
        Value v;
        v.m_data = std::make_shared<const T>(std::move(value));
        v.m_type = &typeid(T);
        v.m_bytes = bytes;
        return v;
    }
    explicit operator bool() const { return m_data != nullptr; }
    std::size_t bytes() const { return m_bytes; }

    /// Our own mistake if it is of another type.
    template <class T> std::shared_ptr<const T> as() const
    {
        TS_CHECK(m_type && *m_type == typeid(T));
        return std::static_pointer_cast<const T>(m_data);
    }

private:
    std::shared_ptr<const void> m_data;
    const std::type_info* m_type = nullptr;
    std::size_t m_bytes = 0;
};

} // namespace ts
