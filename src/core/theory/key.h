#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

namespace ear {

enum class Mode { major, minor };

/// A pitch class, 0 = C ... 11 = B.
struct PitchClass {
  int value = 0;
  constexpr PitchClass() = default;
  /// Any count of semitones above C; folded into 0 ... 11.
  constexpr explicit PitchClass(int semitones) : value(((semitones % 12) + 12) % 12) {}
  constexpr bool operator==(const PitchClass&) const = default;
};

/// A sounding key.
struct Key {
  PitchClass tonic;
  Mode mode = Mode::major;
  constexpr bool operator==(const Key&) const = default;
};

/// Sharp name with '#': "C#". The form of files and of the command line.
std::string sharpName(PitchClass pc);

/// The name that the key's signature gives its tonic, for people: "E♭", "C♯".
std::string tonicName(const Key& key);

/// "C♯ minor".
std::string keyName(const Key& key);

/// Reads "C# minor", "Eb", "c#m", "F♯ major", "bb minor"; empty when it is no key.
std::optional<Key> parseKey(std::string_view text);

std::string_view modeName(Mode mode);

/// How well each degree above the tonic fits a key: 12 weights, tonic first.
using KeyProfile = std::array<double, 12>;

/// Probe-tone ratings: Krumhansl & Kessler 1982, as printed in Krumhansl 1990, table 2.1.
const KeyProfile& krumhanslKessler(Mode mode);
/// Temperley 1999, "What's Key for Key?", Music Perception 17(1), the revised profiles.
const KeyProfile& temperley(Mode mode);
/// Albrecht & Shanahan 2013, Music Perception 31(1), fig. 3: shares of the degrees in a corpus.
const KeyProfile& albrechtShanahan(Mode mode);

}  // namespace ear
