// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <functional>
#include <optional>
#include <set>
#include <string>
#include <vector>

#include "core/lesson/lesson_plan.h"

namespace ear {

class Workbench;

/// The lesson on the take on the desk: its plan, each change of it one step of undo, and giving it: the step in hand,
/// what is done, the clock, and what a step plays.
class LessonKeeper : public QObject {
  Q_OBJECT
 public:
  explicit LessonKeeper(Workbench& bench);

  // --- the plan ------------------------------------------------------------------------------------------------
  const LessonPlan* plan() const;  ///< null where none is made
  std::vector<LessonItem> items() const;
  /// In place of the plan there is; its target stays.
  void make(LessonOrder order);
  void change(const QString& label, const std::function<void(LessonPlan&)>& change, const std::string& merge = {});
  /// Changes the step in hand.
  void changeStep(const QString& label, const std::function<void(LessonStep&)>& change, const std::string& merge = {});
  /// A step behind the one in hand, which comes to hand.
  void add(LessonStep::Kind kind, const std::string& about = {});
  /// Steps for all that was written down since the plan was made.
  void addMissing();
  void removeStep();
  void moveStep(int by);
  /// @param ids  of all steps, in another order
  void reorder(const std::vector<int>& ids);

  // --- giving it -----------------------------------------------------------------------------------------------
  const LessonStep* step() const;  ///< in hand; null without a plan
  const LessonStep* next() const;  ///< behind it
  std::optional<TimeSpan> spanOf(const LessonStep& step) const;
  /// Puts a step in hand with its passage and speed; what plays is stopped.
  void goTo(int id);
  /// On to the next step, by which this one is done; or back.
  void stepBy(int by);
  bool isDone(int id) const { return done_.contains(id); }
  void setDone(int id, bool done);
  /// What the step says: loops, climbs, joins or sounds the next string. Once more: stops.
  void go();
  bool sounding() const;
  /// The string whose tone was given last while tuning; 0 the lowest.
  std::optional<int> tunedString() const { return string_; }

  /// The lesson comes onto the screen: its step is prepared, and the desk is remembered for end().
  void enter();
  bool begun() const { return begun_.has_value(); }
  Seconds elapsed() const;
  /// What is not done yet.
  std::vector<std::string> left() const;
  /// The lesson given last on this take; null before the first.
  const LessonGiven* last() const;
  /// Ends it, and writes down what is left where any step was done. The desk is as it was before.
  void end();
  /// Counts the time of a lesson, in seconds from anywhere.
  std::function<Seconds()> clock;

 signals:
  void changed();

 private:
  void prepare(const LessonStep& step);
  void stopSound();
  void soundNextString();

  Workbench& bench_;
  int inHand_ = 0;  // id of a step; the first one where it is in no plan
  std::set<int> done_;
  std::optional<Seconds> begun_;
  std::string beganAt_;  // date and time
  std::optional<int> string_;
  struct Desk {
    std::optional<TimeSpan> passage;
    std::string kept;  // id of a kept passage
    double speed = 1.0;
  };
  std::optional<Desk> desk_;  // as it was when the lesson came
};

}  // namespace ear
