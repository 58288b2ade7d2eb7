#pragma once
// What a panel to practise on answers, and how well it went.

#include "core/practice/drill.h"

namespace ts::wording {

/// To one line of somebody at the panel: a meter's name measures, everything else is done.
std::string answerTo(practice::PracticePanel& panel, const std::string& line);
/// "3. Two ends exchanged: ...", and what is to be learnt from it.
std::string lessonText(int number);
/// Right or not, measurements and time beside the finder's, and what was done that can hurt; several lines.
std::string scoreText(const practice::Drill& drill, const practice::Score& score);

} // namespace ts::wording
