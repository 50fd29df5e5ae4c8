// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/overtone_comb.h"

#include <algorithm>
#include <cmath>

#include "core/base/parameter.h"
#include "core/listening/frontend/spectra.h"

namespace ear {
namespace {

constexpr std::size_t kWindow = 2048;  // 93 ms: overtones of 65 Hz lie six bins apart

struct Parameters {
  double highest = parameter("overtoneComb.highest", 4000.0, "Hz");
  /// the highest overtone of the bass that a voice is looked for at
  std::size_t mostVoice = parameter("overtoneComb.mostVoice", std::size_t{8}, "overtones");
  std::size_t overtones = parameter("overtoneComb.overtones", std::size_t{4}, "");    ///< of the voice
  double floor = parameter("overtoneComb.floor", 0.02, "of the strongest overtone");  ///< what is under it is noise
  /// that of the voice's own pitch at least
  double share = parameter("overtoneComb.share", 0.25, "of the strongest overtone");
};
const Parameters kPar{};

}  // namespace

OvertoneComb::OvertoneComb(std::span<const float> mono)
    : mono_(mono), fft_(kWindow), window_(hannWindow(kWindow)), magnitude_(kWindow / 2 + 1) {}

double OvertoneComb::amplitudeAt(double hertz) const {
  const double bin = hertz * kWindow / kListeningRate;
  const auto from = static_cast<std::size_t>(std::max(0.0, std::floor(bin - 0.5)));
  const auto to = std::min(magnitude_.size() - 1, static_cast<std::size_t>(std::ceil(bin + 0.5)));
  float top = 0;
  for (std::size_t k = from; k <= to; ++k) top = std::max(top, magnitude_[k]);
  return static_cast<double>(top);
}

double OvertoneComb::contrast(std::size_t centre, double hertz) {
  if (centre != centre_) {
    centre_ = centre;
    readWindow(mono_, static_cast<std::int64_t>(centre) - static_cast<std::int64_t>(kWindow / 2), window_,
               fft_.input());
    const auto x = fft_.transform();
    for (std::size_t k = 0; k < magnitude_.size(); ++k) magnitude_[k] = std::abs(x[k]);
  }
  std::vector<double> overtones{0.0};  // from the first one on, as they are counted
  for (int k = 1; k * hertz < kPar.highest; ++k) overtones.push_back(amplitudeAt(k * hertz));
  const double strongest = *std::max_element(overtones.begin(), overtones.end());
  double best = 1.0;
  for (std::size_t voice = 2; voice <= kPar.mostVoice && 3 * voice < overtones.size(); ++voice) {
    if (overtones[voice] < kPar.share * strongest) continue;
    // Each against its neighbours on both sides, so that a dark string with overtones that fall off steeply has none
    // that stand out.
    double sum = 0;
    int count = 0;
    for (std::size_t k = voice; k + 1 < overtones.size() && k <= kPar.overtones * voice; k += voice, ++count)
      sum += std::log((overtones[k] + kPar.floor * strongest) /
                      ((overtones[k - 1] + overtones[k + 1]) / 2 + kPar.floor * strongest));
    best = std::max(best, std::exp(sum / count));
  }
  return best;
}

}  // namespace ear
