// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/form/form.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/listening/form/bar_features.h"
#include "core/listening/form/borders.h"
#include "core/listening/form/section_words.h"

namespace ear {
namespace {

struct Parameters {
  double sameMusic = parameter("form.sameMusic", 0.55, "likeness");  ///< mean of bars along a diagonal
  /// of rhythm and colour of music that came again in another key
  double movedMusic = parameter("form.movedMusic", 0.80, "likeness");
  int longestCountIn = parameter("form.longestCountIn", 2, "bars");
  double ratioHeard = parameter("form.ratioHeard", 0.1, "of the level");  ///< under which a side is silent
};
const Parameters kPar{};

constexpr std::size_t kPictureSize = 240;

using Matrix = Eigen::MatrixXd;

std::string letterOf(std::size_t i) {
  std::string text(1, static_cast<char>('A' + i % 26));
  return i < 26 ? text : text + std::to_string(i / 26 + 1);
}

/// Likeness of two runs of bars, the shorter laid along the longer where it fits best.
double runLikeness(const auto& s, const BarRun& a, const BarRun& b) {
  if (a.length > b.length) return runLikeness(s, b, a);
  if (b.length > 2 * a.length + 1) return 0.0;
  double best = 0;
  for (int shift = 0; shift <= b.length - a.length; ++shift) {
    double sum = 0;
    for (int k = 0; k < a.length; ++k) sum += s(a.first + k, b.first + shift + k);
    best = std::max(best, sum / a.length);
  }
  return best;
}

/// Groups of runs that are the same music, by average linkage: a number for each run, in order of appearance.
std::vector<std::size_t> groupRuns(const std::vector<BarRun>& runs, const BarFeatures& features,
                                   const BarSelfSimilarity& likeness) {
  const auto n = static_cast<Eigen::Index>(runs.size());
  const auto played = 0.5F * (likeness.rhythm + likeness.colour);  // not evaluated: large, and little of it is read
  Matrix alike(n, n);
  for (Eigen::Index i = 0; i < n; ++i)
    for (Eigen::Index j = 0; j <= i; ++j) {
      const BarRun &a = runs[static_cast<std::size_t>(j)], &b = runs[static_cast<std::size_t>(i)];
      double like = runLikeness(likeness.together, a, b);
      // The last chorus a semitone up: played alike, of one length, and the harmony fits when moved.
      if (i != j && like < kPar.sameMusic && a.length == b.length && runLikeness(played, a, b) > kPar.movedMusic &&
          transposition(features, a, b) != 0)
        like = kPar.sameMusic;
      alike(i, j) = alike(j, i) = like;
    }
  std::vector<std::vector<Eigen::Index>> groups;
  for (Eigen::Index i = 0; i < n; ++i) groups.push_back({i});
  const auto mean = [&](const auto& a, const auto& b) {
    double sum = 0;
    for (const auto i : a)
      for (const auto j : b) sum += alike(i, j);
    return sum / static_cast<double>(a.size() * b.size());
  };
  while (true) {
    double best = kPar.sameMusic - 1e-9;
    std::size_t first = 0, second = 0;
    for (std::size_t x = 1; x < groups.size(); ++x)
      for (std::size_t y = 0; y < x; ++y)
        if (const double like = mean(groups[x], groups[y]); like >= best) best = like, first = y, second = x;
    if (second == 0) break;
    groups[first].insert(groups[first].end(), groups[second].begin(), groups[second].end());
    groups.erase(groups.begin() + static_cast<std::ptrdiff_t>(second));
  }
  std::vector<std::size_t> number(runs.size());
  for (auto& group : groups) std::sort(group.begin(), group.end());
  std::sort(groups.begin(), groups.end(), [](const auto& a, const auto& b) { return a.front() < b.front(); });
  for (std::size_t g = 0; g < groups.size(); ++g)
    for (const auto i : groups[g]) number[static_cast<std::size_t>(i)] = g;
  return number;
}

/// Bars at both ends in which next to nothing pitched sounds: sticks that count in, talk, applause.
std::pair<int, int> barsWithoutMusic(const BarFeatures& f) {
  constexpr double kNothing = 0.12, kLittle = 0.45;  // of what is usual
  const double pitched = medianOf(f.pitched), level = medianOf(f.level);
  const auto silent = [&](std::size_t i) {
    return f.pitched[i] < kNothing * pitched || (f.pitched[i] < kLittle * pitched && f.level[i] < kLittle * level);
  };
  const std::size_t n = f.count();
  std::size_t before = 0, after = 0;
  while (before < n && silent(before)) ++before;
  while (after + before < n && silent(n - 1 - after)) ++after;
  return {static_cast<int>(before), after > 1 ? static_cast<int>(after) : 0};  // a single bar is a chord that rings off
}

/// Bars at the end in which what was struck at their start only rings on, or nearly all has faded.
int ringingBars(const BarFeatures& f) {
  constexpr double kStruck = 0.45, kLoud = 0.35;  // of what is usual
  const Eigen::Index places = BarFeatures::kPlaces;
  std::vector<double> struck;  // how much starts within the bar, behind its first beat
  for (Eigen::Index i = 0; i < f.rhythm.rows(); ++i)
    struck.push_back(f.rhythm.row(i).segment(places + 2, places - 2).mean());
  const double leastStruck = kStruck * medianOf(struck), leastLevel = kLoud * medianOf(f.level);
  int bars = 0;
  for (std::size_t i = f.count(); i-- > 0 && (struck[i] < leastStruck || f.level[i] < leastLevel);) ++bars;
  return bars;
}

SelfSimilarityPicture pictureOf(const Eigen::MatrixXf& likeness) {
  const auto n = static_cast<std::size_t>(likeness.rows());
  const std::size_t each = (n + kPictureSize - 1) / kPictureSize;
  SelfSimilarityPicture picture{.size = n / each, .barsEach = static_cast<int>(each)};
  const auto size = static_cast<Eigen::Index>(each);
  for (std::size_t i = 0; i < picture.size; ++i)
    for (std::size_t j = 0; j < picture.size; ++j) {
      const double mean =
          likeness.block(static_cast<Eigen::Index>(i * each), static_cast<Eigen::Index>(j * each), size, size).mean();
      picture.alike.push_back(static_cast<std::uint8_t>(std::lround(15 * std::clamp(mean, 0.0, 1.0))));
    }
  return picture;
}

/// Mean level of a side during a span.
double sideLevel(const std::vector<SidePoint>& sides, TimeSpan span, Side side) {
  double sum = 0;
  int count = 0;
  for (const auto& p : sides)
    if (span.contains(p.time)) sum += p.level[static_cast<std::size_t>(side)], ++count;
  return count > 0 ? sum / count : 0.0;
}

/// A side that is nearly silent in one of two sections and clearly there in the other: 1 where it comes in, -1 where it
/// is gone.
int sideChange(const std::vector<SidePoint>& sides, TimeSpan original, TimeSpan repeat, Side side) {
  const double before = sideLevel(sides, original, side), now = sideLevel(sides, repeat, side);
  return now > 3 * before && now > kPar.ratioHeard ? 1 : before > 3 * now && before > kPar.ratioHeard ? -1 : 0;
}

}  // namespace

FormFindings findForm(Seconds duration, const LogBandSpectrogram& bands, const OnsetStrength& onsets,
                      const NoteActivations& notes, const RhythmFindings& rhythm, const std::vector<SidePoint>& sides) {
  std::vector<TimeSpan> bars;
  for (std::size_t i = 0; i < rhythm.downbeats.size(); ++i)
    bars.push_back({rhythm.downbeats[i], i + 1 < rhythm.downbeats.size() ? rhythm.downbeats[i + 1] : duration});
  if (bars.size() < 8)
    return {{{.span = {Seconds(0), duration}, .letter = "A", .bars = static_cast<int>(bars.size())}}, {}};

  const BarFeatures features = describeBars(bars, bands, onsets, notes);
  const BarSelfSimilarity likeness = compareBars(features);
  const auto odds = borderOdds(borderSigns(features, likeness));
  const auto [silentBefore, silentAfter] = barsWithoutMusic(features);
  const int before = silentBefore <= kPar.longestCountIn ? silentBefore : 0;  // more is an intro of another kind
  const int count = static_cast<int>(bars.size()), last = count - silentAfter;
  const int ringing = silentAfter == 0 ? std::min(ringingBars(features), last - before - 1) : 0;

  // Borders within the music, then the parts without music around it.
  std::vector<BarRun> runs;
  std::vector<Role> roles;
  const auto add = [&](int first, int length, Role role) {
    if (length > 0) runs.push_back({first, length}), roles.push_back(role);
  };
  add(0, before, Role::countIn);
  const auto borders = chooseBorders({odds.begin() + before, odds.begin() + (last - ringing)});
  for (std::size_t i = 0; i < borders.size(); ++i) {
    const int next = i + 1 < borders.size() ? borders[i + 1] : last - before;
    add(before + borders[i], next - borders[i], Role::none);
  }
  add(last, count - last, Role::noMusic);

  std::vector<BarRun> music;
  for (std::size_t i = 0; i < runs.size(); ++i)
    if (roles[i] == Role::none) music.push_back(runs[i]);
  const auto groups = groupRuns(music, features, likeness);

  FormFindings found{{}, pictureOf(likeness.together)};
  std::vector<std::size_t> firstOf(groups.size(), runs.size());  // the section in which each letter comes first
  for (std::size_t i = 0, m = 0; i < runs.size(); ++i) {
    const auto bar = static_cast<std::size_t>(runs[i].first);
    const Seconds start = i == 0 ? Seconds(0) : bars[bar].start;
    if (!found.sections.empty()) found.sections.back().span.end = start;
    FoundSection section{.span = {start, duration},
                         .certainty = i == 0 ? 1.0 : 1.0 / (1.0 + std::exp(-odds[bar])),
                         .bars = runs[i].length,
                         .role = roles[i]};
    if (roles[i] != Role::none) {
      section.letter = "-";
    } else {
      const std::size_t group = groups[m++];
      section.letter = letterOf(group);
      if (firstOf[group] == runs.size()) firstOf[group] = i;
    }
    found.sections.push_back(section);
  }
  for (std::size_t i = 0, m = 0; i < runs.size(); ++i) {
    if (roles[i] != Role::none) continue;
    const std::size_t original = firstOf[groups[m++]];
    if (original == i) continue;
    auto& section = found.sections[i];
    section.difference = differenceOf(features, likeness, runs[original], runs[i]);
    const TimeSpan first = found.sections[original].span;
    section.difference.left = sideChange(sides, first, section.span, Side::left);
    section.difference.right = sideChange(sides, first, section.span, Side::right);
  }
  guessRoles(found.sections, runs, features, likeness);
  return found;
}

}  // namespace ear
