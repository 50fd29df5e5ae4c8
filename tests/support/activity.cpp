// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/activity.h"

#include <cmath>

namespace ear::test {

Score& Score::play(std::span<const int> midi, double seconds) {
  const auto frames = static_cast<std::size_t>(std::lround(seconds * kRate));
  for (std::size_t i = 0; i < frames; ++i) {
    const std::size_t at = notes_.activity.size();
    notes_.activity.resize(at + NoteActivations::kNotes, 0.0F);
    const auto level = static_cast<float>(std::exp(-0.5 * static_cast<double>(i) / kRate));
    for (const int note : midi)
      notes_.activity[at + static_cast<std::size_t>(note - NoteActivations::kLowestMidi)] = level;
  }
  return *this;
}

std::vector<Seconds> Score::beats(double seconds) const {
  std::vector<Seconds> list;
  for (int i = 0; seconds * i < length().value; ++i) list.emplace_back(seconds * i);
  return list;
}

}  // namespace ear::test
