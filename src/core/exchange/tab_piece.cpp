// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/tab_piece.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/study/brief.h"
#include "core/study/grid.h"
#include "core/study/parts.h"
#include "core/study/phrase_time.h"

namespace ear {
namespace {

constexpr int kFree = 12;  // parts of a beat on which notes free of it are put

/// A phrase's notes on the beats of the recording: where each of them is counted from its first bar line.
void addNotes(TabPiece& piece, const Pieces<Phrase>& phrases, const Phrase& phrase, const TimeMap& map,
              std::set<std::string>& losses) {
  const PhraseTime time(phrase, map);
  const Beats origin = time.known() ? time.origin() : Beats(std::llround(phrase.span.start.value * kFree), kFree);
  const ShownPhrase shownNotes = shown(phrases, phrase, piece.guitar);
  for (const ShownNote& s : shownNotes.notes) {
    Note n = s.note;
    if (n.free) {
      const auto placeOf = [&](Seconds t) {
        const double place = time.known() ? map.beatsAt(t) : t.value;
        return Beats(std::llround(place * kFree), kFree);
      };
      n.at = placeOf(n.free->start);
      n.length = std::max(Beats(1, kFree), placeOf(n.free->end) - n.at);
      n.free.reset();
      losses.insert("Notes free of the beat stand on the nearest twelfth of one.");
    } else {
      n.at = origin + n.at;
    }
    if (!n.readings.empty()) losses.insert("Other readings of a note are left out.");
    n.origin = Origin::set, n.certainty = 1.0, n.readings.clear(), n.why.clear();
    piece.notes.push_back(std::move(n));
  }
  if (!shownNotes.open.empty()) losses.insert("Unclear places and free fills stand empty.");
}

/// Bars around [from, to), on the grid where there is one.
void layBars(TabPiece& piece, const TimeMap& map, Beats from, Beats to) {
  piece.barLines.clear();
  if (map.empty()) {
    for (Beats line((from.floor() - (from.floor() % 4 + 4) % 4)); piece.barLines.empty() || piece.barLines.back() < to;
         line += Beats(4))
      piece.barLines.push_back(line);
    if (piece.barLines.size() < 2) piece.barLines.push_back(piece.barLines.back() + Beats(4));
    return;
  }
  Beats line(0);
  int bar = 1;
  while (line + map.lengthOf(std::min(bar, map.bars())) <= from) line += map.lengthOf(std::min(bar++, map.bars()));
  if (from < Beats(0)) {  // a pickup gets a bar of its own
    line = Beats(from.floor());
    piece.barLines.push_back(line);
    line = Beats(0);
    bar = 1;
    piece.firstBar = 0;
  } else {
    piece.firstBar = bar;
  }
  piece.barLines.push_back(line);
  while (piece.barLines.back() < to || piece.barLines.size() < 2) {
    line += std::max(Beats(1), map.lengthOf(std::min(bar++, map.bars())));
    piece.barLines.push_back(line);
  }
}

}  // namespace

TabPiece tabPieceOf(const Study& study, const Take& take, const Findings* findings, const std::string& part,
                    const std::string& phrase) {
  TabPiece piece{.title = study.title};
  const auto parts = partsOf(study, take, findings);
  const auto own = std::find_if(parts.begin(), parts.end(), [&](const GuitarPart& p) { return p.id == part; });
  if (own == parts.end()) return piece;
  const Brief brief = briefOf(take, *own, findings);
  const Cents offset = settled(brief.pitch).value_or(PitchValue{}).offset;
  piece.guitar = guitarOf(settled(setupOf(*own, findings)).value_or(GuitarSetup{}), offset);
  piece.guitar.frets = own->frets;
  piece.name = own->name;
  piece.key = settled(brief.key);
  const auto time = settled(brief.time);
  if (time) piece.tempo = time->tempo, piece.swing = time->swing;
  const TimeMap map(gridOf(take, findings), piece.swing);
  std::set<std::string> losses;
  if (map.empty()) {
    piece.tempo = Bpm(60);
    losses.insert("No beats of the recording are known: a second is written as a quarter note.");
  }
  std::vector<const Phrase*> wanted;
  for (const auto& p : study.phrases)
    if (p.take == take.id && (phrase.empty() ? p.part == part : p.id == phrase)) wanted.push_back(&p);
  std::stable_sort(wanted.begin(), wanted.end(),
                   [](const Phrase* a, const Phrase* b) { return a->span.start < b->span.start; });
  for (const Phrase* p : wanted) {
    addNotes(piece, study.phrases, *p, map, losses);
    const PhraseTime at(*p, map);
    piece.marks.emplace_back(at.known() ? at.origin() : Beats(std::llround(p->span.start.value)),
                             p->name.empty() ? "Phrase" : p->name);
    if (!phrase.empty() && !p->name.empty()) piece.name = p->name;
    if (p->levels->size() > 1) losses.insert("Of a phrase with several levels the fullest is written.");
  }
  if (piece.notes.empty()) return piece;
  putInOrder(piece.notes);
  Beats from = piece.notes.front().at, to = from;
  for (const Note& n : piece.notes) from = std::min(from, n.at), to = std::max(to, n.end());
  layBars(piece, map, from, to);
  // Counted from the first bar line that is written.
  const Beats first = piece.barLines.front(), last = piece.barLines.back();
  for (Beats& line : piece.barLines) line -= first;
  for (Note& n : piece.notes) n.at -= first;
  for (auto& [at, name] : piece.marks) at = std::max(Beats(0), at - first);
  for (std::size_t i = 0; i < piece.notes.size(); ++i) piece.notes[i].id = static_cast<int>(i) + 1;
  if (!map.empty()) {
    const auto placeOf = [&](Seconds t) { return Beats(std::llround(map.beatsAt(t) * 4), 4); };
    for (const ShownChord& c : chordsOf(take, findings)) {
      if (!c.chord || (c.origin == Origin::measured && c.certainty < kLikely)) continue;
      const Beats at = std::max(first, placeOf(c.span.start));
      if (placeOf(c.span.end) > first && at < last) piece.chords.emplace_back(at - first, *c.chord);
    }
    if (const auto form = settled(brief.form); form && phrase.empty())
      for (const Section& s : *form)
        if (const Beats at = placeOf(s.span.start); at >= first && at < last)
          piece.marks.emplace_back(at - first, s.name.empty() ? s.letter : s.letter + " " + s.name);
    std::stable_sort(piece.marks.begin(), piece.marks.end(), [](auto& a, auto& b) { return a.first < b.first; });
  }
  piece.notKept.assign(losses.begin(), losses.end());
  return piece;
}

}  // namespace ear
