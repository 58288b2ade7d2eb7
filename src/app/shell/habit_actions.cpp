#include "app/shell/habit_actions.h"

#include <QCoreApplication>

namespace ts::app {
namespace {

using wording::Habits;

QString tr(const char* text)
{
    return QCoreApplication::translate("Habits", text);
}

} // namespace

std::vector<ActionSpec> habitSpecs(const Habits& habits, std::function<void(const Habits&)> take)
{
    std::vector<ActionSpec> specs;
    const auto add = [&](const char* id, const QString& group, const QString& text, auto member, auto value) {
        ActionSpec s;
        s.id = QLatin1String(id);
        s.text = text;
        s.group = group;
        s.holds = [&habits, member, value] { return habits.*member == value; };
        s.run = [&habits, take, member, value] {
            Habits changed = habits;
            changed.*member = value;
            take(changed);
        };
        specs.push_back(std::move(s));
    };
    add("habit.current_paths", tr("Control circuit"), tr("Drawn as current paths"), &Habits::school,
        diagram::School::CurrentPaths);
    add("habit.ladder", tr("Control circuit"), tr("Drawn as ladder rungs"), &Habits::school, diagram::School::Ladder);
    add("habit.l123", tr("Phases"), tr("Phases L1, L2, L3"), &Habits::phases, Habits::Phases::L1L2L3);
    add("habit.ryb", tr("Phases"), tr("Phases R, Y, B"), &Habits::phases, Habits::Phases::RYB);
    add("habit.uvw", tr("Phases"), tr("Phases U, V, W"), &Habits::phases, Habits::Phases::UVW);
    add("habit.mm2", tr("Wire sizes"), tr("Wire sizes in mm²"), &Habits::wireSize, Habits::WireSize::SquareMillimetres);
    add("habit.awg", tr("Wire sizes"), tr("Wire sizes in AWG, nearest"), &Habits::wireSize,
        Habits::WireSize::AmericanGauge);
    add("habit.kw", tr("Power"), tr("Power in kW"), &Habits::power, Habits::Power::Kilowatts);
    add("habit.hp", tr("Power"), tr("Power in hp"), &Habits::power, Habits::Power::Horsepower);
    add("habit.lamps_written", tr("Lamps"), tr("Lamp colours as written"), &Habits::lampColours,
        Habits::LampColours::AsWritten);
    add("habit.lamps_standard", tr("Lamps"), tr("Lamps: running green, fault yellow"), &Habits::lampColours,
        Habits::LampColours::Standard);
    add("habit.lamps_red", tr("Lamps"), tr("Lamps: running red, stopped green"), &Habits::lampColours,
        Habits::LampColours::RunningRed);
    return specs;
}

} // namespace ts::app
