// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/form/borders.h"

#include <algorithm>
#include <cmath>

#include "core/base/statistics.h"

namespace ear {
namespace {

using Matrix = Eigen::MatrixXd;
using Eigen::Index;

constexpr int kShortestBars = 2, kLongestBars = 24;
constexpr double kRarity = -3.15;  // log odds where nothing stands out

/// How much more alike the bars before and the bars after each border are than those across it.
std::vector<double> novelty(const Eigen::MatrixXf& s, Index reach) {
  const Index n = s.rows();
  std::vector<double> result(static_cast<std::size_t>(n), 0.0);
  for (Index b = 1; b < n; ++b) {
    const Index k = std::min({reach, b, n - b});
    result[static_cast<std::size_t>(b)] =
        (s.block(b - k, b - k, k, k).mean() + s.block(b, b, k, k).mean()) / 2 - s.block(b - k, b, k, k).mean();
  }
  return result;
}

/// Where a diagonal stripe of likeness, `length` bars long, begins or ends.
std::vector<double> repeatEdges(const auto& s, Index length) {
  const Index n = s.rows();
  std::vector<double> edge(static_cast<std::size_t>(n), 0.0);
  std::vector<double> along;  // mean of the stripe from each place of one diagonal on; none where it leaves the matrix
  for (Index lag = 4 - n; lag < n; ++lag) {
    if (std::abs(lag) < 4) continue;
    const Index from = std::max<Index>(0, -lag), end = n - std::max<Index>(0, lag);
    along.assign(static_cast<std::size_t>(end - from), 0.0);
    for (Index b = from; b < end; ++b) {
      const auto at = static_cast<std::size_t>(b - from), back = static_cast<std::size_t>(length);
      if (b + length <= end) {
        double sum = 0;
        for (Index k = 0; k < length; ++k) sum += s(b + k, b + k + lag);
        along[at] = sum / static_cast<double>(length);
      }
      const double change = std::abs(along[at] - (at >= back ? along[at - back] : 0.0));
      if (b > 0) edge[static_cast<std::size_t>(b)] = std::max(edge[static_cast<std::size_t>(b)], change);
    }
  }
  return edge;
}

/// How far the second half of the bar before each border departs from that of the bars before it.
std::vector<double> fills(const Matrix& rhythm) {
  const Index n = rhythm.rows(), half = BarFeatures::kPlaces / 2;
  std::vector<double> result(static_cast<std::size_t>(n), 0.0);
  for (Index b = 2; b < n; ++b) {
    double square = 0;
    for (Index column = 0; column < rhythm.cols(); ++column) {
      if (column % BarFeatures::kPlaces < half) continue;
      std::vector<double> usual;
      for (Index i = std::max<Index>(0, b - 4); i < b - 1; ++i) usual.push_back(rhythm(i, column));
      const double median = medianOf(std::move(usual));
      square += (rhythm(b - 1, column) - median) * (rhythm(b - 1, column) - median);
    }
    result[static_cast<std::size_t>(b)] = std::sqrt(square);
  }
  return result;
}

std::vector<double> rises(const std::vector<double>& level) {
  std::vector<double> result(level.size(), 0.0);
  for (std::size_t b = 1; b < level.size(); ++b) result[b] = level[b] - level[b - 1];
  return result;
}

/// Adds a sign, in deviations from its mean; one border that stands out far must not make the others look small.
void add(std::vector<double>& odds, double weight, const std::vector<double>& sign) {
  const auto deviations = standardised(sign);
  for (std::size_t i = 0; i < sign.size(); ++i) odds[i] += weight * std::clamp(deviations[i], -1.0, 3.0);
}

/// How little a section of so many bars surprises, as log odds.
double lengthFit(int bars) {
  if (bars % 8 == 0) return 1.20;
  if (bars % 4 == 0) return 0.96;
  if (bars % 2 == 0) return -0.96;
  return -2.64;
}

}  // namespace

std::vector<double> borderOdds(const BarFeatures& f, const BarLikeness& likeness) {
  std::vector<double> odds(f.count(), kRarity);
  add(odds, 0.50, novelty(likeness.together, 4));
  add(odds, 0.95, novelty(likeness.rhythm, 2));
  add(odds, 0.55, repeatEdges(likeness.harmony, 4));
  add(odds, 0.95, repeatEdges(likeness.bass, 4));
  add(odds, 0.45, repeatEdges(likeness.rhythm, 4));
  add(odds, 0.30, repeatEdges(likeness.colour, 4));
  add(odds, 0.70, repeatEdges(0.5F * (likeness.harmony + likeness.bass), 8));
  add(odds, 0.95, f.brightness);
  add(odds, 0.70, fills(f.rhythm));
  auto rise = rises(f.level);
  add(odds, 0.80, rise);
  for (double& r : rise) r = std::abs(r);
  add(odds, 0.60, rise);
  return odds;
}

std::vector<int> chooseBorders(const std::vector<double>& odds) {
  const int n = static_cast<int>(odds.size());
  std::vector<double> best(static_cast<std::size_t>(n) + 1, -1e9);
  std::vector<int> from(static_cast<std::size_t>(n) + 1, 0);
  best[0] = 0;
  for (int end = 1; end <= n; ++end)
    for (int start = std::max(0, end - kLongestBars); start < end; ++start) {
      const int length = end - start;
      if (length < kShortestBars && end != n && start != 0) continue;
      const double gain = start == 0 ? 0.0 : odds[static_cast<std::size_t>(start)];
      const double value = best[static_cast<std::size_t>(start)] + gain + lengthFit(length);
      if (value > best[static_cast<std::size_t>(end)])
        best[static_cast<std::size_t>(end)] = value, from[static_cast<std::size_t>(end)] = start;
    }
  std::vector<int> borders;
  for (int at = n; at > 0; at = from[static_cast<std::size_t>(at)])
    borders.push_back(from[static_cast<std::size_t>(at)]);
  std::reverse(borders.begin(), borders.end());
  return borders;
}

}  // namespace ear
