// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/spectra.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/audio/resample.h"
#include "core/base/parameter.h"
#include "core/signal/fft.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr std::size_t kLongWindow = 8192, kLongHop = 2048;
constexpr std::size_t kShortWindow = 1024, kShortHop = 220;

struct Parameters {
  double lowestPartial = parameter("spectra.lowestPartial", 32.0, "Hz");
  double highestPartial = parameter("spectra.highestPartial", 5000.0, "Hz");
  float partialFloor = parameter("spectra.partialFloor", 1e-5F, "amplitude");
  float partialRange = parameter("spectra.partialRange", 1e-3F, "of the strongest");  ///< of the frame
  std::size_t mostPartials = parameter("spectra.mostPartials", std::size_t{120}, "a frame");
};
const Parameters kPar{};

/// The window centred at `centre`, zero outside of the recording, times `shape`.
void fill(std::span<float> to, std::span<const float> samples, std::size_t centre, std::span<const float> shape) {
  readWindow(samples, static_cast<std::int64_t>(centre) - static_cast<std::int64_t>(to.size() / 2), shape, to);
}

std::vector<Partial> strongest(std::vector<Partial> partials) {
  const auto louder = [](const Partial& a, const Partial& b) { return a.amplitude > b.amplitude; };
  if (partials.size() > kPar.mostPartials) {
    std::nth_element(partials.begin(), partials.begin() + kPar.mostPartials, partials.end(), louder);
    partials.resize(kPar.mostPartials);
  }
  std::sort(partials.begin(), partials.end(), [](const Partial& a, const Partial& b) { return a.hertz < b.hertz; });
  return partials;
}

}  // namespace

Samples listeningMono(const Recording& recording) {
  return resampledMix(recording, kListeningRate);
}

SpectralPeaks measureSpectralPeaks(std::span<const float> mono, const Progress& progress) {
  RealFft plain(kLongWindow), sloped(kLongWindow);
  const auto window = hannWindow(kLongWindow), slope = hannSlope(kLongWindow);
  const double binHertz = static_cast<double>(kListeningRate) / kLongWindow;
  const auto firstBin = static_cast<std::size_t>(kPar.lowestPartial / binHertz);
  const auto lastBin = static_cast<std::size_t>(kPar.highestPartial / binHertz);
  const float toAmplitude = 4.0F / kLongWindow;  // a Hann window passes half of it, the FFT splits it in two

  SpectralPeaks frames{.clock = {static_cast<double>(kListeningRate) / kLongHop}, .partials = {}, .first = {0}};
  std::vector<float> magnitude(lastBin + 2);
  Trail trail(mono);
  for (std::size_t centre = 0; centre < mono.size(); centre += kLongHop) {
    if (progress.cancelled()) return frames;
    trail.reached(centre);
    fill(plain.input(), mono, centre, window);
    fill(sloped.input(), mono, centre, slope);
    const auto x = plain.transform();
    const auto dx = sloped.transform();
    for (std::size_t k = firstBin - 1; k <= lastBin + 1; ++k) magnitude[k] = std::abs(x[k]) * toAmplitude;
    const float top = *std::max_element(magnitude.begin() + static_cast<std::ptrdiff_t>(firstBin), magnitude.end());
    const float floor = std::max(kPar.partialFloor, top * kPar.partialRange);
    std::vector<Partial> found;
    for (std::size_t k = firstBin; k <= lastBin; ++k) {
      const float m = magnitude[k];
      if (m < floor || m < magnitude[k - 1] || m <= magnitude[k + 1]) continue;
      const double shift = -std::imag(std::complex<double>(dx[k]) / std::complex<double>(x[k]));  // radians a sample
      const double hertz = static_cast<double>(k) * binHertz + shift * kListeningRate / (2 * std::numbers::pi);
      if (std::abs(hertz / binHertz - static_cast<double>(k)) > 1.0) continue;  // not one steady partial
      found.push_back({static_cast<float>(hertz), m});
    }
    for (const Partial& p : strongest(std::move(found))) frames.partials.push_back(p);
    frames.first.push_back(static_cast<std::uint32_t>(frames.partials.size()));
  }
  frames.partials.shrink_to_fit();
  return frames;
}

namespace {

/// A triangular band as the weights of neighbouring FFT bins.
struct Band {
  std::size_t firstBin = 0;
  std::vector<float> weights;
};

std::vector<Band> semitoneBands() {
  const double binHertz = static_cast<double>(kListeningRate) / kShortWindow;
  const auto binOf = [&](double midi) { return frequencyOf(MidiPitch(midi)).value / binHertz; };
  std::vector<Band> bands;
  for (int b = 0; b < LogBandSpectrogram::kBands; ++b) {
    const double centre = binOf(LogBandSpectrogram::kLowestMidi + b);
    // Low bands are narrower than a bin: widen them to reach their two neighbouring bins.
    const double low = std::min(binOf(LogBandSpectrogram::kLowestMidi + b - 1), centre - 1.0);
    const double high = std::max(binOf(LogBandSpectrogram::kLowestMidi + b + 1), centre + 1.0);
    Band band{.firstBin = static_cast<std::size_t>(std::max(0.0, std::ceil(low))), .weights = {}};
    for (std::size_t k = band.firstBin; static_cast<double>(k) <= high && k <= kShortWindow / 2; ++k) {
      const auto bin = static_cast<double>(k);
      const double weight = bin <= centre ? (bin - low) / (centre - low) : (high - bin) / (high - centre);
      band.weights.push_back(static_cast<float>(std::max(0.0, weight)));
    }
    const float sum = std::accumulate(band.weights.begin(), band.weights.end(), 0.0F);
    if (sum > 0)
      for (float& w : band.weights) w /= sum;
    bands.push_back(std::move(band));
  }
  return bands;
}

}  // namespace

LogBandSpectrogram measureLogBandSpectrogram(std::span<const float> mono, const Progress& progress) {
  RealFft fft(kShortWindow);
  const auto window = hannWindow(kShortWindow);
  const auto bands = semitoneBands();
  const float toAmplitude = 4.0F / kShortWindow;
  LogBandSpectrogram frames{.clock = {static_cast<double>(kListeningRate) / kShortHop}, .levels = {}};
  frames.levels.reserve((mono.size() / kShortHop + 1) * LogBandSpectrogram::kBands);
  std::vector<float> magnitude(kShortWindow / 2 + 1);
  Trail trail(mono), written({frames.levels.data(), frames.levels.capacity()});
  for (std::size_t centre = 0; centre < mono.size(); centre += kShortHop) {
    if (progress.cancelled()) return frames;
    trail.reached(centre), written.reached(frames.levels.size());
    fill(fft.input(), mono, centre, window);
    const auto x = fft.transform();
    for (std::size_t k = 0; k < magnitude.size(); ++k) magnitude[k] = std::abs(x[k]) * toAmplitude;
    for (const Band& band : bands) {
      float sum = 0.0F;
      for (std::size_t i = 0; i < band.weights.size(); ++i) sum += band.weights[i] * magnitude[band.firstBin + i];
      frames.levels.push_back(std::log10(1.0F + 1000.0F * sum));
    }
  }
  return frames;
}

}  // namespace ear
