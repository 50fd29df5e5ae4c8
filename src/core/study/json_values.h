// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cmath>
#include <cstdint>
#include <nlohmann/json.hpp>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "core/base/units.h"

namespace ear {

/// What the parts of a study file are read and written with. All of them throw std::runtime_error with a short reason.
using Json = nlohmann::ordered_json;

inline void require(bool fine, const std::string& what) {
  if (!fine) throw std::runtime_error(what);
}

/// The words that stand for the values of an enumeration.
template <class Enum>
using EnumWords = std::vector<std::pair<const char*, Enum>>;

template <class Enum>
Enum enumFrom(const Json& json, const EnumWords<Enum>& names) {
  for (const auto& [name, value] : names)
    if (json == Json(name)) return value;
  throw std::runtime_error("unknown word " + json.dump());
}

template <class Enum>
const char* enumName(Enum value, const EnumWords<Enum>& names) {
  for (const auto& [name, candidate] : names)
    if (candidate == value) return name;
  return "";
}

inline double finite(const Json& json) {
  const auto value = json.get<double>();
  require(std::isfinite(value), "a number that is none");
  return value;
}

inline double finiteAt(const Json& json, const char* key) {
  return finite(json.at(key));
}

/// A whole number; what would not fit an int is refused, not bent.
inline int whole(const Json& json) {
  require(json.is_number_integer(), "a number that should be whole");
  const auto value =
      json.is_number_unsigned() && json.get<std::uint64_t>() > INT64_MAX ? INT64_MAX : json.get<std::int64_t>();
  require(value >= INT32_MIN && value <= INT32_MAX, "a number that is out of range");
  return static_cast<int>(value);
}

inline int wholeAt(const Json& json, const char* key) {
  return whole(json.at(key));
}

inline std::size_t indexBelow(const Json& json, std::size_t count) {
  const int value = whole(json);
  require(value >= 0 && static_cast<std::size_t>(value) < count, "an index beyond the end");
  return static_cast<std::size_t>(value);
}

inline Json spanToJson(TimeSpan span) {
  return {{"start_s", span.start.value}, {"end_s", span.end.value}};
}

inline TimeSpan spanFrom(const Json& json) {
  return {Seconds(finiteAt(json, "start_s")), Seconds(finiteAt(json, "end_s"))};
}

}  // namespace ear
