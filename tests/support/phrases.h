// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <random>
#include <string>

#include "core/phrase/phrase.h"

namespace ear::test {

/// "3 12" is fret 12 on the string with index 3: a quarter note at a beat.
Note note(int id, int string, int fret, Beats at = 0, Beats length = 1);

/// A note with any gestures, all within what a study may hold.
Note anyNote(std::mt19937& random, int id);

/// A phrase of a take with notes.
Phrase phrase(const std::string& id, std::vector<Note> notes, const std::string& take = "take1",
              const std::string& part = "");

}  // namespace ear::test
