// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/listener.h"

#include <future>

#include "core/audio/resample.h"
#include "core/base/parameter.h"
#include "core/listening/form/form.h"
#include "core/listening/frontend/sounding_span.h"
#include "core/listening/guitar/guitar_setup.h"
#include "core/listening/harmony/chord_kinds.h"
#include "core/listening/harmony/chords.h"
#include "core/listening/harmony/key_finder.h"
#include "core/listening/rhythm/rhythm.h"
#include "core/listening/tuning/reference_pitch.h"

namespace ear {
namespace {

struct Parameters {
  double shortest = parameter("listener.shortest", 0.5, "s");  ///< less holds no stable partial
  /// what is left of the certainty of its key
  double ofHeldSound = parameter("listener.ofHeldSound", 0.4, "of the certainty");
  double sideStep = parameter("listener.sideStep", 1.0, "s");  ///< of the curve of sides
};
const Parameters kPar{};

struct Sides {
  StereoField field;
  std::vector<SidePoint> curve;
};

/// Where the partials sit; one channel leaves all of them in the middle.
Sides listenToSides(const Recording& recording, bool wanted, const Progress& progress) {
  StereoField field;
  if (!wanted || recording.channels.size() < 2) {
    field.share[static_cast<std::size_t>(Side::centre)] = 1.0;
    return {field, {}};
  }
  const auto frames = [&](std::span<const float> plane) {
    return measureSpectralPeaks(resample(plane, recording.sampleRate, kListeningRate), progress);
  };
  const SpectralPeaks left = frames(recording.left());
  field = splitStereo(left, frames(recording.right()));
  auto curve = sidesOverTime(field, Seconds(kPar.sideStep));
  return {std::move(field), std::move(curve)};
}

/// No harmony follows another.
bool isOneSound(const std::vector<FoundChord>& chords) {
  std::optional<Chord> only;
  for (const auto& c : chords) {
    if (!c.chord) continue;
    if (only && *only != *c.chord) return false;
    only = c.chord;
  }
  return true;
}

/// No chord sounds over sticks, applause or silence. Stretches stay gap-free.
void silenceChords(std::vector<FoundChord>& chords, TimeSpan span) {
  std::vector<FoundChord> kept;
  const auto add = [&](const FoundChord& c, TimeSpan part, bool silent) {
    if (part.length() <= Seconds(0)) return;
    if (silent && !kept.empty() && !kept.back().chord) {
      kept.back().span.end = part.end;
      return;
    }
    kept.push_back(c);
    kept.back().span = part;
    if (silent) kept.back().chord.reset(), kept.back().kindCertainty = 0;
  };
  for (const auto& c : chords) {
    const TimeSpan inside{std::max(c.span.start, span.start), std::min(c.span.end, span.end)};
    if (inside.length() <= Seconds(0)) {
      add(c, c.span, !c.chord);
      continue;
    }
    add(c, {c.span.start, inside.start}, !c.chord);
    add(c, inside, true);
    add(c, {inside.end, c.span.end}, !c.chord);
  }
  chords = std::move(kept);
}

struct Harmony {
  std::vector<FoundChord> chords;
  KeyFindings key;
};

/// Chords heard without a key tell the key, and the key then helps to hear the chords.
/// @param held  hardly anything is struck anew
/// @param guitar  what guitars sound
Harmony hearHarmony(const Recording& recording, const GuitarActivations& guitar, const NoteActivations& notes,
                    const RhythmFindings& rhythm, bool held) {
  const auto heard = [&](const std::optional<Key>& key) {
    return findChords(notes, rhythm.beats, rhythm.downbeats, recording.duration(), key);
  };
  const auto plain = heard({});
  KeySigns signs;
  if (recording.duration() < kSong) signs = keySignsOf(guitar, notes, plain, rhythm.swing.ratio);
  Harmony harmony{{}, findKey(notes, plain, signs)};
  auto& [chords, key] = harmony;
  chords = heard(key.readings.empty() ? std::nullopt : std::optional(key.readings.front().key));
  // Partials of one sound are no harmony, whatever chord they would make.
  if (held && isOneSound(chords)) return {};
  for (auto& reading : key.readings)
    if (held) reading.certainty *= kPar.ofHeldSound;
  if (!key.readings.empty()) key.changes = findKeyChanges(chords, key.readings.front().key);
  chords = withKindsByGuitar(chords, guitar, notes, recording.duration() < kSong);
  return harmony;
}

}  // namespace

Outcome<Findings> Listener::listen(const Recording& recording, const Progress& progress) const {
  if (recording.frames() == 0 || recording.duration() < Seconds(kPar.shortest))
    return Problem{"There is less than half a second of sound: too short to measure anything."};
  const Problem cancelled{"Listening was cancelled."};
  const auto wants = [&](Aspect part) { return parts.contains(part); };
  // What one part needs of another is worked out whether or not the other was asked for, so that a part is the same
  // alone: no chord is told where the form hears no music, and the form listens to the sides.
  const bool needsForm = wants(Aspect::form) || wants(Aspect::chords), needsSides = needsForm || wants(Aspect::guitar);

  Findings findings{.duration = recording.duration()};
  const auto ready = [&](Aspect part, double share) {
    if (wants(part) && onPart && !progress.cancelled()) onPart(part, findings);
    progress.report(share);
  };

  auto mono = listeningMono(recording);
  progress.report(0.1);
  LogBandSpectrogram bandFrames;
  const bool onlyReference = parts == std::set{Aspect::reference};
  auto bands = std::async(std::launch::async, [&] {
    if (onlyReference) return OnsetStrength{};
    bandFrames = measureLogBandSpectrogram(mono, progress);
    return measureOnsets(bandFrames);
  });
  auto tonal = measureSpectralPeaks(mono, progress);
  const auto reference = measureReferencePitch(tonal);
  if (progress.cancelled()) return cancelled;
  if (wants(Aspect::reference)) findings.reference = reference;
  ready(Aspect::reference, 0.4);
  const auto sides =
      std::async(std::launch::async, [&] { return listenToSides(recording, needsSides, progress); }).share();
  const auto onsets = bands.get();
  const TimeSpan sounding = soundingSpan(mono);
  Samples().swap(mono);  // of a long recording, like what follows, it is much; "= {}" would keep the memory
  if (onlyReference) return findings;

  const bool wantsHarmony = reference && (wants(Aspect::chords) || wants(Aspect::key) || wants(Aspect::guitar));
  const bool phrase = recording.duration() < kSong;
  const auto guitars = std::async(std::launch::async, [&] {
                         return reference && (wantsHarmony || phrase)
                                    ? hearGuitars(recording, reference->offset, progress)
                                    : GuitarActivations{};
                       }).share();
  const auto notes = measureNoteActivations(tonal, reference ? reference->offset : Cents(0), progress);
  tonal = {};
  const auto rhythm = measureRhythm(onsets, notes, phrase ? guitars.get() : GuitarActivations{}, progress);
  if (progress.cancelled()) return cancelled;
  if (wants(Aspect::time)) findings.rhythm = rhythm;
  ready(Aspect::time, 0.8);
  if (progress.cancelled()) return cancelled;
  if (wantsHarmony) {
    const GuitarActivations& mix = guitars.get();
    auto [chords, key] = hearHarmony(recording, mix, notes, rhythm, onsets.liveliness < kLively);
    silenceChords(chords, {Seconds(0), sounding.start});
    silenceChords(chords, {sounding.end, recording.duration()});
    if (wants(Aspect::chords)) findings.chords = chords;
    ready(Aspect::chords, 0.85);
    if (wants(Aspect::key)) findings.key = key;
    ready(Aspect::key, 0.86);
    if (wants(Aspect::guitar)) {
      const auto& [field, curve] = sides.get();
      findings.sides = curve;
      if (!chords.empty()) findings.guitars = findGuitars(recording, field, reference->offset, mix, chords, progress);
    }
    ready(Aspect::guitar, 0.92);
  }
  if (progress.cancelled()) return cancelled;
  if (needsForm) {
    auto form = findForm(recording.duration(), bandFrames, onsets, notes, rhythm, sides.get().curve);
    for (const auto& section : form.sections)
      if (section.role == Role::countIn || section.role == Role::noMusic) silenceChords(findings.chords, section.span);
    if (wants(Aspect::form)) {
      findings.form = std::move(form.sections);
      findings.alike = std::move(form.picture);
    }
  }
  ready(Aspect::form, 1.0);
  progress.report(1.0);
  return findings;
}

}  // namespace ear
