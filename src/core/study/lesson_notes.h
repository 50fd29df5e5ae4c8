// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/study/study.h"

namespace ear {

/// The notes of a take, rising in time.
std::vector<LessonNote> notesOf(const Study& study, const std::string& take);

/// Pins words to a time of a take; several may share one.
void pinNote(Study& study, const LessonNote& note);

/// Other words for a note, or none to take it away; nothing happens when it is not there.
void rewriteNote(Study& study, const LessonNote& note, const std::string& text);

}  // namespace ear
