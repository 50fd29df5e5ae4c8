#include "core/theory/pitch.h"

#include <cmath>

namespace ear {

Hertz frequencyOf(MidiPitch pitch, Hertz a4) { return a4 * std::exp2((pitch.value - 69.0) / 12.0); }

Hertz a4At(Cents offset) { return kConcertA4 * std::exp2(offset.value / 1200.0); }

std::string sharpName(PitchClass pc) {
  static constexpr std::array<const char*, 12> kNames = {"C", "C#", "D", "D#", "E", "F", "F#", "G", "G#", "A", "A#", "B"};
  return kNames[static_cast<std::size_t>(pc.value)];
}

std::string pitchClassName(PitchClass pc, Spelling spelling) {
  static constexpr std::array<const char*, 12> kSharps = {"C", "C♯", "D", "D♯", "E", "F", "F♯", "G", "G♯", "A", "A♯", "B"};
  static constexpr std::array<const char*, 12> kFlats = {"C", "D♭", "D", "E♭", "E", "F", "G♭", "G", "A♭", "A", "B♭", "B"};
  return (spelling == Spelling::sharps ? kSharps : kFlats)[static_cast<std::size_t>(pc.value)];
}

std::string noteName(int midi, Spelling spelling) {
  const PitchClass pc(midi);
  return pitchClassName(pc, spelling) + std::to_string((midi - pc.value) / 12 - 1);
}

}  // namespace ear
