// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/notation_preferences.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>

namespace ear {
namespace {

/// Open strings as they are in standard tuning.
std::vector<int> standardOf(const Tuning& tuning) {
  const auto shifts = shiftsFromStandard(tuning);
  std::vector<int> standard = tuning.strings;
  for (std::size_t s = 0; s < shifts.size(); ++s) standard[s] -= shifts[s];
  return standard;
}

/// A letter, told apart from the same letter on another string.
std::string letterOf(const Guitar& guitar, int string, const std::vector<int>& pitches, Spelling spelling) {
  const auto name = [&](int s) { return PitchClass(pitches[static_cast<std::size_t>(s)]); };
  std::string letter = pitchClassName(name(string), spelling);
  int before = 0, after = 0;
  for (int s = 0; s < guitar.strings(); ++s)
    if (s != string && name(s) == name(string)) ++(s < string ? before : after);
  if (before + after == 0) return letter;
  return (before == 0 ? "low " : after == 0 ? "high " : "middle ") + letter;
}

std::string quarters(int count, const char* unit) {
  // Counts of a unit in quarters: "a quarter", "half a", "1 1/2".
  static constexpr std::array<const char*, 4> kParts = {"", "1/4", "1/2", "3/4"};
  const int whole = count / 4, rest = count % 4;
  std::string number = whole > 0 ? std::to_string(whole) : "";
  if (rest > 0) number += (number.empty() ? "" : " ") + std::string(kParts[static_cast<std::size_t>(rest)]);
  return number + " " + unit;
}

}  // namespace

Spelling spellingIn(const NotationPreferences& schools, const std::optional<Key>& key) {
  const Spelling signs = schools.signs == NotationPreferences::Signs::sharps  ? Spelling::sharps
                         : schools.signs == NotationPreferences::Signs::flats ? Spelling::flats
                         : key                                                ? spellingOf(*key)
                                                                              : Spelling::sharps;
  return schools.letters == NotationPreferences::Letters::german ? germanOf(signs) : signs;
}

std::string stringName(const NotationPreferences& schools, const Guitar& guitar, int string, Spelling spelling) {
  switch (schools.strings) {
    case NotationPreferences::Strings::numberFromHigh:
      return std::to_string(guitar.strings() - string);
    case NotationPreferences::Strings::numberFromLow:
      return std::to_string(string + 1);
    case NotationPreferences::Strings::letter:
      return letterOf(guitar, string, guitar.tuning.strings, spelling);
    case NotationPreferences::Strings::standardLetter:
      return letterOf(guitar, string, standardOf(guitar.tuning), spelling);
    case NotationPreferences::Strings::pitch:
      return noteName(guitar.open(string), spelling);
  }
  return {};
}

std::string stringMark(const NotationPreferences& schools, const Guitar& guitar, int string, Spelling spelling) {
  const bool tuned = schools.strings == NotationPreferences::Strings::letter;
  if (!tuned && schools.strings != NotationPreferences::Strings::standardLetter)
    return stringName(schools, guitar, string, spelling);
  const auto pitches = tuned ? guitar.tuning.strings : standardOf(guitar.tuning);
  const PitchClass pc(pitches[static_cast<std::size_t>(string)]);
  std::string letter = pitchClassName(pc, spelling);
  for (std::size_t s = 0; s < static_cast<std::size_t>(string); ++s)
    if (PitchClass(pitches[s]) == pc) letter[0] = static_cast<char>(letter[0] | 0x20);  // a small letter
  return letter;
}

std::string placeName(const NotationPreferences& schools, const Guitar& guitar, FretPosition place, bool fromNut,
                      Spelling spelling) {
  const std::string string = "string " + stringName(schools, guitar, place.string, spelling);
  const std::string fret = place.fret == 0 ? "open" : std::to_string(fromNut ? guitar.fromNut(place) : place.fret);
  if (schools.places == NotationPreferences::Places::stringFirst)
    return string + ", " + (place.fret == 0 ? fret : "fret " + fret);
  return place.fret == 0 ? "open " + string : "fret " + fret + " on " + string;
}

std::string bendName(const NotationPreferences& schools, Cents size) {
  const int quarterTones = static_cast<int>(std::lround(std::abs(size.value) / 50.0));
  if (quarterTones == 0) return "no bend";
  switch (schools.bends) {
    case NotationPreferences::Bends::steps:
      if (quarterTones == 1) return "quarter step";
      if (quarterTones == 2) return "half step";
      if (quarterTones == 4) return "whole step";
      return quarters(quarterTones, "steps");
    case NotationPreferences::Bends::tones:
      if (quarterTones == 1) return "quarter tone";
      if (quarterTones == 2) return "semitone";
      if (quarterTones == 4) return "tone";
      return quarters(quarterTones, "tones");
    case NotationPreferences::Bends::halfAndFull:
      if (quarterTones == 1) return "quarter";
      if (quarterTones == 2) return "half";
      if (quarterTones == 4) return "full";
      return quarters(quarterTones, "full");
    case NotationPreferences::Bends::frets:
      if (quarterTones == 2) return "1 fret";
      return quarters(2 * quarterTones, "frets");
  }
  return {};
}

std::string countName(const NotationPreferences& schools, int beat, int part, int of) {
  std::string number = std::to_string(beat);
  if (part == 0) return number;
  switch (schools.counting) {
    case NotationPreferences::Counting::syllables:
      if (of == 4) return number + " " + std::array{"", "e", "and", "a"}[static_cast<std::size_t>(part)];
      if (of == 2) return number + " and";
      break;
    case NotationPreferences::Counting::ands:
      if (of == 2 || (of == 4 && part == 2)) return number + " and";
      break;
    case NotationPreferences::Counting::triplets:
      if (of == 3) return number + " " + std::array{"", "trip", "let"}[static_cast<std::size_t>(part)];
      if (of == 2) return number + " and";
      break;
    case NotationPreferences::Counting::fraction:
      break;
  }
  return number + " + " + std::to_string(part) + "/" + std::to_string(of);
}

}  // namespace ear
