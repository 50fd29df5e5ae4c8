// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/base/units.h"

namespace ear {

/// One thing that is done in a lesson.
struct LessonStep {
  enum class Kind {
    playThrough,  ///< the recording, or the teacher plays all of it
    tuning,
    chords,     ///< of a section
    hear,       ///< a phrase, in tempo
    numbers,    ///< its strings and frets
    slow,       ///< again, slowly
    hardest,    ///< its hardest spot alone
    chain,      ///< all phrases up to this one, joined
    upToTempo,  ///< from slow to fast
    whole,
    left,  ///< what is left for another time
    own,   ///< in the teacher's own words
  };
  int id = 0;  ///< within its plan, > 0
  Kind kind = Kind::own;
  std::string about{};     ///< id of a phrase or a kept passage; letter of a section; empty: the take
  std::string words{};     ///< what the teacher wants to say or do; may be empty
  Seconds planned{};       ///< how long it should take; 0: it is open
  double speed = 1.0;      ///< at which it is played
  bool beginners = false;  ///< they jump to here
  bool hand = false;       ///< the picture goes close to the hand
  bool operator==(const LessonStep&) const = default;
};

/// The order of a lesson on one take.
struct LessonPlan {
  std::string take;  ///< id
  std::vector<LessonStep> steps;
  Seconds target{45.0 * 60.0};
  std::string level{};  ///< name of the level that is taught where a phrase has it; empty: the fullest
  bool operator==(const LessonPlan&) const = default;
};

/// A lesson that was given.
struct LessonGiven {
  std::string when;  ///< local date and time at which it began, ISO 8601
  std::string take;  ///< id
  Seconds lasted{};
  std::vector<std::string> left{};  ///< in words, for the next one
  bool operator==(const LessonGiven&) const = default;
};

}  // namespace ear
