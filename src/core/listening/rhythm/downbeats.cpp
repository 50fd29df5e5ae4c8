// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/downbeats.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/parameter.h"
#include "core/base/statistics.h"

namespace ear {
namespace {

struct Parameters {
  double ofHarmony = parameter("downbeats.ofHarmony", 1.2, "");  ///< of its change, in the evidence of a first beat
  double ofBass = parameter("downbeats.ofBass", 1.0, "");        ///< of its change
  double ofLow = parameter("downbeats.ofLow", 0.7, "");          ///< of kick and bass struck there
  double ofSnare = parameter("downbeats.ofSnare", -0.35, "");    ///< of a snare
  Seconds coming =
      parameter("downbeats.coming", Seconds(0.05), "s");         ///< after a beat, before its harmony is looked at
  double nearBeat = parameter("downbeats.nearBeat", 0.04, "s");  ///< within which a stroke is the beat's
  double nearStroke = parameter("downbeats.nearStroke", 0.25, "of the gap");  ///< the same of the guitar's
  double longest = parameter("downbeats.longest", 4.0, "beats");              ///< that a rest counts for
};
const Parameters kPar{};

constexpr float kStruck = 0.4F;  // probability of a stroke

double similarity(const ChromaVector& a, const ChromaVector& b) {
  double ab = 0, aa = 1e-9, bb = 1e-9;
  for (std::size_t i = 0; i < 12; ++i) ab += a[i] * b[i], aa += a[i] * a[i], bb += b[i] * b[i];
  return ab / std::sqrt(aa * bb);
}

ChromaVector guitarChroma(const GuitarActivations& guitar, TimeSpan span) {
  ChromaVector chroma{};
  const std::size_t to = std::min(guitar.count(), guitar.clock.frameBefore(span.end));
  for (std::size_t i = guitar.clock.frameBefore(span.start); i < to; ++i)
    for (int n = 0; n < GuitarActivations::kNotes; ++n)
      chroma[static_cast<std::size_t>((GuitarActivations::kLowestMidi + n) % 12)] +=
          guitar.soundingAt(i)[static_cast<std::size_t>(n)];
  return chroma;
}

/// A moment at which a guitar strikes, and how many notes are expected to be struck there.
struct Stroke {
  Seconds at{};
  double notes = 0.0;
};

/// Frames in which something is struck more surely than in both neighbours.
std::vector<Stroke> strokesOf(const GuitarActivations& guitar) {
  std::vector<float> surest(guitar.count());
  for (std::size_t i = 0; i < guitar.count(); ++i) {
    const auto now = guitar.struckAt(i);
    surest[i] = *std::max_element(now.begin(), now.end());
  }
  std::vector<Stroke> strokes;
  for (const std::size_t i : peaksOf(surest, kStruck)) {
    const auto now = guitar.struckAt(i);
    strokes.push_back({guitar.clock.timeOf(i), std::accumulate(now.begin(), now.end(), 0.0)});
  }
  return strokes;
}

}  // namespace

std::vector<std::array<double, kDownbeatSigns>> downbeatSigns(const std::vector<Seconds>& beats,
                                                              const OnsetStrength& onsets, const NoteActivations& notes,
                                                              const GuitarActivations& guitar) {
  const std::size_t n = beats.size();
  std::array<std::vector<double>, kDownbeatSigns> raw;
  for (auto& sign : raw) sign.assign(n, 0.0);
  const auto of = [&](DownbeatSign sign) -> std::vector<double>& { return raw[static_cast<std::size_t>(sign)]; };
  for (std::size_t i = 0; i < n; ++i) {
    const Seconds before = beats[i >= 2 ? i - 2 : 0], after = beats[std::min(n - 1, i + 2)];
    const TimeSpan past{before, beats[i]}, coming{beats[i] + kPar.coming, after};
    of(DownbeatSign::harmony)[i] = 1 - similarity(chromaOf(notes, past, 45, 88), chromaOf(notes, coming, 45, 88));
    of(DownbeatSign::bass)[i] = 1 - similarity(chromaOf(notes, past, 28, 52), chromaOf(notes, coming, 28, 52));
    of(DownbeatSign::low)[i] = strongestNear(onsets.low, onsets.clock, beats[i], kPar.nearBeat);
    of(DownbeatSign::snare)[i] = strongestNear(onsets.high, onsets.clock, beats[i], kPar.nearBeat);
    if (guitar.count() > 0)
      of(DownbeatSign::changed)[i] = 1 - similarity(guitarChroma(guitar, past), guitarChroma(guitar, coming));
  }
  if (const auto strokes = strokesOf(guitar); !strokes.empty() && n > 1) {
    const double gap = (beats.back() - beats.front()).value / static_cast<double>(n - 1);
    for (std::size_t i = 0; i < n; ++i) {
      const auto s = std::min_element(strokes.begin(), strokes.end(), [&](const Stroke& a, const Stroke& b) {
        return std::abs((a.at - beats[i]).value) < std::abs((b.at - beats[i]).value);
      });
      if (std::abs((s->at - beats[i]).value) > kPar.nearStroke * gap) continue;
      of(DownbeatSign::notes)[i] = s->notes;
      of(DownbeatSign::rested)[i] =
          s == strokes.begin() ? kPar.longest : std::min(kPar.longest, (s->at - std::prev(s)->at).value / gap);
      of(DownbeatSign::first)[i] = s == strokes.begin() ? 1 : 0;
      of(DownbeatSign::last)[i] = std::next(s) == strokes.end() ? 1 : 0;
    }
  }
  std::vector<std::array<double, kDownbeatSigns>> signs(n);
  for (std::size_t k = 0; k < kDownbeatSigns; ++k) {
    const auto deviations = standardised(std::move(raw[k]));
    for (std::size_t i = 0; i < n; ++i) signs[i][k] = deviations[i];
  }
  return signs;
}

std::vector<double> downbeatEvidence(const std::vector<Seconds>& beats, const OnsetStrength& onsets,
                                     const NoteActivations& notes) {
  const std::array<double, kDownbeatSigns> weights = {kPar.ofHarmony, kPar.ofBass, kPar.ofLow, kPar.ofSnare};
  std::vector<double> evidence;
  for (const auto& signs : downbeatSigns(beats, onsets, notes, {}))
    evidence.push_back(std::inner_product(signs.begin(), signs.end(), weights.begin(), 0.0));
  return evidence;
}

}  // namespace ear
