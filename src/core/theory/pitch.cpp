// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/pitch.h"

#include <cctype>
#include <cmath>

namespace ear {

Hertz frequencyOf(MidiPitch pitch, Hertz a4) {
  return a4 * std::exp2((pitch.value - 69.0) / 12.0);
}

MidiPitch pitchOf(Hertz frequency, Hertz a4) {
  return MidiPitch(69.0 + 12.0 * std::log2(frequency / a4));
}

Hertz a4At(Cents offset) {
  return kConcertA4 * std::exp2(offset.value / 1200.0);
}

Cents foldToSemitone(Cents cents) {
  return Cents(cents.value - 100.0 * std::ceil(cents.value / 100.0 - 0.5));
}

std::string sharpName(PitchClass pc) {
  static constexpr std::array<const char*, 12> kNames = {"C",  "C#", "D",  "D#", "E",  "F",
                                                         "F#", "G",  "G#", "A",  "A#", "B"};
  return kNames[static_cast<std::size_t>(pc.value)];
}

std::string pitchClassName(PitchClass pc, Spelling spelling) {
  static constexpr std::array<const char*, 12> kSharps = {"C",  "C♯", "D",  "D♯", "E",  "F",
                                                          "F♯", "G",  "G♯", "A",  "A♯", "B"};
  static constexpr std::array<const char*, 12> kFlats = {"C",  "D♭", "D",  "E♭", "E",  "F",
                                                         "G♭", "G",  "A♭", "A",  "B♭", "B"};
  const bool german = spelling == Spelling::germanSharps || spelling == Spelling::germanFlats;
  const bool flats = spelling == Spelling::flats || spelling == Spelling::germanFlats;
  if (german && pc.value == 11) return "H";
  if (german && flats && pc.value == 10) return "B";
  return (flats ? kFlats : kSharps)[static_cast<std::size_t>(pc.value)];
}

namespace {

/// Semitones above C of a letter with its signs; not folded, so that B# stays above B.
std::optional<int> takeSemitones(std::string_view& text) {
  constexpr std::string_view kLetters = "C D EF G A B";
  if (text.empty() || text.front() == ' ') return std::nullopt;
  const char upper = static_cast<char>(std::toupper(static_cast<unsigned char>(text.front())));
  const auto letter = kLetters.find(upper == 'H' ? 'B' : upper);  // the German name of B
  if (letter == std::string_view::npos) return std::nullopt;
  text.remove_prefix(1);
  int semitones = static_cast<int>(letter);
  for (bool more = true; more;) {
    more = false;
    for (const auto& [sign, step] : {std::pair<std::string_view, int>{"#", 1}, {"♯", 1}, {"b", -1}, {"♭", -1}})
      if (text.starts_with(sign)) text.remove_prefix(sign.size()), semitones += step, more = true;
  }
  return semitones;
}

}  // namespace

std::optional<PitchClass> takePitchClass(std::string_view& text) {
  const auto semitones = takeSemitones(text);
  return semitones ? std::optional(PitchClass(*semitones)) : std::nullopt;
}

std::optional<PitchClass> parsePitchClass(std::string_view text) {
  const auto pc = takePitchClass(text);
  return text.empty() ? pc : std::nullopt;
}

std::optional<int> parsePitch(std::string_view text) {
  const auto semitones = takeSemitones(text);
  if (semitones && text == "-1") return *semitones;  // the lowest octave of MIDI
  if (!semitones || text.size() != 1 || text.front() < '0' || text.front() > '9') return std::nullopt;
  return 12 * (text.front() - '0' + 1) + *semitones;
}

std::string noteName(int midi, Spelling spelling) {
  const PitchClass pc(midi);
  return pitchClassName(pc, spelling) + std::to_string((midi - pc.value) / 12 - 1);
}

}  // namespace ear
