// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/rhythm_row.h"

#include <algorithm>

namespace ear {
namespace {

constexpr int kFlagged = 8;  // part of a whole note from which there is a flag

/// Flags of a value: one for an eighth, two for a sixteenth.
int flagsOf(const RhythmPiece& piece) {
  if (piece.rest || !piece.value) return 0;
  int flags = 0;
  for (int part = kFlagged; part <= piece.value->part; part *= 2) ++flags;
  return flags;
}

Beats barBefore(std::span<const Beats> lines, Beats at) {
  const auto after = std::upper_bound(lines.begin(), lines.end(), at);
  return after == lines.begin() ? Beats(at.floor()) : *std::prev(after);
}

/// Places of one group share a beam.
struct Group {
  Beats bar;
  std::int64_t number;
  bool operator==(const Group&) const = default;
};

Group groupOf(Beats at, std::span<const Beats> lines, BeatUnit unit) {
  const Beats bar = barBefore(lines, at);
  const Beats beats = unit.part == kFlagged ? Beats(3) : Beats(1);
  return {bar, ((at - bar) / beats).floor()};
}

void write(RhythmRow& row, Beats at, Beats length, bool rest, int tremolo, std::span<const Beats> lines,
           BeatUnit unit) {
  bool first = true;
  for (const TiedPiece& piece : tiedPieces(at, length, lines, unit)) {
    row.pieces.push_back({piece.at, piece.length, piece.value, rest, !first && !rest, tremolo});
    first = false;
  }
}

/// Beams of one level within a run of pieces that share the first one.
void beamLevel(RhythmRow& row, std::size_t first, std::size_t last, int level) {
  for (std::size_t i = first; i <= last; ++i) {
    if (flagsOf(row.pieces[i]) < level) continue;
    std::size_t end = i;
    while (end < last && flagsOf(row.pieces[end + 1]) >= level) ++end;
    row.beams.push_back({i, end, level, end == i && i > first});
    beamLevel(row, i, end, level + 1);
    i = end;
  }
}

void beam(RhythmRow& row, std::span<const Beats> lines, BeatUnit unit) {
  for (std::size_t i = 0; i < row.pieces.size(); ++i) {
    if (flagsOf(row.pieces[i]) == 0) continue;
    std::size_t end = i;
    const Group group = groupOf(row.pieces[i].at, lines, unit);
    while (end + 1 < row.pieces.size() && flagsOf(row.pieces[end + 1]) > 0 &&
           groupOf(row.pieces[end + 1].at, lines, unit) == group)
      ++end;
    if (end > i) beamLevel(row, i, end, 1);
    i = end;
  }
}

void countTuplets(RhythmRow& row, BeatUnit unit) {
  for (std::size_t i = 0; i < row.pieces.size(); ++i) {
    const auto& value = row.pieces[i].value;
    if (!value || value->tuple == 1) continue;
    Beats filled(0), smallest = row.pieces[i].length;
    Tuplet tuplet{i, i, value->tuple, false};
    for (std::size_t k = i; k < row.pieces.size() && !tuplet.complete; ++k) {
      const auto& v = row.pieces[k].value;
      if (!v || v->tuple != value->tuple || v->inTimeOf != value->inTimeOf) break;
      filled += row.pieces[k].length;
      smallest = std::min(smallest, lengthOf({.part = v->part, .tuple = v->tuple, .inTimeOf = v->inTimeOf}, unit));
      tuplet.last = k;
      tuplet.complete = (filled / (smallest * Beats(value->tuple))).bottom() == 1;
    }
    row.tuplets.push_back(tuplet);
    i = tuplet.last;
  }
}

}  // namespace

RhythmRow rhythmOf(std::span<const Note> notes, std::span<const Beats> barLines, BeatUnit unit) {
  RhythmRow row;
  std::vector<const Note*> timed;
  for (const Note& note : notes)
    if (!note.free) timed.push_back(&note);
  for (std::size_t i = 0; i < timed.size();) {
    const Beats at = timed[i]->at;
    Beats end = at;
    int tremolo = 0;
    std::size_t next = i;
    for (; next < timed.size() && timed[next]->at == at; ++next) {
      end = std::max(end, timed[next]->end());
      if (timed[next]->tremolo) tremolo = 3;
    }
    const bool last = next == timed.size();
    if (!last) end = std::min(end, timed[next]->at);
    write(row, at, end - at, false, tremolo, barLines, unit);
    if (!last && end < timed[next]->at) write(row, end, timed[next]->at - end, true, 0, barLines, unit);
    i = next;
  }
  beam(row, barLines, unit);
  countTuplets(row, unit);
  return row;
}

}  // namespace ear
