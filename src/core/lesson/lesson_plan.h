// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <set>
#include <span>
#include <string>
#include <vector>

#include "core/study/study.h"

namespace ear {

/// Orders in which songs are taught.
enum class LessonOrder {
  joined,      ///< phrase by phrase, each joined to those before it
  wholeFirst,  ///< all of it slowly, then what does not work yet
  sections,    ///< section by section: its chords, then what is written in it
  hardSpots,   ///< the hardest spots alone, for who knows the song
};
inline constexpr int kLessonOrders = 4;

/// "Phrase by phrase, joined".
std::string lessonOrderName(LessonOrder order);

/// What a lesson goes through, in its order: the phrases of a take by their numbers in the chain, those without one
/// behind them by time; its kept passages where nothing is written down.
struct LessonItem {
  std::string id;
  int number = 0;  ///< as on the sheet, 1 ...; 0 where others are in the chain and this one is not
  std::string name;
  TimeSpan span;
  bool written = false;  ///< a phrase, not a passage
};
std::vector<LessonItem> lessonItems(const Study& study, const std::string& take);

/// Steps in one of the orders, each with the time it usually takes (common practice, no source; to be changed).
/// @param form  of the take; may be empty
std::vector<LessonStep> lessonSteps(LessonOrder order, const Study& study, const Take& take, const Form& form);

/// Steps for a phrase or a passage that came later, to stand behind `plan.steps`.
std::vector<LessonStep> stepsFor(const LessonPlan& plan, const Study& study, const LessonItem& item);

/// What is written down and in no step of the plan.
std::vector<LessonItem> itemsWithoutStep(const LessonPlan& plan, const Study& study);

/// An id that no step of the plan has.
int freshStepId(const LessonPlan& plan);

/// "Phrase 2 (Climb): slowly"; a step about a phrase that is gone says so.
std::string stepTitle(const LessonStep& step, std::span<const LessonItem> items);

/// The same for a list in which the words have little room: "2  slowly (Climb)".
std::string stepRow(const LessonStep& step, std::span<const LessonItem> items);

/// The items that a step joins: all up to the one it is about.
std::vector<LessonItem> chainedBy(const LessonStep& step, std::span<const LessonItem> items);

/// What of a lesson is left: its steps that were not done, those of one phrase in a line, and the take's open
/// questions.
std::vector<std::string> whatIsLeft(const LessonPlan& plan, const Study& study, const std::set<int>& done);

/// How a lesson goes against its plan.
struct LessonPace {
  Seconds planned;  ///< for all steps
  Seconds behind;   ///< > 0: the step in hand should have ended so long ago; < 0: it should begin only then
};
/// @param step  id of the one in hand; @param elapsed  since the lesson began
LessonPace paceOf(const LessonPlan& plan, int step, Seconds elapsed);

}  // namespace ear
