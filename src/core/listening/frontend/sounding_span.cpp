// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/sounding_span.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/audio/samples.h"
#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/listening/frontend/spectra.h"

namespace ear {
namespace {

struct Parameters {
  double silence = parameter("soundingSpan.silence", -30.0, "dB");  ///< against the usual level
};
const Parameters kPar{};

constexpr std::size_t kWindow = kListeningRate / 50;  // samples

}  // namespace

TimeSpan soundingSpan(std::span<const float> mono) {
  Trail trail(mono);
  std::vector<double> level;  // root of the mean square
  for (std::size_t from = 0; from < mono.size(); from += kWindow) {
    const auto window = mono.subspan(from, std::min(kWindow, mono.size() - from));
    double squares = 0;
    for (const float v : window) squares += static_cast<double>(v) * static_cast<double>(v);
    level.push_back(std::sqrt(squares / static_cast<double>(window.size())));
    trail.reached(from);
  }
  if (level.empty()) return {};
  const double least = medianOf(level) * std::pow(10.0, kPar.silence / 20);
  const auto sounds = [&](double l) { return l > least; };
  const auto first = std::find_if(level.begin(), level.end(), sounds);
  const auto last = std::find_if(level.rbegin(), level.rend(), sounds);
  if (first == level.end()) return {};
  const auto timeOf = [&](std::ptrdiff_t window) {
    return Seconds(std::min(static_cast<double>(mono.size()), static_cast<double>(window) * kWindow) / kListeningRate);
  };
  return {timeOf(first - level.begin()), timeOf(level.rend() - last)};
}

}  // namespace ear
