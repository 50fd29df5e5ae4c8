// SPDX-License-Identifier: GPL-3.0-or-later
#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/parameter.h"
#include "core/listening/rhythm/rhythm.h"

namespace ear {
namespace {

struct Parameters {
  /// of the tempo from beat to beat
  double steadiness =
      parameter("beatTracker.steadiness", 110.0, "", "Krebs, Boeck & Widmer 2015: 100; by hand from there");
  /// an onset belongs to the first of so many parts
  int beatShare = parameter("beatTracker.beatShare", 12, "parts of a beat");
  // Bounds of the chance of a beat, given the onset strength.
  float least = parameter("beatTracker.least", 0.02F, "chance");
  float most = parameter("beatTracker.most", 0.95F, "chance");
  /// of an attack: what counts for its place
  float summit = parameter("beatTracker.summit", 0.7F, "of the greatest strength");
  double tempoPull = parameter("beatTracker.tempoPull", 0.55, "log weight");       ///< of the tempogram at each beat
  double resonance = parameter("beatTracker.resonance", 112.0, "beats a minute");  ///< near which listeners tap
  double resonanceWidth = parameter("beatTracker.resonanceWidth", 0.62, "octaves");
  double tempoFloor = parameter("beatTracker.tempoFloor", 0.05, "of the tempogram");
  double largestChange = parameter("beatTracker.largestChange", 0.12, "of the beat");  ///< from one to the next
  double ofTwice = parameter("beatTracker.ofTwice", 0.5, "");  ///< of twice the lag, in the tempogram
  double window = parameter("beatTracker.window", 8.0, "s");   ///< of the tempogram
  double hop = parameter("beatTracker.hop", 2.0, "s");         ///< of the tempogram
};
const Parameters kPar{};

/// Log chance of each tempo before any beat is heard, by beat length in frames.
std::vector<float> tempoPrior(const Tempogram& tempogram, double rate, int shortest, int longest) {
  std::vector<float> prior;
  for (int length = shortest; length <= longest; ++length) {
    const double bpm = 60.0 * rate / length;
    const auto at = std::lower_bound(tempogram.tempi.begin(), tempogram.tempi.end(), Bpm(bpm));
    const auto i = std::min(static_cast<std::size_t>(at - tempogram.tempi.begin()), tempogram.strength.size() - 1);
    // Listeners tap near two beats a second (log-normal resonance, e.g. Parncutt 1994).
    const double octaves = std::log2(bpm / kPar.resonance);
    prior.push_back(static_cast<float>(std::log(kPar.tempoFloor + tempogram.strength[i]) -
                                       0.5 * octaves * octaves / (kPar.resonanceWidth * kPar.resonanceWidth)));
  }
  return prior;
}

/// Viterbi over (beat length, frame within the beat). Inside a beat a state can only move on, so each length keeps
/// a ring of scores and decisions are needed at beat starts alone.
class PointerSearch {
 public:
  PointerSearch(const OnsetStrength& onsets, const Tempogram& tempogram, const TempoRange& range)
      : shortest_(static_cast<int>(std::floor(60.0 * onsets.clock.rate / range.fastest.value))),
        longest_(static_cast<int>(std::ceil(60.0 * onsets.clock.rate / range.slowest.value))),
        prior_(tempoPrior(tempogram, onsets.clock.rate, shortest_, longest_)) {
    for (int from = shortest_; from <= longest_; ++from) {
      std::vector<Jump> jumps;
      for (int to = shortest_; to <= longest_; ++to) {
        const double change = std::abs(static_cast<double>(to) / from - 1.0);
        if (change < kPar.largestChange)
          jumps.push_back({to - shortest_, static_cast<float>(-kPar.steadiness * change)});
      }
      jumps_.push_back(std::move(jumps));
    }
  }

  /// Frames at which beats start.
  std::vector<std::size_t> run(std::span<const float> strength, const Progress& progress) {
    const auto lengths = static_cast<std::size_t>(longest_ - shortest_ + 1);
    const std::size_t frames = strength.size();
    // score[l][p]: best log chance of being p frames into a beat of length l
    std::vector<std::vector<float>> score(lengths);
    std::vector<std::size_t> head(lengths, 0);  // place of p = 0 in the ring
    for (std::size_t l = 0; l < lengths; ++l) score[l].assign(static_cast<std::size_t>(shortest_) + l, 0.0F);
    std::vector<std::uint8_t> cameFrom(frames * lengths);
    std::vector<float> entering(lengths);

    for (std::size_t t = 0; t < frames; ++t) {
      if (t % 4096 == 0 && progress.cancelled()) return {};
      const float a = std::clamp(strength[t], kPar.least, kPar.most);
      const float onBeat = std::log(a), offBeat = std::log((1.0F - a) / static_cast<float>(kPar.beatShare - 1));
      std::fill(entering.begin(), entering.end(), -std::numeric_limits<float>::infinity());
      for (std::size_t l = 0; l < lengths; ++l) {
        const std::size_t size = score[l].size();
        const float leaving = score[l][(head[l] + size - 1) % size];
        for (const Jump& jump : jumps_[l]) {
          const auto to = static_cast<std::size_t>(jump.length);
          const float value = leaving + jump.cost;
          if (value > entering[to]) entering[to] = value, cameFrom[t * lengths + to] = static_cast<std::uint8_t>(l);
        }
      }
      // All states would get offBeat, which decides nothing: those on the beat get the difference.
      const float gain = onBeat - offBeat;
      for (std::size_t l = 0; l < lengths; ++l) {
        const std::size_t size = score[l].size();
        head[l] = (head[l] + size - 1) % size;
        score[l][head[l]] = entering[l] + static_cast<float>(kPar.tempoPull) * prior_[l];
        const std::size_t onset = std::max<std::size_t>(1, size / kPar.beatShare);
        for (std::size_t p = 0; p < onset; ++p) score[l][(head[l] + p) % size] += gain;
      }
      if (t % 1024 == 1023) normalise(score);
    }
    return traceBack(score, head, cameFrom, frames);
  }

