// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/units.h"
#include "core/listening/results/sides.h"
#include "core/theory/chord.h"
#include "core/theory/fretboard.h"
#include "core/theory/tuning.h"

namespace ear {

/// What speaks for a reading of the guitar or against it, and where to hear it.
struct SetupReason {
  enum class Kind {
    words,          ///< a sentence as it stands, of an earlier file
    lowestIsOpen,   ///< the lowest note heard is its lowest string's: its MIDI number
    lowestIsAbove,  ///< MIDI of the lowest note heard, and of the lowest string
    lowestIsBelow,  ///< MIDI of a note lower than any of its strings
    lowestIsBass,   ///< a bass plays, so that the lowest note tells nothing; of an earlier file
    fitsGrips,      ///< its grips
    ease,           ///< easy chords, all chords; the grip is the hardest, without frets where no hand can hold it
    ringsOpen,      ///< MIDI of a note that rings on over changes, and over how many per cent: an open string
    ringsFretted,   ///< the same where no open string gives it
    cannotHold,     ///< in how many per cent of its time no hand could hold what sounds together
    soundsLike,     ///< fret of the capo and open strings (MIDI) of a setup that sounds the same
  };
  /// A chord by the shape the hand makes, and its frets from the lowest string: "x32010".
  struct Grip {
    Chord shape;
    std::string frets;
    bool operator==(const Grip&) const = default;
  };

  Kind kind = Kind::words;
  std::optional<Seconds> at{};
  std::vector<int> numbers{};
  std::vector<Grip> grips{};
  std::string text{};  ///< of Kind::words
  bool operator==(const SetupReason&) const = default;
};
std::string sentenceOf(const SetupReason& reason, Spelling spelling);

/// One way the guitar may have been tuned and capoed.
struct SetupReading {
  Tuning tuning;
  Capo capo;
  double certainty = 0.0;  ///< in [0, 1]; those of a list sum to at most 1
  std::vector<SetupReason> reasons;
};

/// The guitars that can be told apart by where they sit, the one with the most to hear first.
struct FoundGuitar {
  Side side = Side::centre;
  double share = 0.0;  ///< of what sounds, in [0, 1]
  std::vector<SetupReading> readings;
};

}  // namespace ear
