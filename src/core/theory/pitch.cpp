#include "core/theory/pitch.h"

#include <cmath>

namespace ear {

Hertz frequencyOf(MidiPitch pitch, Hertz a4) { return a4 * std::exp2((pitch.value - 69.0) / 12.0); }

Hertz a4At(Cents offset) { return kConcertA4 * std::exp2(offset.value / 1200.0); }

std::string noteName(int midi, Spelling spelling) {
  static constexpr std::array<const char*, 12> kSharps = {"C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B"};
  static constexpr std::array<const char*, 12> kFlats = {"C", "D♭", "D", "E♭", "E", "F", "G♭", "G", "A♭", "A", "B♭", "B"};
  const auto pc = static_cast<std::size_t>(((midi % 12) + 12) % 12);
  const int octave = (midi - static_cast<int>(pc)) / 12 - 1;
  return std::string(spelling == Spelling::sharps ? kSharps[pc] : kFlats[pc]) + std::to_string(octave);
}

}  // namespace ear
