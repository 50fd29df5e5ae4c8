// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/form/section_words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "core/base/parameter.h"

namespace ear {
namespace {

struct Parameters {
  /// under the rest's by which the last bars count as another ending
  double otherEnding = parameter("sectionWords.otherEnding", 0.35, "likeness");
  /// mean likeness of rhythm under which the beat is another one
  double otherBeat = parameter("sectionWords.otherBeat", 0.45, "likeness");
  double louder = parameter("sectionWords.louder", 0.10, "of the mean level");
  int leastBars = parameter("sectionWords.leastBars", 4, "bars");  ///< over which chords are compared
  /// of the other verses' bars: a last one that breaks off earlier is an outro
  double outroShare = parameter("sectionWords.outroShare", 0.8, "of the bars");
  /// of harmony above that of the key in place
  double movedClearly = parameter("sectionWords.movedClearly", 0.15, "cosine");
  /// of harmony and bass: bridges reach 0.23, solos begin at 0.25, all but one at 0.40
  double sameChords =
      parameter("sectionWords.sameChords", 0.35, "likeness", "by hand, on 7 bridges and 9 solos (bench/RESULTS.md)");
};
const Parameters kPar{};

double meanAlong(const auto& s, const BarRun& a, const BarRun& b, int from, int to) {
  double sum = 0;
  for (int k = from; k < to; ++k) sum += s(a.first + k, b.first + k);
  return to > from ? sum / (to - from) : 0.0;
}

double meanLevel(const BarFeatures& f, const BarRun& run) {
  double sum = 0;
  for (int k = 0; k < run.length; ++k) sum += f.level[static_cast<std::size_t>(run.first + k)];
  return sum / std::max(1, run.length);
}

}  // namespace

int transposition(const BarFeatures& f, const BarRun& a, const BarRun& b) {
  const int length = std::min(a.length, b.length);
  std::array<double, 12> fit{};
  for (int up = 0; up < 12; ++up)
    for (int k = 0; k < length; ++k) {
      const auto one = f.harmony.row(a.first + k), other = f.harmony.row(b.first + k);
      double dot = 0;
      for (int q = 0; q < BarFeatures::kQuarters; ++q)
        for (int c = 0; c < 12; ++c) dot += one(q * 12 + c) * other(q * 12 + (c + up) % 12);
      fit[static_cast<std::size_t>(up)] += dot / (one.norm() * other.norm() + 1e-9) / length;
    }
  const auto best = std::max_element(fit.begin(), fit.end()) - fit.begin();
  if (fit[static_cast<std::size_t>(best)] < fit[0] + kPar.movedClearly) return 0;
  return static_cast<int>(best <= 6 ? best : best - 12);
}

SectionDifference differenceOf(const BarFeatures& f, const BarSelfSimilarity& likeness, const BarRun& a,
                               const BarRun& b) {
  const int length = std::min(a.length, b.length);
  SectionDifference difference{.semitones = transposition(f, a, b), .bars = b.length - a.length};
  if (length >= 4) {
    const double body = meanAlong(likeness.together, a, b, 0, length - 1),
                 last = meanAlong(likeness.together, a, b, length - 1, length);
    difference.endsOtherwise = difference == SectionDifference{} && body - last > kPar.otherEnding;
  }
  difference.otherBeat = meanAlong(likeness.rhythm, a, b, 0, length) < kPar.otherBeat;
  const double before = meanLevel(f, a), now = meanLevel(f, b);
  if (std::abs(now - before) > kPar.louder * before) difference.loudness = now > before ? 1 : -1;
  return difference;
}

void guessRoles(std::vector<FoundSection>& sections, const std::vector<BarRun>& runs, const BarFeatures& f,
                const BarSelfSimilarity& likeness) {
  std::map<std::string, std::vector<std::size_t>> byLetter;
  for (std::size_t i = 0; i < sections.size(); ++i)
    if (sections[i].role == Role::none) byLetter[sections[i].letter].push_back(i);
  // Of the music that comes again, the loudest is the chorus and what comes first among the others the verse.
  std::string chorus, verse;
  double loudest = -1;
  std::size_t repeated = 0;
  for (const auto& [letter, where] : byLetter) repeated += where.size() > 1 ? 1 : 0;
  for (const auto& [letter, where] : byLetter) {
    if (where.size() < 2) continue;
    double level = 0;
    for (const std::size_t i : where) level += meanLevel(f, runs[i]) / static_cast<double>(where.size());
    if (repeated > 1 && level > loudest) loudest = level, chorus = letter;
  }
  std::size_t earliest = sections.size();
  for (const auto& [letter, where] : byLetter)
    if (where.size() > 1 && letter != chorus && where.front() < earliest) earliest = where.front(), verse = letter;
  double usual = 0;
  for (std::size_t i = 0; i < runs.size(); ++i) usual += meanLevel(f, runs[i]) / static_cast<double>(runs.size());

  std::size_t firstMusic = 0, lastMusic = 0;
  for (std::size_t i = 0; i < sections.size(); ++i)
    if (sections[i].role == Role::none) lastMusic = i;
  while (firstMusic < sections.size() && sections[firstMusic].role != Role::none) ++firstMusic;
  const auto chords = 0.5F * (likeness.harmony + likeness.bass);
  const auto overChordsOfAnother = [&](std::size_t i) {
    for (std::size_t k = 0; k < sections.size(); ++k)
      if (const int length = std::min(runs[k].length, runs[i].length);
          sections[k].letter != sections[i].letter && sections[k].letter != "-" && length >= kPar.leastBars &&
          meanAlong(chords, runs[k], runs[i], 0, length) > kPar.sameChords)
        return true;
    return false;
  };
  for (std::size_t i = 0; i < sections.size(); ++i) {
    FoundSection& s = sections[i];
    if (s.role != Role::none) continue;
    if (i == lastMusic && i != firstMusic && byLetter[s.letter].size() > 1 &&
        runs[i].length < kPar.outroShare * runs[byLetter[s.letter].front()].length)
      s.role = Role::outro;
    else if (s.letter == chorus && !chorus.empty())
      s.role = Role::chorus;
    else if (s.letter == verse && !verse.empty())
      s.role = Role::verse;
    else if (i == firstMusic)
      s.role = Role::intro;
    else if (i == lastMusic)
      s.role = Role::outro;
    else if (meanLevel(f, runs[i]) < 0.75 * usual)
      s.role = Role::breakdown;
    else
      s.role = overChordsOfAnother(i) ? Role::solo : Role::bridge;
  }
}

}  // namespace ear
