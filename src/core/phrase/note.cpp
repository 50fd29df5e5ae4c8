// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/note.h"

#include <cmath>

#include "core/theory/harmonic.h"

namespace ear {
namespace {

/// Semitones from the stopped string to the partial that is meant.
std::optional<double> partialAbove(const Note& note) {
  const PlayedHarmonic& h = *note.harmonic;
  // A natural harmonic is touched over its own fret, the others so far above the fret that is stopped.
  const int fret = h.kind == PlayedHarmonic::Kind::natural ? note.place.fret : h.node - note.place.fret;
  const auto partial = harmonicAbove(fret);
  if (!partial) return std::nullopt;
  return partial->semitones + partial->off.value / 100;
}

}  // namespace

std::optional<MidiPitch> pitchAtStart(const Guitar& guitar, const Note& note) {
  if (note.tone == Tone::dead) return std::nullopt;
  double midi = guitar.pitch(note.place);
  if (note.harmonic) {
    const auto above = partialAbove(note);
    if (!above) return std::nullopt;
    if (note.harmonic->kind == PlayedHarmonic::Kind::natural) midi = guitar.open(note.place.string);
    midi += *above;
  }
  if (note.bend && note.bend->before) {
    if (!note.bend->size) return std::nullopt;
    midi += note.bend->size->value / 100;
  }
  return MidiPitch(midi);
}

std::optional<MidiPitch> bendTarget(const Guitar& guitar, const Note& note) {
  if (!note.bend || !note.bend->size) return std::nullopt;
  return MidiPitch(guitar.pitch(note.place) + note.bend->size->value / 100);
}

bool isUnisonBend(const Guitar& guitar, const Note& one, const Note& other) {
  if (one.place.string == other.place.string || one.bend.has_value() == other.bend.has_value()) return false;
  if (one.at >= other.end() || other.at >= one.end()) return false;
  const Note& bent = one.bend ? one : other;
  const auto target = bendTarget(guitar, bent), still = pitchAtStart(guitar, one.bend ? other : one);
  return target && still && std::abs((*target - *still).value) <= 0.25;
}

}  // namespace ear
