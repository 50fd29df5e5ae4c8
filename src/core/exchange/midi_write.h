// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <vector>

#include "core/base/outcome.h"
#include "core/exchange/tab_piece.h"

namespace ear {

/// Pieces as a Standard MIDI File of type 1 (libsmf): tempo, metre and marks in the first track, then a track for each
/// guitar with a channel for each string, the highest first, so that a bent string bends alone. Bends, slides, vibrato
/// and let-downs are moves of the pitch wheel over a declared range of twelve semitones. What is struck on a damped
/// string is soft and short. Nothing says how the recording lies from concert pitch.
/// @param file  is written safely: a failure leaves what was there
Outcome<Done> writeMidi(const std::vector<TabPiece>& pieces, const std::filesystem::path& file);

}  // namespace ear
