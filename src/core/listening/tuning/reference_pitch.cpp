// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/tuning/reference_pitch.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

#include "core/base/parameter.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr int kReach = 30;  // cents around the densest place that are looked at

struct Parameters {
  float lowest = parameter("referencePitch.lowest", 80.0F, "Hz");
  float highest = parameter("referencePitch.highest", 2000.0F, "Hz");
  /// below, partials of stiff strings run sharp
  float fullWeightFrom = parameter("referencePitch.fullWeightFrom", 220.0F, "Hz");
  double steady = parameter("referencePitch.steady", 6.0, "cents a frame");
  double core = parameter("referencePitch.core", 14.0, "cents");  ///< around the densest place that count
  /// within +-core; evenly spread partials give 0.28
  double leastShare = parameter("referencePitch.leastShare", 0.40, "share of weight");
  double window = parameter("referencePitch.window", 8.0, "s");
  double step = parameter("referencePitch.step", 2.0, "s");  ///< of the curve
  // Two groups of steady tones: peaks of the smoothed histogram this far apart with a valley between them. What the
  // strings of one guitar are off among each other makes narrower or shallower ones.
  double smooth = parameter("referencePitch.smooth", 2.5, "cents");
  std::size_t apart = parameter("referencePitch.apart", std::size_t{8}, "cents");
  double second = parameter("referencePitch.second", 0.4, "of the stronger peak");
  double valley = parameter("referencePitch.valley", 0.5, "of the weaker peak");
  float lowestRoot = parameter("referencePitch.lowestRoot", 60.0F, "Hz");
  /// weaker ones below it are not its root
  float rootShare = parameter("referencePitch.rootShare", 0.25F, "of the amplitude");
  /// of a partial that is an overtone
  double overtoneWithin = parameter("referencePitch.overtoneWithin", 25.0, "cents");
  double chanceShare = parameter("referencePitch.chanceShare", 0.36, "share of weight");  ///< at which certainty begins
  double sureShare = parameter("referencePitch.sureShare", 0.75, "share of weight");      ///< from which it is certain
};
const Parameters kPar{};

struct Observation {
  float cents;  // off the nearest tempered note at A 440, [-50, 50)
  float weight;
};

double centsBetween(double a, double b) {
  return 1200.0 * std::log2(a / b);
}

/// The partial of a frame nearest to a frequency, or null.
const Partial* nearest(std::span<const Partial> frame, float hertz) {
  const auto at =
      std::lower_bound(frame.begin(), frame.end(), hertz, [](const Partial& p, float f) { return p.hertz < f; });
  const Partial* best = nullptr;
  if (at != frame.end()) best = &*at;
  if (at != frame.begin() && (best == nullptr || hertz - std::prev(at)->hertz < best->hertz - hertz))
    best = &*std::prev(at);
  return best;
}

bool holds(std::span<const Partial> frame, float hertz) {
  const Partial* p = nearest(frame, hertz);
  return p != nullptr && std::abs(centsBetween(p->hertz, hertz)) < kPar.steady;
}

/// How much a partial tells of the tuning. Overtones that are no tempered notes would pull the answer: by 2 (3rd), -14
/// (5th), -31 (7th) ... cents; those that are run sharp with the stiffness of the string, more the higher their order
/// (Fletcher 1964).
float overtoneWeight(std::span<const Partial> frame, const Partial& partial) {
  struct Order {
    float number, weight;
  };
  static constexpr std::array kOrders = {Order{2, 0.6F},  Order{3, 0.0F},  Order{4, 0.25F}, Order{5, 0.0F},
                                         Order{6, 0.0F},  Order{7, 0.0F},  Order{8, 0.0F},  Order{9, 0.0F},
                                         Order{10, 0.0F}, Order{11, 0.0F}, Order{12, 0.0F}, Order{13, 0.0F}};
  float weight = 1.0F;
  for (const Order& order : kOrders) {
    const float root = partial.hertz / order.number;
    if (root < kPar.lowestRoot) break;
    const Partial* p = nearest(frame, root);
    if (p != nullptr && p->amplitude > kPar.rootShare * partial.amplitude &&
        std::abs(centsBetween(p->hertz, root)) < kPar.overtoneWithin)
      weight = std::min(weight, order.weight);
  }
  return weight;
}

/// Steady partials of frame i.
void observe(const SpectralPeaks& frames, std::size_t i, std::vector<Observation>& out) {
  const auto frame = frames.frame(i);
  for (const Partial& p : frame) {
    if (p.hertz < kPar.lowest || p.hertz > kPar.highest) continue;
    if (!holds(frames.frame(i - 1), p.hertz) || !holds(frames.frame(i + 1), p.hertz)) continue;
    const float overtone = overtoneWeight(frame, p);
    if (overtone == 0.0F) continue;
    const double semitones = pitchOf(Hertz(p.hertz)).value - 69.0;
    const float low = std::min(1.0F, p.hertz / kPar.fullWeightFrom);
    out.push_back(
        {static_cast<float>(100.0 * (semitones - std::round(semitones))), std::sqrt(p.amplitude) * low * overtone});
  }
}

std::array<float, 100> histogramOf(std::span<const Observation> observations) {
  std::array<float, 100> histogram{};
  for (const auto& o : observations)
    histogram[static_cast<std::size_t>(std::clamp(std::ceil(o.cents) + 49.0F, 0.0F, 99.0F))] += o.weight;
  return histogram;
}

