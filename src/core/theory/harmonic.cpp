// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/harmonic.h"

#include <cmath>

namespace ear {

std::optional<Harmonic> harmonicAbove(int fret) {
  int partial = 0;
  switch (fret) {
    case 12:
      partial = 2;
      break;
    case 7:
    case 19:
      partial = 3;
      break;
    case 5:
    case 24:
      partial = 4;
      break;
    case 4:
    case 9:
    case 16:
      partial = 5;
      break;
    default:
      return std::nullopt;
  }
  const double exact = 12 * std::log2(partial);
  const int nearest = static_cast<int>(std::lround(exact));
  return Harmonic{nearest, Cents(100 * (exact - nearest))};
}

std::vector<HarmonicPlace> harmonicPlaces(const Guitar& guitar, int midi) {
  std::vector<HarmonicPlace> places;
  for (int fret = 1; fret <= 24; ++fret)
    if (const auto harmonic = harmonicAbove(fret))
      for (int s = 0; s < guitar.strings(); ++s)
        if (guitar.open(s) + harmonic->semitones == midi) places.push_back({{s, fret}, harmonic->off});
  return places;
}

}  // namespace ear
