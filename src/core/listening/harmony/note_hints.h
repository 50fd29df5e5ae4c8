// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/audio/recording.h"

namespace ear {

/// A pitch that seems to sound.
struct NoteHint {
  int midi = 0;         ///< of the recording's own tuning
  double strength = 0;  ///< 1: the strongest of the moment
};

/// What sounds around a moment, the strongest first, at most six: notes of the approximate transcription (chroma.h)
/// over the last quarter of a second, so that what was just struck is in it.
/// @param offset  of the recording from A 440
std::vector<NoteHint> noteHintsAt(const Recording& recording, Seconds t, Cents offset);

}  // namespace ear
