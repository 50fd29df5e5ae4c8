// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <compare>

namespace ear {

/// A number with a unit, so that seconds cannot be passed for cents.
template <class Tag>
struct Quantity {
  double value = 0.0;

  constexpr Quantity() = default;
  constexpr explicit Quantity(double v) : value(v) {}

  constexpr auto operator<=>(const Quantity&) const = default;  // NOLINT(modernize-use-nullptr): its literal 0
  constexpr Quantity operator+(Quantity o) const { return Quantity(value + o.value); }
  constexpr Quantity operator-(Quantity o) const { return Quantity(value - o.value); }
  constexpr Quantity operator-() const { return Quantity(-value); }
  constexpr Quantity operator*(double factor) const { return Quantity(value * factor); }
  constexpr Quantity operator/(double divisor) const { return Quantity(value / divisor); }
  constexpr double operator/(Quantity o) const { return value / o.value; }
  constexpr Quantity& operator+=(Quantity o) { return *this = *this + o; }
  constexpr Quantity& operator-=(Quantity o) { return *this = *this - o; }
};

using Seconds = Quantity<struct SecondsTag>;      ///< time from the first sample of a recording, or a length
using Cents = Quantity<struct CentsTag>;          ///< hundredths of an equal-tempered semitone
using Hertz = Quantity<struct HertzTag>;          ///< frequency
using Bpm = Quantity<struct BpmTag>;              ///< beats per minute
using MidiPitch = Quantity<struct MidiPitchTag>;  ///< semitones, A4 = 69, fractional between the notes

/// A stretch of a recording; `start` <= `end`.
struct TimeSpan {
  Seconds start;
  Seconds end;

  constexpr Seconds length() const { return end - start; }
  constexpr bool contains(Seconds t) const { return start <= t && t < end; }
  constexpr bool operator==(const TimeSpan&) const = default;
};

/// How long both last together; negative where they are apart.
constexpr Seconds overlap(TimeSpan a, TimeSpan b) {
  return (a.end < b.end ? a.end : b.end) - (a.start < b.start ? b.start : a.start);
}

}  // namespace ear
