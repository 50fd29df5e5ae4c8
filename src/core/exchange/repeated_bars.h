// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/exchange/tab_piece.h"

namespace ear {

/// A bar as it stands on paper, where what comes again is written once.
struct WrittenBar {
  std::size_t bar = 0;        ///< of the bars as they are played, from 0
  bool startsRepeat = false;  ///< a sign before it: from here again
  int times = 0;              ///< a sign behind it: back, so that all is played so often; 0: none
  int ending = 0;             ///< it is played at this time only; 0: every time
  bool startsEnding = false, endsEnding = false;
  bool afterJump = false;  ///< the bar played before it may be another than the one written before it
  bool operator==(const WrittenBar&) const = default;
};

struct WrittenBars {
  std::vector<WrittenBar> bars{};
  bool marksLost = false;  ///< a bar that is written once only had another name at a later time
};

/// Every bar, in order.
WrittenBars allBars(std::size_t count);

/// Bars between repeat signs where the same ones are played again at once by every guitar: notes, what the hands do,
/// and chords alike. A first and a second ending where only the end is another one and shorter than what they share. No
/// note is torn, no repeat lies within another, all bars of one are as long as each other, and it spares two bars or
/// more: of those that do, the one that spares most.
/// @param pieces  of one song
/// @param lines   bar lines of all of them, rising
WrittenBars repeatedBars(const std::vector<TabPiece>& pieces, const std::vector<Beats>& lines);

}  // namespace ear
