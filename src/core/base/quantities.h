// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

#include "core/base/units.h"

namespace ear {

// How each quantity is written: in one way, rounded in one place. Times of a recording are in text.h.

/// A size without its sign: "1 cent", "12 cents".
std::string centsWords(Cents size);
/// "+12 cents", "-7.5 cents", "0 cents".
std::string signedCents(Cents cents, int decimals = 0);
/// "+12", for a column or an axis that says what it is in.
std::string centsFigure(Cents cents, int decimals = 0);
/// Whole cents, as all of these round them.
double wholeCents(Cents cents);

/// "82.41 Hz"; what a tuner or a table of strings shows.
std::string hertzWords(Hertz pitch);
/// The same without its unit.
std::string hertzFigure(Hertz pitch);
/// The pitch that a tuner is set to: "442.5 Hz".
std::string referenceWords(Hertz a4);

/// "104 beats a minute"; one decimal where it was measured rather than said.
std::string tempoWords(Bpm tempo, int decimals = 0);

/// "42 %"; "under 1 %" for what is little, but not nothing.
std::string percentWords(double share);
/// "+12 %".
std::string signedPercent(double share);

/// "+8 ms".
std::string signedMilliseconds(Seconds time);

/// "1 bar", "8 bars"; the plural ends in s.
std::string countWords(int number, const std::string& thing);

/// "a semitone", "a whole tone", "3 semitones".
std::string semitonesWords(int steps);

}  // namespace ear
