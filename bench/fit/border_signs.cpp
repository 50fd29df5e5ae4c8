// SPDX-License-Identifier: GPL-3.0-or-later
// What borders.py learns from: for each song of a folder (of <id>/mix.flac and, where it is known, truth.json) a line
// of JSON with the times of its bars, their signs, and where its sections truly start. Usage: border-signs FOLDER

#include <filesystem>
#include <fstream>
#include <iostream>
#include <nlohmann/json.hpp>

#include "core/audio/decode.h"
#include "core/audio/resample.h"
#include "core/listening/form/borders.h"
#include "core/listening/rhythm/rhythm.h"
#include "core/listening/tuning/reference_pitch.h"

namespace {

using namespace ear;

nlohmann::json signsOf(const Recording& recording) {
  const Progress progress;
  const auto mono = listeningMono(recording);
  const auto bands = measureLogBandSpectrogram(mono, progress);
  const auto onsets = measureOnsets(bands);
  const auto tonal = measureSpectralPeaks(mono, progress);
  const auto reference = measureReferencePitch(tonal);
  const auto notes = measureNoteActivations(tonal, reference ? reference->offset : Cents(0), progress);
  const auto rhythm = measureRhythm(onsets, notes, {}, progress);
  std::vector<TimeSpan> bars;
  for (std::size_t i = 0; i < rhythm.downbeats.size(); ++i)
    bars.push_back(
        {rhythm.downbeats[i], i + 1 < rhythm.downbeats.size() ? rhythm.downbeats[i + 1] : recording.duration()});
  nlohmann::json line{{"bars", nlohmann::json::array()}, {"signs", nlohmann::json::array()}};
  if (bars.size() < 8) return line;  // as findForm() has it
  const auto features = describeBars(bars, bands, onsets, notes);
  for (const TimeSpan& bar : bars) line["bars"].push_back(bar.start.value);
  for (const auto& signs : borderSigns(features, compareBars(features))) line["signs"].push_back(signs);
  return line;
}

}  // namespace

int main(int count, char** arguments) {
  if (count != 2) {
    std::cerr << "Usage: border-signs FOLDER\n";
    return 2;
  }
  std::vector<std::filesystem::path> songs;
  for (const auto& entry : std::filesystem::directory_iterator(arguments[1]))
    if (std::filesystem::exists(entry.path() / "mix.flac")) songs.push_back(entry.path());
  std::sort(songs.begin(), songs.end());
  for (const auto& song : songs) {
    const auto recording = decode(song / "mix.flac");
    if (!recording) {
      std::cerr << recording.problem() << '\n';
      return 1;
    }
    auto line = signsOf(*recording);
    line["id"] = song.filename();
    line["truth"] = nlohmann::json::array();
    if (std::ifstream truth{song / "truth.json"})
      for (const auto& section : nlohmann::json::parse(truth).at("sections"))
        line["truth"].push_back(section.at("start_s"));
    std::cout << line.dump() << '\n' << std::flush;
  }
}
