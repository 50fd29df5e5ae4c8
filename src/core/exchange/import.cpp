// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/import.h"

#include <algorithm>
#include <fstream>
#include <map>
#include <span>
#include <sstream>

#include "core/base/text.h"
#include "core/exchange/jams.h"
#include "core/exchange/midi_tab.h"
#include "core/exchange/musicxml.h"
#include "core/study/grid.h"
#include "core/study/time_map.h"

namespace ear {
namespace {

constexpr std::size_t kMostNotes = 20'000;  // of a phrase

/// The notes of a JAMS file that say where they lie, by guitar.
Outcome<std::vector<TabPiece>> piecesOf(const JamsContent& content, const Guitar& guitar) {
  std::map<std::string, TabPiece> byGuitar;
  for (const auto& n : content.notes)
    if (n.written && n.written->place.string < guitar.strings()) {
      TabPiece& piece = byGuitar[n.guitar];
      piece.notes.push_back(*n.written);
    }
  std::vector<TabPiece> pieces;
  for (auto& [name, piece] : byGuitar) {
    piece.title = content.title, piece.name = name, piece.guitar = guitar;
    piece.key = content.key, piece.tempo = content.tempo, piece.notKept = content.notKept;
    putInOrder(piece.notes);
    Beats to(0);
    for (const Note& n : piece.notes) to = std::max(to, n.end());
    piece.barLines = {Beats(0)};
    while (piece.barLines.back() < to) piece.barLines.push_back(piece.barLines.back() + Beats(4));
    pieces.push_back(std::move(piece));
  }
  if (pieces.empty()) return Problem{"This JAMS file has no notes with strings and frets."};
  return pieces;
}

}  // namespace

Outcome<std::vector<TabPiece>> readPieces(const std::filesystem::path& file, const Guitar& guitar) {
  std::ifstream in(file, std::ios::binary);
  char head[4] = {};
  if (!in.read(head, sizeof head) && in.gcount() == 0)
    return Problem{"“" + shownPath(file.filename()) + "” cannot be read. Check that it is there and may be opened."};
  const std::string_view start(head, static_cast<std::size_t>(in.gcount()));
  if (start == "MThd") {
    const auto midi = readMidi(file);
    if (!midi) return Problem{midi.problem()};
    std::vector<TabPiece> pieces;
    for (const MidiVoice& voice : midi->voices) {
      TabPiece piece = tabPieceOf(voice, guitar, midi->bar);
      if (!piece.notes.empty()) pieces.push_back(std::move(piece));
    }
    if (pieces.empty()) return Problem{"No note of this MIDI file lies on the guitar."};
    return pieces;
  }
  if (start.find('{') != std::string_view::npos) {
    std::ostringstream text;
    in.clear();
    in.seekg(0);
    text << in.rdbuf();
    const auto jams = readJams(text.str());
    return jams ? piecesOf(*jams, guitar) : Outcome<std::vector<TabPiece>>(Problem{jams.problem()});
  }
  return readMusicXmlFile(file);
}

Outcome<std::string> addAsPhrase(Study& study, const Take& take, const Findings* findings, const std::string& part,
                                 const TabPiece& piece, int bar) {
  if (piece.notes.empty()) return Problem{"There are no notes in it."};
  if (piece.notes.size() > kMostNotes)
    return Problem{"It has more than 20 000 notes. Export a part of it, and read that."};
  const auto time = settled(briefOf(take, {}, findings).time);
  const TimeMap map(gridOf(take, findings), time ? time->swing : Swing{});
  if (map.empty())
    return Problem{
        "No beats of this recording are known yet, so that its bars cannot be told. Let it be measured first."};
  const auto from = map.beatsOf({bar, Beats(0)});
  if (!from)
    return Problem{"The recording has no bar " + std::to_string(bar) + ": it has " + std::to_string(map.bars()) + "."};
  Beats first = piece.notes.front().at, last = first;
  for (const Note& n : piece.notes) first = std::min(first, n.at), last = std::max(last, n.end());
  Phrase phrase{.id = freshId(study, "phrase"), .take = take.id, .part = part, .name = shortened(piece.name, 200)};
  // It starts with the beat on which its first note lies.
  const Beats start(first.floor());
  phrase.span = {std::max(Seconds(0), map.timeAt(*from + start)), map.timeAt(*from + last)};
  int id = freshNoteId(study.phrases);
  std::vector<Note> notes = piece.notes;
  for (Note& n : notes) n.id = id++, n.at -= start;
  phrase.levels.change().front().notes = std::move(notes);
  const std::string made = phrase.id;
  study.phrases.push_back(std::move(phrase));
  return made;
}

}  // namespace ear
