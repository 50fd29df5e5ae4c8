// SPDX-License-Identifier: GPL-3.0-or-later
#include "measures.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <map>

namespace ear::bench {
namespace {

constexpr double kSkip = 5.0, kBeatWindow = 0.07, kTempoWindow = 0.04, kFrame = 0.1, kEdge = 1e-9;

Times after(const Times& times, double from) {
  Times rest;
  std::copy_if(times.begin(), times.end(), std::back_inserter(rest), [&](double t) { return t >= from; });
  return rest;
}

Times innerBorders(const std::vector<Labelled>& sections) {
  Times times;
  for (std::size_t i = 1; i < sections.size(); ++i) times.push_back(sections[i].start);
  return times;
}

/// Label at the middle of each frame; empty where nothing is said.
std::vector<std::string> frames(const std::vector<Labelled>& sections, double start, std::size_t count) {
  std::vector<std::string> labels(count);
  for (std::size_t i = 0; i < count; ++i) {
    const double t = start + (static_cast<double>(i) + 0.5) * kFrame;
    for (const auto& s : sections)
      if (s.start <= t && t < s.end) labels[i] = s.label;
  }
  return labels;
}

struct Counts {
  std::map<std::string, double> truth, said;
  std::map<std::pair<std::string, std::string>, double> both;
  double all = 0;
};

Counts count(const std::vector<Labelled>& truth, const std::vector<Labelled>& said) {
  Counts c;
  const double start = truth.front().start;
  const auto n = static_cast<std::size_t>(std::lround((truth.back().end - start) / kFrame));
  const auto a = frames(truth, start, n), b = frames(said, start, n);
  for (std::size_t i = 0; i < n; ++i) c.truth[a[i]] += 1, c.said[b[i]] += 1, c.both[{a[i], b[i]}] += 1;
  c.all = static_cast<double>(n);
  return c;
}

template <class Map>
double pairs(const Map& counts) {
  double sum = 0;
  for (const auto& [key, n] : counts) sum += n * (n - 1) / 2;
  return sum;
}

}  // namespace

std::optional<double> fMeasure(const Times& truth, const Times& said, double window) {
  if (truth.empty()) return std::nullopt;
  // On a line, taking the first that fits gives the greatest matching.
  std::size_t i = 0, j = 0, hits = 0;
  while (i < truth.size() && j < said.size()) {
    const double gap = said[j] - truth[i];
    if (std::abs(gap) <= window + kEdge)
      ++hits, ++i, ++j;
    else if (gap < 0)
      ++j;
    else
      ++i;
  }
  return 2.0 * static_cast<double>(hits) / static_cast<double>(truth.size() + said.size());
}

std::optional<double> beatF(const Times& truth, const Times& said) {
  return fMeasure(after(truth, kSkip), after(said, kSkip), kBeatWindow);
}

std::optional<double> cemgil(const Times& truth, const Times& said) {
  const Times a = after(truth, kSkip), b = after(said, kSkip);
  if (a.empty()) return std::nullopt;
  double sum = 0;
  for (const double t : a) {
    double nearest = 1e9;
    for (const double s : b) nearest = std::min(nearest, std::abs(s - t));
    sum += std::exp(-nearest * nearest / (2 * 0.04 * 0.04));
  }
  return sum / (0.5 * static_cast<double>(a.size() + b.size()));
}

bool tempoAccuracy1(double truth, double said) {
  return std::abs(said - truth) <= kTempoWindow * truth;
}

bool tempoAccuracy2(double truth, double said) {
  for (const double factor : {1.0, 2.0, 3.0, 1.0 / 2, 1.0 / 3})
    if (tempoAccuracy1(truth * factor, said)) return true;
  return false;
}

std::optional<double> noteF(const std::vector<Note>& truth, const std::vector<Note>& said) {
  constexpr double kOnset = 0.05, kPitch = 0.5;
  if (truth.empty()) return std::nullopt;
  std::vector<std::ptrdiff_t> taken(said.size(), -1);  // the true note that each said one is given to
  std::vector<char> seen;
  const std::function<bool(std::size_t)> give = [&](std::size_t i) {
    for (std::size_t j = 0; j < said.size(); ++j) {
      if (seen[j] != 0 || std::abs(said[j].start - truth[i].start) > kOnset + kEdge ||
          std::abs(said[j].midi - truth[i].midi) > kPitch + kEdge)
        continue;
      seen[j] = 1;
      if (taken[j] < 0 || give(static_cast<std::size_t>(taken[j]))) {
        taken[j] = static_cast<std::ptrdiff_t>(i);
        return true;
      }
    }
    return false;
  };
  std::size_t hits = 0;
  for (std::size_t i = 0; i < truth.size(); ++i) {
    seen.assign(said.size(), 0);
    hits += give(i) ? 1 : 0;
  }
  return 2.0 * static_cast<double>(hits) / static_cast<double>(truth.size() + said.size());
}

std::optional<double> borderF(const std::vector<Labelled>& truth, const std::vector<Labelled>& said, double window) {
  return fMeasure(innerBorders(truth), innerBorders(said), window);
}

double pairwiseF(const std::vector<Labelled>& truth, const std::vector<Labelled>& said) {
  const Counts c = count(truth, said);
  const double inTruth = pairs(c.truth), inSaid = pairs(c.said), inBoth = pairs(c.both);
  if (inTruth == 0 || inSaid == 0 || inBoth == 0) return 0.0;
  const double precision = inBoth / inSaid, recall = inBoth / inTruth;
  return 2 * precision * recall / (precision + recall);
}

Entropies conditionalEntropies(const std::vector<Labelled>& truth, const std::vector<Labelled>& said) {
  const Counts c = count(truth, said);
  double saidGivenTruth = 0, truthGivenSaid = 0;
  for (const auto& [pair, n] : c.both) {
    saidGivenTruth -= n / c.all * std::log2(n / c.truth.at(pair.first));
    truthGivenSaid -= n / c.all * std::log2(n / c.said.at(pair.second));
  }
  const auto normalised = [](double entropy, std::size_t labels) {
    return labels > 1 ? 1 - entropy / std::log2(static_cast<double>(labels)) : 1.0;
  };
  return {normalised(saidGivenTruth, c.said.size()), normalised(truthGivenSaid, c.truth.size())};
}

}  // namespace ear::bench
