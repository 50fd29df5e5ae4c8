// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/phrase/entry/words.h"
#include "core/phrase/note.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// What a line of entry is said about.
struct EntryContext {
  Guitar guitar{};
  NotationPreferences schools{};
  bool fretsFromNut = false;    ///< frets are said from the nut where a capo is on
  std::optional<int> string{};  ///< of the note before: frets without a string go on there
  Beats usual = Beats(1, 2);    ///< length of a note of which none is said
  std::vector<Note> before{};   ///< what was written last, for "same" at the start of a line
};

/// Notes that start together, or a rest.
struct EnteredStep {
  std::vector<Note> notes{};  ///< ids are 0, places in time from the start of the line; empty: a rest
  Beats at, length;
  TextRange range{};  ///< of the words that it comes from
};

/// A word that can be taken in several ways; nothing is guessed.
struct EntryQuestion {
  struct Choice {
    std::string label;
    std::string instead;  ///< put in place of the range it settles the question
  };
  TextRange range;
  std::string text;
  std::vector<Choice> choices{};
};

/// A word that means nothing here, or what no hand or guitar does.
struct EntryProblem {
  TextRange range;
  std::string text;
};

/// What was understood of a line. The steps hold whatever was, also where there are questions and problems.
struct Entry {
  std::vector<EnteredStep> steps{};
  std::vector<EntryQuestion> questions{};
  std::vector<EntryProblem> problems{};
  bool clear() const { return questions.empty() && problems.empty(); }
};

/// Reads what people say of a few notes: "12 on G", "9 D G", "11 13 12 A D G", "3 slide 8 A", "12 bent, 11 on high E",
/// "twice, second time without the hammer" (the grammar is in docs/entry-line.md). Any text is read; under a
/// millisecond for a line of 200 words.
Entry readEntry(std::string_view line, const EntryContext& context = {});

}  // namespace ear
