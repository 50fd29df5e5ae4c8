// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/key.h"

#include <cctype>

namespace ear {
namespace {

// The spelling with the fewer signs in the key signature; six sharps before six flats, as guitarists do.
constexpr std::array<const char*, 12> kMajor = {"C", "D♭", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B"};
constexpr std::array<const char*, 12> kMinor = {"C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "G♯", "A", "B♭", "B"};

std::string lower(std::string_view text) {
  std::string out(text);
  for (char& c : out) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return out;
}

}  // namespace

Spelling spellingOf(const Key& key) {
  const int relativeMajor = key.tonic.value + (key.mode == Mode::minor ? 3 : 0);
  const int fifths = 7 * relativeMajor % 12;  // sharps of the signature; beyond 6 it is written with 12 - fifths flats
  return fifths > 6 || (fifths == 6 && key.mode == Mode::minor) ? Spelling::flats : Spelling::sharps;
}

Key ownKey(const Chord& chord) {
  return {chord.root, chord.minor() ? Mode::minor : Mode::major};
}

std::string tonicName(const Key& key) {
  return (key.mode == Mode::major ? kMajor : kMinor)[static_cast<std::size_t>(key.tonic.value)];
}

std::string_view modeName(Mode mode) {
  return mode == Mode::major ? "major" : "minor";
}

std::string keyName(const Key& key) {
  return tonicName(key) + " " + std::string(modeName(key.mode));
}

std::string keyName(const Key& key, Spelling spelling) {
  return pitchClassName(key.tonic, spelling) + " " + std::string(modeName(key.mode));
}

std::optional<Key> parseKey(std::string_view text) {
  const auto trim = [&] {
    while (text.starts_with(' ')) text.remove_prefix(1);
    while (text.ends_with(' ')) text.remove_suffix(1);
  };
  trim();
  const auto tonic = takePitchClass(text);
  if (!tonic) return std::nullopt;
  trim();
  if (text == "m") return Key{*tonic, Mode::minor};
  if (text == "M") return Key{*tonic, Mode::major};
  const std::string mode = lower(text);
  if (mode == "minor" || mode == "min") return Key{*tonic, Mode::minor};
  if (mode.empty() || mode == "major" || mode == "maj") return Key{*tonic, Mode::major};
  return std::nullopt;
}

const KeyProfile& krumhanslKessler(Mode mode) {
  static constexpr KeyProfile kMajorProfile = {6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88};
  static constexpr KeyProfile kMinorProfile = {6.33, 2.68, 3.52, 5.38, 2.60, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17};
  return mode == Mode::major ? kMajorProfile : kMinorProfile;
}

const KeyProfile& temperley(Mode mode) {
  static constexpr KeyProfile kMajorProfile = {5.0, 2.0, 3.5, 2.0, 4.5, 4.0, 2.0, 4.5, 2.0, 3.5, 1.5, 4.0};
  static constexpr KeyProfile kMinorProfile = {5.0, 2.0, 3.5, 4.5, 2.0, 4.0, 2.0, 4.5, 3.5, 2.0, 1.5, 4.0};
  return mode == Mode::major ? kMajorProfile : kMinorProfile;
}

const KeyProfile& albrechtShanahan(Mode mode) {
  static constexpr KeyProfile kMajorProfile = {0.238, 0.006, 0.111, 0.006, 0.137, 0.094,
                                               0.016, 0.214, 0.009, 0.080, 0.008, 0.081};
  static constexpr KeyProfile kMinorProfile = {0.220, 0.006, 0.104, 0.123, 0.019, 0.103,
                                               0.012, 0.214, 0.062, 0.022, 0.061, 0.052};
  return mode == Mode::major ? kMajorProfile : kMinorProfile;
}

}  // namespace ear
