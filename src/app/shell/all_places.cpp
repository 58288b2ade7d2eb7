#include "app/shell/all_places.h"

#include "app/places/bench/bench_place.h"
#include "app/places/checks/checks_place.h"
#include "app/places/faults/faults_place.h"
#include "app/places/find/find_place.h"
#include "app/places/functions/functions_place.h"
#include "app/places/levels/levels_place.h"
#include "app/places/machine/machine_place.h"
#include "app/places/practice/practice_place.h"
#include "app/places/skyline/skyline_place.h"
#include "app/places/tests/tests_place.h"

#include <QCoreApplication>

#include <array>

namespace ts::app {
namespace {

template <class P> Place* made(const PlaceParts& parts, QWidget* parent)
{
    return new P(parts, parent);
}

struct Entry {
    Place* (*make)(const PlaceParts&, QWidget*);
    const char* group;
    Qt::Key key;
};

constexpr std::array kPlaces{
    Entry{made<SkylinePlace>, "", Qt::Key_0},
    Entry{made<MachinePlace>, QT_TRANSLATE_NOOP("Course", "decide"), Qt::Key_1},
    Entry{made<FunctionsPlace>, QT_TRANSLATE_NOOP("Course", "decide"), Qt::Key_2},
    Entry{made<BenchPlace>, QT_TRANSLATE_NOOP("Course", "design"), Qt::Key_3},
    Entry{made<ChecksPlace>, QT_TRANSLATE_NOOP("Course", "design"), Qt::Key_5},
    Entry{made<FaultsPlace>, QT_TRANSLATE_NOOP("Course", "design"), Qt::Key_6},
    Entry{made<LevelsPlace>, QT_TRANSLATE_NOOP("Course", "design"), Qt::Key_7},
    Entry{made<TestsPlace>, QT_TRANSLATE_NOOP("Course", "prove"), Qt::Key_9},
    Entry{made<FindPlace>, QT_TRANSLATE_NOOP("Course", "repair"), Qt::Key_F},
    Entry{made<PracticePlace>, QT_TRANSLATE_NOOP("Course", "repair"), Qt::Key_T},
};

} // namespace

std::vector<PlaceInCourse> allPlaces(const PlaceParts& parts, QWidget* parent)
{
    std::vector<PlaceInCourse> all;
    for (const Entry& e : kPlaces)
        all.push_back(
            {e.make(parts, parent), QCoreApplication::translate("Course", e.group), QKeySequence(Qt::CTRL | e.key)});
    return all;
}

} // namespace ts::app
