// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/viterbi.h"

#include <gmock/gmock.h>

#include <cmath>
#include <random>

namespace ear::test {
namespace {

using testing::ElementsAre;

/// A hidden Markov model by its tables, in log chances; a way that is not there is -infinity.
struct Tables {
  std::vector<double> begin;
  std::vector<std::vector<double>> change;  // from, to
  std::vector<std::vector<double>> seen;    // frame, state
  std::size_t now = 0;

  double start(std::size_t) const { return 0.0; }
  void enter(std::size_t t, std::span<const double>) { now = t; }
  template <class Come>
  void ways(std::size_t to, Come&& come) const {
    if (now == 0) {
      if (std::isfinite(begin[to])) come(to, -begin[to]);
      return;
    }
    for (std::size_t from = 0; from < change.size(); ++from)
      if (std::isfinite(change[from][to])) come(from, -change[from][to]);
  }
  double gain(std::size_t state) const { return seen[now][state]; }
};

double worth(const Tables& m, const std::vector<std::size_t>& path) {
  double sum = m.begin[path[0]] + m.seen[0][path[0]];
  for (std::size_t t = 1; t < path.size(); ++t) sum += m.change[path[t - 1]][path[t]] + m.seen[t][path[t]];
  return sum;
}

TEST(LikeliestPath, OfAModelWorkedByHand) {
  // Two states, three frames, with the chances of the usual textbook example of a patient; by hand the best path is
  // 0, 0, 1 with 0.6 * 0.5 * 0.7 * 0.4 * 0.3 * 0.6 = 0.01512.
  const auto l = [](double p) { return std::log(p); };
  Tables m{
      {l(0.6), l(0.4)}, {{l(0.7), l(0.3)}, {l(0.4), l(0.6)}}, {{l(0.5), l(0.1)}, {l(0.4), l(0.3)}, {l(0.1), l(0.6)}}};
  const auto path = likeliestPath(3, 2, m);
  EXPECT_THAT(path, ElementsAre(0U, 0U, 1U));
  EXPECT_NEAR(std::exp(worth(m, path)), 0.01512, 1e-12);
}

TEST(LikeliestPath, IsTheBestOfAllPaths) {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> chance(-4.0, 0.0);
  constexpr std::size_t kStates = 4, kFrames = 6;
  for (int round = 0; round < 30; ++round) {
    Tables m;
    for (std::size_t s = 0; s < kStates; ++s) {
      m.begin.push_back(chance(random));
      auto& row = m.change.emplace_back();
      for (std::size_t to = 0; to < kStates; ++to) row.push_back(chance(random));
    }
    for (std::size_t t = 0; t < kFrames; ++t) {
      auto& row = m.seen.emplace_back();
      for (std::size_t s = 0; s < kStates; ++s) row.push_back(chance(random));
    }
    double best = -1e9;
    std::vector<std::size_t> path(kFrames, 0);
    for (std::size_t code = 0; code < 4096; ++code) {  // 4^6 paths
      for (std::size_t t = 0, rest = code; t < kFrames; ++t, rest /= kStates) path[t] = rest % kStates;
      best = std::max(best, worth(m, path));
    }
    EXPECT_NEAR(worth(m, likeliestPath(kFrames, kStates, m)), best, 1e-9);
  }
}

TEST(LikeliestPath, SaysWhereNothingLeadsOn) {
  const double none = -std::numeric_limits<double>::infinity();
  // State 1 can only be begun in, and nothing leads from 0 to it: what comes later has no way back to the start.
  Tables m{{none, 0.0}, {{0.0, none}, {none, none}}, {{0, 0}, {0, 0}, {0, 0}}};
  EXPECT_THAT(likeliestPath(3, 2, m), ElementsAre(kNoState, kNoState, 0U));
}

TEST(LikeliestPath, StopsWhenCancelled) {
  Tables m{{0.0}, {{0.0}}, {{0.0}}};
  Progress progress;
  progress.cancel();
  EXPECT_TRUE(likeliestPath(1, 1, m, progress).empty());
}

}  // namespace
}  // namespace ear::test
