// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/struck_notes.h"

#include <algorithm>
#include <cmath>
#include <string_view>

#include "core/base/parameter.h"
#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/onsets.h"
#include "core/listening/frontend/spectra.h"

namespace ear {
namespace {

constexpr std::string_view kFitted = "bench/fit/struck.cpp on 37 licks of the second source (6602, 6604), 2026-11-29";

struct Parameters {
  float struck = parameter("struckNotes.struck", 0.45F, "onset strength", kFitted);  ///< of an attack
  Seconds apart = parameter("struckNotes.apart", Seconds(0.045), "s");               ///< of two attacks
  Seconds after = parameter("struckNotes.after", Seconds(0.12), "s");    ///< behind an attack, where it is looked at
  Seconds before = parameter("struckNotes.before", Seconds(0.16), "s");  ///< in front of it
  double least = parameter("struckNotes.least", 0.3, "of the strongest in the passage", kFitted);
  double beside = parameter("struckNotes.beside", 0.4, "of the strongest at the attack", kFitted);
  double rise = parameter("struckNotes.rise", 1.6, "ratio", kFitted);
  double gone = parameter("struckNotes.gone", 0.15, "of its own height");
};
const Parameters kPar{};

/// Activity of each note at a time, between the frames.
class Activity {
 public:
  explicit Activity(const NoteActivations& notes) : notes_(notes) {}

  double at(int note, Seconds t) const {
    if (notes_.count() == 0) return 0.0;
    const double place = std::clamp(notes_.clock.placeOf(t), 0.0, static_cast<double>(notes_.count() - 1));
    const auto low = static_cast<std::size_t>(place);
    const std::size_t high = std::min(low + 1, notes_.count() - 1);
    const double share = place - static_cast<double>(low);
    const auto n = static_cast<std::size_t>(note);
    return (1 - share) * static_cast<double>(notes_.frame(low)[n]) + share * static_cast<double>(notes_.frame(high)[n]);
  }

 private:
  const NoteActivations& notes_;
};

std::vector<Seconds> attacksOf(const OnsetStrength& onsets) {
  std::vector<Seconds> attacks;
  for (const std::size_t frame : peaksOf(onsets.all, kPar.struck)) {
    const Seconds t = onsets.clock.timeOf(frame);
    if (attacks.empty() || t - attacks.back() >= kPar.apart) attacks.push_back(t);
  }
  return attacks;
}

}  // namespace

std::vector<HeardNote> hearStruckNotes(const Recording& passage, Cents offset, const Progress& progress) {
  const auto mono = listeningMono(passage);
  const auto onsets = measureOnsets(measureLogBandSpectrogram(mono, progress));
  const auto activations = measureNoteActivations(measureSpectralPeaks(mono, progress), offset, progress);
  if (progress.cancelled()) return {};
  const Activity activity(activations);
  const double strongest =
      activations.activity.empty()
          ? 0.0
          : static_cast<double>(*std::max_element(activations.activity.begin(), activations.activity.end()));
  const auto attacks = attacksOf(onsets);
  std::vector<HeardNote> heard;
  for (std::size_t k = 0; k < attacks.size() && strongest > 0; ++k) {
    const Seconds at = attacks[k];
    const Seconds next = k + 1 < attacks.size() ? attacks[k + 1] : passage.duration();
    const Seconds look = std::min(at + kPar.after, std::max(at, (at + next) / 2.0));
    double here = 0;
    for (int n = 0; n < NoteActivations::kNotes; ++n) here = std::max(here, activity.at(n, look));
    for (int n = 0; n < NoteActivations::kNotes; ++n) {
      const double now = activity.at(n, look), then = activity.at(n, at - kPar.before);
      if (now < kPar.least * strongest || now < kPar.beside * here || now < kPar.rise * then) continue;
      const MidiPitch pitch(NoteActivations::kLowestMidi + n + offset.value / 100);
      for (HeardNote& before : heard)
        if (before.pitch == pitch) before.span.end = std::min(before.span.end, at);
      Seconds end = look;
      for (double top = now; end < passage.duration() && activity.at(n, end) > kPar.gone * top; end += Seconds(0.05))
        top = std::max(top, activity.at(n, end));
      heard.push_back({{at, std::min(end, passage.duration())},
                       pitch,
                       static_cast<float>(std::min(1.0, now / std::max(here, 1e-9)))});
    }
  }
  return heard;
}

}  // namespace ear
