// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <map>
#include <utility>
#include <vector>

#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/harmony/chords.h"
#include "core/theory/fingering.h"

namespace ear {

/// A chord of a recording and what one guitar sounds while it stands.
struct PlayedChord {
  /// How likely each note sounds, over the frames of a stretch in which the guitar sounds at all.
  struct Stretch {
    double seconds = 0.0;
    std::array<double, GuitarActivations::kNotes> sounding{};
  };
  Chord chord;
  Seconds at{};          ///< where its longest stretch begins
  double seconds = 0.0;  ///< that the guitar sounds in it
  std::vector<Stretch> stretches;
};

/// Notes that the guitar held together, MIDI from low to high.
struct HeldNotes {
  std::vector<int> notes;
  int frames = 0;  ///< in all
  Seconds at{};    ///< where first
};

/// What a guitar plays of a recording, as far as it tells of its tuning: the chords that sound longest, and the sets of
/// notes that are held longest.
struct Played {
  std::vector<PlayedChord> chords;
  std::vector<HeldNotes> held;
};
Played gatherPlayed(const GuitarActivations& notes, const std::vector<FoundChord>& chords);

/// The grips of chords on one tuning. A capo only moves them, so that they are looked up once for all capos.
class GripBook {
 public:
  struct Known {
    Fingering shape;
    std::vector<int> notes;  ///< MIDI, without a capo, each once
  };
  explicit GripBook(Tuning tuning) : tuning_(std::move(tuning)) {}
  const Tuning& tuning() const { return tuning_; }
  const std::vector<Known>& of(const Chord& shape);

 private:
  Tuning tuning_;
  std::map<std::pair<int, const ChordType*>, std::vector<Known>> book_;
};

/// How well one tuning and capo explain what was played.
struct SetupFit {
  /// Log likelihood of what sounds by the grips of its chords, summed over the chords and over the ways to grip each,
  /// the easier the likelier; only differences between setups mean something.
  double grips = 0.0;
  double ease = 0.0;        ///< effort of the easiest grips, summed over the chords
  double held = 0.0;        ///< effort of what was held together, its mean over time
  double cannotHold = 0.0;  ///< share of that time in which no hand could
  Seconds cannotHoldAt{};   ///< of the longest such
  /// Of each chord the grip that explains it best; without places where no hand can hold it.
  std::vector<Fingering> best;
};
/// @param book  of the tuning
SetupFit fitOf(const Played& played, GripBook& book, int capo);

}  // namespace ear
