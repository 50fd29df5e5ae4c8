// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/pitch_salience.h"

#include <algorithm>
#include <cmath>

#include "core/base/parameter.h"
#include "core/listening/frontend/spectra.h"
#include "core/signal/fft.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr std::size_t kSize = 4096, kWindow = 2048, kHop = 220;

struct Parameters {
  std::size_t medianReach = parameter("pitchSalience.medianReach", std::size_t{3}, "frames");  ///< to both sides: 70 ms
  /// of whitening: 0 flat, 1 none
  double compression = parameter("pitchSalience.compression", 0.33, "", "Klapuri 2006, whitening");
  double highestPartial = parameter("pitchSalience.highestPartial", 3000.0, "Hz");
};
const Parameters kPar{};

constexpr int kOvertones = 12, kLevelOvertones = 6;

double hertzOfBin(int bin) {
  return frequencyOf(MidiPitch(PitchSalience::kLowest + static_cast<double>(bin) / PitchSalience::kBinsPerSemitone))
      .value;
}

/// Levels each third of an octave, so that loud regions do not speak alone (Klapuri 2006, eq. 2).
void whiten(std::vector<float>& spectrum) {
  const double step = static_cast<double>(kListeningRate) / kSize;
  for (double low = 50; low < kPar.highestPartial; low *= std::exp2(1.0 / 3)) {
    const auto from = static_cast<std::size_t>(low / step);
    const auto to = std::min(spectrum.size(), static_cast<std::size_t>(low * std::exp2(1.0 / 3) / step) + 1);
    double square = 1e-12;
    for (std::size_t k = from; k < to; ++k) square += static_cast<double>(spectrum[k]) * spectrum[k];
    const auto scale =
        static_cast<float>(std::pow(std::sqrt(square / static_cast<double>(to - from)), kPar.compression - 1));
    for (std::size_t k = from; k < to; ++k) spectrum[k] *= scale;
  }
}

}  // namespace

PitchSalience measureSalience(std::span<const float> mono, const Progress& progress) {
  const std::size_t frames = mono.size() / kHop + 1, bins = kSize / 2 + 1;
  RealFft fft(kSize);
  const auto window = hannWindow(kWindow);
  std::vector<float> magnitudes(frames * bins);
  for (std::size_t t = 0; t < frames; ++t) {
    if (t % 64 == 0 && progress.cancelled()) return {};
    const auto in = fft.input();
    std::fill(in.begin(), in.end(), 0.0F);
    const auto start = static_cast<std::ptrdiff_t>(t * kHop) - static_cast<std::ptrdiff_t>(kWindow / 2);
    readWindow(mono, start, window, in.first(kWindow));
    const auto out = fft.transform();
    for (std::size_t k = 0; k < bins; ++k) magnitudes[t * bins + k] = std::abs(out[k]);
  }
  PitchSalience salience;
  salience.strength.assign(frames * PitchSalience::kBins, 0.0F);
  salience.level.assign(frames * PitchSalience::kBins, 0.0F);
  std::vector<float> steady(bins), column;
  const double step = static_cast<double>(kListeningRate) / kSize;
  for (std::size_t t = 0; t < frames; ++t) {
    if (t % 64 == 0 && progress.cancelled()) return {};
    const std::size_t from = t >= kPar.medianReach ? t - kPar.medianReach : 0,
                      to = std::min(frames, t + kPar.medianReach + 1);
    for (std::size_t k = 0; k < bins; ++k) {
      column.clear();
      for (std::size_t i = from; i < to; ++i) column.push_back(magnitudes[i * bins + k]);
      std::nth_element(column.begin(), column.begin() + static_cast<std::ptrdiff_t>(column.size() / 2), column.end());
      steady[k] = column[column.size() / 2];
    }
    whiten(steady);
    for (int bin = 0; bin < PitchSalience::kBins; ++bin) {
      const double pitch = hertzOfBin(bin);
      double sum = 0;
      float square = 0;
      for (int h = 1; h <= kOvertones && h * pitch < kPar.highestPartial; ++h) {
        const double place = h * pitch / step, reach = std::max(0.5, 0.012 * place);  // a fifth of a semitone
        float top = 0, now = 0;
        for (auto k = static_cast<std::size_t>(place - reach); k <= static_cast<std::size_t>(place + reach + 1); ++k)
          top = std::max(top, steady[k]), now = std::max(now, magnitudes[t * bins + k]);
        sum += std::pow(0.8, h - 1) * static_cast<double>(top);
        if (h <= kLevelOvertones) square += now * now;
      }
      salience.strength[t * PitchSalience::kBins + static_cast<std::size_t>(bin)] = static_cast<float>(sum);
      salience.level[t * PitchSalience::kBins + static_cast<std::size_t>(bin)] = std::sqrt(square);
    }
  }
  const float top =
      salience.strength.empty() ? 0.0F : *std::max_element(salience.strength.begin(), salience.strength.end());
  if (top > 0)
    for (float& s : salience.strength) s /= top;
  return salience;
}

}  // namespace ear
