// A sentence that is edited where it stands: it wraps like text, reads as it is, and leaves out what is hidden.

#include "app/widgets/word_flow.h"

#include <QApplication>
#include <QLabel>
#include <QWheelEvent>
#include <QtTest/QTest>

#include <gtest/gtest.h>

namespace ts::app {
namespace {

struct Sentence {
    Theme theme;
    WordFlow flow{theme.body(), nullptr};
    ChoiceWord* trigger = new ChoiceWord(theme, "trigger", "What demands it", &flow);
    ToggleWord* other = new ToggleWord(theme, "other", "S20 outfeed", &flow);
    NumberWord* within = new NumberWord(theme, "within", "Within", &flow);
    TextWord* rule = new TextWord(theme, "rule", "Rule", &flow);

    Sentence()
    {
        flow.say("When");
        trigger->addItems({"S0 is pressed", "B2 is opened"});
        flow.put(trigger);
        flow.say("or");
        flow.put(other);
        flow.say(", all of it rests within");
        within->setSuffix(" s");
        within->setDecimals(1);
        flow.put(within);
        flow.say(". In words:");
        flow.put(rule);
        flow.say(".");
        flow.resize(320, 200);
        flow.show();
        QTest::qWait(10);
    }
};

TEST(WordFlow, ReadsAsTheSentenceThatItIs)
{
    Sentence s;
    s.other->setChecked(true);
    s.within->setValue(2.5);
    s.rule->setText("by hand");
    EXPECT_EQ(s.flow.text().toStdString(),
        "When S0 is pressed or S20 outfeed, all of it rests within 2.5 s. In words: by hand.");
    s.trigger->setCurrentIndex(1);
    s.other->setChecked(false); // what is not in it is not read
    EXPECT_EQ(s.flow.text().toStdString(), "When B2 is opened or, all of it rests within 2.5 s. In words: by hand.");
}

/// At any width every word lies within it, none on another, and a comma stays at its word.
TEST(WordFlow, WrapsLikeText)
{
    Sentence s;
    s.rule->setText("by hand at the reset button after the device is unlatched");
    for (int width : {260, 320, 480, 900}) {
        s.flow.resize(width, 300);
        QTest::qWait(10);
        QList<QWidget*> words = s.flow.findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly);
        for (const QWidget* a : words) {
            EXPECT_GE(a->x(), 0);
            EXPECT_LE(a->geometry().right(), width) << a->objectName().toStdString();
            for (const QWidget* b : words)
                EXPECT_TRUE(a == b || !a->geometry().intersects(b->geometry()))
                    << width << ": " << a->objectName().toStdString() << " on " << b->objectName().toStdString();
            if (const auto* label = qobject_cast<const QLabel*>(a); label && label->text().startsWith(',')) {
                EXPECT_EQ(a->y(), s.other->y()) << "the comma goes with its word";
            }
        }
        EXPECT_GE(s.flow.minimumHeight(), s.rule->geometry().bottom()) << "it asks for the height that it needs";
    }
}

TEST(WordFlow, WhatIsHiddenTakesNoRoom)
{
    Sentence s;
    s.flow.resize(900, 60);
    QTest::qWait(10);
    const int before = s.within->x();
    s.other->hide();
    QTest::qWait(10);
    EXPECT_LT(s.within->x(), before);
}

/// Turning the wheel over a sentence changes nothing in it.
TEST(WordFlow, TheWheelChangesNoWord)
{
    Sentence s;
    s.within->setValue(2.0);
    for (QWidget* word : std::initializer_list<QWidget*>{s.trigger, s.within}) {
        word->setFocus();
        QWheelEvent turn(
            QPointF(5, 5), word->mapToGlobal(QPointF(5, 5)), {}, {0, -240}, Qt::NoButton, {}, Qt::NoScrollPhase, false);
        QApplication::sendEvent(word, &turn);
    }
    EXPECT_EQ(s.trigger->currentIndex(), 0);
    EXPECT_EQ(s.within->value(), 2.0);
}

TEST(WordFlow, AChoiceThatIsNotMadeAsksForIt)
{
    Theme theme;
    ChoiceWord word(theme, "injury", "How badly?", nullptr);
    word.setPlaceholderText("how badly?");
    word.addItems({"slightly", "seriously, lasting or deadly"});
    word.setCurrentIndex(-1);
    const int asking = word.sizeHint().width();
    word.setCurrentIndex(1);
    EXPECT_GT(word.sizeHint().width(), asking) << "as wide as its word";
}

} // namespace
} // namespace ts::app
