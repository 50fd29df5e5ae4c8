// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/theory/pitch.h"

namespace ear {

/// A kind of chord: what stands above its root.
struct ChordType {
  std::string_view symbol;     ///< after the root in a name for people: "m7"
  std::string_view harte;      ///< after the colon in Harte's syntax (Harte et al. 2005): "min7"
  std::span<const int> tones;  ///< semitones above the root, rising from 0; ninths and beyond above 12
  double oddity = 0.0;         ///< 0 for a plain triad, more the rarer: decides between names of the same notes
};

/// All kinds that are known, plain ones first.
std::span<const ChordType> chordTypes();

/// The kind with a symbol such as "", "m", "maj7"; or null.
const ChordType* chordType(std::string_view symbol);

/// A chord by name; `type` is one of chordTypes().
struct Chord {
  PitchClass root;
  const ChordType* type = nullptr;
  std::optional<PitchClass> bass;  ///< when it is not the root

  bool minor() const;  ///< has a minor and no major third
  bool operator==(const Chord&) const = default;
};

/// "F♯m7", "D/F♯".
std::string chordName(const Chord& chord, Spelling spelling);

/// "F#:min7", "D:maj/3": the bass as a degree.
std::string harteLabel(const Chord& chord);

/// Reads names as players type them: "F#m7", "Bbmaj7", "D/F#", "Asus4", "C7#9", "E-7", "Gadd9", "Bm7b5", "N.C." is
/// none.
/// @return empty when it is no chord
std::optional<Chord> parseChord(std::string_view text);

/// Pitch classes from the root up, without repeats; a bass outside of the chord comes first.
std::vector<PitchClass> notesOf(const Chord& chord);

/// The same chord so many semitones higher: shape chord to sounding chord for a capo, and back with a negative number.
Chord transposed(const Chord& chord, int semitones);

}  // namespace ear
