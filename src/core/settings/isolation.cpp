// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/settings/isolation.h"

#include <algorithm>

namespace ear {

bool Isolation::plain() const {
  return channel == Channel::both && place == Panned::all && part == Component::all && lowCut <= Hertz(0) &&
         highCut <= Hertz(0) && focus <= Hertz(0) && !bassUp;
}

Isolation withinLimits(Isolation i) {
  i.centre = std::clamp(i.centre, -1.0, 1.0);
  i.width = std::clamp(i.width, Isolation::kLeastWidth, 1.0);
  for (Hertz* f : {&i.lowCut, &i.highCut, &i.focus})
    if (*f > Hertz(0)) *f = std::clamp(*f, Isolation::kLowest, Isolation::kHighest);
  if (i.highCut > Hertz(0)) i.lowCut = std::min(i.lowCut, i.highCut);
  return i;
}

}  // namespace ear
