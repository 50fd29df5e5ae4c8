// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/lesson_notes.h"

#include <algorithm>

namespace ear {

std::vector<LessonNote> notesOf(const Study& study, const std::string& take) {
  std::vector<LessonNote> notes;
  for (const auto& n : *study.notes)
    if (n.take == take) notes.push_back(n);
  return notes;
}

void pinNote(Study& study, const LessonNote& note) {
  if (note.text.empty()) return;
  auto& notes = study.notes.change();
  const auto after = std::find_if(notes.begin(), notes.end(),
                                  [&](const LessonNote& n) { return n.take == note.take && n.time > note.time; });
  notes.insert(after, note);
}

void rewriteNote(Study& study, const LessonNote& note, const std::string& text) {
  auto& notes = study.notes.change();
  const auto found = std::find(notes.begin(), notes.end(), note);
  if (found == notes.end()) return;
  if (text.empty())
    notes.erase(found);
  else
    found->text = text;
}

}  // namespace ear
