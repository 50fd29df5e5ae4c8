// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/listening/frontend/chroma.h"

namespace ear::test {

/// Note activity as an ideal ear would have it, for measurements that start from notes.
class Score {
 public:
  static constexpr double kRate = 10.0;  ///< frames per second

  /// Notes (MIDI) that sound together from where the score ends now; they die away as plucked strings do.
  Score& play(std::span<const int> midi, double seconds);
  Score& play(std::initializer_list<int> midi, double seconds) {
    return play(std::span(midi.begin(), midi.size()), seconds);
  }
  Score& rest(double seconds) { return play(std::span<const int>(), seconds); }

  const NoteActivations& notes() const { return notes_; }
  Seconds length() const { return Seconds(static_cast<double>(notes_.count()) / kRate); }
  /// Beats of that length from the beginning to the end, every fourth of them starting a bar.
  std::vector<Seconds> beats(double seconds) const;
  std::vector<Seconds> downbeats(double seconds) const { return beats(4 * seconds); }

 private:
  NoteActivations notes_{.clock = {kRate}, .activity = {}};
};

}  // namespace ear::test
