#include "app/places/bench/habit_looks.h"

#include "core/offers/lamp_meaning.h"

namespace ts::app {

std::map<DeviceId, QString> lampColours(const Dossier& dossier, const wording::Habits& habits)
{
    std::map<DeviceId, QString> colours;
    if (habits.lampColours == wording::Habits::LampColours::AsWritten)
        return colours;
    const bool runningRed = habits.lampColours == wording::Habits::LampColours::RunningRed;
    const auto meanings = offers::lampMeanings(dossier);
    if (!meanings)
        return colours;
    for (const auto& [lamp, meaning] : *meanings)
        switch (meaning) {
        case offers::LampMeaning::Runs:
            colours[lamp] = runningRed ? QStringLiteral("red") : QStringLiteral("green");
            break;
        case offers::LampMeaning::Stopped:
            colours[lamp] = runningRed ? QStringLiteral("green") : QStringLiteral("white");
            break;
        case offers::LampMeaning::Fault:
            colours[lamp] = QStringLiteral("yellow");
            break;
        case offers::LampMeaning::Other:
            break;
        }
    return colours;
}

diagram::Scene withPhaseNames(diagram::Scene scene, const wording::Habits& habits)
{
    for (diagram::Text& t : scene.texts)
        if (t.style == diagram::TextStyle::Marking)
            t.text = wording::phaseName(t.text, habits);
    return scene;
}

} // namespace ts::app
