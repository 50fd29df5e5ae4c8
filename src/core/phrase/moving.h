// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/phrase/note.h"

namespace ear {

/// Moves a note by strings (sounding up) and then by frets, with everything of it that is said in frets: the partner of
/// a trill, where a slide comes from, where a harmonic is touched, and its other readings. A natural harmonic keeps its
/// fret and goes by strings alone.
/// @return whether all of it lies on the neck there; else the note stays as it is
bool move(Note& note, const Guitar& guitar, int frets, int strings);

}  // namespace ear
