// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <complex>
#include <memory>
#include <span>
#include <vector>

namespace ear {

/// A planned real FFT (FFTW, single precision). One object serves one thread; making and freeing are thread-safe.
class RealFft {
 public:
  /// @param size  number of real samples, even
  explicit RealFft(std::size_t size);
  ~RealFft();
  RealFft(const RealFft&) = delete;
  RealFft& operator=(const RealFft&) = delete;

  std::size_t size() const { return size_; }

  /// Where the samples go before transform(): `size()` of them.
  std::span<float> input();

  /// The spectrum of input(), unscaled: `size() / 2 + 1` bins, valid until the next call.
  std::span<const std::complex<float>> transform();

 private:
  struct Plan;
  std::size_t size_;
  std::unique_ptr<Plan> plan_;
};

/// The way back: a planned inverse of RealFft, under the same rules.
class InverseFft {
 public:
  explicit InverseFft(std::size_t size);
  ~InverseFft();
  InverseFft(const InverseFft&) = delete;
  InverseFft& operator=(const InverseFft&) = delete;

  /// Where the `size / 2 + 1` bins go before transform(), which spoils them.
  std::span<std::complex<float>> input();

  /// The samples, scaled so that they are those the spectrum came from; valid until the next call.
  std::span<const float> transform();

 private:
  struct Plan;
  std::size_t size_;
  std::unique_ptr<Plan> plan_;
};

/// Hann window, periodic: w[n] = 0.5 - 0.5 cos(2 pi n / size).
std::vector<float> hannWindow(std::size_t size);

/// Its derivative for each sample: (pi / size) sin(2 pi n / size).
std::vector<float> hannSlope(std::size_t size);

}  // namespace ear
