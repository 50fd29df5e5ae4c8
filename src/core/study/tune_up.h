// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/study/study.h"
#include "core/theory/fretboard.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// What one string is to be tuned to, before the capo goes on.
struct StringTarget {
  int string = 0;  ///< 0 = lowest sounding
  int midi = 0;    ///< its name at the recording's pitch
  Hertz pitch;
  Cents fromStandard;    ///< from the string's standard pitch at A 440
  double tension = 1.0;  ///< against standard: T grows with the square of the frequency
  bool strained() const { return tension > 1.2; }
};

/// Flats where all strings are shifted down alike, else sharps, as tunings are named; with the studio's letters.
Spelling spellingOf(const Tuning& tuning, const NotationPreferences& schools = {});

/// All strings, from the lowest; `offset` is the recording's from A 440.
std::vector<StringTarget> tuneUp(const GuitarSetup& setup, Cents offset);

/// What to do to the guitar before playing along, in sentences.
std::string tuningAdvice(const GuitarSetup& setup, Cents offset);

/// What strains or is slack, and what else could be done; a sentence for each matter, empty when all is well.
std::vector<std::string> tensionCautions(const GuitarSetup& setup, Cents offset);

/// A way to move the playback to the guitar instead of the guitar to the recording.
struct PlaybackShift {
  std::string name;
  std::string effect;  ///< what the guitar then needs
  Cents shift;
};
std::vector<PlaybackShift> playbackShifts(const GuitarSetup& setup, Cents offset);

/// The guitar that fits the playback as it is shifted now: its strings are moved with it, or its capo is off where the
/// shift makes up for that.
struct FittingGuitar {
  GuitarSetup setup;
  Cents offset;  ///< from A 440, in [-50, 50]
};
FittingGuitar fitting(const GuitarSetup& setup, Cents offset, Cents shift);

}  // namespace ear
