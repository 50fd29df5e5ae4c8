// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/melody/voices.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <string_view>

#include "core/base/parameter.h"
#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/frontend/onsets.h"
#include "core/listening/frontend/spectra.h"
#include "core/signal/peak.h"

namespace ear {
namespace {

constexpr std::string_view kFitted = "bench/fit/struck.cpp on licks 7901 and 7902, 2026-11-29";

struct Parameters {
  float struck = parameter("voices.struck", 0.55F, "probability", kFitted);
  float sounding = parameter("voices.sounding", 0.5F, "probability", kFitted);  ///< soon after a strike
  float gone = parameter("voices.gone", 0.3F, "probability", kFitted);          ///< from which on it has ended
  float attack = parameter("voices.attack", 0.2F, "onset strength", kFitted);
  Seconds near = parameter("voices.near", Seconds(0.06), "s", kFitted);  ///< of a strike and the attack it is
};
const Parameters kPar{};

constexpr std::size_t kSoon = 4;    // frames in which a note that was struck is up
constexpr double kBefore = 0.15;    // seconds before a strike that are still its note's
constexpr double kSamePitch = 0.5;  // semitones within which two notes are one

/// One semitone through the passage.
class Lane {
 public:
  Lane(const GuitarActivations& notes, std::size_t note) : notes_(notes), note_(note) {}

  float sounding(std::size_t i) const { return notes_.soundingAt(i)[note_]; }
  float struck(std::size_t i) const { return i < notes_.count() ? notes_.struckAt(i)[note_] : 0.0F; }

  float soonSounding(std::size_t i) const {
    float most = 0;
    for (std::size_t k = i; k < std::min(notes_.count(), i + kSoon); ++k) most = std::max(most, sounding(k));
    return most;
  }

  /// The frame, between two, at which a note begins around frame i; nothing where none does.
  std::optional<double> beginsAt(std::size_t i) const {
    const float now = struck(i), before = i > 0 ? struck(i - 1) : 0.0F, after = struck(i + 1);
    if (now < kPar.struck || now <= before || now < after || soonSounding(i) < kPar.sounding) return std::nullopt;
    return static_cast<double>(i) +
           summitOffset(static_cast<double>(before), static_cast<double>(now), static_cast<double>(after));
  }

  std::size_t endAfter(std::size_t i) const {
    while (i < notes_.count() && sounding(i) < kPar.sounding && struck(i) >= kPar.struck) ++i;
    do ++i;
    while (i < notes_.count() && sounding(i) >= kPar.gone);
    return i;
  }

