// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/settings/sequence.h"

namespace ear {

/// What lies between two times of playing, in time of the recording.
struct Breath {
  Seconds silence{};
  int clicks = 0;  ///< that end it; a bar of them is a count
  Seconds each{};
};

/// From slow to fast in steps.
struct LadderPlan {
  double from = 0.5, to = 1.0;  ///< speeds
  double step = 0.05;
  int clean = 4;       ///< repetitions on each step
  bool byKey = false;  ///< counted when the player says that it was clean, else each time
};

/// The speeds of a ladder; the last one is where it leads to, also when the steps do not meet it. One speed when there
/// is nowhere to go; downwards where `to` lies below.
std::vector<double> rungsOf(const LadderPlan& plan);

/// One turn for each rung. The last one goes on, and by key each one does.
std::vector<Segment> ladder(TimeSpan passage, const LadderPlan& plan, const Breath& breath);

/// Phrases put together one by one, as a solo is taught: 1, 2, 1+2, 3, 1+2+3 ...
struct Chain {
  std::vector<Segment> turns;
  std::vector<std::size_t> linkOf;  ///< for each turn
  std::vector<std::string> links;   ///< "1", "2", "1+2" ...
};

/// @param phrases  in the order of playing; those that meet are played in one piece, others without a gap
/// @param times    how often each link is played
Chain chain(std::span<const TimeSpan> phrases, int times, const Breath& breath);

/// The passage, then silence of the same length for the player, and the breath.
std::vector<Segment> callAndAnswer(TimeSpan passage, const Breath& breath);

}  // namespace ear
