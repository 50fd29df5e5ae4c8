// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "core/base/outcome.h"
#include "core/exchange/midi_file.h"
#include "core/exchange/tab_piece.h"

namespace ear {

/// Pieces as a Standard MIDI File of type 1 (libsmf): the tempo of each bar as recorded, where the first one begins
/// (SMPTE offset, 30 frames a second), metre and marks in the first track, then a track for each guitar with a channel
/// for each string, the highest first, so that a bent string bends alone. Bends, dives and let-downs are moves of the
/// pitch wheel over a declared range of four semitones or more, vibrato is the modulation wheel. What is struck on a
/// damped string is soft and short. A harmonic sounds the key next to its partial, with a text event that says where it
/// lies: "harmonic: string 3 fret 12 natural". Nothing says how the recording lies from concert pitch.
/// @param file  is written safely: a failure leaves what was there
Outcome<Done> writeMidi(const std::vector<TabPiece>& pieces, const std::filesystem::path& file);

/// The other way round: what a voice plays on a guitar. Channels are strings, as writeMidi() has them, where every note
/// has a fret there; else the notes are placed where they lie best under the hand. What the pitch wheel does is a bend
/// or a dive, to a tenth of a cent.
TabPiece tabPieceOf(const MidiVoice& voice, const Guitar& guitar, Rational bar);

}  // namespace ear
