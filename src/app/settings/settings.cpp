#include "app/settings/settings.h"

#include <QSettings>

namespace ts::app {
namespace {

using wording::Habits;

constexpr const char* kDark = "look/dark";
constexpr const char* kFolder = "files/last_folder";
constexpr const char* kLiving = "work/verifies_by_itself";
constexpr const char* kOpened = "files/opened_last";
constexpr qsizetype kMostOpened = 8;

/// A choice is kept as a word; one that is not known any more falls back to the default.
template <class Value> struct Words {
    const char* key;
    std::vector<std::pair<Value, const char*>> words;

    Value read(const QSettings& store, Value otherwise) const
    {
        const QString word = store.value(key).toString();
        for (const auto& [value, text] : words)
            if (word == QLatin1String(text))
                return value;
        return otherwise;
    }
    void write(QSettings& store, Value value) const
    {
        for (const auto& [known, text] : words)
            if (known == value)
                store.setValue(key, QLatin1String(text));
    }
};

const Words<diagram::School> kSchool{
    "habits/drawing", {{diagram::School::CurrentPaths, "current_paths"}, {diagram::School::Ladder, "ladder"}}};
const Words<Habits::Phases> kPhases{"habits/phases",
    {{Habits::Phases::L1L2L3, "l1_l2_l3"}, {Habits::Phases::RYB, "r_y_b"}, {Habits::Phases::UVW, "u_v_w"}}};
const Words<Habits::WireSize> kWireSize{
    "habits/wire_size", {{Habits::WireSize::SquareMillimetres, "mm2"}, {Habits::WireSize::AmericanGauge, "awg"}}};
const Words<Habits::Power> kPower{
    "habits/power", {{Habits::Power::Kilowatts, "kw"}, {Habits::Power::Horsepower, "hp"}}};
const Words<Habits::LampColours> kLamps{"habits/lamps",
    {{Habits::LampColours::AsWritten, "as_written"}, {Habits::LampColours::Standard, "standard"},
        {Habits::LampColours::RunningRed, "running_red"}}};

} // namespace

Settings Settings::load()
{
    const QSettings store;
    Settings s{store.value(kDark, false).toBool(), store.value(kFolder).toString(), {},
        store.value(kLiving, true).toBool(), {}};
    s.openedLast = store.value(kOpened).toStringList().mid(0, kMostOpened);
    s.habits = {kSchool.read(store, {}), kPhases.read(store, {}), kWireSize.read(store, {}), kPower.read(store, {}),
        kLamps.read(store, {})};
    return s;
}

void Settings::opened(const QString& path)
{
    openedLast.removeAll(path);
    openedLast.prepend(path);
    openedLast = openedLast.mid(0, kMostOpened);
}

void Settings::save() const
{
    QSettings store;
    store.setValue(kDark, darkTheme);
    store.setValue(kFolder, lastFolder);
    store.setValue(kOpened, openedLast);
    store.setValue(kLiving, verifiesByItself);
    kSchool.write(store, habits.school);
    kPhases.write(store, habits.phases);
    kWireSize.write(store, habits.wireSize);
    kPower.write(store, habits.power);
    kLamps.write(store, habits.lampColours);
}

} // namespace ts::app
