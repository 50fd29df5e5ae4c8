// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/audio/recording.h"
#include "core/base/progress.h"
#include "core/listening/frontend/pitch_map.h"

namespace ear {

/// A stretch of a recording that is laid beside another one.
struct RepeatSide {
  const Recording& recording;
  TimeSpan span;
  Cents offset;  ///< of the recording from A 440
};

/// Two times of one phrase, column by column of the pitch map, the second laid on the time of the first.
struct RepeatDifference {
  std::size_t columns = 0;
  std::vector<float> first, second;            ///< columns x PitchMap::kRows
  std::vector<Seconds> firstTime, secondTime;  ///< of each column, in the recording
  std::vector<float> difference;               ///< 0 the same notes ... 1 none in common
  std::vector<TimeSpan> differs;               ///< in the first one's time, where it stays over kDiffers
  static constexpr float kDiffers = 0.42F;
};

/// Aligned by dynamic time warping on the notes and their attacks (Sakoe & Chiba 1978, within a band of a tenth), so
/// that a phrase that is played a little early is not a difference.
/// The two may lie in different recordings.
RepeatDifference compareRepeats(const RepeatSide& first, const RepeatSide& second, const Progress& progress);

}  // namespace ear
