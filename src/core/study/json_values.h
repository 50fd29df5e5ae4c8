#pragma once

#include <cmath>
#include <nlohmann/json.hpp>
#include <stdexcept>
#include <string>
#include <utility>
#include <vector>

#include "core/units.h"

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

inline double numberIn(const Json& json, const char* key, double low, double high) {
  const double value = json.at(key).get<double>();
  require(std::isfinite(value) && value >= low && value <= high, std::string(key) + " is out of range");
  return value;
}

inline constexpr double kLongestTime = 1e6;  ///< seconds

inline Json spanToJson(TimeSpan span) {
  return {{"start_s", span.start.value}, {"end_s", span.end.value}};
}

inline TimeSpan spanFrom(const Json& json) {
  const TimeSpan span{Seconds(numberIn(json, "start_s", 0, kLongestTime)),
                      Seconds(numberIn(json, "end_s", 0, kLongestTime))};
  require(span.start <= span.end, "a span ends before it starts");
  return span;
}

}  // namespace ear
