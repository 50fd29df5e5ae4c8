// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/sheet/engraved_phrase.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr int kFree = 48, kChords = 4;  // parts of a beat on which free notes and chords are put
constexpr Seconds kBlink{0.06};         // up to which a chord only touches a phrase

Beats onRaster(double place, int parts) {
  return {std::llround(place * parts), parts};
}

/// Notes in seconds stand near their beats.
ShownPhrase withoutFreeNotes(ShownPhrase shown, const Phrase& phrase, const PhraseTime& time) {
  for (ShownNote& s : shown.notes)
    if (s.note.free) {
      s.note.at = onRaster(placeIn(phrase, time, s.note.free->start), kFree);
      s.note.length = std::max(Beats(1, kFree), onRaster(placeIn(phrase, time, s.note.free->end), kFree) - s.note.at);
    }
  std::stable_sort(shown.notes.begin(), shown.notes.end(),
                   [](const ShownNote& a, const ShownNote& b) { return a.note.at < b.note.at; });
  return shown;
}

}  // namespace

double placeIn(const Phrase& phrase, const PhraseTime& time, Seconds at) {
  return time.known() ? time.placeOf(at) : (at - phrase.span.start).value;
}

EngravedPhrase engravePhrase(const Pieces<Phrase>& phrases, const Phrase& phrase, std::size_t level,
                             TabScoreContext context, const PhraseTime& time, std::span<const ShownChord> chords) {
  EngravedPhrase engraved{.shown = shown(phrases, phrase, context.guitar, level), .timed = time.known()};
  const ShownPhrase drawn = withoutFreeNotes(engraved.shown, phrase, time);
  if (engraved.timed) {
    Beats from(0), to(std::llround(std::ceil(placeIn(phrase, time, phrase.span.end) - 0.1)));
    for (const ShownNote& s : drawn.notes) from = std::min(from, s.note.at), to = std::max(to, s.note.end());
    context.barLines = time.barLines(from, std::max(to, from + Beats(1)));
  }
  engraved.score = engrave(drawn, context);
  for (const Beats line : engraved.score.barLines) {
    engraved.bars.push_back(time.barAt(line));
    engraved.barTimes.push_back(time.timeOf(line));
  }
  if (engraved.timed)
    for (const ShownChord& c : chords)
      if (c.chord && overlap(c.span, phrase.span) > kBlink)
        engraved.chords.emplace_back(onRaster(std::max(0.0, placeIn(phrase, time, c.span.start)), kChords), c);
  if (const auto& hardest = (*phrase.levels)[level].hardest)
    engraved.score.stretches.push_back({hardest->first, hardest->second, TabStretch::Kind::hardest, "hardest"});
  return engraved;
}

}  // namespace ear
