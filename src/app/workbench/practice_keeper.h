// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <optional>
#include <vector>

#include "core/practice/plan.h"
#include "core/study/study.h"

namespace ear {

class Workbench;

/// Ways of repeating the passage, or several: a ladder of speeds, a chain of phrases, call and answer. What was reached
/// goes into the study's log when one ends.
class PracticeKeeper : public QObject {
  Q_OBJECT
 public:
  using Kind = PracticeEntry::Kind;
  explicit PracticeKeeper(Workbench& bench);

  struct Settings {
    LadderPlan ladder{};
    int times = 2;           ///< each link of a chain is played
    double breathBeats = 1;  ///< silence behind each time
    bool countBar = true;    ///< and a bar of clicks
  };
  const Settings& settings() const { return settings_; }
  /// Kept for the next start. What runs goes on as it was begun.
  void setSettings(const Settings& settings);

  /// Each ends what runs, and starts to play. They say so when there is nothing to play.
  void startLadder();
  /// @param phrases   in the order of playing
  /// @param lastLink  all of them joined, without the links that lead there
  void startChain(std::vector<TimeSpan> phrases, bool lastLink = false);
  void startAnswer();
  void stop();
  bool running() const { return kind_.has_value(); }
  std::optional<Kind> kind() const { return kind_; }

  /// The player says that this repetition was clean: a ladder by key counts it.
  void clean();

  /// Where it is.
  struct State {
    int step = 0, steps = 0;   ///< rung of the ladder or link of the chain, from 1
    int done = 0, wanted = 0;  ///< repetitions on it; 0 wanted: as many as one likes
    QString name;              ///< "65 %" or "1+2"
    bool resting = false;
  };
  State state() const;

 signals:
  void changed();

 private:
  Breath breathAfter(Seconds end) const;
  void start(Kind kind, std::vector<Segment> turns, TimeSpan span);
  void follow();
  void watch();

  Workbench& bench_;
  Settings settings_;
  std::optional<Kind> kind_;
  std::vector<Segment> turns_;
  Chain chain_;
  TimeSpan span_;
  Settings begun_;  // what runs was begun with
  int clean_ = 0, cleanAll_ = 0;
  std::size_t turn_ = 0, furthest_ = 0;
  std::uint32_t played_ = 0;
  bool resting_ = false, setting_ = false;
};

}  // namespace ear
