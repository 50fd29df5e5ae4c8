// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include "core/base/units.h"

namespace ear {

inline constexpr Hertz kConcertA4{440.0};  ///< ISO 16:1975

/// Frequency of a pitch in equal temperament.
/// @param a4  of the reference, 440 Hz at concert pitch
Hertz frequencyOf(MidiPitch pitch, Hertz a4 = kConcertA4);

/// The pitch of a frequency; not of 0.
MidiPitch pitchOf(Hertz frequency, Hertz a4 = kConcertA4);

/// A4 of a reference that lies so many cents from 440 Hz.
Hertz a4At(Cents offset);

/// Cents folded into (-50, 50].
Cents foldToSemitone(Cents cents);

/// A pitch class, 0 = C ... 11 = B.
struct PitchClass {
  int value = 0;
  constexpr PitchClass() = default;
  /// Any count of semitones above C; folded into 0 ... 11.
  constexpr explicit PitchClass(int semitones) : value(((semitones % 12) + 12) % 12) {}
  constexpr bool operator==(const PitchClass&) const = default;
};

/// How names are written: with sharps or flats, and with B or, as in German-speaking lessons, H for the note under C (B
/// then is B flat).
enum class Spelling { sharps, flats, germanSharps, germanFlats };

/// The same signs with H and B.
constexpr Spelling germanOf(Spelling s) {
  return s == Spelling::sharps ? Spelling::germanSharps : s == Spelling::flats ? Spelling::germanFlats : s;
}

/// Sharp name with '#': "C#". The form of files and of the command line.
std::string sharpName(PitchClass pc);

/// Name for people: "E♭", "D♯".
std::string pitchClassName(PitchClass pc, Spelling spelling);

/// Reads a letter and any signs (#, b, ♯, ♭) off the front of a text: "F#m7" gives F sharp and leaves "m7".
std::optional<PitchClass> takePitchClass(std::string_view& text);

/// The whole text as a pitch class: "F#", "e♭".
std::optional<PitchClass> parsePitchClass(std::string_view text);

/// "E♭2"; C4 is middle C, MIDI 60.
std::string noteName(int midi, Spelling spelling);

/// Reads "Eb2", "F♯4", "B#3" (which counts in the octave of its letter: C4); octaves -1 to 9.
std::optional<int> parsePitch(std::string_view text);

/// Standard tuning from the lowest to the highest sounding string: E2 A2 D3 G3 B3 E4.
inline constexpr std::array<int, 6> kStandardTuning = {40, 45, 50, 55, 59, 64};

}  // namespace ear
