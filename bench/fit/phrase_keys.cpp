// SPDX-License-Identifier: GPL-3.0-or-later
// What phrase_keys.py learns from: for each recording of a folder (truth.json and mix.flac, at any depth) a line of
// JSON with its key and the signs of it. Of recordings longer than a phrase, pieces. Usage: phrase-key-signs FOLDER

#include <iostream>
#include <nlohmann/json.hpp>

#include "../truth.h"
#include "core/listening/harmony/chords.h"
#include "core/listening/harmony/phrase_key.h"
#include "core/listening/rhythm/rhythm.h"
#include "core/listening/tuning/reference_pitch.h"

namespace {

using namespace ear;

constexpr double kPhrase = 20.0;                             // seconds, up to which it is one
constexpr std::array kPieces = {7.0, 9.0, 12.0, 8.0, 14.0};  // of a song, one from each so many seconds on
constexpr double kFrom = 13.0;

nlohmann::json signsOf(const Recording& recording) {
  const Progress progress;
  const auto mono = listeningMono(recording);
  const auto onsets = measureOnsets(measureLogBandSpectrogram(mono, progress));
  const auto tonal = measureSpectralPeaks(mono, progress);
  const auto reference = measureReferencePitch(tonal);
  const Cents offset = reference ? reference->offset : Cents(0);
  const auto notes = measureNoteActivations(tonal, offset, progress);
  const auto guitar = hearGuitars(recording, offset, progress);
  const auto rhythm = measureRhythm(onsets, notes, guitar, progress);
  const auto chords = findChords(notes, rhythm.beats, rhythm.downbeats, recording.duration(), {});
  const auto signs = keySignsOf(guitar, notes, chords, rhythm.swing.ratio);
  nlohmann::json line{{"signs", nlohmann::json::array()}, {"shuffled", signs.inShuffle}};
  for (const auto& sign : signs.of) line["signs"].push_back(sign);
  return line;
}

}  // namespace

int main(int count, char** arguments) {
  if (count != 2) {
    std::cerr << "Usage: phrase-key-signs FOLDER\n";
    return 2;
  }
  forEachRecording(arguments[1], [](const nlohmann::json& truth, const Recording& recording) {
    const auto tell = [&](const Recording& sound, bool whole) {
      auto line = signsOf(sound);
      line["id"] = truth.at("id"), line["key"] = truth.at("key"), line["phrase"] = whole;
      std::cout << line.dump() << '\n' << std::flush;
    };
    if (recording.duration() <= Seconds(kPhrase)) return tell(recording, true);
    double at = 4.0;
    for (const double length : kPieces) {
      if (at + length > recording.duration().value) break;
      tell(excerpt(recording, {Seconds(at), Seconds(at + length)}), false);
      at += kFrom;
    }
  });
}
