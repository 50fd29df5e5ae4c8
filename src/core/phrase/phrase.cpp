// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/phrase.h"

#include <algorithm>
#include <set>
#include <tuple>

#include "core/phrase/moving.h"

namespace ear {
namespace {

const Phrase* find(const Pieces<Phrase>& phrases, const std::string& id) {
  const auto at = std::find_if(phrases.begin(), phrases.end(), [&](const Phrase& p) { return p.id == id; });
  return at == phrases.end() ? nullptr : &*at;
}

ShownPhrase own(const Phrase& phrase, std::size_t level) {
  const Arrangement& a = (*phrase.levels)[level];
  ShownPhrase shown{{}, a.open, {}, {}};
  for (const Note& n : a.notes) shown.notes.push_back({n, false});
  return shown;
}

/// @param seen  ids of the phrases that led here
ShownPhrase follow(const Pieces<Phrase>& phrases, const Phrase& phrase, const Guitar& guitar, std::size_t level,
                   std::set<std::string> seen) {
  if (level > 0 || !phrase.link) return own(phrase, level);
  const PhraseLink& link = *phrase.link;
  seen.insert(phrase.id);
  const auto alone = [&](std::string problem) {
    ShownPhrase shown{.problem = std::move(problem)};
    for (const Note& n : link.changed) shown.notes.push_back({n, true});
    return shown;
  };
  const Phrase* other = find(phrases, link.to);
  if (other == nullptr)
    return alone("The phrase that this one is the same as is no longer there. Link it to another, or write its notes.");
  if (seen.contains(other->id))
    return alone("This phrase is the same as one that is the same as this one. Write the notes of one of them.");
  ShownPhrase shown = follow(phrases, *other, guitar, 0, std::move(seen));
  std::vector<ShownNote> notes;
  for (ShownNote& s : shown.notes) {
    s.differs = false;  // from its own original; what matters here is this link
    if (std::find(link.without.begin(), link.without.end(), s.note.id) != link.without.end()) continue;
    const auto changed =
        std::find_if(link.changed.begin(), link.changed.end(), [&](const Note& n) { return n.id == s.note.id; });
    if (changed != link.changed.end()) continue;
    if (!move(s.note, guitar, link.frets, link.strings)) {
      shown.lost.push_back(s.note.id);
      continue;
    }
    notes.push_back(std::move(s));
  }
  for (const Note& n : link.changed) notes.push_back({n, true});
  std::stable_sort(notes.begin(), notes.end(), [](const ShownNote& a, const ShownNote& b) {
    return std::tuple(a.note.at, a.note.voice, a.note.place.string) <
           std::tuple(b.note.at, b.note.voice, b.note.place.string);
  });
  shown.notes = std::move(notes);
  return shown;
}

}  // namespace

void putInOrder(std::vector<Note>& notes) {
  std::stable_sort(notes.begin(), notes.end(), [](const Note& a, const Note& b) {
    return std::tuple(a.at, a.voice, a.place.string) < std::tuple(b.at, b.voice, b.place.string);
  });
}

int freshNoteId(const Pieces<Phrase>& phrases) {
  int most = 0;
  const auto see = [&](const std::vector<Note>& notes) {
    for (const Note& n : notes) most = std::max(most, n.id);
  };
  for (const Phrase& p : phrases) {
    for (const Arrangement& a : *p.levels) see(a.notes);
    if (!p.link) continue;
    see(p.link->changed);
    for (const int id : p.link->without) most = std::max(most, id);
  }
  return most + 1;
}

ShownPhrase shown(const Pieces<Phrase>& phrases, const Phrase& phrase, const Guitar& guitar, std::size_t level) {
  return follow(phrases, phrase, guitar, level, {});
}

void detach(const Pieces<Phrase>& phrases, Phrase& phrase, const Guitar& guitar) {
  if (!phrase.link) return;
  ShownPhrase now = shown(phrases, phrase, guitar);
  Arrangement& first = phrase.levels.change().front();
  first.notes.clear();
  for (ShownNote& s : now.notes) first.notes.push_back(std::move(s.note));
  first.open = std::move(now.open);
  phrase.link.reset();
}

bool linkTo(const Pieces<Phrase>& phrases, Phrase& phrase, const std::string& other, std::vector<Note> notes,
            const Guitar& guitar, int frets, int strings) {
  Phrase linked = phrase;
  linked.link = PhraseLink{.to = other, .frets = frets, .strings = strings};
  const ShownPhrase whole = shown(phrases, linked, guitar);
  if (!whole.problem.empty()) return false;
  for (const ShownNote& s : whole.notes) {
    const auto same = std::find_if(notes.begin(), notes.end(), [&](const Note& n) { return n.id == s.note.id; });
    if (same == notes.end()) {
      linked.link->without.push_back(s.note.id);
    } else {
      if (!(*same == s.note)) linked.link->changed.push_back(*same);
      notes.erase(same);
    }
  }
  for (Note& n : notes) linked.link->changed.push_back(std::move(n));
  linked.levels.change().front() = Arrangement{};
  phrase = std::move(linked);
  return true;
}

}  // namespace ear
