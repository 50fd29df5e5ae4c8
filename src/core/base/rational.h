// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cassert>
#include <compare>
#include <cstdint>
#include <numeric>
#include <string>

namespace ear {

/// An exact fraction in lowest terms, for places and lengths in beats: three triplets are one beat and not a little
/// less. What musicians write stays far inside its range; a denominator is at most kFinest, so that nothing overflows.
class Rational {
 public:
  static constexpr std::int64_t kFinest = 100'000;      ///< denominator
  static constexpr std::int64_t kGreatest = 1'000'000;  ///< either way, as a value

  constexpr Rational() = default;
  constexpr Rational(std::int64_t whole) : top_(whole) {}  // NOLINT(google-explicit-constructor): a number is a number
  /// @pre bottom is not 0
  constexpr Rational(std::int64_t top, std::int64_t bottom) {
    assert(bottom != 0);
    const std::int64_t divisor = std::gcd(top, bottom) * (bottom < 0 ? -1 : 1);
    top_ = top / divisor;  // NOLINT(clang-analyzer-core.DivideZero): the divisor is 0 only where both are
    bottom_ = bottom / divisor;
  }

  constexpr std::int64_t top() const { return top_; }
  constexpr std::int64_t bottom() const { return bottom_; }  ///< > 0
  constexpr double value() const { return static_cast<double>(top_) / static_cast<double>(bottom_); }
  /// The greatest whole number that is not above it.
  constexpr std::int64_t floor() const { return top_ / bottom_ - (top_ % bottom_ < 0 ? 1 : 0); }
  /// Whether it can be kept: inside the range within which sums and products are exact.
  constexpr bool sane() const {
    return bottom_ <= kFinest && top_ / bottom_ < kGreatest && -(top_ / bottom_) < kGreatest;
  }

  constexpr Rational operator-() const { return {-top_, bottom_}; }
  constexpr Rational operator+(Rational o) const {
    const std::int64_t common = std::gcd(bottom_, o.bottom_);
    return {top_ * (o.bottom_ / common) + o.top_ * (bottom_ / common), bottom_ / common * o.bottom_};
  }
  constexpr Rational operator-(Rational o) const { return *this + -o; }
  constexpr Rational operator*(Rational o) const {
    const std::int64_t a = std::gcd(top_, o.bottom_), b = std::gcd(o.top_, bottom_);
    return {(top_ / a) * (o.top_ / b), (bottom_ / b) * (o.bottom_ / a)};
  }
  /// @pre `o` is not 0
  constexpr Rational operator/(Rational o) const { return *this * Rational(o.bottom_, o.top_); }
  constexpr Rational& operator+=(Rational o) { return *this = *this + o; }
  constexpr Rational& operator-=(Rational o) { return *this = *this - o; }

  constexpr bool operator==(const Rational&) const = default;
  constexpr std::strong_ordering operator<=>(Rational o) const { return (*this - o).top_ <=> 0; }

  /// "3", "-1/2".
  std::string text() const { return std::to_string(top_) + (bottom_ == 1 ? "" : "/" + std::to_string(bottom_)); }

 private:
  std::int64_t top_ = 0, bottom_ = 1;
};

/// A place or a length in beats.
using Beats = Rational;

}  // namespace ear
