// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/base/units.h"
#include "core/theory/fretboard.h"

namespace ear {

/// Pitch of one string sounding alone, by the normalised square difference (McLeod & Wyvill 2005, "A smarter way to
/// find pitch").
/// @param samples     about a sixth of a second; longer for strings under 40 Hz
/// @return its pitch, 25 to 1500 Hz; empty in silence and where nothing periodic sounds
std::optional<Hertz> pitchOfString(std::span<const float> samples, int sampleRate);

/// What a tuner shows.
struct TunerReading {
  Hertz pitch;
  int string = 0;  ///< of the guitar, the nearest one
  Cents off;       ///< of the string from where it belongs; positive: too high
};

/// Listens to an input and compares it with the strings of a guitar at the recording's own pitch.
class Tuner {
 public:
  explicit Tuner(int sampleRate);

  /// The guitar; its capo counts, so leave it off while the strings are tuned. @param only  a string, or -1 for any
  void setGuitar(const Guitar& guitar, int only = -1);
  void feed(std::span<const float> mono);
  /// Median of the last few readings; empty when nothing sounds.
  std::optional<TunerReading> reading() const;

 private:
  void measure();

  int rate_;
  Guitar guitar_;
  int only_ = -1;
  std::vector<float> recent_;
  std::size_t sinceLast_ = 0;
  std::vector<std::optional<Hertz>> pitches_;  // the newest last
};

}  // namespace ear
