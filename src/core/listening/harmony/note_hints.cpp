// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/note_hints.h"

#include <algorithm>

#include "core/listening/frontend/chroma.h"

namespace ear {
namespace {

constexpr Seconds kBefore{0.25}, kAfter{0.12};  // around the moment
constexpr Seconds kWindow{0.25};                // that long windows reach beyond
constexpr double kLeast = 0.22;                 // of the strongest
constexpr std::size_t kMost = 6;                // strings
constexpr double kSilence = 1e-4;               // activity, amplitude-like

}  // namespace

std::vector<NoteHint> noteHintsAt(const Recording& recording, Seconds t, Cents offset) {
  const TimeSpan around{std::max(Seconds(0), t - kBefore - kWindow),
                        std::min(recording.duration(), t + kAfter + kWindow)};
  if (around.length() < Seconds(0.2)) return {};
  const auto mono = listeningMono(excerpt(recording, around));
  const auto notes = measureNoteActivations(measureSpectralPeaks(mono, {}), offset, {});
  std::vector<double> sum(NoteActivations::kNotes, 0.0);
  for (std::size_t i = 0; i < notes.count(); ++i) {
    const Seconds at = around.start + Seconds(static_cast<double>(i) / notes.rate);
    if (at < t - kBefore || at > t + kAfter) continue;
    for (std::size_t n = 0; n < sum.size(); ++n) sum[n] += static_cast<double>(notes.frame(i)[n]);
  }
  const double most = *std::max_element(sum.begin(), sum.end());
  std::vector<NoteHint> hints;
  if (most < kSilence) return hints;
  for (std::size_t n = 0; n < sum.size(); ++n)
    if (sum[n] >= kLeast * most) hints.push_back({NoteActivations::kLowestMidi + static_cast<int>(n), sum[n] / most});
  std::sort(hints.begin(), hints.end(), [](const auto& a, const auto& b) { return a.strength > b.strength; });
  if (hints.size() > kMost) hints.resize(kMost);
  return hints;
}

}  // namespace ear