/// Centre of the densest stretch of 2 kPar.core cents, on the circle of 100 cents.
double densestPlace(const std::array<float, 100>& histogram) {
  double best = -1.0, place = 0.0;
  for (int centre = 0; centre < 100; ++centre) {
    double sum = 0.0;
    for (int d = -static_cast<int>(kPar.core); d <= static_cast<int>(kPar.core); ++d) {
      const double taper = 1.0 - std::abs(d) / (kPar.core + 1);
      sum += taper * histogram[static_cast<std::size_t>((centre + d + 100) % 100)];
    }
    if (sum > best) best = sum, place = centre - 49.5;
  }
  return place;
}

/// Two places around a third at which the histogram stands out, the stronger first; empty where it does at one only.
std::optional<std::pair<double, double>> twoPeaks(const std::array<float, 100>& histogram, double around) {
  std::array<double, 2 * kReach + 1> smooth{};
  const int centre = static_cast<int>(std::lround(around + 49.5));
  for (int i = 0; i <= 2 * kReach; ++i)
    for (int d = -10; d <= 10; ++d)
      smooth[static_cast<std::size_t>(i)] += std::exp(-0.5 * d * d / (kPar.smooth * kPar.smooth)) *
                                             histogram[static_cast<std::size_t>((centre + i - kReach + d + 200) % 100)];
  std::vector<std::size_t> peaks;
  for (std::size_t i = 1; i + 1 < smooth.size(); ++i)
    if (smooth[i] > smooth[i - 1] && smooth[i] >= smooth[i + 1]) peaks.push_back(i);
  if (peaks.size() < 2) return std::nullopt;
  std::sort(peaks.begin(), peaks.end(), [&](std::size_t a, std::size_t b) { return smooth[a] > smooth[b]; });
  const std::size_t first = peaks[0];
  for (const std::size_t second : std::span(peaks).subspan(1)) {
    if (smooth[second] < kPar.second * smooth[first]) break;
    const auto [low, high] = std::minmax(first, second);
    if (high - low < kPar.apart) continue;
    const double valley = *std::min_element(smooth.begin() + static_cast<std::ptrdiff_t>(low),
                                            smooth.begin() + static_cast<std::ptrdiff_t>(high));
    if (valley > kPar.valley * smooth[second]) continue;
    const auto centsAt = [&](std::size_t i) { return around + static_cast<double>(i) - kReach; };
    return std::pair{centsAt(first), centsAt(second)};
  }
  return std::nullopt;
}

struct Estimate {
  double cents = 0.0;
  double share = 0.0;  // of the weight that lies within kPar.core
};

/// The circular mean of what lies within `core` of a place, followed to where it stays.
std::optional<Estimate> meanAround(std::span<const Observation> observations, double place, double core) {
  double total = 0.0;
  for (const auto& o : observations) total += o.weight;
  Estimate result{.cents = place};
  for (int pass = 0; pass < 4; ++pass) {
    std::complex<double> sum = 0.0;
    double inside = 0.0;
    for (const auto& o : observations) {
      const double off = foldToSemitone(Cents(o.cents - result.cents)).value;
      if (std::abs(off) > core) continue;
      const double taper = 1.0 - off * off / (core * core);
      sum += std::polar(o.weight * taper, 2 * std::numbers::pi * off / 100.0);
      inside += o.weight;
    }
    if (inside <= 0) return std::nullopt;
    result.cents = foldToSemitone(Cents(result.cents + std::arg(sum) * 100.0 / (2 * std::numbers::pi))).value;
    result.share = inside / total;
  }
  return result;
}

std::optional<Estimate> estimate(std::span<const Observation> observations) {
  if (observations.size() < 40) return std::nullopt;
  const auto result = meanAround(observations, densestPlace(histogramOf(observations)), kPar.core);
  return result && result->share >= kPar.leastShare ? result : std::nullopt;
}

/// 0.40 of the weight in the core is next to nothing; 0.75 is as clear as music gets.
double certaintyOf(const Estimate& e) {
  return std::clamp((e.share - kPar.chanceShare) / (kPar.sureShare - kPar.chanceShare), 0.0, 1.0);
}

}  // namespace

std::optional<ReferencePitch> measureReferencePitch(const SpectralPeaks& frames) {
  std::vector<Observation> all;
  std::vector<std::size_t> firstOfFrame;
  for (std::size_t i = 0; i < frames.count(); ++i) {
    firstOfFrame.push_back(all.size());
    if (i > 0 && i + 1 < frames.count()) observe(frames, i, all);
  }
  firstOfFrame.push_back(all.size());
  const auto whole = estimate(all);
  if (!whole) return std::nullopt;

  ReferencePitch result{
      .offset = Cents(whole->cents), .certainty = certaintyOf(*whole), .histogram = histogramOf(all), .curve = {}};
  if (const auto peaks = twoPeaks(result.histogram, whole->cents)) {
    const double core = std::min(kPar.core, std::abs(peaks->first - peaks->second) / 2);
    auto strong = meanAround(all, peaks->first, core), weak = meanAround(all, peaks->second, core);
    if (strong && weak) {
      if (weak->share > strong->share) std::swap(strong, weak);
      result.offset = Cents(strong->cents);
      result.second = {Cents(weak->cents), weak->share};
    }
  }
  const double seconds = frames.clock.timeOf(frames.count()).value;
  double last = whole->cents;
  for (double middle = kPar.step / 2; middle < seconds; middle += kPar.step) {
    const auto frameAt = [&](double t) { return std::min(frames.count(), frames.clock.frameBefore(Seconds(t))); };
    const std::size_t from = firstOfFrame[frameAt(middle - kPar.window / 2)];
    const std::size_t to = firstOfFrame[frameAt(middle + kPar.window / 2)];
    const auto local = estimate(std::span(all).subspan(from, to - from));
    if (!local) continue;
    last += foldToSemitone(Cents(local->cents - last)).value;
    result.curve.push_back({Seconds(middle), Cents(last), certaintyOf(*local)});
  }
  return result;
}

}  // namespace ear
