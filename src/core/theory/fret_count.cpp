// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fret_count.h"

#include <algorithm>

namespace ear {

std::vector<FretPosition> writtenFromNut(const Guitar& guitar, std::span<const FretPosition> places) {
  std::vector<FretPosition> written(places.begin(), places.end());
  for (FretPosition& p : written)
    if (p.fret > 0) p.fret = guitar.fromNut(p);
  return written;
}

std::vector<FretPosition> readFromNut(const Guitar& guitar, std::span<const FretPosition> written) {
  std::vector<FretPosition> places(written.begin(), written.end());
  for (FretPosition& p : places) p.fret = std::max(0, p.fret - guitar.fromNut({p.string, 0}));
  return places;
}

}  // namespace ear
