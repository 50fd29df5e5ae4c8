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

Mixer& ReferenceVoice::mixer() const {
  return bench_.transport().mixer();
}

HeldSound& ReferenceVoice::held() {
  return mixer().held();
}

bool ReferenceVoice::drone() const {
  return mixer().drone().on();
}

void ReferenceVoice::tone(int midi, Tones::Kind kind) {
  pitch(frequencyOf(MidiPitch(midi), a4At(bench_.transport().soundingOffset())), kind);
}

void ReferenceVoice::pitch(Hertz pitch, Tones::Kind kind) {
  if (!bench_.transport().openOutput()) {
    bench_.say(QObject::tr("There is no sound output to play a tone on."));
    return;
  }
  mixer().tones().silence();
  mixer().tones().play({pitch, kind, kSoon});
}

void ReferenceVoice::strum(std::vector<int> midi) {
  if (midi.empty() || !bench_.transport().openOutput()) return;
  std::sort(midi.begin(), midi.end());
  mixer().tones().silence();
  Seconds after = kSoon;
  for (const int note : midi) {
    mixer().tones().play({frequencyOf(MidiPitch(note), a4At(bench_.transport().soundingOffset())), Tones::Kind::plucked,
                          after, kStrumLevel / static_cast<double>(midi.size())});
    after += kStrumStep;
  }
}

void ReferenceVoice::chord(const Chord& chord) {
  const Guitar guitar = bench_.document().guitar();
  const auto shapes = usualShapes(guitar, chord, 1);
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
  if (on && !bench_.transport().openOutput()) {
    bench_.say(QObject::tr("There is no sound output to hold a note on."));
    return;
  }
  mixer().drone().set(Hertz(on ? 1.0 : 0.0));
  tuneDrone();
}

void ReferenceVoice::tuneDrone() {
  if (!drone()) return;
  constexpr int kLowest = 40;  // E2: the octave of a guitar's lowest string
  const auto key = settled(bench_.brief().key);
  const int tonic = key ? key->tonic.value : PitchClass(kLowest).value;
  const int midi = kLowest + PitchClass(tonic - kLowest).value;
  mixer().drone().set(frequencyOf(MidiPitch(midi), a4At(bench_.transport().soundingOffset())));
}

}  // namespace ear
