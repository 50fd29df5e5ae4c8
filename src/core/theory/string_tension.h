// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/base/units.h"
#include "core/theory/tuning.h"

namespace ear {

/// A string as sold: its gauge and what an inch of it weighs.
struct StringGauge {
  double inches = 0.0;  ///< diameter
  bool wound = false;
  double poundsPerInch = 0.0;  ///< unit weight
};

/// Plain steel of a diameter; its weight follows from the density of steel, 7.85 g/cm3.
StringGauge plainSteel(double inches);

/// A set of six strings, from the lowest.
struct StringSet {
  std::string_view name;
  std::vector<StringGauge> strings;
};

/// Common sets; unit weights of wound strings are from memory of published tension charts.
std::span<const StringSet> stringSets();

inline constexpr double kUsualScaleInches = 25.5;

/// Tension in pounds: T = UW (2 L F)^2 / 386.4, as string makers print it in their tension charts; it is the law of
/// Mersenne (Harmonie universelle, 1636) in pounds, inches and hertz, 386.4 being the acceleration of gravity in inches
/// per second squared.
double tensionPounds(const StringGauge& string, double scaleInches, Hertz pitch);

/// The next lighter gauge that carries a string at a new pitch with no more tension than it had before.
/// @return the diameter in inches, rounded down to half a thousandth
double lighterGauge(double inches, int semitonesUp);

}  // namespace ear
