// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>

#include "core/base/units.h"
#include "core/theory/fretboard.h"
#include "core/theory/key.h"

namespace ear {

/// How a studio names things where practitioners disagree; the first choice of each is the default. What is stored and
/// computed never depends on it.
struct NotationPreferences {
  enum class Strings { numberFromHigh, numberFromLow, letter, standardLetter, pitch };
  enum class Letters { english, german };
  enum class Signs { byKey, sharps, flats };
  enum class KeyLead { sound, shapes };
  enum class NeckMap { boxes, positions, shapes };
  enum class Bends { steps, tones, halfAndFull, frets };
  enum class Counting { syllables, ands, triplets, fraction };
  enum class Places { fretFirst, stringFirst };

  Strings strings = Strings::numberFromHigh;
  Letters letters = Letters::english;
  Signs signs = Signs::byKey;
  KeyLead keyLead = KeyLead::sound;
  NeckMap neckMap = NeckMap::boxes;
  Bends bends = Bends::steps;
  Counting counting = Counting::syllables;
  Places places = Places::fretFirst;
  bool operator==(const NotationPreferences&) const = default;
};

/// Sharps or flats and B or H, for names in a key. @param key  empty: none is known, sharps are taken
Spelling spellingIn(const NotationPreferences& schools, const std::optional<Key>& key);

/// What a string is called: "1", "high E", "D4". The letters of two strings with one name are told apart by "low" and
/// "high" (sounding).
/// @param string  0 = lowest sounding
std::string stringName(const NotationPreferences& schools, const Guitar& guitar, int string, Spelling spelling);

/// The same in a letter or two, for the edge of a neck: of two strings with one letter the high one is small, "E" and
/// "e".
std::string stringMark(const NotationPreferences& schools, const Guitar& guitar, int string, Spelling spelling);

/// "fret 12 on string 3" or "string 3, fret 12".
/// @param fromNut  count frets from the nut where a capo is on
std::string placeName(const NotationPreferences& schools, const Guitar& guitar, FretPosition place, bool fromNut,
                      Spelling spelling);

/// Size of a bend: "half step", "tone and a half", "full", "3 frets". Rounded to a quarter of a tone.
std::string bendName(const NotationPreferences& schools, Cents size);

/// A place in a bar as it is counted aloud: "2 e", "3 and", "4 trip", "2 + 1/4".
/// @param beat   1 ...
/// @param part   0 ... of - 1
/// @param of     equal parts of the beat, 1 to 4
std::string countName(const NotationPreferences& schools, int beat, int part, int of);

}  // namespace ear
