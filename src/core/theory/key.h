// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <string>
#include <string_view>

#include "core/theory/chord.h"
#include "core/theory/pitch.h"

namespace ear {

enum class Mode { major, minor };

/// A sounding key.
struct Key {
  PitchClass tonic;
  Mode mode = Mode::major;
  constexpr bool operator==(const Key&) const = default;
};

/// The key in which a chord is the tonic.
Key ownKey(const Chord& chord);

/// The name that the key's signature gives its tonic, for people: "E♭", "C♯".
std::string tonicName(const Key& key);

/// Sharps or flats, as the key's signature has them; E♭ minor is spelt with its six flats, F♯ major with its six
/// sharps.
Spelling spellingOf(const Key& key);

/// "C♯ minor".
std::string keyName(const Key& key);
/// The same with a spelling of one's own.
std::string keyName(const Key& key, Spelling spelling);

/// The same mode so many semitones higher: shape key to sounding key.
inline Key transposed(const Key& key, int semitones) {
  return {PitchClass(key.tonic.value + semitones), key.mode};
}

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
