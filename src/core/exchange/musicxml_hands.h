// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <pugixml.hpp>

#include "core/phrase/note.h"

namespace ear::musicxml {

/// What both hands do at a note of the tab staff.
struct HandMarks {
  const Note& note;
  bool led = false;             ///< a note before on its string is hammered, pulled or slid to it
  const Note* leads = nullptr;  ///< the note that it leads to so
  int strings = 6;
  Beats written{};  ///< the length that its elements say

  /// @param starts  false for a later piece of a tie, which says where it lies only
  void write(pugi::xml_node notations, bool starts) const;
};

}  // namespace ear::musicxml
