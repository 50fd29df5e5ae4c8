#include "core/text.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace ear {

std::string fixed(double value, int decimals) {
  std::array<char, 64> buffer{};
  const auto end =
      std::to_chars(buffer.data(), buffer.data() + buffer.size(), value, std::chars_format::fixed, decimals);
  std::string text(buffer.data(), end.ptr);
  if (text.starts_with('-') && text.find_first_of("123456789") == std::string::npos) text.erase(0, 1);
  return text;
}

std::string withSign(double value, int decimals) {
  std::string text = fixed(value, decimals);
  const bool zero = text.find_first_of("123456789") == std::string::npos;
  return value > 0 && !zero ? "+" + text : text;
}

namespace {
std::string clock(long long units, long long perSecond) {
  const long long seconds = units / perSecond;
  const auto two = [](long long n) { return (n < 10 ? "0" : "") + std::to_string(n); };
  std::string text =
      seconds >= 3600 ? std::to_string(seconds / 3600) + ":" + two(seconds / 60 % 60) : std::to_string(seconds / 60);
  text += ":" + two(seconds % 60);
  if (perSecond == 10) text += "." + std::to_string(units % 10);
  return text;
}
}  // namespace

std::string clockTime(Seconds time) {
  return clock(static_cast<long long>(std::max(0.0, time.value)), 1);
}

std::string clockTenths(Seconds time) {
  return clock(std::llround(std::max(0.0, time.value) * 10), 10);
}

}  // namespace ear
