// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/note_hints.h"

#include <algorithm>

#include "core/base/parameter.h"
#include "core/listening/frontend/chroma.h"

namespace ear {
namespace {

struct Parameters {
  Seconds before = parameter("noteHints.before", Seconds(0.25), "s");
  Seconds after = parameter("noteHints.after", Seconds(0.12), "s");    ///< around the moment
  Seconds window = parameter("noteHints.window", Seconds(0.25), "s");  ///< that long windows reach beyond
  double least = parameter("noteHints.least", 0.22, "of the strongest");
  std::size_t most = parameter("noteHints.most", std::size_t{6}, "strings");
  double silence = parameter("noteHints.silence", 1e-4, "amplitude");  ///< activity, amplitude-like
};
const Parameters kPar{};

}  // namespace

std::vector<NoteHint> noteHintsAt(const Recording& recording, Seconds t, Cents offset) {
  const TimeSpan around{std::max(Seconds(0), t - kPar.before - kPar.window),
                        std::min(recording.duration(), t + kPar.after + kPar.window)};
  if (around.length() < Seconds(0.2)) return {};
  const auto mono = listeningMono(excerpt(recording, around));
  const auto notes = measureNoteActivations(measureSpectralPeaks(mono, {}), offset, {});
  std::vector<double> sum(NoteActivations::kNotes, 0.0);
  for (std::size_t i = 0; i < notes.count(); ++i) {
    const Seconds at = around.start + notes.clock.timeOf(i);
    if (at < t - kPar.before || at > t + kPar.after) continue;
    for (std::size_t n = 0; n < sum.size(); ++n) sum[n] += static_cast<double>(notes.frame(i)[n]);
  }
  const double most = *std::max_element(sum.begin(), sum.end());
  std::vector<NoteHint> hints;
  if (most < kPar.silence) return hints;
  for (std::size_t n = 0; n < sum.size(); ++n)
    if (sum[n] >= kPar.least * most)
      hints.push_back({NoteActivations::kLowestMidi + static_cast<int>(n), sum[n] / most});
  std::sort(hints.begin(), hints.end(), [](const auto& a, const auto& b) { return a.strength > b.strength; });
  if (hints.size() > kPar.most) hints.resize(kPar.most);
  return hints;
}

}  // namespace ear
