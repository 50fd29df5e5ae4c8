// SPDX-License-Identifier: GPL-3.0-or-later
// How many notes of several voices are heard, on recordings with their truth (of a folder, at any depth): F of notes by
// pitch and start (within 50 ms), beside that of the leading voice alone. Usage: struck FOLDER [VOICES] VOICES: only
// recordings of which at least this share of the notes starts within 30 ms of another one (0).

#include <cmath>
#include <iostream>
#include <nlohmann/json.hpp>

#include "../truth.h"
#include "core/listening/melody/gestures.h"
#include "core/listening/melody/voices.h"

namespace {

using namespace ear;

struct Heard {
  double start, midi;
};

int hits(const std::vector<Heard>& truth, const std::vector<Heard>& found) {
  int hit = 0;
  std::vector<bool> used(found.size());
  for (const Heard& t : truth)
    for (std::size_t i = 0; i < found.size(); ++i)
      if (!used[i] && std::abs(found[i].start - t.start) <= 0.05 && std::abs(found[i].midi - t.midi) < 0.5) {
        used[i] = true, ++hit;
        break;
      }
  return hit;
}

}  // namespace

int main(int count, char** arguments) {
  if (count < 2) {
    std::cerr << "Usage: struck FOLDER [VOICES]\n";
    return 2;
  }
  const double least = count > 2 ? std::stod(arguments[2]) : 0.0;
  int recordings = 0, notes = 0, several = 0, severalHit = 0, voice = 0, voiceHit = 0;
  forEachRecording(arguments[1], [&](const nlohmann::json& truth, const Recording& recording) {
    std::vector<Heard> wanted;
    for (const auto& n : truth.at("notes"))
      if (n.at("technique") != "mute" && n.at("technique") != "release")
        wanted.push_back({n.at("start_s"), n.at("midi")});
    int together = 0;
    for (std::size_t i = 0; i < wanted.size(); ++i)
      for (std::size_t k = 0; k < wanted.size(); ++k)
        if (i != k && std::abs(wanted[i].start - wanted[k].start) < 0.03) {
          ++together;
          break;
        }
    if (together < least * static_cast<double>(wanted.size())) return;
    ++recordings;
    const double cents = truth.at("reference_cents").get<double>();
    std::vector<Heard> struck, line;
    for (const HeardNote& n : hearStruckNotes(recording, Cents(cents), {}))
      struck.push_back({n.span.start.value, n.pitch.value - cents / 100});
    for (const PlayedNote& n : hearVoice(recording, Cents(cents), {}).notes)
      line.push_back({n.note.span.start.value, frettedPitch(n).value - cents / 100});
    notes += static_cast<int>(wanted.size());
    several += static_cast<int>(struck.size()), severalHit += hits(wanted, struck);
    voice += static_cast<int>(line.size()), voiceHit += hits(wanted, line);
  });
  const auto f = [&](int hit, int found) { return 2.0 * hit / std::max(1, found + notes); };
  std::cout << nlohmann::json{{"recordings", recordings},
                              {"notes", notes},
                              {"precision", static_cast<double>(severalHit) / std::max(1, several)},
                              {"recall", static_cast<double>(severalHit) / std::max(1, notes)},
                              {"f_several", f(severalHit, several)},
                              {"precision_voice", static_cast<double>(voiceHit) / std::max(1, voice)},
                              {"recall_voice", static_cast<double>(voiceHit) / std::max(1, notes)},
                              {"f_voice", f(voiceHit, voice)}}
            << '\n';
}
