// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string_view>
#ifdef INNER_EAR_FIT
#include <charconv>
#include <cstdlib>
#include <iostream>
#include <string>
#endif

namespace ear {

/// Where the value of a parameter comes from, unless another source stands beside it: chosen by hand on 52 songs and 40
/// licks of one source of recordings (its seeds 1 to 3), judged on seeds that nothing was chosen on (bench/RESULTS.md).
/// Tables of weights stand beside the code that reads them; where they name no source they were chosen in the same way.
inline constexpr std::string_view kByHand = "by hand";

/// A number that an estimator decides by, with where it comes from. In the product it is a constant. Built with
/// INNER_EAR_FIT, the environment can give it another value, which is how bench/fit/search.py looks for better ones.
///
/// @param name    room and member, as `keyFinder.endWeight`; unique in the program
/// @param unit    in words; empty for a plain factor
/// @param source  a publication, the script that fitted it, or how it was chosen
/// @return value; in a build for fitting that of the environment's variable `name`, where it is a number.
/// With `INNER_EAR_PARAMETERS` set, that build prints name, value, unit and source, parted by tabs, to standard error.
#ifndef INNER_EAR_FIT
template <class T>
constexpr T parameter(std::string_view /*name*/, T value, std::string_view /*unit*/,
                      std::string_view /*source*/ = kByHand) {
  return value;
}
#else
template <class T>
T parameter(std::string_view name, T value, std::string_view unit, std::string_view source = kByHand) {
  const auto number = [](const T& v) {
    if constexpr (requires { v.value; })
      return static_cast<double>(v.value);
    else
      return static_cast<double>(v);
  };
  if (const char* given = std::getenv(std::string(name).c_str())) {
    const std::string_view text(given);
    double other = number(value);
    if (std::from_chars(text.data(), text.data() + text.size(), other).ec == std::errc()) value = static_cast<T>(other);
  }
  if (std::getenv("INNER_EAR_PARAMETERS") != nullptr)
    std::cerr << name << '\t' << number(value) << '\t' << unit << '\t' << source << '\n';
  return value;
}
#endif

}  // namespace ear
