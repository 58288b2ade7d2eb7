#include "wording/practice_words.h"

#include "core/measuring/readings.h"
#include "wording/test_words.h"
#include "wording/wording.h"

namespace ts::wording {

using namespace practice;
using measuring::Instrument;

namespace {

std::optional<Instrument> meterOf(const std::string& line)
{
    for (const Instrument i : {Instrument::Ohms, Instrument::LowOhms, Instrument::Volts, Instrument::Amperes})
        if (line == wordOf(i))
            return i;
    return std::nullopt;
}

} // namespace

std::string answerTo(PracticePanel& panel, const std::string& line)
{
    if (const auto meter = meterOf(line)) {
        const auto value = panel.measure(*meter);
        if (!value)
            return sentence(value.error());
        const measuring::Reading shown = *value < kOverload
            ? measuring::figure(*value)
            : measuring::Reading{measuring::kOverloadOhm, measuring::kEndless, {}};
        return readingText(shown, *meter);
    }
    const auto done = panel.operate(line);
    return !done ? sentence(done.error()) : done->empty() ? "ok" : *done;
}

std::string lessonText(int number)
{
    return std::to_string(number) + ". " + word("lesson." + std::to_string(number));
}

std::string scoreText(const Drill& drill, const Score& score)
{
    std::string text = word(score.isRight ? "drill.right" : "drill.wrong") + ' '
        + suspectText(drill.circuit, drill.hidden) + '\n'
        + said("drill.score",
            {static_cast<long long>(score.measurements), static_cast<long long>(score.finderMeasurements),
                durationText(score.seconds), durationText(score.finderSeconds)});
    for (const Lapse& l : score.lapses)
        text += '\n' + sentence(message("drill." + std::string(wordOf(l.kind)), {l.what}));
    return text;
}

} // namespace ts::wording
