// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/note_hints.h"

#include <algorithm>
#include <array>

#include "core/base/parameter.h"
#include "core/listening/frontend/guitar_activations.h"

namespace ear {
namespace {

struct Parameters {
  Seconds before = parameter("noteHints.before", Seconds(0.15), "s");
  Seconds after = parameter("noteHints.after", Seconds(0.12), "s");     ///< around the moment
  Seconds context = parameter("noteHints.context", Seconds(1.5), "s");  ///< that is listened to on either side
  double least = parameter("noteHints.least", 0.3, "probability");
  std::size_t most = parameter("noteHints.most", std::size_t{6}, "strings");
  float silence = parameter("noteHints.silence", 1e-4F, "amplitude");
};
const Parameters kPar{};

bool isSilent(const Recording& recording) {
  return std::all_of(recording.channels.begin(), recording.channels.end(), [](const Samples& plane) {
    return std::all_of(plane.begin(), plane.end(), [](float v) { return std::abs(v) < kPar.silence; });
  });
}

}  // namespace

std::vector<NoteHint> noteHintsAt(const Recording& recording, Seconds t, Cents offset) {
  const auto around = [&](Seconds before, Seconds after) {
    return TimeSpan{std::max(Seconds(0), t - before), std::min(recording.duration(), t + after)};
  };
  const TimeSpan heard = around(kPar.context, kPar.context), asked = around(kPar.before, kPar.after);
  std::vector<NoteHint> hints;
  if (heard.length() < Seconds(0.2) || isSilent(excerpt(recording, asked))) return hints;
  const auto notes = hearGuitars(excerpt(recording, heard), offset, {});
  std::array<double, GuitarActivations::kNotes> sum{};
  std::size_t frames = 0;
  for (std::size_t i = 0; i < notes.count(); ++i) {
    if (const Seconds at = heard.start + notes.clock.timeOf(i); at < asked.start || at > asked.end) continue;
    ++frames;
    for (std::size_t n = 0; n < sum.size(); ++n) sum[n] += static_cast<double>(notes.soundingAt(i)[n]);
  }
  for (std::size_t n = 0; n < sum.size() && frames > 0; ++n)
    if (const double likely = sum[n] / static_cast<double>(frames); likely >= kPar.least)
      hints.push_back({GuitarActivations::kLowestMidi + static_cast<int>(n), likely});
  std::sort(hints.begin(), hints.end(), [](const auto& a, const auto& b) { return a.likely > b.likely; });
  if (hints.size() > kPar.most) hints.resize(kPar.most);
  return hints;
}

}  // namespace ear
