// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/near_repeat.h"

#include <algorithm>

namespace ear {
namespace {

constexpr std::size_t kLeast = 4;  // notes: shorter phrases are alike by chance

bool isLike(const Note& a, const Note& b) {
  return a.at == b.at && a.place == b.place && a.bend == b.bend && a.tone == b.tone;
}

}  // namespace

std::optional<NearRepeat> nearRepeat(const Pieces<Phrase>& phrases, const Phrase& phrase, const Guitar& guitar) {
  const auto own = shown(phrases, phrase, guitar).notes;
  if (phrase.link || own.size() < kLeast) return std::nullopt;
  std::optional<NearRepeat> best;
  std::size_t most = 0;
  for (const Phrase& other : phrases) {
    const bool linked = other.link && other.link->to == phrase.id;
    if (other.id == phrase.id || other.take != phrase.take || other.part != phrase.part || linked) continue;
    const auto theirs = shown(phrases, other, guitar).notes;
    NearRepeat near{.other = other.id};
    std::size_t same = 0;
    for (const ShownNote& s : own) {
      const bool there =
          std::any_of(theirs.begin(), theirs.end(), [&](const ShownNote& t) { return isLike(s.note, t.note); });
      there ? void(++same) : near.differing.push_back(s.note.id);
    }
    near.missing = static_cast<int>(theirs.size() - std::min(theirs.size(), same));
    if (4 * same < 3 * std::max(own.size(), theirs.size()) || same <= most) continue;
    most = same;
    best = std::move(near);
  }
  return best;
}

}  // namespace ear
