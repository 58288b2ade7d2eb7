#pragma once
// Safety functions and the choices of the arithmetic, between values and the file's text. Internal to io/; files are
// dossier_text.h.

#include "core/io/reading.h"
#include "core/model/dossier.h"

#include <nlohmann/json.hpp>

namespace ts::io {

SafetyFunction readFunction(ObjectReader& r, FunctionId id);
ArithmeticChoice readArithmetic(ObjectReader& r);

/// What is as by default is left out, apart from what a reader looks for first.
nlohmann::ordered_json jsonOf(const SafetyFunction& function);
nlohmann::ordered_json jsonOf(const ArithmeticChoice& choice);

} // namespace ts::io
