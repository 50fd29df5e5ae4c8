// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/stereo_field.h"

#include <algorithm>
#include <cmath>

#include "core/base/parameter.h"

namespace ear {
namespace {

struct Parameters {
  double sameCents = parameter("stereoField.sameCents", 12.0, "cents");  ///< partials of the two channels that are one
  float aside = parameter("stereoField.aside", 0.2F, "of (l - r) / (l + r)");  ///< from here on it sits to a side
};
const Parameters kPar{};

float amplitudeNear(std::span<const Partial> frame, float hertz) {
  const auto reach = static_cast<float>(std::exp2(kPar.sameCents / 1200));
  auto at = std::lower_bound(frame.begin(), frame.end(), hertz / reach,
                             [](const Partial& p, float f) { return p.hertz < f; });
  float amplitude = 0;
  for (; at != frame.end() && at->hertz < hertz * reach; ++at) amplitude = std::max(amplitude, at->amplitude);
  return amplitude;
}

}  // namespace

StereoField splitStereo(const SpectralPeaks& left, const SpectralPeaks& right) {
  StereoField field;
  for (SpectralPeaks& f : field.frames) f.clock = left.clock, f.first = {0};
  const auto put = [&](Side side, const Partial& p) {
    field.frames[static_cast<std::size_t>(side)].partials.push_back(p);
    field.share[static_cast<std::size_t>(side)] += static_cast<double>(p.amplitude);
  };
  for (std::size_t i = 0; i < std::min(left.count(), right.count()); ++i) {
    for (const Partial& p : left.frame(i)) {
      const float other = amplitudeNear(right.frame(i), p.hertz);
      const float place = (p.amplitude - other) / (p.amplitude + other);
      if (place > kPar.aside)
        put(Side::left, {p.hertz, p.amplitude - other});
      else if (place >= -kPar.aside)
        put(Side::centre, {p.hertz, std::min(p.amplitude, other)});
    }
    for (const Partial& p : right.frame(i)) {
      const float other = amplitudeNear(left.frame(i), p.hertz);
      if ((p.amplitude - other) / (p.amplitude + other) > kPar.aside) put(Side::right, {p.hertz, p.amplitude - other});
    }
    for (SpectralPeaks& f : field.frames) f.first.push_back(static_cast<std::uint32_t>(f.partials.size()));
  }
  for (SpectralPeaks& f : field.frames) f.partials.shrink_to_fit();
  const double all = field.share[0] + field.share[1] + field.share[2] + 1e-12;
  for (double& s : field.share) s /= all;
  return field;
}

std::vector<SidePoint> sidesOverTime(const StereoField& field, Seconds step) {
  const SpectralPeaks& any = field.frames[0];
  const auto frames = static_cast<std::size_t>(std::max(1.0, std::round(any.clock.placeOf(step))));
  std::vector<SidePoint> points;
  float strongest = 0;
  for (std::size_t from = 0; from < any.count(); from += frames) {
    const std::size_t to = std::min(any.count(), from + frames);
    SidePoint point{any.clock.timeOf(static_cast<double>(from + to) / 2)};
    for (const Side side : kAllSides) {
      float& level = point.level[static_cast<std::size_t>(side)];
      for (std::size_t i = from; i < to; ++i)
        for (const Partial& p : field.at(side).frame(i)) level += p.amplitude;
      level /= static_cast<float>(to - from);
      strongest = std::max(strongest, level);
    }
    points.push_back(point);
  }
  for (auto& point : points)
    for (float& level : point.level) level = strongest > 0 ? level / strongest : 0;
  return points;
}

}  // namespace ear
