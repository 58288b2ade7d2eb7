#pragma once
// A hidden mistake or fault to practise on, with what an operator would tell of it, drawn by a seed; and how well the
// search went against the finder's own.

#include "core/finding/search.h"
#include "core/practice/practice_panel.h"

namespace ts::practice {

/// By how much is left open by what was told (bits).
enum class Difficulty : std::uint8_t {
    Easy, ///< less than 3
    Hard, ///< less than 5
    Masked ///< more, or nothing is seen before something else happens
};
std::string_view wordOf(Difficulty); ///< "easy", "hard", "masked"

struct Drill {
    Circuit circuit;
    measuring::Suspect hidden;
    std::vector<measuring::Suspect> alike; ///< that join the same: naming one of these is right, too
    std::vector<finding::Symptom> told; ///< what is seen at first; none: nothing
    std::vector<std::string> touches; ///< what is wrong there: "wire/12", "Q1/13-14"
    double bitsLeft = 0;
    unsigned seed = 1;
    std::size_t finderMeasurements = 0;
    double finderSeconds = 0;
    std::vector<measuring::Suspect> everything; ///< that could have been hidden: what can be named
    std::vector<measuring::Suspect> sameClass; ///< what the finder cannot tell from it, either
};

/// The same for the same seed. Fails as the finder does, with NotFound if there is nothing of that difficulty, and with
/// Cancelled.
Expected<Drill> drillOf(const Circuit& circuit, Difficulty difficulty, unsigned seed, std::stop_token stop = {});
/// A course in the order of the job, from what is plainest to what nobody sees: number 1 to kLessons, each about one
/// thing that goes wrong. Fails as above, with NotFound also if nothing of that kind can go wrong in this circuit.
inline constexpr int kLessons = 12;
Expected<Drill> lessonOf(const Circuit& circuit, int number, unsigned seed, std::stop_token stop = {});
/// That very mistake. Fails with NotFound if it is none.
Expected<Drill> drillWith(const Circuit& circuit, const std::string& id, unsigned seed, std::stop_token stop = {});
/// Its panel. Fails as compile() does.
Expected<PracticePanel> panelOf(const Drill& drill, std::stop_token stop = {});

struct Score {
    bool isRight = false;
    std::size_t measurements = 0, finderMeasurements = 0;
    double seconds = 0, finderSeconds = 0;
    std::vector<Lapse> lapses;
};
Score scoreOf(const Drill& drill, const PracticePanel& panel, const std::string& named);

} // namespace ts::practice
