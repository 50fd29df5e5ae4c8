// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/string_tension.h"

#include <cmath>
#include <numbers>

namespace ear {
namespace {
constexpr double kSteelPoundsPerCubicInch = 0.28360;  // 7.85 g/cm3
constexpr double kGravityInches = 386.4;

StringGauge wound(double inches, double poundsPerInch) {
  return {inches, true, poundsPerInch};
}
}  // namespace

StringGauge plainSteel(double inches) {
  return {inches, false, std::numbers::pi / 4 * inches * inches * kSteelPoundsPerCubicInch};
}

std::span<const StringSet> stringSets() {
  static const std::vector<StringSet> kSets = {
      {"electric, light (10 to 46)",
       {wound(0.046, 0.00038216), wound(0.036, 0.00023964), wound(0.026, 0.00012671), plainSteel(0.017),
        plainSteel(0.013), plainSteel(0.010)}},
      {"electric, extra light (9 to 42)",
       {wound(0.042, 0.00032279), wound(0.032, 0.00019347), wound(0.024, 0.00010857), plainSteel(0.016),
        plainSteel(0.011), plainSteel(0.009)}},
      {"acoustic, light (12 to 53)",
       {wound(0.053, 0.00051322), wound(0.042, 0.00032252), wound(0.032, 0.00019347), wound(0.024, 0.00010857),
        plainSteel(0.016), plainSteel(0.012)}},
  };
  return kSets;
}

double tensionPounds(const StringGauge& string, double scaleInches, Hertz pitch) {
  const double speed = 2 * scaleInches * pitch.value;
  return string.poundsPerInch * speed * speed / kGravityInches;
}

double lighterGauge(double inches, int semitonesUp) {
  // Weight grows with the square of the diameter and tension with weight times frequency squared.
  return std::floor(inches * std::exp2(-semitonesUp / 12.0) * 2000.0 + 1e-9) / 2000.0;
}

}  // namespace ear
