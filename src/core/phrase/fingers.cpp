// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/fingers.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace ear {
namespace {

// In shifts of the hand.
constexpr double kShiftFret = 0.15;  // more for each fret of a shift
constexpr double kStretch = 0.45;    // of a fret before the first or behind the fourth
constexpr double kSlide = 0.1;       // of a shift with the finger that slides
constexpr double kIdle = 0.05;       // of a first finger that lies a fret below the lowest note
constexpr int kHighest = 24;
constexpr int kReach = 4;  // frets under four fingers

struct Moment {
  std::vector<std::size_t> notes;
  std::optional<int> slid{};  // frets that the finger comes along from the moment before
};

bool isStopped(const Note& n) {
  const bool natural = n.harmonic && n.harmonic->kind == PlayedHarmonic::Kind::natural;
  return n.place.fret > 0 && !natural && n.tone != Tone::dead && n.bar != SlideBar::atFret;
}

std::vector<Moment> momentsOf(std::span<const Note> notes) {
  std::vector<Moment> moments;
  for (std::size_t i = 0; i < notes.size(); ++i) {
    const bool together = i > 0 && notes[i].at == notes[i - 1].at && notes[i].free == notes[i - 1].free;
    if (!together || moments.empty()) moments.emplace_back();
    moments.back().notes.push_back(i);
    const bool led = notes[i].attack == Attack::slidInto && !notes[i].slidFrom && i > 0;
    if (led && notes[i - 1].place.string == notes[i].place.string)
      moments.back().slid = notes[i].place.fret - notes[i - 1].place.fret;
  }
  return moments;
}

/// What it costs to play a moment with the first finger at a fret; without bound where no hand could.
double ownCost(std::span<const Note> notes, const Moment& moment, int base, bool openStrings) {
  double cost = 0;
  int lowest = kHighest;
  for (const std::size_t i : moment.notes) {
    if (!isStopped(notes[i])) continue;
    lowest = std::min(lowest, notes[i].place.fret);
    const int beyond = std::max(base - notes[i].place.fret, notes[i].place.fret - (base + kReach - 1));
    if (beyond > 2) return std::numeric_limits<double>::infinity();
    if (beyond > 0) cost += kStretch * beyond;
    // A bend wants fingers behind the one that bends.
    if (notes[i].bend && notes[i].place.fret == base) cost += 0.2;
    const int said = static_cast<int>(notes[i].finger);
    if (said >= 1 && said <= 4) cost += std::abs(base + said - 1 - notes[i].place.fret);
  }
  // A line among open strings is played in the first position.
  const bool home = openStrings && base == 1 && moment.notes.size() == 1;
  if (lowest < kHighest && lowest > base && !home) cost += kIdle * (lowest - base);
  return cost;
}

/// Fingers of one moment with the hand where it is.
void assign(std::span<const Note> notes, const Moment& moment, int base, std::vector<ProposedFinger>& fingers) {
  std::vector<std::size_t> stopped;
  for (const std::size_t i : moment.notes)
    if (isStopped(notes[i])) stopped.push_back(i);
  // Low frets first; on one fret the thick strings first.
  std::sort(stopped.begin(), stopped.end(), [&](std::size_t a, std::size_t b) {
    return std::pair(notes[a].place.fret, notes[a].place.string) <
           std::pair(notes[b].place.fret, notes[b].place.string);
  });
  int next = 1;
  for (std::size_t k = 0; k < stopped.size();) {
    std::size_t end = k;
    while (end < stopped.size() && notes[stopped[end]].place.fret == notes[stopped[k]].place.fret) ++end;
    const int wanted = std::clamp(notes[stopped[k]].place.fret - base + 1, 1, 4);
    const auto count = static_cast<int>(end - k), all = static_cast<int>(stopped.size());
    int finger = std::clamp(std::max(wanted, next), 1, 4);
    // Side by side under the first finger, or more than there are fingers left for.
    const bool beside = notes[stopped[end - 1]].place.string - notes[stopped[k]].place.string == count - 1;
    const bool first = k == 0 && (all > 4 || (beside && all > count && all > 3));
    const bool bar = count > 1 && (first || finger + count - 1 > 4);
    if (!bar && finger + count - 1 > 4) finger = std::max(next, 5 - count);
    for (std::size_t i = k; i < end; ++i) {
      fingers[stopped[i]] = {static_cast<Finger>(std::min(4, finger)), bar};
      if (!bar && i + 1 < end) ++finger;
    }
    next = finger + 1;
    k = end;
  }
}

}  // namespace

std::vector<ProposedFinger> proposedFingers(std::span<const Note> notes) {
  std::vector<ProposedFinger> fingers(notes.size());
  const auto moments = momentsOf(notes);
  const bool openStrings = std::any_of(notes.begin(), notes.end(), [](const Note& n) { return n.place.fret == 0; });
  std::vector<std::vector<double>> cost(moments.size(), std::vector<double>(kHighest + 1));
  std::vector<std::vector<int>> from(moments.size(), std::vector<int>(kHighest + 1));
  for (std::size_t m = 0; m < moments.size(); ++m)
    for (int base = 1; base <= kHighest; ++base) {
      double best = m == 0 ? 0.0 : std::numeric_limits<double>::infinity();
      for (int before = 1; m > 0 && before <= kHighest; ++before) {
        const int by = base - before;
        const double shift = moments[m].slid ? (*moments[m].slid == by ? kSlide : 1.0 + kShiftFret * std::abs(by))
                             : by == 0       ? 0.0
                                             : 1.0 + kShiftFret * std::abs(by);
        if (const double c = cost[m - 1][static_cast<std::size_t>(before)] + shift; c < best)
          best = c, from[m][static_cast<std::size_t>(base)] = before;
      }
      cost[m][static_cast<std::size_t>(base)] = best + ownCost(notes, moments[m], base, openStrings);
    }
  if (moments.empty()) return fingers;
  const auto& last = cost.back();
  auto base = static_cast<int>(std::min_element(last.begin() + 1, last.end()) - last.begin());
  for (std::size_t m = moments.size(); m-- > 0;) {
    assign(notes, moments[m], base, fingers);
    if (m > 0) base = std::max(1, from[m][static_cast<std::size_t>(base)]);
  }
  for (std::size_t i = 0; i < notes.size(); ++i)
    if (notes[i].finger != Finger::unsaid) fingers[i] = {notes[i].finger, notes[i].barred};
  return fingers;
}

}  // namespace ear
