// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/listening/results/findings.h"
#include "core/phrase/note.h"
#include "core/study/study.h"
#include "core/theory/chord.h"
#include "core/theory/key.h"

namespace ear {

/// What a guitar plays, in bars: what goes to the files of other programs, and what comes from them.
struct TabPiece {
  std::string title{};  ///< of the song
  std::string name{};   ///< of the guitar, or of the phrase
  Guitar guitar{};
  std::vector<Note> notes{};  ///< in order, in quarter notes from the first bar line; none free of the beat
  std::vector<Beats> barLines{Beats(0), Beats(4)};  ///< rising from 0; the last one ends the last bar
  int firstBar = 1;                                 ///< its number in the recording
  std::optional<Key> key{};
  std::optional<Bpm> tempo{};
  std::vector<std::pair<Beats, Bpm>> tempos{};  ///< of each bar as it was recorded; empty where no beats are known
  Seconds start{0};                             ///< in the recording, of the first bar line; known with `tempos`
  Swing swing{};
  std::vector<std::pair<Beats, std::string>> marks{};  ///< where sections and phrases start
  std::vector<std::pair<Beats, Chord>> chords{};
  std::vector<std::string> notKept{};  ///< sentences on what the piece, or its file, could not hold
};

/// The key that sounds a note without its bend: a harmonic at the tempered note next to its partial, at its fret where
/// the partial is not known. MIDI number.
int soundingKey(const Guitar& guitar, const Note& note);

/// The phrases of the guitars of a take in the bars of the recording, from its first one on, repeats written out; or
/// one phrase in its own bars. All pieces stand in the same bars. Values that are not settled are left out. Without
/// beats a second is written as a quarter note, which is said.
/// @param part    id; empty: every guitar that has notes
/// @param phrase  id; empty: all of them, each by its fullest level
std::vector<TabPiece> tabPiecesOf(const Study& study, const Take& take, const Findings* findings,
                                  const std::string& part = {}, const std::string& phrase = {});

}  // namespace ear
