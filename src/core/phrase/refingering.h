// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/phrase/note.h"
#include "core/phrase/placing.h"

namespace ear {

/// Notes of a phrase as a line whose places are to be chosen. What has no pitch, and natural harmonics, stay where they
/// are.
/// @param notes  in order
std::vector<NoteToPlace> lineOf(std::span<const Note> notes, const Guitar& guitar, int semitones = 0);

/// The same notes in another place.
struct Refingered {
  std::vector<Note> notes{};      ///< those that can be played, with their ids
  std::vector<int> unplayable{};  ///< ids of the others
  LinePlacing way{};              ///< how it lies, to be said in words
};

/// The same sound on a guitar in another tuning or with another capo, elsewhere on the neck, or so many semitones
/// higher; the easiest ways first. Intervals within a note (a trill's partner, where a slide comes from) stay as wide
/// as they are. A natural harmonic stays where its string sounds the same, and cannot be played elsewhere.
/// @param notes  in order, of `from`
std::vector<Refingered> refingered(std::span<const Note> notes, const Guitar& from, const Guitar& to, int semitones = 0,
                                   const PlacingWishes& wishes = {}, std::size_t most = 3);

}  // namespace ear
