// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/playback/mixer.h"
#include "core/theory/chord.h"

namespace ear {

class Workbench;

/// Notes and chords to compare with, at the pitch at which the recording sounds now; they play over it, or alone.
class ReferenceVoice {
 public:
  explicit ReferenceVoice(Workbench& bench) : bench_(bench) {}

  void tone(int midi, Tones::Kind kind = Tones::Kind::plucked);
  void pitch(Hertz pitch, Tones::Kind kind = Tones::Kind::plucked);
  /// One after the other as a strum does, from the lowest.
  void strum(std::vector<int> midi);
  /// A sounding chord in its usual shape on the guitar in hand.
  void chord(const Chord& chord);

  /// Holds the key note, or the lowest note of the guitar's octave where no key is known, under everything.
  void setDrone(bool on);
  bool drone() const;
  /// Its pitch follows the key and the shift.
  void tuneDrone();

  /// A moment of the recording that goes on sounding.
  HeldSound& held();

 private:
  Mixer& mixer() const;

  Workbench& bench_;
};

}  // namespace ear
