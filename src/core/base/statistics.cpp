// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/statistics.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace ear {

double medianOf(std::vector<double> values) {
  const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
  std::nth_element(values.begin(), middle, values.end());
  return *middle;
}

std::vector<double> standardised(std::vector<double> values) {
  const auto n = static_cast<double>(values.size());
  const double mean = std::accumulate(values.begin(), values.end(), 0.0) / n;
  double square = 0;
  for (const double v : values) square += (v - mean) * (v - mean);
  const double deviation = std::sqrt(square / n) + 1e-9;
  for (double& v : values) v = (v - mean) / deviation;
  return values;
}

}  // namespace ear
