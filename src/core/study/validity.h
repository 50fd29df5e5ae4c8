// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

#include "core/study/study.h"

namespace ear {

/// What a study may hold. One set of limits for edits, for the writer and for the reader: what passes here is written,
/// and what was written is read back.
struct StudyLimits {
  static constexpr Seconds kLongestTime{1e6};
  static constexpr Bpm kSlowest{5}, kFastest{1000};  ///< of a tempo
  static constexpr int kMostBeats = 32;              ///< in a bar
  static constexpr std::size_t kLongestGrid = 500'000;
  static constexpr double kLeastSwing = 0.2, kMostSwing = 5;
  static constexpr double kLeastSpeed = 0.05, kMostSpeed = 4;
  static constexpr Cents kMostShift{2400};
  static constexpr int kFewestFrets = 12, kMostFrets = 36, kMostStrings = 8;
  static constexpr int kMostNotes = 20'000;  ///< of one way to play a phrase
  static constexpr int kMostLevels = 20, kMostReadings = 20;
  static constexpr int kMostVoices = 2;
  static constexpr std::size_t kMostLessonSteps = 500;
  static constexpr Cents kMostBend{2400};
  static constexpr int kMostCount = 1'000'000'000;  ///< of guesses and repetitions
  static constexpr std::size_t kLongestName = 400, kLongestSentence = 4'000, kLongestText = 200'000;  ///< bytes
};

/// Brings a study into the form it is kept in: text is UTF-8 and of sane length, paths are plain, isolation lies
/// within its limits. Doing it twice changes nothing more.
/// @param known  a study in that form: what is shared with it is not looked at. May be null
void tidy(Study& study, const Study* known = nullptr);

/// Why a study cannot be kept, as the end of a sentence ("the tempo would be 1664 beats a minute; 5 to 1000 can be
/// kept"); nothing where it can. @pre it is tidy
/// @param known  a study without fault: what is shared with it is not looked at. May be null
std::optional<std::string> faultOf(const Study& study, const Study* known = nullptr);

}  // namespace ear
