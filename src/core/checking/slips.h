// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <set>
#include <span>
#include <string>
#include <vector>

#include "core/phrase/entry/entry.h"
#include "core/phrase/note.h"
#include "core/phrase/scale_stretch.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// Something in a written phrase that cannot be, is odd, or is not said yet; found by arithmetic alone.
struct Slip {
  enum class Kind {
    // Cannot be.
    besideNeck,     ///< beyond the last fret; values: the last one
    sameString,     ///< two notes that start together on one string
    noHand,         ///< notes at once that no hand reaches; values: lowest and highest fret
    hammerDown,     ///< a hammer-on that does not go up; values: from, to
    pullUp,         ///< a pull-off that does not go down; values: from, to
    slurElsewhere,  ///< a hammer-on or pull-off from another string
    noHarmonic,     ///< nothing speaks where the string is touched; values: the fret
    // Odd.
    wideBend,      ///< over two tones; values: cents
    openBend,      ///< of an open string
    overlap,       ///< a note of one voice goes on over the start of the next on its string
    outsideScale,  ///< values: the pitch, MIDI
    tupletOpen,    ///< a tuplet with notes missing; values: notes in it, notes that fill it
    // Not said yet.
    noBendSize,
  };
  enum class Weight { wrong, odd, unsaid };

  Kind kind{};
  std::vector<int> notes{};  ///< ids, at least one
  Beats at;                  ///< of the first of them
  std::vector<int> values{};

  Weight weight() const;
  bool operator==(const Slip&) const = default;
};

struct SlipContext {
  Guitar guitar{};
  std::vector<ScaleStretch> scales{};  ///< that the passage was said to use, rising
  std::set<int> meant{};               ///< ids of notes outside of them that somebody said are meant
};

/// Every slip of a phrase, by time. Cost: linear in the notes but for sorting, so that it can follow each key press.
std::vector<Slip> slipsIn(std::span<const Note> notes, const SlipContext& context);

/// Slips of a line while it is typed, as if it stood behind what was written before. The notes of a step have its
/// number for their id, from 1; what concerns notes that are written already is left out.
std::vector<Slip> slipsWhileTyped(const Entry& entry, std::span<const Note> before, const SlipContext& context);

/// The slip as a sentence that says what is wrong and, where that is known, what to do.
std::string sentenceOf(const Slip& slip, const SlipContext& context, const NotationPreferences& schools,
                       Spelling spelling);

}  // namespace ear
