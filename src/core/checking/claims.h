// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/phrase/entry/entry.h"
#include "core/theory/chord.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// What is wrong with a name that was said for something that can be worked out. Empty functions' results mean that the
/// name is right.
struct WrongName {
  std::string said, is;  ///< "E", "D"
  std::string sentence;  ///< what it is, and what would make the name right
};

/// A note's name against string, fret, tuning and capo: fret 5 of the A string is D, not E (that is fret 7).
std::optional<WrongName> wrongNote(const Guitar& guitar, FretPosition place, PitchClass said,
                                   const NotationPreferences& schools, Spelling spelling);

/// A chord's name against the places that are held: x 0 0 2 2 0 is no A7. Right are all the names of the notes, and
/// those in which only a fifth, or a bass that is not named, makes the difference.
std::optional<WrongName> wrongChord(const Guitar& guitar, std::span<const FretPosition> places, const Chord& said,
                                    Spelling spelling);

/// Names of notes that go by single frets, as a chromatic run is told aloud, against where they are: the first one that
/// is wrong. @param said  one for each place
struct WrongInRun {
  std::size_t index = 0;
  WrongName name;
};
std::optional<WrongInRun> wrongInRun(const Guitar& guitar, std::span<const FretPosition> places,
                                     std::span<const PitchClass> said, const NotationPreferences& schools,
                                     Spelling spelling);

/// What is claimed of a line that was entered: "5 on A = E", "x 0 0 2 2 0 = A7", "5 6 7 on A = D E♭ E". One name for
/// one note, as many as there are notes one after the other, or the name of a chord.
/// @return what is wrong with it, in a sentence; empty where it holds
std::string wrongClaim(const Entry& entry, std::string_view claim, const Guitar& guitar,
                       const NotationPreferences& schools, Spelling spelling);

}  // namespace ear
