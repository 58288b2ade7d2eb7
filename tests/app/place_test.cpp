// What every place of the window must be, and a made-up one: a class of its own, nothing else.

#include "app/shell/all_places.h"
#include "tests/support/window_rig.h"

#include <QSignalSpy>

#include <set>

namespace ts {
namespace {

using namespace app;
using app::Place;

class Places : public test::WindowTest { };

TEST_F(Places, EachHasANameAViewAndAKeyOfItsOwn)
{
    std::set<QString> ids, views;
    for (Place* place : window.places()) {
        EXPECT_TRUE(ids.insert(place->id()).second) << place->id().toStdString();
        EXPECT_FALSE(place->title().isEmpty());
        EXPECT_FALSE(place->views().empty()) << place->id().toStdString();
        for (const PlaceView& view : place->views())
            EXPECT_TRUE(views.insert(view.name).second) << view.name.toStdString();
        EXPECT_TRUE(window.actionTable().action("place." + place->id()));
        window.goTo(place->id());
        EXPECT_TRUE(place->isVisible());
    }
}

TEST_F(Places, WhateverAFindingPointsAtIsShownSomewhere)
{
    using Aspect = Target::Aspect;
    for (const Aspect aspect :
        {Aspect::Circuit, Aspect::Demand, Aspect::Claim, Aspect::Fault, Aspect::Order, Aspect::WorstStop}) {
        const auto& places = window.places();
        EXPECT_TRUE(std::any_of(places.begin(), places.end(), [&](const Place* p) {
            return p->canShow({.aspect = aspect});
        })) << static_cast<int>(aspect);
    }
}

/// All it takes.
class MadeUpPlace : public Place {
public:
    MadeUpPlace(const PlaceParts& parts, QWidget* parent)
        : Place(QStringLiteral("made_up"), QStringLiteral("Made up"), parent)
        , m_book(parts.book)
    {
    }
    Mark mark() const override { return m_book.fresh(kLevels) ? Mark::Claimed : Mark::Untouched; }
    void wantElsewhere() { emit targetWanted({.aspect = Target::Aspect::Claim}); }

private:
    StudyBook& m_book;
};

TEST_F(Places, AMadeUpOneNeedsNothingElse)
{
    Selection selection;
    MadeUpPlace place({window.document(), selection, window.book(), theme}, nullptr);
    EXPECT_EQ(place.mark(), Mark::Claimed) << "it asks the book, as all do";
    EXPECT_EQ(place.objectName(), "place.made_up");
    EXPECT_TRUE(place.actions().empty());
    EXPECT_FALSE(place.canShow({}));
    QSignalSpy wanted(&place, &Place::targetWanted);
    place.wantElsewhere();
    EXPECT_EQ(wanted.count(), 1);
}

} // namespace
} // namespace ts
