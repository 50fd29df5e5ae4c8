// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/shape_ways.h"

namespace ear {

std::vector<ShapeWay> waysToSound(PitchClass shapes, PitchClass sounding, int highest) {
  std::vector<ShapeWay> ways;
  for (const int strings : {0, -1, -2}) {
    const int capo = PitchClass(sounding.value - shapes.value - strings).value;
    if (capo <= highest) ways.push_back({strings, capo});
  }
  return ways;
}

std::string sentenceOf(const ShapeWay& way) {
  std::string capo = way.capo == 0 ? "no capo" : "capo " + std::to_string(way.capo);
  if (way.strings == 0) return capo;
  return std::string("strings a ") + (way.strings == -1 ? "semitone" : "whole tone") + " down, " + capo;
}

}  // namespace ear
