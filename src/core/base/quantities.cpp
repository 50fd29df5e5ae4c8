// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/quantities.h"

#include <cmath>
#include <cstdlib>

#include "core/base/text.h"

namespace ear {

double wholeCents(Cents cents) {
  return std::round(cents.value);
}

std::string centsWords(Cents size) {
  const double whole = std::abs(wholeCents(size));
  return fixed(whole, 0) + (whole == 1 ? " cent" : " cents");
}

std::string signedCents(Cents cents, int decimals) {
  return centsFigure(cents, decimals) + " cents";
}

std::string centsFigure(Cents cents, int decimals) {
  return withSign(cents.value, decimals);
}

std::string hertzWords(Hertz pitch) {
  return hertzFigure(pitch) + " Hz";
}

std::string hertzFigure(Hertz pitch) {
  return fixed(pitch.value, 2);
}

std::string referenceWords(Hertz a4) {
  return fixed(a4.value, 1) + " Hz";
}

std::string tempoWords(Bpm tempo, int decimals) {
  return fixed(tempo.value, decimals) + " beats a minute";
}

std::string percentWords(double share) {
  if (share > 0 && share < 0.005) return "under 1 %";
  return fixed(100 * share, 0) + " %";
}

std::string signedPercent(double share) {
  return withSign(100 * share, 0) + " %";
}

std::string signedMilliseconds(Seconds time) {
  return withSign(1000 * time.value, 0) + " ms";
}

std::string countWords(int number, const std::string& thing) {
  return std::to_string(number) + " " + thing + (number == 1 ? "" : "s");
}

std::string semitonesWords(int steps) {
  const int size = std::abs(steps);
  return size == 1 ? "a semitone" : size == 2 ? "a whole tone" : countWords(size, "semitone");
}

}  // namespace ear