 private:
  struct Jump {
    int length;
    float cost;
  };

  /// Keeps the scores small enough for single precision.
  static void normalise(std::vector<std::vector<float>>& score) {
    float top = -std::numeric_limits<float>::infinity();
    for (const auto& ring : score) top = std::max(top, *std::max_element(ring.begin(), ring.end()));
    for (auto& ring : score)
      for (float& s : ring) s -= top;
  }

  static std::vector<std::size_t> traceBack(const std::vector<std::vector<float>>& score,
                                            const std::vector<std::size_t>& head,
                                            const std::vector<std::uint8_t>& cameFrom, std::size_t frames) {
    const std::size_t lengths = score.size();
    std::size_t length = 0, into = 0;
    float top = -std::numeric_limits<float>::infinity();
    for (std::size_t l = 0; l < lengths; ++l)
      for (std::size_t p = 0; p < score[l].size(); ++p)
        if (const float s = score[l][(head[l] + p) % score[l].size()]; s > top) top = s, length = l, into = p;
    std::vector<std::size_t> beats;
    auto t = static_cast<std::ptrdiff_t>(frames) - 1 - static_cast<std::ptrdiff_t>(into);
    while (t >= 0) {
      beats.push_back(static_cast<std::size_t>(t));
      length = cameFrom[static_cast<std::size_t>(t) * lengths + length];
      t -= static_cast<std::ptrdiff_t>(score[length].size());
    }
    std::reverse(beats.begin(), beats.end());
    return beats;
  }

  int shortest_, longest_;
  std::vector<float> prior_;
  std::vector<std::vector<Jump>> jumps_;
};

}  // namespace

Tempogram measureTempogram(const OnsetStrength& onsets) {
  const auto shortest = static_cast<std::size_t>(60.0 * onsets.clock.rate / 240.0);
  const auto longest = static_cast<std::size_t>(60.0 * onsets.clock.rate / 40.0);
  const auto window = std::min(onsets.all.size(), onsets.clock.framesIn(Seconds(kPar.window)));
  const auto hop = onsets.clock.framesIn(Seconds(kPar.hop));
  std::vector<double> repeat(2 * longest + 2, 0.0);  // by lag
  for (std::size_t from = 0; from + window <= onsets.all.size() && window > 0; from += hop) {
    const auto part = std::span(onsets.all).subspan(from, window);
    double energy = 1e-9;
    for (const float v : part) energy += static_cast<double>(v) * v;
    for (std::size_t lag = shortest; lag < repeat.size() && lag < window; ++lag) {
      double sum = 0.0;
      for (std::size_t i = lag; i < window; ++i) sum += static_cast<double>(part[i]) * part[i - lag];
      repeat[lag] += sum / energy * static_cast<double>(window) / static_cast<double>(window - lag);
    }
  }
  Tempogram tempogram;
  for (std::size_t lag = longest; lag >= shortest; --lag) {
    tempogram.tempi.emplace_back(60.0 * onsets.clock.rate / static_cast<double>(lag));
    tempogram.strength.push_back(static_cast<float>(repeat[lag] + kPar.ofTwice * repeat[2 * lag]));
  }
  const float top = std::max(1e-9F, *std::max_element(tempogram.strength.begin(), tempogram.strength.end()));
  for (float& s : tempogram.strength) s /= top;
  return tempogram;
}

std::vector<Seconds> trackBeats(const OnsetStrength& onsets, const Tempogram& tempogram, const Progress& progress,
                                const TempoRange& range) {
  const auto frames = PointerSearch(onsets, tempogram, range).run(onsets.all, progress);
  std::vector<Seconds> beats;
  for (const std::size_t frame : frames) {
    // The path may enter a beat a few frames beside the attack: put it on the summit near by, which is flat where the
    // strength was cut off at its greatest.
    const std::size_t from = frame >= 3 ? frame - 3 : 0, to = std::min(onsets.all.size(), frame + 5);
    const float top = *std::max_element(onsets.all.begin() + static_cast<std::ptrdiff_t>(from),
                                        onsets.all.begin() + static_cast<std::ptrdiff_t>(to));
    double weight = 0, place = 0;
    for (std::size_t f = from; f < to; ++f) {
      const double above = std::max(0.0F, onsets.all[f] - kPar.summit * top);
      weight += above, place += above * static_cast<double>(f);
    }
    beats.push_back(onsets.clock.timeOf(weight > 0 ? place / weight : static_cast<double>(frame)));
  }
  return beats;
}

}  // namespace ear
