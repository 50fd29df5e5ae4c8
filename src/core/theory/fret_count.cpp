// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fret_count.h"

#include <algorithm>

namespace ear {

std::vector<Place> writtenFromNut(const Guitar& guitar, std::span<const Place> places) {
  std::vector<Place> written(places.begin(), places.end());
  for (Place& p : written)
    if (p.fret > 0) p.fret = guitar.fromNut(p);
  return written;
}

std::vector<Place> readFromNut(const Guitar& guitar, std::span<const Place> written) {
  std::vector<Place> places(written.begin(), written.end());
  for (Place& p : places) p.fret = std::max(0, p.fret - guitar.fromNut({p.string, 0}));
  return places;
}

}  // namespace ear
