// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/study/json_values.h"
#include "core/study/study.h"

namespace ear {

/// Passages, pinned notes and the practice log as kept in a study file (docs/study-file.md). Reading throws
/// std::exception with a short reason.
Json passageToJson(const Passage& passage);
Passage passageFrom(const Json& json);
Json questionToJson(const OpenQuestion& question);
OpenQuestion questionFrom(const Json& json);
Json noteToJson(const LessonNote& note);
LessonNote noteFrom(const Json& json);
Json entryToJson(const PracticeEntry& entry);
PracticeEntry entryFrom(const Json& json);

}  // namespace ear
