// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/exchange/tab_piece.h"

namespace ear {

/// Pieces as a text for LilyPond 2.24, for those who engrave by themselves: names of chords, a staff of notes and a
/// staff of tab for each guitar, with its tuning. Bends and what has no sign there stand as words over the notes. Lines
/// are broken at bars, each with its number.
std::string writeLilyPond(const std::vector<TabPiece>& pieces);

}  // namespace ear
