// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/phrase/entry/entry.h"

namespace ear {

/// Frets and strings in the order they were said, up to a comma.
struct Clause {
  struct Item {
    Note note{};                    ///< of a fret: what is said of it
    std::optional<int> string{};    ///< of a string: which one
    std::optional<Beats> length{};  ///< of a fret, where one is said
    TextRange range{};
    bool isString() const { return string.has_value(); }
  };
  std::vector<Item> items{};
  bool together = false;  ///< said to sound at once
  bool singly = false;    ///< said to sound one after the other
  bool chord = false;     ///< said to be a chord
  bool faulty = false;    ///< a word of it was not understood: what is missing needs no second complaint

  Item* lastFret();
};

/// What a clause says, without places in time. Frets that no string is said for stay in `waiting`.
struct ClauseSteps {
  std::vector<EnteredStep> steps{};
  std::vector<Clause::Item> waiting{};
  std::vector<EntryQuestion> questions{};
  std::vector<EntryProblem> problems{};
};

/// Puts frets on strings: one fret on several strings at once, several frets on one string or on as many strings one
/// after the other, a fret for each string as a chord, frets alone on the string in hand.
/// @param string  in hand: of the note before, if any
ClauseSteps stepsOf(const Clause& clause, const Guitar& guitar, std::optional<int> string, Beats usual);

}  // namespace ear
