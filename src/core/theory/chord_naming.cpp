// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/chord_naming.h"

#include <algorithm>
#include <bitset>

namespace ear {
namespace {

constexpr double kMissingFifth = 0.45, kMissingOther = 0.7, kMissingRoot = 1.6;
constexpr double kBassIsTone = 0.5, kBassIsStrange = 1.5;

using Classes = std::bitset<12>;

std::size_t place(int semitones) {
  return static_cast<std::size_t>(PitchClass(semitones).value);
}

Classes classesOf(const ChordType& type, int root) {
  Classes set;
  for (const int tone : type.tones) set.set(place(root + tone));
  return set;
}

/// Tones without which the kind is another one: all but root, fifth, and the inner ninth or eleventh of a tall chord.
bool mayMiss(const ChordType& type, int tone) {
  if (type.tones.size() < 4) return false;
  if (tone == 0 || tone == 7) return true;
  return type.tones.size() > 5 && tone > 12 && tone != type.tones.back();
}

/// How `sounding` reads as `type` on `root`, or nothing when it does not.
bool read(const Classes& sounding, int bass, const ChordType& type, int root, ChordReading& reading) {
  const Classes wanted = classesOf(type, root);
  const Classes strange = sounding & ~wanted;
  // One note may lie outside of a triad or seventh chord: the bass under a slash.
  if (strange.any() &&
      !(strange.count() == 1 && strange.test(place(bass)) && type.tones.size() <= 4 && type.tones.size() >= 3))
    return false;
  reading = {.chord = {PitchClass(root), &type, {}}, .oddity = type.oddity};
  for (const int tone : type.tones) {
    if (sounding.test(place(root + tone))) continue;
    if (!mayMiss(type, tone) || strange.any()) return false;
    if (tone == 0)
      reading.rootMissing = true, reading.oddity += kMissingRoot;
    else if (tone == 7)
      reading.fifthMissing = true, reading.oddity += kMissingFifth;
    else
      reading.missing.emplace_back(root + tone), reading.oddity += kMissingOther;
  }
  if (reading.rootMissing) return (sounding & wanted).count() >= 3;
  if (place(bass) != place(root)) {
    reading.chord.bass = PitchClass(bass);
    reading.oddity += strange.any() ? kBassIsStrange : kBassIsTone;
  }
  return true;
}

}  // namespace

std::vector<ChordReading> nameNotes(std::span<const int> midi) {
  Classes sounding;
  for (const int note : midi) sounding.set(place(note));
  std::vector<ChordReading> readings;
  if (sounding.count() < 2) return readings;
  const int bass = *std::min_element(midi.begin(), midi.end());
  for (int root = 0; root < 12; ++root)
    for (const ChordType& type : chordTypes())
      if (ChordReading reading; read(sounding, bass, type, root, reading)) readings.push_back(reading);
  std::stable_sort(readings.begin(), readings.end(), [&](const ChordReading& a, const ChordReading& b) {
    if (a.oddity != b.oddity) return a.oddity < b.oddity;
    return PitchClass(a.chord.root.value - bass).value < PitchClass(b.chord.root.value - bass).value;
  });
  return readings;
}

std::string readingName(const ChordReading& reading, Spelling spelling) {
  std::string text = chordName(reading.chord, spelling);
  std::string lacks;
  const auto lack = [&](const std::string& what) { lacks += (lacks.empty() ? "no " : ", no ") + what; };
  if (reading.rootMissing) lack("root");
  if (reading.fifthMissing) lack("fifth");
  for (const PitchClass pc : reading.missing) lack(pitchClassName(pc, spelling));
  return lacks.empty() ? text : text + " (" + lacks + ")";
}

}  // namespace ear
