// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/melody/notes.h"

#include <algorithm>
#include <cmath>

#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/listening/frontend/spectra.h"

namespace ear {
namespace {

struct Parameters {
  float struck = parameter("notes.struck", 0.35F, "onset strength");  ///< of an attack
  float rise = parameter("notes.rise", 1.8F, "ratio");                ///< of the overtones, by an attack of their own
  double byGuitar = parameter("notes.byGuitar", 0.4, "probability");  ///< that a guitar struck the note, among others
  double step = parameter("notes.step", 0.7, "semitones");            ///< between two notes without an attack
  double atOnce = parameter("notes.atOnce", 0.45, "semitones a frame");  ///< a bend glides
  /// of a note: what is cut off leaves less behind
  std::size_t shortest = parameter("notes.shortest", std::size_t{6}, "frames");
  std::size_t gap = parameter("notes.gap", std::size_t{4}, "frames");  ///< without a pitch that end a note
  /// in which the second note of a double stop is heard
  std::size_t secondFrames = parameter("notes.secondFrames", std::size_t{8}, "frames");
};
const Parameters kPar{};

using Points = std::vector<F0Contour::Point>;

/// Median pitch of frames [from, to), where most of them have one.
std::optional<double> pitchIn(const Points& points, std::size_t from, std::size_t to) {
  std::vector<double> values;
  for (std::size_t k = from; k < std::min(to, points.size()); ++k)
    if (points[k].pitch) values.push_back(points[k].pitch->value);
  if (values.size() < (to - from) / 2 + 1) return std::nullopt;
  return medianOf(std::move(values));
}

bool differ(std::optional<double> before, std::optional<double> after) {
  return before && after && std::abs(*after - *before) >= kPar.step;
}

/// Whether another instrument struck at frame `i`: among others, on the same pitch, no guitar seems to have struck
/// that, and its own overtones hardly rise.
bool struckByAnother(const F0Contour& line, const GuitarActivations& guitar, Cents offset, std::size_t i) {
  const Points& points = line.points;
  if (guitar.count() == 0 || i < 6 || i + 8 >= points.size()) return false;
  const auto before = pitchIn(points, i - 5, i - 1), after = pitchIn(points, i + 2, i + 7);
  if (!before || !after || differ(before, after)) return false;
  const auto from = points.begin() + static_cast<std::ptrdiff_t>(i);
  if (std::count_if(from - 5, from + 7, [](const auto& p) { return p.pitch && !p.alone; }) < 4) return false;
  if (struckNear(guitar, line.clock.timeOf(i), *after - offset.value / 100) >= kPar.byGuitar) return false;
  const auto softer = [](const auto& a, const auto& b) { return a.level < b.level; };
  const float was = std::max_element(from - 6, from - 2, softer)->level;
  const float is = std::max_element(from, from + 7, softer)->level;
  return is < kPar.rise * was;
}

/// The frame at which the pitch steps around `i`: where two neighbours differ most; empty where it only glides.
std::optional<std::size_t> stepNear(const Points& points, std::size_t i) {
  if (!differ(pitchIn(points, i - 4, i - 1), pitchIn(points, i + 1, i + 5))) return std::nullopt;
  std::optional<std::size_t> place;
  double most = kPar.atOnce;
  for (std::size_t k = i - 2; k <= i + 2; ++k) {
    if (!points[k].pitch || !points[k - 1].pitch) continue;
    const double change = std::abs(points[k].pitch->value - points[k - 1].pitch->value);
    if (change >= most) most = change, place = k;
  }
  return place;
}

/// Frames at which a note may begin, one mark for each frame.
std::vector<char> cutsOf(const F0Contour& line, const OnsetStrength& onsets, const GuitarActivations& guitar,
                         Cents offset) {
  const Points& points = line.points;
  std::vector<char> cut(points.size(), 0);
  for (const std::size_t i : peaksOf(onsets.all, kPar.struck))
    if (i < points.size()) cut[i] = 1;
  const auto struck = cut;
  for (std::size_t i = 4; i + 4 < points.size(); ++i)
    if (const auto place = stepNear(points, i)) {
      const auto from = cut.begin() + static_cast<std::ptrdiff_t>(*place >= 5 ? *place - 5 : 0);
      const auto to = cut.begin() + static_cast<std::ptrdiff_t>(std::min(points.size(), *place + 5));
      if (std::none_of(from, to, [](char c) { return c != 0; })) cut[*place] = 1;
    }
  for (std::size_t i = 0; i < points.size(); ++i)
    if (struck[i] != 0 && struckByAnother(line, guitar, offset, i)) cut[i] = 0;
  return cut;
}

/// The note of frames [from, to), and one that sounds with it.
void addNotes(std::vector<HeardNote>& notes, const F0Contour& line, std::size_t from, std::size_t to) {
  std::vector<double> early, seconds;
  float certainty = 0;
  for (std::size_t k = from + 2; k < std::min(to, from + 12); ++k) {
    const auto& p = line.points[k];
    if (p.pitch && k < from + 10) early.push_back(p.pitch->value), certainty = std::max(certainty, p.certainty);
    if (p.second) seconds.push_back(p.second->value);
  }
  if (to < from + kPar.shortest || early.empty()) return;
  const TimeSpan span{line.clock.timeOf(from), line.clock.timeOf(to)};
  notes.push_back({span, MidiPitch(medianOf(std::move(early))), certainty});
  if (seconds.size() < kPar.secondFrames) return;
  const double second = medianOf(seconds);
  const auto near = std::count_if(seconds.begin(), seconds.end(), [&](double s) { return std::abs(s - second) < 0.5; });
  if (static_cast<std::size_t>(near) >= kPar.secondFrames) notes.push_back({span, MidiPitch(second), certainty});
}

}  // namespace

std::vector<HeardNote> findNotes(const F0Contour& line, const OnsetStrength& onsets, const GuitarActivations& guitar,
                                 Cents offset) {
  const Points& points = line.points;
  const auto cut = cutsOf(line, onsets, guitar, offset);
  std::vector<HeardNote> notes;
  for (std::size_t i = 0; i < points.size();) {
    const bool starts = cut[i] != 0 || (points[i].pitch && (i == 0 || !points[i - 1].pitch));
    if (!starts) {
      ++i;
      continue;
    }
    std::size_t end = i + 1, quiet = 0;
    for (; end < points.size() && cut[end] == 0 && quiet < kPar.gap; ++end) quiet = points[end].pitch ? 0 : quiet + 1;
    addNotes(notes, line, i, end - quiet);
    i = end;
  }
  return notes;
}

}  // namespace ear
