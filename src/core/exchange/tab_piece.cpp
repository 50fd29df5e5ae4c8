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
/// @param whole  from the recording's first bar on
void layBars(TabPiece& piece, const TimeMap& map, Beats from, Beats to, bool whole) {
  piece.barLines.clear();
  const auto lengthOf = [&](int bar) {
    return map.empty() ? Beats(4) : std::max(Beats(1), map.lengthOf(std::min(bar, map.bars())));
  };
  Beats line(0);
  int bar = 1;
  if (from < Beats(0)) {  // a pickup gets a bar of its own
    piece.barLines.emplace_back(from.floor());
    piece.firstBar = 0;
  } else {
    while (!whole && line + lengthOf(bar) <= from) line += lengthOf(bar++);
    piece.firstBar = bar;
  }
  piece.barLines.push_back(line);
  while (piece.barLines.back() < to || piece.barLines.size() < 2) {
    line += lengthOf(bar++);
    piece.barLines.push_back(line);
  }
}

/// A guitar's notes and what is known of the song, still counted from the recording's first bar line.
TabPiece pieceOf(const Study& study, const Take& take, const Findings* findings, const GuitarPart& part,
                 const std::string& phrase) {
  const Brief brief = briefOf(take, part, findings);
  TabPiece piece{.title = study.title, .name = part.name};
  piece.guitar = guitarOf(settled(setupOf(part, findings)).value_or(GuitarSetup{}),
                          settled(brief.pitch).value_or(PitchValue{}).offset);
  piece.guitar.frets = part.frets;
  piece.key = settled(brief.key);
  if (const auto time = settled(brief.time)) piece.tempo = time->tempo, piece.swing = time->swing;
  const TimeMap map(gridOf(take, findings), piece.swing);
  std::set<std::string> losses;
  if (map.empty()) {
    piece.tempo = Bpm(60);
    losses.insert("No beats of the recording are known: a second is written as a quarter note.");
  }
  std::vector<const Phrase*> wanted;
  for (const auto& p : study.phrases)
    if (p.take == take.id && p.part == part.id && (phrase.empty() || p.id == phrase)) wanted.push_back(&p);
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
  putInOrder(piece.notes);
  for (std::size_t i = 0; i < piece.notes.size(); ++i) piece.notes[i].id = static_cast<int>(i) + 1;
  if (!map.empty()) {
    const auto placeOf = [&](Seconds t) { return Beats(std::llround(map.beatsAt(t) * 4), 4); };
    for (const ShownChord& c : chordsOf(take, findings))
      if (c.chord && isSettled(c)) piece.chords.emplace_back(placeOf(c.span.start), *c.chord);
    if (const auto form = settled(brief.form); form && phrase.empty())
      for (const Section& s : *form)
        piece.marks.emplace_back(placeOf(s.span.start), s.name.empty() ? s.letter : s.letter + " " + s.name);
    std::stable_sort(piece.marks.begin(), piece.marks.end(), [](auto& a, auto& b) { return a.first < b.first; });
  }
  piece.notKept.assign(losses.begin(), losses.end());
  return piece;
}

/// Counts from the first bar line that is written; what lies outside of the bars goes, but for the chord that holds on.
template <class Value>
void cut(std::vector<std::pair<Beats, Value>>& values, Beats first, Beats last, bool holdsOn) {
  std::vector<std::pair<Beats, Value>> kept;
  for (const auto& [at, value] : values) {
    if (at >= last) continue;
    if (at < first) {
      if (holdsOn) kept.assign(1, {Beats(0), value});
      continue;
    }
    if (holdsOn && !kept.empty() && kept.back().first == at - first) kept.pop_back();
    kept.emplace_back(at - first, value);
  }
  values = std::move(kept);
}

/// How fast each bar is in the recording, and where the first one begins; while bar lines are the map's own.
void layTempos(TabPiece& piece, const TimeMap& map) {
  if (map.empty()) return;
  const Beats first = piece.barLines.front();
  piece.start = map.timeAt(first);
  for (std::size_t bar = 0; bar + 1 < piece.barLines.size(); ++bar) {
    const Beats from = piece.barLines[bar], to = piece.barLines[bar + 1];
    const Seconds lasts = map.timeAt(to) - map.timeAt(from);
    if (lasts > Seconds(0)) piece.tempos.emplace_back(from - first, Bpm(60 * (to - from).value() / lasts.value));
  }
}

}  // namespace

int soundingKey(const Guitar& guitar, const Note& note) {
  Note still = note;
  still.bend.reset();
  const auto pitch = pitchAtStart(guitar, still);
  return pitch ? static_cast<int>(std::lround(pitch->value)) : guitar.pitch(note.place);
}

std::vector<TabPiece> tabPiecesOf(const Study& study, const Take& take, const Findings* findings,
                                  const std::string& part, const std::string& phrase) {
  std::vector<TabPiece> pieces;
  for (const GuitarPart& own : partsOf(study, take, findings)) {
    if (!part.empty() && own.id != part) continue;
    TabPiece piece = pieceOf(study, take, findings, own, phrase);
    if (!piece.notes.empty()) pieces.push_back(std::move(piece));
  }
  if (pieces.empty()) return pieces;
  Beats from = pieces.front().notes.front().at, to = from;
  for (const TabPiece& p : pieces)
    for (const Note& n : p.notes) from = std::min(from, n.at), to = std::max(to, n.end());
  const TimeMap map(gridOf(take, findings), pieces.front().swing);
  for (TabPiece& p : pieces) {
    layBars(p, map, from, to, phrase.empty());
    layTempos(p, map);
    const Beats first = p.barLines.front(), last = p.barLines.back();
    for (Beats& line : p.barLines) line -= first;
    for (Note& n : p.notes) n.at -= first;
    cut(p.marks, first, last, false);
    cut(p.chords, first, last, true);
  }
  return pieces;
}

}  // namespace ear
