// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/lesson/lesson_plan.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>
#include <set>

#include "core/study/document.h"
#include "core/study/study_file.h"
#include "support/phrases.h"

namespace ear {
namespace {

using Kind = LessonStep::Kind;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

/// Three phrases in the chain, written down in another order than they are taught; the third one is the first again.
Study solo() {
  Study s;
  Take take;
  take.id = "take1";
  take.name = "Studio take";
  take.file = "/music/solo.flac";
  take.duration = Seconds(120);
  s.takes.push_back(take);
  Phrase second = test::phrase("b", {test::note(1, 3, 12)}), first = test::phrase("a", {test::note(2, 2, 9)}),
         third = test::phrase("c", {});
  first.number = 1, first.span = {Seconds(20), Seconds(24)}, first.name = "Call";
  second.number = 2, second.span = {Seconds(10), Seconds(14)};
  third.number = 3, third.span = {Seconds(40), Seconds(44)}, third.link = PhraseLink{"a"};
  for (const Phrase& p : {second, first, third}) s.phrases.push_back(p);
  return s;
}

std::vector<std::string> titles(const std::vector<LessonStep>& steps, const Study& s) {
  const auto items = lessonItems(s, "take1");
  std::vector<std::string> all;
  for (const LessonStep& step : steps) all.push_back(stepTitle(step, items));
  return all;
}

TEST(LessonPlan, TeachesPhrasesInTheOrderOfTheChainJoinedAsTheyCome) {
  const Study s = solo();
  EXPECT_THAT(
      titles(lessonSteps(LessonOrder::joined, s, s.takes[0], {}), s),
      ElementsAre("Play it through", "Tune up", "Phrase 1 (Call): hear it", "Phrase 1 (Call): strings and frets",
                  "Phrase 1 (Call): slowly", "Phrase 1 (Call): up to tempo", "Phrase 2: hear it",
                  "Phrase 2: strings and frets", "Phrase 2: slowly", "Phrases 1 to 2 joined", "Phrase 2: up to tempo",
                  // The same as the first, so that it is heard and joined alone.
                  "Phrase 3: hear it", "Phrases 1 to 3 joined", "The whole", "What is left"));
}

TEST(LessonPlan, OtherOrdersTakeTheWholeSectionsOrHardSpots) {
  Study s = solo();
  EXPECT_THAT(titles(lessonSteps(LessonOrder::wholeFirst, s, s.takes[0], {}), s),
              testing::Contains("The whole, slowly"));
  const Form form{{{Seconds(0), Seconds(30)}, "A", "", Origin::set, 1.0},
                  {{Seconds(30), Seconds(120)}, "B", "", Origin::set, 1.0}};
  const auto sections = titles(lessonSteps(LessonOrder::sections, s, s.takes[0], form), s);
  const auto at = [&](const std::string& title) { return std::find(sections.begin(), sections.end(), title); };
  ASSERT_NE(at("Chords of B"), sections.end());
  EXPECT_LT(at("Chords of A"), at("Phrase 1 (Call): hear it"));
  EXPECT_LT(at("Phrase 2: hear it"), at("Chords of B"));
  EXPECT_LT(at("Chords of B"), at("Phrase 3: hear it"));

  s.phrases.change(0).levels.change()[0].hardest = {{Beats(1), Beats(2)}};
  EXPECT_THAT(
      titles(lessonSteps(LessonOrder::hardSpots, s, s.takes[0], {}), s),
      ElementsAre("Tune up", "Phrase 2: the hardest spot", "Phrase 2: up to tempo", "The whole", "What is left"));
}

TEST(LessonPlan, PassagesAreTaughtWhereNothingIsWrittenDown) {
  Study s = solo();
  s.phrases.clear();
  s.passages.push_back({"p1", "take1", "Fill", {Seconds(30), Seconds(34)}, 1.0, Cents(0), ""});
  const auto steps = titles(lessonSteps(LessonOrder::joined, s, s.takes[0], {}), s);
  EXPECT_THAT(steps, testing::Contains("Passage 1 (Fill): slowly"));
  EXPECT_THAT(steps, testing::Not(testing::Contains(HasSubstr("strings and frets")))) << "nothing says them";
  s.passages.clear();
  EXPECT_THAT(titles(lessonSteps(LessonOrder::joined, s, s.takes[0], {}), s),
              ElementsAre("Play it through", "Tune up", "The whole", "What is left"));
}

TEST(LessonPlan, TellsWhatIsLeftPhraseByPhraseAndWhatIsOpen) {
  Study s = solo();
  LessonPlan plan{"take1", lessonSteps(LessonOrder::joined, s, s.takes[0], {})};
  std::set<int> done;
  for (const LessonStep& step : plan.steps)
    if (step.about != "c" && step.kind != Kind::upToTempo && step.kind != Kind::whole) done.insert(step.id);
  s.questions.push_back({"q", "take1", {Seconds(41), Seconds(42)}, "one guitar or two?"});
  EXPECT_THAT(whatIsLeft(plan, s, done), ElementsAre("Phrase 1 (Call): up to tempo", "Phrase 2: up to tempo",
                                                     "Phrase 3", "The whole", "Open at 0:41.0: one guitar or two?"));
  s.questions.change(0).answer = "two";
  for (const LessonStep& step : plan.steps) done.insert(step.id);
  EXPECT_THAT(whatIsLeft(plan, s, done), IsEmpty());
}

TEST(LessonPlan, WhatCameLaterIsInNoStepUntilItIsTakenIn) {
  Study s = solo();
  LessonPlan plan{"take1", lessonSteps(LessonOrder::joined, s, s.takes[0], {})};
  EXPECT_THAT(itemsWithoutStep(plan, s), IsEmpty());
  s.phrases.push_back(test::phrase("d", {test::note(7, 1, 5)}));
  const auto missing = itemsWithoutStep(plan, s);
  ASSERT_EQ(missing.size(), 1U);
  const auto more = stepsFor(plan, s, missing.front());
  plan.steps.insert(plan.steps.end(), more.begin(), more.end());
  EXPECT_THAT(itemsWithoutStep(plan, s), IsEmpty());
  std::set<int> ids;
  for (const LessonStep& step : plan.steps) EXPECT_TRUE(ids.insert(step.id).second);
  // A phrase that goes leaves steps that say so.
  s.phrases.removeIf([](const Phrase& p) { return p.id == "d"; });
  EXPECT_THAT(stepTitle(plan.steps.back(), lessonItems(s, "take1")), HasSubstr("no longer there"));
}

TEST(LessonPlan, PaceIsMeasuredAgainstTheStepInHand) {
  LessonPlan plan{"take1", {}};
  for (int id = 1; id <= 3; ++id) plan.steps.push_back({id, Kind::own, "", "", Seconds(60)});
  EXPECT_EQ(paceOf(plan, 2, Seconds(90)).behind, Seconds(0)) << "within its own minute";
  EXPECT_EQ(paceOf(plan, 2, Seconds(150)).behind, Seconds(30));
  EXPECT_EQ(paceOf(plan, 3, Seconds(100)).behind, Seconds(-20));
  EXPECT_EQ(paceOf(plan, 3, Seconds(100)).planned, Seconds(180));
}

TEST(LessonPlan, IsKeptInTheStudyWithEveryLessonThatWasGiven) {
  Study s = solo();
  LessonPlan plan{"take1", lessonSteps(LessonOrder::wholeFirst, s, s.takes[0], {}), Seconds(1800), "easier"};
  plan.steps[1].words = "capo first";
  plan.steps[2].beginners = plan.steps[3].hand = true;
  s.plans.push_back(plan);
  s.lessons.change().push_back({"2026-03-02T17:00:00", "take1", Seconds(1834), {"Phrase 2: up to tempo"}});
  const auto text = writeStudyText(s, {}, "/music");
  ASSERT_TRUE(text.ok()) << text.problem();
  const auto back = readStudyText(*text, "/music", "again");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study.plans, s.plans);
  EXPECT_EQ(back->study.lessons, s.lessons);
}

TEST(LessonPlan, OnesThatCannotBeAreRefusedAndUndoLeavesLessonsGiven) {
  Document d(solo(), {});
  std::string said;
  d.refused = [&](const std::string& why) { said = why; };
  const auto with = [&](const LessonStep& step) {
    return d.edit("Plan", [&](Study& s) { s.plans.push_back({"take1", {step}}); });
  };
  EXPECT_FALSE(with({0, Kind::own}));
  EXPECT_THAT(said, HasSubstr("one number"));
  EXPECT_FALSE(with({1, Kind::own, "", "", Seconds(-1)}));
  EXPECT_FALSE(with({1, Kind::own, "", "", {}, 0.0}));
  ASSERT_TRUE(with({1, Kind::own}));
  EXPECT_FALSE(with({1, Kind::own})) << "a second plan of the take";
  d.record([](Study& s) { s.lessons.change().push_back({"2026-03-02T17:00:00", "take1", Seconds(60), {}}); });
  d.undo();
  EXPECT_TRUE(d.study().plans.empty());
  EXPECT_EQ(d.study().lessons->size(), 1U) << "what was given was given";
}

/// Whatever is written down: every order has steps with ids of their own that say something, leaves no phrase out, and
/// nothing of it is left when all was done.
TEST(LessonPlan, EveryOrderTeachesAllOfIt) {
  std::mt19937 random(12);
  const auto pick = [&](int from, int to) { return std::uniform_int_distribution(from, to)(random); };
  for (int round = 0; round < 60; ++round) {
    Study s = solo();
    s.phrases = {};
    Form form;
    for (int i = 0; i < pick(0, 5); ++i)
      form.push_back({{Seconds(20.0 * i), Seconds(20.0 * i + 20)},
                      std::string(1, static_cast<char>('A' + pick(0, 3))),
                      "",
                      Origin::set,
                      1.0});
    for (int i = 0, count = pick(1, 9); i < count; ++i) {
      std::vector<Note> notes;
      for (int k = 0; k < pick(0, 6); ++k) notes.push_back(test::anyNote(random, 100 * i + k + 1));
      Phrase p = test::phrase("p" + std::to_string(i), notes);
      const double start = pick(0, 100);
      p.span = {Seconds(start), Seconds(start + pick(1, 9))};
      if (pick(0, 2) > 0) p.number = i + 1;
      if (pick(0, 3) == 0) p.name = "Name " + std::to_string(i);
      s.phrases.push_back(p);
    }
    const auto items = lessonItems(s, "take1");
    ASSERT_EQ(items.size(), s.phrases.size());
    for (int order = 0; order < kLessonOrders; ++order) {
      const auto kind = static_cast<LessonOrder>(order);
      EXPECT_FALSE(lessonOrderName(kind).empty());
      LessonPlan plan{.take = "take1", .steps = lessonSteps(kind, s, s.takes[0], form)};
      ASSERT_FALSE(plan.steps.empty());
      std::set<int> ids;
      Seconds planned(0);
      for (const LessonStep& step : plan.steps) {
        EXPECT_TRUE(step.id > 0 && ids.insert(step.id).second);
        EXPECT_THAT(stepTitle(step, items), testing::Not(HasSubstr("gone")));
        EXPECT_FALSE(stepRow(step, items).empty());
        EXPECT_TRUE(step.speed > 0 && step.speed <= 1.0);
        planned += step.planned;
      }
      EXPECT_FALSE(ids.contains(freshStepId(plan)));
      EXPECT_EQ(paceOf(plan, plan.steps.front().id, Seconds(0)).planned, planned);
      for (const LessonItem& item : itemsWithoutStep(plan, s))
        for (const LessonStep& step : stepsFor(plan, s, item)) plan.steps.push_back(step);
      EXPECT_THAT(itemsWithoutStep(plan, s), IsEmpty()) << "order " << order;
      std::set<int> done;
      for (const LessonStep& step : plan.steps) done.insert(step.id);
      EXPECT_THAT(whatIsLeft(plan, s, done), IsEmpty());
    }
  }
}

}  // namespace
}  // namespace ear
