// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/base/outcome.h"
#include "core/exchange/lists.h"

namespace ear {

/// What is known of a take as JAMS (Humphrey et al. 2014, "JAMS: A JSON annotated music specification for reproducible
/// MIR research", ISMIR; version 0.3): tempo, beats with their places in the bar, chords in Harte syntax, segments,
/// key, the pitch of the leading voice as pitch_contour, and the notes of each guitar string as note_midi, as in
/// GuitarSet (Xi et al. 2018). Each annotation says whether it was measured, set or confirmed; what a string does
/// besides its pitch stands in a note's sandbox.
std::string writeJams(const TakeLists& take, const std::vector<TabPiece>& pieces);

/// What a JAMS file says of a recording.
struct JamsContent {
  std::string title{};
  Seconds duration{};
  Grid beats{};
  std::vector<ChordDecision> chords{};
  Form form{};
  std::optional<Key> key{};
  std::optional<Bpm> tempo{};
  /// Notes by second; where the file was written here, with string, fret and what the hand does.
  struct HeardNote {
    TimeSpan span;
    MidiPitch pitch;
    std::string guitar{};
    std::optional<Note> written{};  ///< its place in beats as in its piece
  };
  std::vector<HeardNote> notes{};
  std::vector<VoicePitch> pitch{};  ///< rising
  std::vector<std::string> notKept{};
};
/// @return or a sentence: no JSON (with the place), no JAMS, too large
Outcome<JamsContent> readJams(std::string_view text);

}  // namespace ear
