// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/guitar_frames.h"

#include <algorithm>
#include <cmath>

#include "core/audio/resample.h"
#include "core/listening/frontend/spectra.h"
#include "core/signal/fft.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr std::size_t kLong = 8192, kShort = 2048, kHop = GuitarFrames::kHop;
constexpr float kGain = 3.0F;

/// A triangular band as the weights of neighbouring bins of a transform.
struct Band {
  std::size_t first = 0;
  std::vector<float> weights;
};

std::vector<Band> bandsOf(std::size_t window, Cents tuning) {
  const double step = static_cast<double>(kListeningRate) / static_cast<double>(window);
  const double third = std::exp2(1.0 / (12 * GuitarFrames::kBinsPerSemitone)) - 1;
  std::vector<Band> bands;
  for (int b = 0; b < GuitarFrames::kBins; ++b) {
    const MidiPitch pitch(GuitarFrames::kLowestMidi + static_cast<double>(b) / GuitarFrames::kBinsPerSemitone);
    const double middle = frequencyOf(pitch, a4At(tuning)).value, half = std::max(middle * third, step);
    Band band{static_cast<std::size_t>(std::max(0.0, std::ceil((middle - half) / step))), {}};
    for (std::size_t k = band.first; k <= window / 2 && static_cast<double>(k) * step < middle + half; ++k)
      band.weights.push_back(static_cast<float>(1 - std::abs(static_cast<double>(k) * step - middle) / half));
    bands.push_back(std::move(band));
  }
  return bands;
}

/// Magnitudes of one plane of a recording in windows of one size.
class Bands {
 public:
  Bands(std::size_t size, Cents tuning) : fft_(size), window_(hannWindow(size)), bands_(bandsOf(size, tuning)) {
    magnitude_.resize(size / 2 + 1);
  }

  void measure(std::span<const float> samples, std::size_t centre, std::span<float> to) {
    readWindow(samples, static_cast<std::int64_t>(centre) - static_cast<std::int64_t>(window_.size() / 2), window_,
               fft_.input());
    const auto spectrum = fft_.transform();
    const float scale = 4.0F / static_cast<float>(window_.size());  // to the amplitude of a sinusoid
    for (std::size_t k = 0; k < magnitude_.size(); ++k) magnitude_[k] = scale * std::sqrt(std::norm(spectrum[k]));
    for (std::size_t b = 0; b < bands_.size(); ++b) {
      float sum = 0;
      for (std::size_t k = 0; k < bands_[b].weights.size(); ++k)
        sum += bands_[b].weights[k] * magnitude_[bands_[b].first + k];
      to[b] = sum;
    }
  }

 private:
  RealFft fft_;
  std::vector<float> window_;
  std::vector<Band> bands_;
  std::vector<float> magnitude_;
};

/// Half of the difference of left and right; empty where there is one channel.
Samples sidesOf(const Recording& recording) {
  Samples sides;
  if (recording.channels.size() < 2) return sides;
  sides.assign(recording.left().begin(), recording.left().end());
  const auto right = recording.right();
  for (std::size_t i = 0; i < sides.size(); ++i) sides[i] = (sides[i] - right[i]) / 2;
  return resample(sides, recording.sampleRate, kListeningRate);
}

}  // namespace

GuitarFrames measureGuitarFrames(const Recording& recording, Cents tuning, const Progress& progress) {
  GuitarFrames frames{{GuitarFrames::kRate}, {}};
  if (recording.frames() == 0) return frames;
  const Samples middle = listeningMono(recording), sides = sidesOf(recording);
  const std::size_t count = middle.size() / kHop + 1;
  constexpr std::size_t kFrame = GuitarFrames::kPlanes * GuitarFrames::kBins;
  frames.levels.assign(count * kFrame, 0.0F);
  Bands longBands(kLong, tuning), shortBands(kShort, tuning);
  double sum = 0;
  for (std::size_t i = 0; i < count; ++i) {
    if (progress.cancelled()) return {};
    const auto plane = [&](GuitarFrames::Plane p) {
      return std::span(frames.levels)
          .subspan(i * kFrame + static_cast<std::size_t>(p) * GuitarFrames::kBins, GuitarFrames::kBins);
    };
    const auto whole = plane(GuitarFrames::Plane::middle);
    longBands.measure(middle, i * kHop, whole);
    if (!sides.empty()) longBands.measure(sides, i * kHop, plane(GuitarFrames::Plane::sides));
    shortBands.measure(middle, i * kHop, plane(GuitarFrames::Plane::middleShort));
    for (const float v : whole) sum += static_cast<double>(v);
  }
  const double mean = std::max(sum / static_cast<double>(count * GuitarFrames::kBins), 1e-9);
  const float gain = kGain / static_cast<float>(mean);
  for (float& v : frames.levels) v = std::log1p(gain * v);
  return frames;
}

}  // namespace ear
