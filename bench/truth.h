// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <fstream>
#include <nlohmann/json.hpp>
#include <string>

#include "core/audio/decode.h"
#include "core/theory/fretboard.h"

namespace ear {

/// The first guitar of a recording's truth (truth.json).
inline Guitar guitarOf(const nlohmann::json& truth) {
  Guitar guitar;
  const auto& said = truth.at("guitars").at(0);
  std::string names;
  for (const auto& name : said.at("tuning")) names += name.get<std::string>() + " ";
  guitar.tuning = *parseTuning(names, said.at("tuning").size());
  guitar.capo = {said.at("capo").get<int>()};
  guitar.offset = Cents(truth.at("reference_cents").get<double>());
  return guitar;
}

/// Calls with the truth and the sound of each recording of a folder (truth.json and mix.flac beside it, at any depth);
/// what cannot be decoded is left out.
template <class Use>
void forEachRecording(const std::filesystem::path& folder, Use&& use) {
  using namespace std::filesystem;
  for (const auto& entry : recursive_directory_iterator(folder, directory_options::follow_directory_symlink)) {
    if (entry.path().filename() != "truth.json") continue;
    if (const auto recording = decode(entry.path().parent_path() / "mix.flac"))
      use(nlohmann::json::parse(std::ifstream(entry.path())), *recording);
  }
}

}  // namespace ear
