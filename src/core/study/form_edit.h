// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/study/study.h"

namespace ear {

// Edits of a form that keep it gap-free; each changes nothing when it makes no sense there. Sections touched count as
// set.

/// Cuts the section at `at` in two; both keep its letter and name.
void splitSection(Form& form, Seconds at);

/// Joins a section with the one before it, which keeps its letter and name.
void mergeWithPrevious(Form& form, std::size_t index);

/// Moves the border between `index - 1` and `index`, at least a tenth of a second inside of both.
void moveBorder(Form& form, std::size_t index, Seconds to);

/// Gives a section a letter and a name.
void renameSection(Form& form, std::size_t index, const std::string& letter, const std::string& name);

/// Says that a section is the same music as another one, with a note on what differs; empty where nothing does.
void markSame(Form& form, std::size_t index, std::size_t as, const std::string& difference);

/// Marks a time with a word; a mark already there gives way, and an empty word takes it away.
void setCue(Take& take, Seconds at, const std::string& words);

}  // namespace ear
