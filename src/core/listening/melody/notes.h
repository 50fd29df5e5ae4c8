// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/audio/recording.h"
#include "core/listening/melody/f0_contour.h"

namespace ear {

/// A note as it is heard.
struct HeardNote {
  TimeSpan span;
  MidiPitch pitch;      ///< at its start, against A 440
  float certainty = 0;  ///< in [0, 1]
};

/// Notes of one voice: cut where something is struck and where the pitch steps; a bend or a vibrato cuts nothing. The
/// second note of a double stop comes behind the first. Among other voices an attack cuts where a guitar struck the
/// note.
/// @param guitar  of the same sound; may be empty
/// @param offset  that `guitar` was measured at
std::vector<HeardNote> findNotes(const F0Contour& line, const OnsetStrength& onsets, const GuitarActivations& guitar,
                                 Cents offset);

}  // namespace ear
