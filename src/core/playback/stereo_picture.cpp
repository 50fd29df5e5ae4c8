// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/stereo_picture.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/audio/samples.h"
#include "core/playback/isolation_gains.h"
#include "core/signal/fft.h"

namespace ear {

StereoPicture stereoPictureAt(std::span<const float> left, std::span<const float> right, std::int64_t frame) {
  constexpr std::size_t kSize = 4096;
  static thread_local RealFft fftLeft(kSize), fftRight(kSize);
  static const std::vector<float> window = hannWindow(kSize);
  StereoPicture picture;
  const std::int64_t from = frame - static_cast<std::int64_t>(kSize / 2);
  double power = 0;
  const auto inLeft = fftLeft.input(), inRight = fftRight.input();
  readPart(left, from, inLeft);
  readPart(right, from, inRight);
  for (std::size_t n = 0; n < kSize; ++n) {
    power += static_cast<double>(inLeft[n] * inLeft[n] + inRight[n] * inRight[n]) / 2;
    inLeft[n] *= window[n];
    inRight[n] *= window[n];
  }
  picture.loudest = static_cast<float>(std::sqrt(power / kSize));
  const auto l = fftLeft.transform(), r = fftRight.transform();
  for (std::size_t k = 4; k < l.size() / 2; ++k) {
    const double place = placeOf(l[k].real(), l[k].imag(), r[k].real(), r[k].imag());
    const auto bin = static_cast<std::size_t>(std::lround((place + 1) / 2 * (StereoPicture::kPlaces - 1)));
    picture.level[bin] += std::norm(l[k]) + std::norm(r[k]);
  }
  const float most = *std::max_element(picture.level.begin(), picture.level.end());
  for (float& level : picture.level) level = most > 0 ? std::sqrt(level / most) : 0.0F;
  return picture;
}

}  // namespace ear
