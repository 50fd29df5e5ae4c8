// SPDX-License-Identifier: GPL-3.0-or-later
// What setups.py learns from: for each recording of a folder (truth.json and mix.flac, at any depth) whose main guitar
// is tuned as one in the catalogue, a line of JSON with the signs of every setup, in the order of weighSetups(), with
// the logarithm of how usual each is, and which one is right. Usage: setup-signs FOLDER

#include <iostream>
#include <nlohmann/json.hpp>

#include "../truth.h"
#include "core/listening/guitar/guitar_setup.h"
#include "core/listening/guitar/setup_prior.h"
#include "core/listening/listener.h"

int main(int count, char** arguments) {
  using namespace ear;
  if (count != 2) {
    std::cerr << "Usage: setup-signs FOLDER\n";
    return 2;
  }
  forEachRecording(arguments[1], [](const nlohmann::json& truth, const Recording& recording) {
    Listener listener;
    listener.parts = {Aspect::reference, Aspect::chords};
    const auto findings = listener.listen(recording);
    if (!findings || !findings->reference || findings->chords.empty()) return;
    Recording sound = recording;
    // The main guitar by itself where it sits at a side.
    constexpr double kAside = 0.25;
    const double pan = truth.at("guitars").at(0).at("pan");
    if (pan < -kAside) sound.channels.resize(1);
    if (pan > kAside) sound.channels.erase(sound.channels.begin());
    const auto notes = hearGuitars(sound, findings->reference->offset, {});
    const Guitar guitar = guitarOf(truth);
    nlohmann::json line{{"id", truth.at("id")}, {"setups", nlohmann::json::array()}, {"right", nullptr}};
    for (const auto& setup : weighSetups(gatherPlayed(notes, findings->chords))) {
      if (setup.tuning == guitar.tuning && setup.capo == guitar.capo.fret) line["right"] = line["setups"].size();
      line["setups"].push_back({setup.fit.grips, setup.fit.ease, setup.fit.held, logPrior(setup.tuning, setup.capo)});
    }
    if (!line["right"].is_null()) std::cout << line.dump() << '\n' << std::flush;
  });
}
