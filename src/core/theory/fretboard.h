// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/base/units.h"
#include "core/theory/chord.h"
#include "core/theory/scale.h"
#include "core/theory/tuning.h"

namespace ear {

/// Where a note is played. String 0 is the lowest string; frets count from the capo on strings under it, from the nut
/// elsewhere, so that 0 is always the string as it sounds unstopped.
struct FretPosition {
  int string = 0;
  int fret = 0;
  auto operator<=>(const FretPosition&) const = default;  // NOLINT(modernize-use-nullptr): its literal 0
};

/// A guitar as it sounds: what its strings are tuned to, its capo, and how far all of it lies from concert pitch.
struct Guitar {
  Tuning tuning = standardTuning();
  Capo capo{};
  Cents offset{};  ///< of the recording from A 440
  int frets = 22;  ///< on the neck, from the nut

  int open(int string) const;      ///< MIDI, with the capo
  int lastFret(int string) const;  ///< counted as in FretPosition
  int pitch(FretPosition place) const { return open(place.string) + place.fret; }
  Hertz frequency(FretPosition place) const;
  int strings() const { return static_cast<int>(tuning.count()); }
  /// The fret's number from the nut.
  int fromNut(FretPosition place) const {
    return place.fret + (capo.covers(static_cast<std::size_t>(place.string)) ? capo.fret : 0);
  }
  bool operator==(const Guitar&) const = default;
};

/// Every place of a pitch, from the lowest string to the highest.
std::vector<FretPosition> placesOf(const Guitar& guitar, int midi);

/// A stretch of the neck under one position of the hand.
struct NeckRegion {
  std::string label;    ///< "box 1", "E shape"
  int number = 0;       ///< 1 ...
  int firstFinger = 0;  ///< fret of the first finger, from the capo
  std::vector<FretPosition> places;
};

/// The boxes of a scale: box n holds what lies under the hand when its first finger is at, or one fret below, the n-th
/// note of the scale on the lowest string. Five for pentatonics and the blues scale (whose flat fifth starts none), as
/// many as it has notes otherwise.
std::vector<NeckRegion> boxesOf(const Guitar& guitar, const Scale& scale);

/// What lies under the hand in a position: its first finger at a fret, one fret of reach either side of four.
NeckRegion positionAt(const Guitar& guitar, const Scale& scale, int firstFinger);

/// Places of a chord's tones under each of the five open-chord shapes moved to its root (in tunings with standard
/// intervals), or by the string that carries the root (in others).
std::vector<NeckRegion> shapesOf(const Guitar& guitar, const Chord& chord);

/// Every place of these chords under one of their shapes, and an octave up. @param label  as shapesOf() names it
std::vector<FretPosition> placesInShape(const Guitar& guitar, std::span<const Chord> chords, std::string_view label);

/// Notes of frets written from the lowest string to the highest, as "x32010" or "x 0 2 2 2 0" or "10 x 9 9 x x".
/// @return a place for each sounding string; empty when it cannot be read or has another count of strings
std::optional<std::vector<FretPosition>> parseFrets(std::string_view text, int strings = 6);

/// MIDI pitches of places, in their order.
std::vector<int> pitchesOf(const Guitar& guitar, std::span<const FretPosition> places);

}  // namespace ear
