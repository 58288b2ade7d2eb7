#pragma once
// The answer of anything that may fail for a reason outside the program: a value or an Error.
// For mistakes of our own see check.h; for faults in the user's design see model/finding.h.

#include "core/base/message.h"

#include <tl/expected.hpp>

#include <string>
#include <utility>

namespace ts {

/// Why something could not be done. Closed list; the sentence comes from the message.
enum class ErrorCode { Syntax, Refused, NotFound, OutOfRange, File, Newer, Cancelled, NoSolution };

/// Where the trouble is: a file with line and column, a JSON pointer, or a device tag. Empty parts are unknown.
struct ErrorPlace {
    std::string file;
    int line = 0;
    int column = 0;
    std::string pointer;
};

struct Error {
    ErrorCode code = ErrorCode::Refused;
    Message message;
    ErrorPlace place{};
};

/// A value or an Error; the compiler complains if nobody looks.
template <class T> class [[nodiscard]] Expected : public tl::expected<T, Error> {
public:
    using tl::expected<T, Error>::expected;
};

using Unexpected = tl::unexpected<Error>;

inline Unexpected failure(ErrorCode code, Message message, ErrorPlace place = {})
{
    return Unexpected{Error{code, std::move(message), std::move(place)}};
}
/// Somebody no longer wants it.
inline Unexpected cancelled()
{
    return failure(ErrorCode::Cancelled, message("run.cancelled"));
}

} // namespace ts
