#pragma once
// The habits as actions: one group a question, one action an answer. They stand in the view menu and in the search box.

#include "app/frame/actions.h"
#include "app/words/words.h"

namespace ts::app {

/// `habits` is looked at whenever it is asked which answer holds; `take` gets the changed ones.
std::vector<ActionSpec> habitSpecs(const wording::Habits& habits, std::function<void(const wording::Habits&)> take);

} // namespace ts::app
