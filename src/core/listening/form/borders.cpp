// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/form/borders.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/parameter.h"
#include "core/base/statistics.h"

namespace ear {
namespace {

using Matrix = Eigen::MatrixXd;
using Eigen::Index;

struct Parameters {
  int shortestBars = parameter("borders.shortestBars", 2, "bars");
  int longestBars = parameter("borders.longestBars", 24, "bars");
};
const Parameters kPar{};

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

/// How little a section of so many bars surprises, as log odds.
double lengthFit(int bars, const BorderWeights& weights) {
  if (bars % 8 == 0) return weights.eights;
  if (bars % 4 == 0) return weights.fours;
  return bars % 2 == 0 ? weights.twos : weights.odd;
}

}  // namespace

BorderSigns borderSigns(const BarFeatures& f, const BarSelfSimilarity& likeness) {
  std::array<std::vector<double>, BorderWeights::kSigns> raw;
  const auto put = [&](BorderSign sign, std::vector<double> values) {
    raw[static_cast<std::size_t>(sign)] = std::move(values);
  };
  put(BorderSign::novelty, novelty(likeness.together, 4));
  put(BorderSign::rhythmNovelty, novelty(likeness.rhythm, 2));
  put(BorderSign::harmonyRepeats, repeatEdges(likeness.harmony, 4));
  put(BorderSign::bassRepeats, repeatEdges(likeness.bass, 4));
  put(BorderSign::rhythmRepeats, repeatEdges(likeness.rhythm, 4));
  put(BorderSign::colourRepeats, repeatEdges(likeness.colour, 4));
  put(BorderSign::longRepeats, repeatEdges(0.5F * (likeness.harmony + likeness.bass), 8));
  put(BorderSign::brightness, f.brightness);
  put(BorderSign::fill, fills(f.rhythm));
  auto rise = rises(f.level);
  put(BorderSign::rise, rise);
  for (double& r : rise) r = std::abs(r);
  put(BorderSign::change, rise);
  BorderSigns signs(f.count());
  for (std::size_t k = 0; k < raw.size(); ++k) {
    const auto deviations = standardised(raw[k]);
    // One border that stands out far must not make the others look small.
    for (std::size_t i = 0; i < signs.size(); ++i) signs[i][k] = std::clamp(deviations[i], -1.0, 3.0);
  }
  return signs;
}

std::vector<double> borderOdds(const BorderSigns& signs, const BorderWeights& weights) {
  std::vector<double> odds;
  for (const auto& bar : signs)
    odds.push_back(std::inner_product(bar.begin(), bar.end(), weights.of.begin(), weights.rarity));
  return odds;
}

std::vector<int> chooseBorders(const std::vector<double>& odds, const BorderWeights& weights) {
  const int n = static_cast<int>(odds.size());
  std::vector<double> best(static_cast<std::size_t>(n) + 1, -1e9);
  std::vector<int> from(static_cast<std::size_t>(n) + 1, 0);
  best[0] = 0;
  for (int end = 1; end <= n; ++end)
    for (int start = std::max(0, end - kPar.longestBars); start < end; ++start) {
      const int length = end - start;
      if (length < kPar.shortestBars && end != n && start != 0) continue;
      const double gain = start == 0 ? 0.0 : odds[static_cast<std::size_t>(start)];
      const double value = best[static_cast<std::size_t>(start)] + gain + lengthFit(length, weights);
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
