// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/lesson_notes.h"

#include <algorithm>

namespace ear {

std::vector<LessonNote> notesOf(const Study& study, const std::string& take) {
  std::vector<LessonNote> notes;
  for (const auto& n : study.notes)
    if (n.take == take) notes.push_back(n);
  return notes;
}

void pinNote(Study& study, const LessonNote& note) {
  if (note.text.empty()) return;
  const auto after = std::find_if(study.notes.begin(), study.notes.end(),
                                  [&](const LessonNote& n) { return n.take == note.take && n.time > note.time; });
  study.notes.insert(after, note);
}

void rewriteNote(Study& study, const LessonNote& note, const std::string& text) {
  const auto found = std::find(study.notes.begin(), study.notes.end(), note);
  if (found == study.notes.end()) return;
  if (text.empty())
    study.notes.erase(found);
  else
    found->text = text;
}

}  // namespace ear
