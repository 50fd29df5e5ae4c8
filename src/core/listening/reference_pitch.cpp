#include "core/listening/reference_pitch.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

namespace ear {
namespace {

constexpr float kLowest = 80.0F, kHighest = 2000.0F;  // Hz
constexpr float kFullWeightFrom = 220.0F;             // Hz; below, partials of stiff strings run sharp
constexpr double kSteady = 6.0;                       // cents from frame to frame
constexpr double kCore = 14.0;                        // cents around the densest place that count
constexpr double kLeastShare = 0.40;                  // within +-kCore; evenly spread partials give 0.28
constexpr double kWindow = 8.0, kStep = 2.0;          // seconds, of the curve

constexpr float kLowestRoot = 60.0F;  // Hz
constexpr float kRootShare = 0.25F;   // of a partial's amplitude: weaker ones below it are not its root

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
  return p != nullptr && std::abs(centsBetween(p->hertz, hertz)) < kSteady;
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
    if (root < kLowestRoot) break;
    const Partial* p = nearest(frame, root);
    if (p != nullptr && p->amplitude > kRootShare * partial.amplitude && std::abs(centsBetween(p->hertz, root)) < 25.0)
      weight = std::min(weight, order.weight);
  }
  return weight;
}

/// Steady partials of frame i.
void observe(const TonalFrames& frames, std::size_t i, std::vector<Observation>& out) {
  const auto frame = frames.frame(i);
  for (const Partial& p : frame) {
    if (p.hertz < kLowest || p.hertz > kHighest) continue;
    if (!holds(frames.frame(i - 1), p.hertz) || !holds(frames.frame(i + 1), p.hertz)) continue;
    const float overtone = overtoneWeight(frame, p);
    if (overtone == 0.0F) continue;
    const double semitones = 12.0 * std::log2(p.hertz / 440.0);
    const float low = std::min(1.0F, p.hertz / kFullWeightFrom);
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

/// Centre of the densest stretch of 2 kCore cents, on the circle of 100 cents.
double densestPlace(const std::array<float, 100>& histogram) {
  double best = -1.0, place = 0.0;
  for (int centre = 0; centre < 100; ++centre) {
    double sum = 0.0;
    for (int d = -static_cast<int>(kCore); d <= static_cast<int>(kCore); ++d) {
      const double taper = 1.0 - std::abs(d) / (kCore + 1);
      sum += taper * histogram[static_cast<std::size_t>((centre + d + 100) % 100)];
    }
    if (sum > best) best = sum, place = centre - 49.5;
  }
  return place;
}

struct Estimate {
  double cents = 0.0;
  double share = 0.0;  // of the weight that lies within kCore
};

std::optional<Estimate> estimate(std::span<const Observation> observations) {
  double total = 0.0;
  for (const auto& o : observations) total += o.weight;
  if (observations.size() < 40 || total <= 0) return std::nullopt;
  Estimate result{.cents = densestPlace(histogramOf(observations))};
  for (int pass = 0; pass < 4; ++pass) {
    std::complex<double> sum = 0.0;
    double inside = 0.0;
    for (const auto& o : observations) {
      const double off = foldToSemitone(Cents(o.cents - result.cents)).value;
      if (std::abs(off) > kCore) continue;
      const double taper = 1.0 - off * off / (kCore * kCore);
      sum += std::polar(o.weight * taper, 2 * std::numbers::pi * off / 100.0);
      inside += o.weight;
    }
    if (inside <= 0) return std::nullopt;
    result.cents = foldToSemitone(Cents(result.cents + std::arg(sum) * 100.0 / (2 * std::numbers::pi))).value;
    result.share = inside / total;
  }
  if (result.share < kLeastShare) return std::nullopt;
  return result;
}

/// 0.40 of the weight in the core is next to nothing; 0.75 is as clear as music gets.
double certaintyOf(const Estimate& e) {
  return std::clamp((e.share - 0.36) / (0.75 - 0.36), 0.0, 1.0);
}

}  // namespace

Hertz ReferencePitch::a4() const {
  return Hertz(440.0 * std::exp2(offset.value / 1200.0));
}

Cents foldToSemitone(Cents cents) {
  const double folded = cents.value - 100.0 * std::ceil(cents.value / 100.0 - 0.5);
  return Cents(folded);
}

std::optional<ReferencePitch> measureReferencePitch(const TonalFrames& frames) {
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
  const double seconds = static_cast<double>(frames.count()) / frames.rate;
  double last = whole->cents;
  for (double middle = kStep / 2; middle < seconds; middle += kStep) {
    const auto frameAt = [&](double t) {
      return std::min(frames.count(), static_cast<std::size_t>(std::max(0.0, t * frames.rate)));
    };
    const std::size_t from = firstOfFrame[frameAt(middle - kWindow / 2)];
    const std::size_t to = firstOfFrame[frameAt(middle + kWindow / 2)];
    const auto local = estimate(std::span(all).subspan(from, to - from));
    if (!local) continue;
    last += foldToSemitone(Cents(local->cents - last)).value;
    result.curve.push_back({Seconds(middle), Cents(last), certaintyOf(*local)});
  }
  return result;
}

}  // namespace ear
