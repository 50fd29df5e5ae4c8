// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/reference_voice.h"

#include <algorithm>

#include "app/workbench/workbench.h"
#include "core/theory/fingering.h"

namespace ear {
namespace {

constexpr Seconds kSoon{0.05};       // from the key to the first string
constexpr Seconds kStrumStep{0.03};  // from string to string
constexpr double kStrumLevel = 0.8;  // of all strings together

}  // namespace

void ReferenceVoice::tone(int midi, Tones::Kind kind) {
  pitch(frequencyOf(MidiPitch(midi), a4At(bench_.soundingOffset())), kind);
}

void ReferenceVoice::pitch(Hertz pitch, Tones::Kind kind) {
  if (!bench_.openOutput()) {
    bench_.say(Workbench::tr("There is no sound output to play a tone on."));
    return;
  }
  tones_.silence();
  tones_.play({pitch, kind, kSoon});
}

void ReferenceVoice::strum(std::vector<int> midi) {
  if (midi.empty() || !bench_.openOutput()) return;
  std::sort(midi.begin(), midi.end());
  tones_.silence();
  Seconds after = kSoon;
  for (const int note : midi) {
    tones_.play({frequencyOf(MidiPitch(note), a4At(bench_.soundingOffset())), Tones::Kind::plucked, after,
                 kStrumLevel / static_cast<double>(midi.size())});
    after += kStrumStep;
  }
}

void ReferenceVoice::chord(const Chord& chord) {
  const Guitar guitar = bench_.document().guitar();
  const auto shapes = easiestShapes(guitar, chord, 1);
  if (!shapes.empty()) {
    strum(pitchesOf(guitar, shapes.front().places));
    return;
  }
  std::vector<int> midi;  // no hand can play it: its notes, stacked up from the middle of the neck
  for (const PitchClass pc : notesOf(chord)) {
    const int least = midi.empty() ? 48 : midi.back();
    midi.push_back(least + PitchClass(pc.value - least).value);
  }
  strum(midi);
}

void ReferenceVoice::setDrone(bool on) {
  if (on && !bench_.openOutput()) {
    bench_.say(Workbench::tr("There is no sound output to hold a note on."));
    return;
  }
  drone_.set(Hertz(on ? 1.0 : 0.0));
  tuneDrone();
}

void ReferenceVoice::tuneDrone() {
  if (!drone_.on()) return;
  constexpr int kLowest = 40;  // E2: the octave of a guitar's lowest string
  const auto key = settled(bench_.brief().key);
  const int tonic = key ? key->tonic.value : PitchClass(kLowest).value;
  const int midi = kLowest + PitchClass(tonic - kLowest).value;
  drone_.set(frequencyOf(MidiPitch(midi), a4At(bench_.soundingOffset())));
}

void ReferenceVoice::prepare(int sampleRate) {
  tones_.prepare(sampleRate);
  drone_.prepare(sampleRate);
  held_.prepare(sampleRate);
}

void ReferenceVoice::render(std::span<float> block) {
  tones_.render(block);
  drone_.render(block);
  held_.render(block, bench_.player().volume());
}

}  // namespace ear
