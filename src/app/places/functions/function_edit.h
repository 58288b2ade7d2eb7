#pragma once
// How a form changes the function that is shown: one edit of the document.

#include "app/document/document.h"
#include "core/edit/function_edits.h"

#include <QDoubleSpinBox>

#include <cmath>
#include <functional>

namespace ts::app {

/// One step of undo; nothing if the function is as it was, or gone. False if it was refused: then it is as before.
inline bool changeFunction(
    Document& document, FunctionId id, const QString& label, const std::function<void(SafetyFunction&)>& change)
{
    const SafetyFunction* now = document.dossier().function(id);
    if (!now)
        return false;
    SafetyFunction changed = *now;
    change(changed);
    if (changed == *now)
        return true;
    return document.edit(label, [&changed](const Dossier& d) { return edit::withFunctionChanged(d, changed); });
}

/// What a number box says, if a person changed it: the value it shows is rounded to its decimals, and showing it is no
/// edit.
inline bool isChanged(const QDoubleSpinBox& box, double now)
{
    return std::abs(box.value() - now) > 0.51 * std::pow(10.0, -box.decimals());
}

} // namespace ts::app
