// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/melody/pitch_refine.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "core/base/parameter.h"
#include "core/listening/frontend/spectra.h"
#include "core/signal/fft.h"
#include "core/signal/viterbi.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr std::size_t kWindow = 1102, kFft = 4096;  // samples: 50 ms, padded so that amplitudes can be read in between
constexpr int kPerSemitone = 20;                    // states
constexpr int kReach = 30;                          // states around the line that are looked at

struct Parameters {
  /// states from frame to frame: a quick bend makes 40 cents in 10 ms
  int fastest = parameter("pitchRefine.fastest", 10, "states a frame");
  int overtones = parameter("pitchRefine.overtones", 10, "");
  double top = parameter("pitchRefine.top", 5000.0, "Hz");  ///< overtones over it are not heard out
  /// for each state moved, against scores in [0, 1]
  double stepCost = parameter("pitchRefine.stepCost", 0.015, "per state");
  double newVoice = parameter("pitchRefine.newVoice", 1.6, "semitones");  ///< between two frames that are two notes
};
const Parameters kPar{};

double hertzOf(int state) {
  return frequencyOf(MidiPitch(static_cast<double>(state) / kPerSemitone)).value;
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
    for (int h = 1; h <= kPar.overtones && h * f0 < kPar.top; ++h) {
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

/// States around the pitch that each frame has so far; one voice glides.
class GlideModel {
 public:
  /// @param from  frame of the line that is frame 0 here
  GlideModel(const F0Contour& line, Look& look, std::size_t from) : line_(line), look_(look), from_(from) {}

  static double start(std::size_t) { return 0.0; }
  void enter(std::size_t t, std::span<const double>) {
    const auto& point = line_.points[from_ + t];
    const int middle = middleOf(point);
    shift_ = t == 0 ? 0 : middle - middle_;
    first_ = t == 0;
    middle_ = middle;
    look_.at(std::llround(line_.clock.timeOf(from_ + t).value * kListeningRate));
    double most = 1e-12;
    for (int s = 0; s < kStates; ++s) {
      double& score = scores_[static_cast<std::size_t>(s)];
      // What is exact already stays.
      score = point.alone ? (s == kReach ? 1.0 : 0.0) : look_.score(middle + s - kReach);
      most = std::max(most, score);
    }
    for (double& score : scores_) score /= most;
  }
  template <class Come>
  void ways(std::size_t to, Come&& come) const {
    if (first_) return come(to, 0.0);
    for (int step = -kPar.fastest; step <= kPar.fastest; ++step)
      if (const int before = static_cast<int>(to) + step + shift_; before >= 0 && before < kStates)
        come(static_cast<std::size_t>(before), kPar.stepCost * std::abs(step));
  }
  double gain(std::size_t state) const { return scores_[state]; }

  static int middleOf(const F0Contour::Point& point) {
    return static_cast<int>(std::lround(point.pitch->value * kPerSemitone));
  }

 private:
  const F0Contour& line_;
  Look& look_;
  std::size_t from_;
  int middle_ = 0, shift_ = 0;  // of the states against those of the frame before
  bool first_ = true;
  std::array<double, kStates> scores_{};
};

/// Frames [from, to) of one gliding voice.
void refine(F0Contour& line, Look& look, std::size_t from, std::size_t to) {
  const auto path = likeliestPath(to - from, kStates, GlideModel(line, look, from));
  for (std::size_t t = 0; t < path.size(); ++t) {
    auto& point = line.points[from + t];
    if (point.alone || path[t] == kNoState) continue;
    const int state = GlideModel::middleOf(point) + static_cast<int>(path[t]) - kReach;
    point.pitch = MidiPitch(static_cast<double>(state) / kPerSemitone);
  }
}

}  // namespace

void refineAmongOthers(F0Contour& line, std::span<const float> mono) {
  Look look(mono);
  const auto& points = line.points;
  for (std::size_t i = 0; i < points.size();) {
    if (!points[i].pitch) {
      ++i;
      continue;
    }
    std::size_t end = i + 1;
    while (end < points.size() && points[end].pitch &&
           std::abs(points[end].pitch->value - points[end - 1].pitch->value) < kPar.newVoice)
      ++end;
    const auto first = points.begin() + static_cast<std::ptrdiff_t>(i),
               last = points.begin() + static_cast<std::ptrdiff_t>(end);
    if (std::any_of(first, last, [](const auto& p) { return !p.alone; })) refine(line, look, i, end);
    i = end;
  }
}

}  // namespace ear
