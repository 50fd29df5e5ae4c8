// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/near_repeat.h"

#include <algorithm>

namespace ear {
namespace {

constexpr std::size_t kLeast = 4;  // notes: shorter phrases are alike by chance

bool isLike(const Note& a, const Note& b) {
  return a.at == b.at && a.place == b.place && a.bend == b.bend && a.tone == b.tone;
}

std::vector<Note> notesOf(const Pieces<Phrase>& phrases, const Phrase& phrase, const Guitar& guitar) {
  std::vector<Note> notes;
  for (ShownNote& s : shown(phrases, phrase, guitar).notes) notes.push_back(std::move(s.note));
  return notes;
}

}  // namespace

std::vector<int> differingFrom(std::span<const Note> own, std::span<const Note> other) {
  std::vector<int> ids;
  for (const Note& n : own)
    if (std::none_of(other.begin(), other.end(), [&](const Note& o) { return isLike(n, o); })) ids.push_back(n.id);
  return ids;
}

std::optional<NearRepeat> nearRepeat(const Pieces<Phrase>& phrases, const Phrase& phrase, const Guitar& guitar) {
  const auto own = notesOf(phrases, phrase, guitar);
  if (phrase.link || own.size() < kLeast) return std::nullopt;
  std::optional<NearRepeat> best;
  std::size_t most = 0;
  for (const Phrase& other : phrases) {
    const bool linked = other.link && other.link->to == phrase.id;
    if (other.id == phrase.id || other.take != phrase.take || other.part != phrase.part || linked) continue;
    const auto theirs = notesOf(phrases, other, guitar);
    NearRepeat near{other.id, differingFrom(own, theirs)};
    const std::size_t same = own.size() - near.differing.size();
    near.missing = static_cast<int>(theirs.size() - std::min(theirs.size(), same));
    if (4 * same < 3 * std::max(own.size(), theirs.size()) || same <= most) continue;
    most = same;
    best = std::move(near);
  }
  return best;
}

}  // namespace ear
