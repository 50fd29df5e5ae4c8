// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/base/progress.h"
#include "core/listening/frontend/pitch_map.h"

namespace ear {

/// Two takes of one phrase, column by column of the pitch map, the second laid on the time of the first.
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
/// @param offset  of the recording from A 440
RepeatDifference compareRepeats(const Recording& recording, TimeSpan first, TimeSpan second, Cents offset,
                                const Progress& progress);

}  // namespace ear
