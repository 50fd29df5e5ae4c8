// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <nlohmann/json.hpp>
#include <string>

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

}  // namespace ear
