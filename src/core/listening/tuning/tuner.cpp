// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/tuning/tuner.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/signal/fft.h"
#include "core/signal/peak.h"

namespace ear {
namespace {

struct Parameters {
  double lowest = parameter("tuner.lowest", 25.0, "Hz");
  double highest = parameter("tuner.highest", 1500.0, "Hz");
  float silence = parameter("tuner.silence", 0.003F, "root mean square");
  /// of the normalised square difference, whose greatest is 1
  double periodic = parameter("tuner.periodic", 0.85, "of 1");
  /// the first peak so high is the period
  double firstPeak = parameter("tuner.firstPeak", 0.93, "of the highest", "McLeod & Wyvill 2005: 0.8 to 1");
  double window = parameter("tuner.window", 0.17, "s");
  double step = parameter("tuner.step", 0.05, "s");
  std::size_t median = parameter("tuner.median", std::size_t{5}, "windows");
};
const Parameters kPar{};

/// r(lag) for lags up to `longest`, as the spectrum of the power spectrum (Wiener & Khinchin).
std::vector<double> autocorrelation(std::span<const float> x, std::size_t longest) {
  RealFft fft(std::bit_ceil(x.size() + longest + 1));
  std::fill(fft.input().begin(), fft.input().end(), 0.0F);
  std::copy(x.begin(), x.end(), fft.input().begin());
  const auto spectrum = fft.transform();
  std::vector<float> power(fft.size());
  for (std::size_t k = 0; k < spectrum.size(); ++k)
    power[k] = power[(fft.size() - k) % fft.size()] = std::norm(spectrum[k]);
  std::copy(power.begin(), power.end(), fft.input().begin());
  const auto back = fft.transform();
  std::vector<double> r(longest + 1);
  for (std::size_t lag = 0; lag <= longest; ++lag)
    r[lag] = static_cast<double>(back[lag].real()) / static_cast<double>(fft.size());
  return r;
}

}  // namespace

std::optional<Hertz> pitchOfString(std::span<const float> x, int sampleRate) {
  const auto longest = std::min(x.size() / 2, static_cast<std::size_t>(sampleRate / kPar.lowest));
  const auto shortest = static_cast<std::size_t>(sampleRate / kPar.highest);
  double energy = 0;
  for (const float v : x) energy += static_cast<double>(v) * v;
  if (x.empty() || std::sqrt(energy / static_cast<double>(x.size())) < kPar.silence || longest <= shortest + 2)
    return std::nullopt;
  // n(lag) = 2 r(lag) / m(lag), with as many terms as the lag leaves.
  const auto r = autocorrelation(x, longest);
  std::vector<double> n(longest + 1);
  double m = 2 * energy;
  for (std::size_t lag = 0; lag <= longest; ++lag) {
    n[lag] = m > 0 ? 2 * r[lag] / m : 0;
    m -= static_cast<double>(x[lag]) * x[lag];
    const float tail = x[x.size() - 1 - lag];
    m -= static_cast<double>(tail) * tail;
  }
  std::vector<std::size_t> peaks;
  double highest = 0;
  bool fallen = false;  // below zero since the last peak: only then may another period begin
  for (std::size_t lag = 1; lag < longest; ++lag) {
    fallen = fallen || n[lag] < 0;
    if (!fallen || lag < shortest || n[lag] <= n[lag - 1] || n[lag] < n[lag + 1]) continue;
    if (n[lag] > 0) peaks.push_back(lag), highest = std::max(highest, n[lag]);
  }
  if (highest < kPar.periodic) return std::nullopt;
  const auto first = std::find_if(peaks.begin(), peaks.end(), [&](auto p) { return n[p] >= kPar.firstPeak * highest; });
  const auto refined = [&](std::size_t p) { return static_cast<double>(p) + summitOffset(n[p - 1], n[p], n[p + 1]); };
  // A peak some periods on tells the period more finely.
  double period = refined(*first);
  for (int k = 2; k <= 8 && k * period < static_cast<double>(longest) - 2; ++k) {
    const double aim = k * period;
    const auto near = std::min_element(peaks.begin(), peaks.end(), [&](auto a, auto b) {
      return std::abs(static_cast<double>(a) - aim) < std::abs(static_cast<double>(b) - aim);
    });
    if (std::abs(static_cast<double>(*near) - aim) > 0.04 * period || n[*near] < kPar.periodic * highest) break;
    period = refined(*near) / k;
  }
  return Hertz(sampleRate / period);
}

Tuner::Tuner(int sampleRate) : rate_(sampleRate) {
  recent_.reserve(static_cast<std::size_t>(kPar.window * sampleRate) + 1);
}

void Tuner::setGuitar(const Guitar& guitar, int only) {
  guitar_ = guitar;
  only_ = only;
}

void Tuner::feed(std::span<const float> mono) {
  const auto window = static_cast<std::size_t>(kPar.window * rate_), step = static_cast<std::size_t>(kPar.step * rate_);
  for (const float sample : mono) {
    recent_.push_back(sample);
    if (recent_.size() > window + step)
      recent_.erase(recent_.begin(), recent_.begin() + static_cast<std::ptrdiff_t>(step));
    if (++sinceLast_ >= step && recent_.size() >= window) {
      sinceLast_ = 0;
      measure();
    }
  }
}

void Tuner::measure() {
  const auto window = static_cast<std::size_t>(kPar.window * rate_);
  pitches_.push_back(pitchOfString(std::span(recent_).last(window), rate_));
  if (pitches_.size() > kPar.median) pitches_.erase(pitches_.begin());
}

std::optional<TunerReading> Tuner::reading() const {
  std::vector<double> heard;
  for (const auto& p : pitches_)
    if (p) heard.push_back(p->value);
  if (pitches_.empty() || !pitches_.back() || 2 * heard.size() < pitches_.size()) return std::nullopt;
  TunerReading reading{.pitch = Hertz(medianOf(std::move(heard))), .off = {}};
  double nearest = 1e9;
  for (int s = 0; s < guitar_.strings(); ++s) {
    if (only_ >= 0 && s != only_) continue;
    const double off = 1200 * std::log2(reading.pitch / guitar_.frequency({s, 0}));
    if (std::abs(off) < std::abs(nearest)) nearest = off, reading.string = s;
  }
  reading.off = Cents(nearest);
  return reading;
}

}  // namespace ear
