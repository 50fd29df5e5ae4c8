// SPDX-License-Identifier: GPL-3.0-or-later
// What chord_kinds.py learns from: for each chord told in the recordings of a folder (truth.json and mix.flac, at any
// depth) whose root is right for most of its length, a line of JSON with the signs of its kind and the true label.
// Usage: chord-kind-signs FOLDER

#include <iostream>
#include <nlohmann/json.hpp>

#include "../truth.h"
#include "core/listening/harmony/chord_kinds.h"
#include "core/listening/harmony/chords.h"
#include "core/listening/harmony/key_finder.h"
#include "core/listening/listener.h"
#include "core/listening/rhythm/rhythm.h"
#include "core/listening/tuning/reference_pitch.h"
#include "core/theory/key.h"

namespace {

using namespace ear;

/// The true label that covers most of a span, if its root is the one that was told.
std::string labelOf(const FoundChord& c, const nlohmann::json& truth) {
  constexpr double kMost = 0.6;  // of the span
  for (const auto& label : truth.at("chords")) {
    const double from = std::max(c.span.start.value, label.at("start_s").get<double>());
    const double to = std::min(c.span.end.value, label.at("end_s").get<double>());
    if (to - from < kMost * c.span.length().value) continue;
    const std::string text = label.at("label");
    const auto root = parseChord(text.substr(0, text.find(':')));
    return root && root->root == c.chord->root ? text : "";
  }
  return "";
}

}  // namespace

int main(int count, char** arguments) {
  if (count != 2) {
    std::cerr << "Usage: chord-kind-signs FOLDER\n";
    return 2;
  }
  forEachRecording(arguments[1], [](const nlohmann::json& truth, const Recording& recording) {
    const Progress progress;
    const auto mono = listeningMono(recording);
    const auto tonal = measureSpectralPeaks(mono, progress);
    const auto reference = measureReferencePitch(tonal);
    if (!reference) return;
    const auto notes = measureNoteActivations(tonal, reference->offset, progress);
    const auto guitar = hearGuitars(recording, reference->offset, progress);
    const auto rhythm = measureRhythm(measureOnsets(measureLogBandSpectrogram(mono, progress)), notes,
                                      recording.duration() < kSong ? guitar : GuitarActivations{}, progress);
    const auto chords = findChords(
        notes, rhythm.beats, rhythm.downbeats, recording.duration(),
        parseKey(truth.at("key").at("tonic").get<std::string>() + " " + truth.at("key").at("mode").get<std::string>()));
    const auto signs = kindSignsOf(chords, guitar, notes);
    for (std::size_t i = 0; i < chords.size(); ++i)
      if (const std::string label = signs[i] ? labelOf(chords[i], truth) : ""; !label.empty())
        std::cout << nlohmann::json{{"id", truth.at("id")},
                                    {"phrase", recording.duration() < kSong},
                                    {"seconds", chords[i].span.length().value},
                                    {"label", label},
                                    {"told", std::string(chords[i].chord->type->harte)},
                                    {"signs", signs[i]->of}}
                         .dump()
                  << '\n';
    std::cout << std::flush;
  });
}
