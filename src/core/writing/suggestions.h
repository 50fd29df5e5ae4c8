// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/listening/melody/gestures.h"
#include "core/phrase/placing.h"
#include "core/study/phrase_time.h"

namespace ear {

struct SuggestionContext {
  Guitar guitar{};  ///< with the recording's offset from A 440
  PlacingWishes wishes{};
  int firstId = 1;  ///< of the notes; those behind it count on
};

/// A note as it would be written, and what became of it on the way.
struct Suggestion {
  Note note;      ///< measured, with the certainty of the hearing
  Seconds moved;  ///< from where it was heard to where it is written to sound
};

/// What was heard, as it would be written: starts on the raster, lengths up to the next note where they nearly reach
/// it, the easiest place on the neck, bends, vibrato and slides as measured. Notes that no string has are left out.
/// Where no beat is known, notes are timed in seconds and nothing moves.
///
/// Nothing heard is lost otherwise: as many notes as were heard, but for those.
std::vector<Suggestion> suggestionsFor(std::span<const PlayedNote> heard, const PhraseTime& time,
                                       const SuggestionContext& context);

}  // namespace ear
