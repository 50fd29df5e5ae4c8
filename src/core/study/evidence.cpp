// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/evidence.h"

#include "core/base/text.h"

namespace ear {

std::size_t numbersOf(Evidence::Kind kind) {
  if (kind == Evidence::Kind::beatsTapped) return 2;
  return kind == Evidence::Kind::beatsFollow ? 1 : 0;
}

std::string sentenceOf(const Evidence& evidence) {
  using Kind = Evidence::Kind;
  const auto number = [&](std::size_t i, int decimals) {
    return i < evidence.numbers.size() ? fixed(evidence.numbers[i], decimals) : "?";
  };
  switch (evidence.kind) {
    case Kind::none:
      return {};
    case Kind::words:
      return evidence.sentence;
    case Kind::setByHand:
      return "Set by hand.";
    case Kind::correctedByHand:
      return "Corrected by hand.";
    case Kind::takenFromReadings:
      return "Taken from the readings.";
    case Kind::readFromFile:
      return "Read from a file.";
    case Kind::confirmedByEar:
      return "Confirmed by ear.";
    case Kind::halfTempo:
      return "Counted at half the tempo.";
    case Kind::doubleTempo:
      return "Counted at twice the tempo.";
    case Kind::barsMoved:
      return "Bar lines moved by hand.";
    case Kind::barsSet:
      return "Bar lines set by hand.";
    case Kind::beatsHeld:
      return "Beats held by hand.";
    case Kind::beatsTapped:
      return number(0, 0) + (number(0, 0) == "1" ? " beat" : " beats") + " tapped, " + number(1, 1) + " a minute.";
    case Kind::beatsFollow:
      return number(0, 0) + (number(0, 0) == "1" ? " beat" : " beats") + " held by hand, the others follow.";
  }
  return {};
}

}  // namespace ear
