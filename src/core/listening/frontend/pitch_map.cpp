// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/pitch_map.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/base/parameter.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

struct Parameters {
  double longest = parameter("pitchMap.longest", 0.37, "s");  ///< of a window
  /// in a window: neighbours a third of a semitone apart stay apart
  double cycles = parameter("pitchMap.cycles", 34.0, "periods");
  float leastWeight = parameter("pitchMap.leastWeight", 0.01F, "of the strongest bin");
  float floor = parameter("pitchMap.floor", -62.0F, "dB");  ///< of a sine, nothing
  float top = parameter("pitchMap.top", -14.0F, "dB");      ///< of a sine, full
};
const Parameters kPar{};

// Rows from a pitch to its overtones, and how much of a note may be theirs.
constexpr std::array<std::pair<double, float>, 7> kOvertones = {
    {{12.0, 0.55F}, {19.02, 0.6F}, {24.0, 0.5F}, {27.86, 0.5F}, {31.02, 0.4F}, {33.69, 0.35F}, {36.0, 0.3F}}};

std::size_t sizeFor(int sampleRate) {
  std::size_t size = 4096;
  while (static_cast<double>(size) < kPar.longest * sampleRate) size *= 2;
  return size;
}

}  // namespace

PitchMap::PitchMap(int sampleRate, Cents offset) : size_(sizeFor(sampleRate)), fft_(size_), right_(size_) {
  const Hertz a4 = a4At(offset);
  std::vector<std::complex<float>> spectrum(size_ / 2 + 1);
  for (int row = 0; row < kRows; ++row) {
    const double midi = kLowest + (row - (kPerSemitone - 1) / 2.0) / kPerSemitone;
    const double hertz = frequencyOf(MidiPitch(midi), a4).value;
    const auto window = static_cast<std::size_t>(std::min(kPar.longest, kPar.cycles / hertz) * sampleRate);
    // The kernel's spectrum: its real and imaginary part one after the other.
    for (const bool imaginary : {false, true}) {
      std::fill(fft_.input().begin(), fft_.input().end(), 0.0F);
      for (std::size_t n = 0; n < window; ++n) {
        const std::size_t at = (size_ - window) / 2 + n;
        const double w =
            0.5 - 0.5 * std::cos(2 * std::numbers::pi * (static_cast<double>(n) + 0.5) / static_cast<double>(window));
        const double turn =
            2 * std::numbers::pi * hertz * (static_cast<double>(at) - static_cast<double>(size_) / 2) / sampleRate;
        fft_.input()[at] = static_cast<float>(w * (imaginary ? std::sin(turn) : std::cos(turn)));
      }
      const auto bins = fft_.transform();
      for (std::size_t k = 0; k < bins.size(); ++k)
        spectrum[k] = imaginary ? spectrum[k] + std::complex<float>(0, 1) * bins[k] : bins[k];
    }
    float most = 0;
    for (const auto& s : spectrum) most = std::max(most, std::norm(s));
    Kernel kernel{0, {}};
    std::size_t last = 0;
    bool found = false;
    for (std::size_t k = 0; k < spectrum.size(); ++k)
      if (std::norm(spectrum[k]) > kPar.leastWeight * kPar.leastWeight * most) {
        if (!found) kernel.first = k, found = true;
        last = k;
      }
    // A sine of full scale comes out as 1: the window sums to half its length, a sine's bins hold half of it.
    const float scale = 4.0F / (static_cast<float>(window) * static_cast<float>(size_));
    for (std::size_t k = kernel.first; k <= last; ++k) kernel.weights.push_back(std::conj(spectrum[k]) * scale);
    kernels_.push_back(std::move(kernel));
  }
}

void PitchMap::column(const Recording& recording, std::int64_t frame, Mix mix, std::span<float> column) {
  const std::int64_t from = frame - static_cast<std::int64_t>(size_ / 2);
  const auto input = fft_.input();
  readPart(recording.left(), from, input);
  readPart(recording.right(), from, right_);
  for (std::size_t n = 0; n < size_; ++n) input[n] = mix.left * input[n] + mix.right * right_[n];
  const auto bins = fft_.transform();
  for (std::size_t row = 0; row < kernels_.size(); ++row) {
    const Kernel& kernel = kernels_[row];
    std::complex<float> sum = 0;
    for (std::size_t k = 0; k < kernel.weights.size(); ++k) sum += bins[kernel.first + k] * kernel.weights[k];
    column[row] = std::abs(sum);
  }
  // From below: what may be the overtone of a pitch that is already there gives way to it.
  for (int row = 0; row < kRows; ++row) {
    float overtones = 0;
    for (const auto& [semitones, share] : kOvertones) {
      const auto below = static_cast<int>(std::lround(row - semitones * kPerSemitone));
      if (below >= 0) overtones += share * column[static_cast<std::size_t>(below)];
    }
    float& level = column[static_cast<std::size_t>(row)];
    level = std::max(0.15F * level, level - overtones);
  }
  for (float& level : column) {
    const float decibels = 20.0F * std::log10(level + 1e-9F);
    level = std::clamp((decibels - kPar.floor) / (kPar.top - kPar.floor), 0.0F, 1.0F);
  }
}

}  // namespace ear
