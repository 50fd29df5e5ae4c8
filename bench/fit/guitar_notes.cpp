// SPDX-License-Identifier: GPL-3.0-or-later
// How well the notes that guitars sound are told, frame by frame, on recordings with their truth (folders of a folder,
// at any depth): F over frames and semitones of the learned activations, from half likely on, beside that of the
// approximate transcription at its best threshold; how well their certainties are calibrated; and how long they take.
// Usage: guitar-notes FOLDER

#include <array>
#include <chrono>
#include <cmath>
#include <iostream>
#include <nlohmann/json.hpp>
#include <set>

#include "../truth.h"
#include "core/listening/frontend/chroma.h"
#include "core/listening/frontend/guitar_activations.h"

namespace {

using namespace ear;
using Clock = std::chrono::steady_clock;

struct Count {
  long hit = 0, said = 0, there = 0;
  void add(bool claimed, bool truth) { hit += claimed && truth, said += claimed, there += truth; }
  double f() const { return 2.0 * static_cast<double>(hit) / static_cast<double>(std::max(1L, said + there)); }
};

/// Semitones that guitars sound at a time; nothing said of those that a bend passes.
struct Sounding {
  std::set<int> notes, open;
};

Sounding soundingAt(const nlohmann::json& truth, double t) {
  Sounding now;
  for (const auto& n : truth.at("notes")) {
    if (t < n.at("start_s").get<double>() || t >= n.at("end_s").get<double>()) continue;
    const int midi = static_cast<int>(std::lround(n.at("midi").get<double>()));
    const std::string technique = n.at("technique");
    const int size = static_cast<int>(std::lround(std::abs(n.value("bend_cents", 0.0)) / 100));
    if (size == 0 || (technique != "bend" && technique != "prebend" && technique != "release")) {
      now.notes.insert(midi);
      continue;
    }
    for (int k = 0; k <= size; ++k) now.open.insert(technique == "bend" ? midi + k : midi - k);
  }
  return now;
}

}  // namespace

int main(int count, char** arguments) {
  if (count != 2) {
    std::cerr << "Usage: guitar-notes FOLDER\n";
    return 2;
  }
  constexpr int kSteps = 40;
  Count learned;
  std::array<Count, kSteps> transcribed{};
  std::array<std::pair<double, long>, 10> said{};
  std::array<long, 10> right{};
  double brier = 0, seconds = 0, worked = 0;
  long asked = 0;
  forEachRecording(arguments[1], [&](const nlohmann::json& truth, const Recording& recording) {
    const Cents offset(truth.at("reference_cents").get<double>());
    const auto began = Clock::now();
    const auto activations = measureGuitarActivations(measureGuitarFrames(recording, offset, {}), {});
    worked += std::chrono::duration<double>(Clock::now() - began).count();
    seconds += recording.duration().value;
    const auto old = measureNoteActivations(measureSpectralPeaks(listeningMono(recording), {}), offset, {});
    const float top = old.activity.empty() ? 1.0F : *std::max_element(old.activity.begin(), old.activity.end());
    for (std::size_t i = 0; i < activations.count(); i += 4) {
      const Seconds t = activations.clock.timeOf(i);
      const Sounding now = soundingAt(truth, t.value);
      const auto here = old.frame(std::min(old.count() - 1, old.clock.frameAt(t)));
      for (int k = 0; k < GuitarActivations::kNotes; ++k) {
        const int midi = GuitarActivations::kLowestMidi + k;
        const bool there = now.notes.contains(midi);
        if (!there && now.open.contains(midi)) continue;
        const double likely = static_cast<double>(activations.soundingAt(i)[static_cast<std::size_t>(k)]);
        learned.add(likely > 0.5, there);
        brier += (likely - there) * (likely - there), ++asked;
        const auto band = static_cast<std::size_t>(std::min(9.0, likely * 10));
        said[band].first += likely, ++said[band].second, right[band] += there;
        const float level = here[static_cast<std::size_t>(midi - NoteActivations::kLowestMidi)] / top;
        for (int s = 0; s < kSteps; ++s)
          transcribed[static_cast<std::size_t>(s)].add(static_cast<double>(level) > 0.01 * (s + 1), there);
      }
    }
  });
  double best = 0;
  for (const Count& c : transcribed) best = std::max(best, c.f());
  nlohmann::json bands = nlohmann::json::array();
  for (std::size_t b = 0; b < 10; ++b)
    if (said[b].second > 0)
      bands.push_back({said[b].first / static_cast<double>(said[b].second),
                       static_cast<double>(right[b]) / static_cast<double>(said[b].second)});
  std::cout << nlohmann::json{{"f", learned.f()},
                              {"precision", static_cast<double>(learned.hit) / std::max(1.0, double(learned.said))},
                              {"recall", static_cast<double>(learned.hit) / std::max(1.0, double(learned.there))},
                              {"f_transcription", best},
                              {"brier", brier / std::max(1.0, double(asked))},
                              {"said_and_right", bands},
                              {"times_real_time", seconds / std::max(1e-9, worked)}}
                   .dump(1)
            << '\n';
}