 private:
  const GuitarActivations& notes_;
  std::size_t note_;
};

std::vector<Seconds> attacksOf(const OnsetStrength& onsets) {
  std::vector<Seconds> attacks;
  for (const std::size_t frame : peaksOf(onsets.all, kPar.attack)) attacks.push_back(onsets.clock.timeOf(frame));
  return attacks;
}

/// The attack that a strike is, which is known far more exactly; its own time where none is near.
Seconds attackNear(const std::vector<Seconds>& attacks, Seconds t) {
  const auto after = std::lower_bound(attacks.begin(), attacks.end(), t);
  Seconds best = t, away = kPar.near;
  for (auto a = after == attacks.begin() ? after : after - 1; a != attacks.end() && a <= after; ++a)
    if (const Seconds apart(std::abs((*a - t).value)); apart <= away) best = *a, away = apart;
  return best;
}

std::vector<HeardNote> struckNotes(const GuitarActivations& notes, const OnsetStrength& onsets, Cents offset,
                                   Seconds duration) {
  const auto attacks = attacksOf(onsets);
  std::vector<HeardNote> heard;
  for (int n = 0; n < GuitarActivations::kNotes; ++n) {
    const Lane lane(notes, static_cast<std::size_t>(n));
    const MidiPitch pitch(GuitarActivations::kLowestMidi + n + offset.value / 100);
    const std::size_t first = heard.size();
    for (std::size_t i = 0; i < notes.count(); ++i) {
      const auto frame = lane.beginsAt(i);
      if (!frame) continue;
      const Seconds start = attackNear(attacks, notes.clock.timeOf(*frame));
      const Seconds end = std::min(duration, notes.clock.timeOf(lane.endAfter(i)));
      if (heard.size() > first) {
        if (start - heard.back().span.start < kPar.near) continue;
        heard.back().span.end = std::min(heard.back().span.end, start);
      }
      if (end > start) heard.push_back({{start, end}, pitch, lane.soonSounding(i)});
    }
  }
  std::sort(heard.begin(), heard.end(), [](const HeardNote& a, const HeardNote& b) {
    return a.span.start < b.span.start || (a.span.start == b.span.start && a.pitch < b.pitch);
  });
  return heard;
}

/// How likely guitars sound a note, over its length.
double soundingThrough(const PlayedNote& played, const GuitarActivations& guitar, Cents offset) {
  double sum = 0;
  int count = 0;
  for (Seconds t = played.note.span.start; t < played.note.span.end; t = t + guitar.clock.timeOf(1.0), ++count)
    sum += soundingAt(guitar, t, frettedPitch(played).value - offset.value / 100);
  return count > 0 ? sum / count : 0.0;
}

/// The notes of all voices, and of those that the leading voice has what it tells of them. What it has alone is most
/// often another instrument's, but for bends, which are no note of whole semitones, and for what a guitar sounds that
/// was not heard to strike it, as after a pull-off.
std::vector<PlayedNote> joined(const std::vector<HeardNote>& struck, const std::vector<PlayedNote>& leading,
                               const GuitarActivations& guitar, Cents offset) {
  std::vector<PlayedNote> all;
  std::vector<bool> taken(leading.size(), false);
  for (const HeardNote& note : struck) {
    PlayedNote played{.note = note, .leading = false};
    for (std::size_t i = 0; i < leading.size(); ++i) {
      const PlayedNote& own = leading[i];
      if (taken[i] || std::abs((own.note.span.start - note.span.start).value) > kPar.near.value ||
          std::abs(frettedPitch(own).value - note.pitch.value) >= kSamePitch)
        continue;
      taken[i] = true;
      played = own;
      // Its own pitch is finer, the strike's time more often right.
      played.note.span = {note.span.start, own.note.span.end > note.span.start ? own.note.span.end : note.span.end};
      if (std::abs(own.note.pitch.value - note.pitch.value) >= kSamePitch) played.note.pitch = note.pitch;
      break;
    }
    all.push_back(played);
  }
  const auto isSounded = [&](const PlayedNote& own) {
    const Seconds start = own.note.span.start;
    const bool known = std::any_of(struck.begin(), struck.end(), [&](const HeardNote& note) {
      return std::abs(frettedPitch(own).value - note.pitch.value) < kSamePitch &&
             note.span.start - Seconds(kBefore) < start && start < note.span.end;
    });
    return !known && soundingThrough(own, guitar, offset) > kPar.sounding;
  };
  // The line is an octave off more easily than the strikes: then it is the struck note that leads.
  const auto octaveOf = [&](const PlayedNote& own) {
    return std::find_if(all.begin(), all.end(), [&](const PlayedNote& other) {
      const double apart = std::abs(frettedPitch(own).value - other.note.pitch.value);
      return !other.leading && std::abs((own.note.span.start - other.note.span.start).value) <= kPar.near.value &&
             (std::abs(apart - 12) < kSamePitch || std::abs(apart - 24) < kSamePitch);
    });
  };
  std::vector<PlayedNote> alone;
  for (std::size_t i = 0; i < leading.size(); ++i) {
    if (taken[i]) continue;
    if (leading[i].bend || isSounded(leading[i]))
      alone.push_back(leading[i]);
    else if (const auto struckNote = octaveOf(leading[i]); struckNote != all.end())
      struckNote->leading = true;
  }
  all.insert(all.end(), alone.begin(), alone.end());
  std::stable_sort(all.begin(), all.end(),
                   [](const PlayedNote& a, const PlayedNote& b) { return a.note.span.start < b.note.span.start; });
  return all;
}

}  // namespace

std::vector<HeardNote> hearStruckNotes(const Recording& passage, Cents offset, const Progress& progress) {
  const auto notes = hearGuitars(passage, offset, progress);
  const auto onsets = measureOnsets(measureLogBandSpectrogram(listeningMono(passage), progress));
  if (progress.cancelled()) return {};
  return struckNotes(notes, onsets, offset, passage.duration());
}

HeardVoice hearAllNotes(const Recording& passage, Cents offset, const Progress& progress) {
  const auto mono = listeningMono(passage);
  const auto onsets = measureOnsets(measureLogBandSpectrogram(mono, progress));
  const auto guitar = hearGuitars(passage, offset, progress);
  HeardVoice voice{measureF0Contour(mono, onsets, guitar, offset, progress), {}};
  const auto leading = measureGestures(voice.line, findNotes(voice.line, onsets, guitar, offset), offset);
  if (progress.cancelled()) return {};
  const auto struck = struckNotes(guitar, onsets, offset, passage.duration());
  voice.notes = struck.empty() ? leading : joined(struck, leading, guitar, offset);
  return voice;
}

HeardVoice hearVoice(const Recording& passage, Cents offset, const Progress& progress) {
  HeardVoice voice = hearAllNotes(passage, offset, progress);
  std::erase_if(voice.notes, [](const PlayedNote& n) { return !n.leading; });
  return voice;
}

}  // namespace ear
