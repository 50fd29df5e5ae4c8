// SPDX-License-Identifier: GPL-3.0-or-later
// What phrase_grid.py learns from: for each phrase of a folder (truth.json and mix.flac, at any depth) that has beats,
// a line of JSON with all beats and bars that may be its own, the signs of each, and the true ones. Usage:
// phrase-grid-signs FOLDER

#include <iostream>
#include <nlohmann/json.hpp>

#include "../truth.h"
#include "core/listening/harmony/key_finder.h"
#include "core/listening/rhythm/phrase_grid.h"
#include "core/listening/rhythm/rhythm.h"
#include "core/listening/tuning/reference_pitch.h"

int main(int count, char** arguments) {
  using namespace ear;
  if (count != 2) {
    std::cerr << "Usage: phrase-grid-signs FOLDER\n";
    return 2;
  }
  forEachRecording(arguments[1], [](const nlohmann::json& truth, const Recording& recording) {
    if (recording.duration() >= kSong) return;
    const Progress progress;
    const auto mono = listeningMono(recording);
    const auto onsets = measureOnsets(measureLogBandSpectrogram(mono, progress));
    const auto tonal = measureSpectralPeaks(mono, progress);
    const auto reference = measureReferencePitch(tonal);
    const Cents offset = reference ? reference->offset : Cents(0);
    const auto notes = measureNoteActivations(tonal, offset, progress);
    const auto tracked = measureRhythm(onsets, notes, {}, progress).beats;
    nlohmann::json candidates = nlohmann::json::array();
    for (const auto& c : gridCandidates(tracked, onsets, notes, hearGuitars(recording, offset, progress))) {
      nlohmann::json beats = nlohmann::json::array();
      for (const Seconds beat : c.beats) beats.push_back(beat.value);
      candidates.push_back({{"beats", beats}, {"meter", c.meter}, {"first", c.first}, {"signs", c.signs.of}});
    }
    if (candidates.empty()) return;
    std::cout << nlohmann::json{{"id", truth.at("id")},
                                {"meter", truth.at("meter")},
                                {"beats", truth.at("beats")},
                                {"downbeats", truth.at("downbeats")},
                                {"candidates", candidates}}
                     .dump()
              << '\n'
              << std::flush;
  });
}
