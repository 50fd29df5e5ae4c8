// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace ear {

/// Name of a distance in semitones, either way: 3 -> "minor third", 12 -> "octave", 19 -> "octave and fifth",
/// 24 -> "two octaves".
std::string intervalName(int semitones);

/// Degree above a tonic or root as players write it: 0 -> "1", 3 -> "♭3", 6 -> "♭5", 10 -> "♭7"; folded into an octave.
std::string degreeName(int semitones);

}  // namespace ear
