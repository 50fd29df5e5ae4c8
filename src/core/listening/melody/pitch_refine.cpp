#include "core/listening/melody/pitch_refine.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/listening/frontend/spectra.h"
#include "core/signal/fft.h"

namespace ear {
namespace {

constexpr std::size_t kWindow = 1102, kFft = 4096;  // samples: 50 ms, padded so that amplitudes can be read in between
constexpr int kPerSemitone = 20;                    // states
constexpr int kReach = 30;                          // states around the line that are looked at
constexpr int kFastest = 10;                        // states from frame to frame: a quick bend makes 40 cents in 10 ms
constexpr int kOvertones = 10;
constexpr double kTop = 5000.0;      // Hz: overtones over it are not heard out
constexpr double kStepCost = 0.015;  // for each state moved, against scores in [0, 1]
constexpr double kNewVoice = 1.6;    // semitones between two frames that are two notes

double hertzOf(int state) {
  return 440.0 * std::exp2((static_cast<double>(state) / kPerSemitone - 69) / 12);
}

/// Scores of the states around a pitch in a frame, the best is 1.
class Look {
 public:
  explicit Look(std::span<const float> mono) : mono_(mono), fft_(kFft), window_(hannWindow(kWindow)) {}

  void at(std::int64_t centre) {
    auto in = fft_.input();
    std::fill(in.begin(), in.end(), 0.0F);
    for (std::size_t n = 0; n < kWindow; ++n) {
      const std::int64_t i = centre - static_cast<std::int64_t>(kWindow / 2) + static_cast<std::int64_t>(n);
      if (i >= 0 && i < static_cast<std::int64_t>(mono_.size()))
        in[n] = mono_[static_cast<std::size_t>(i)] * window_[n];
    }
    const auto bins = fft_.transform();
    amplitude_.resize(bins.size());
    for (std::size_t k = 0; k < bins.size(); ++k) amplitude_[k] = std::sqrt(std::abs(bins[k]));
  }

  double score(int state) const {
    const double f0 = hertzOf(state);
    double sum = 0;
    for (int h = 1; h <= kOvertones && h * f0 < kTop; ++h) {
      const double bin = h * f0 * kFft / kListeningRate;
      const auto k = static_cast<std::size_t>(bin);
      const double part = bin - static_cast<double>(k);
      sum += (1 - part) * static_cast<double>(amplitude_[k]) + part * static_cast<double>(amplitude_[k + 1]);
    }
    return sum;
  }

 private:
  std::span<const float> mono_;
  RealFft fft_;
  std::vector<float> window_, amplitude_;
};

constexpr int kStates = 2 * kReach + 1;

/// Frames [from, to) of one gliding voice.
void refine(PitchLine& line, Look& look, std::size_t from, std::size_t to) {
  const std::size_t count = to - from;
  std::vector<int> middle(count);
  std::vector<double> total(count * kStates), scores(kStates);
  std::vector<int> origin(count * kStates, -1);
  for (std::size_t t = 0; t < count; ++t) {
    const auto& point = line.points[from + t];
    middle[t] = static_cast<int>(std::lround(point.pitch->value * kPerSemitone));
    look.at(std::llround(static_cast<double>(from + t) / line.rate * kListeningRate));
    double most = 1e-12;
    for (int s = 0; s < kStates; ++s) {
      // What is exact already stays.
      scores[static_cast<std::size_t>(s)] =
          point.alone ? (s == kReach ? 1.0 : 0.0) : look.score(middle[t] + s - kReach);
      most = std::max(most, scores[static_cast<std::size_t>(s)]);
    }
    for (int s = 0; s < kStates; ++s) {
      double best = t == 0 ? 0.0 : -1e9;
      if (t > 0)
        for (int step = -kFastest; step <= kFastest; ++step) {
          const int before = middle[t] + s - kReach + step - middle[t - 1] + kReach;
          if (before < 0 || before >= kStates) continue;
          const double v = total[(t - 1) * kStates + static_cast<std::size_t>(before)] - kStepCost * std::abs(step);
          if (v > best) best = v, origin[t * kStates + static_cast<std::size_t>(s)] = before;
        }
      total[t * kStates + static_cast<std::size_t>(s)] = best + scores[static_cast<std::size_t>(s)] / most;
    }
  }
  const auto last = total.end() - kStates;
  auto state = static_cast<int>(std::max_element(last, total.end()) - last);
  for (std::size_t t = count; t-- > 0;) {
    auto& point = line.points[from + t];
    if (!point.alone) point.pitch = MidiPitch(static_cast<double>(middle[t] + state - kReach) / kPerSemitone);
    state = origin[t * kStates + static_cast<std::size_t>(state)];
    if (state < 0) break;
  }
}

}  // namespace

void refineAmongOthers(PitchLine& line, std::span<const float> mono) {
  Look look(mono);
  const auto& points = line.points;
  for (std::size_t i = 0; i < points.size();) {
    if (!points[i].pitch) {
      ++i;
      continue;
    }
    std::size_t end = i + 1;
    while (end < points.size() && points[end].pitch &&
           std::abs(points[end].pitch->value - points[end - 1].pitch->value) < kNewVoice)
      ++end;
    const auto first = points.begin() + static_cast<std::ptrdiff_t>(i),
               last = points.begin() + static_cast<std::ptrdiff_t>(end);
    if (std::any_of(first, last, [](const auto& p) { return !p.alone; })) refine(line, look, i, end);
    i = end;
  }
}

}  // namespace ear
