// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <optional>
#include <vector>

#include "core/audio/recording.h"
#include "core/base/progress.h"
#include "core/playback/click.h"
#include "core/playback/written_line.h"
#include "core/settings/playback_settings.h"

namespace ear {

/// A passage as a student takes it home: at one speed after the other, each time counted in.
struct PracticeAudio {
  TimeSpan span;
  std::vector<double> speeds{0.6, 1.0};
  int times = 2;                               ///< at each speed
  int clicks = 4;                              ///< of a count before each time; 0: half a second of silence
  Seconds beat{0.5};                           ///< of the recording
  PlaybackSettings settings{};                 ///< pitch and isolation; the speed is not read
  std::vector<WrittenLine::Strike> written{};  ///< sounds along; empty: nothing does
  bool inOneEar = false;                       ///< the recording left, what is written right
  bool recordingSounds = true;                 ///< else what is written sounds alone
  std::vector<Click::Tick> ticks{};            ///< a click sounds along, by frame of the recording
};

/// Plays it through the same player as the desk does, faster than it sounds. Where it would pass full scale all
/// of it is made softer.
/// @param recording  must be shared, as players have it
/// @param done, share  of all that the progress is reported of: what was done before, and what this is
/// @return empty where it was cancelled
std::optional<Recording> renderPractice(const std::shared_ptr<const Recording>& recording, const PracticeAudio& wanted,
                                        const Progress& progress, double done = 0.0, double share = 1.0);

}  // namespace ear
