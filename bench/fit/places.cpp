// SPDX-License-Identifier: GPL-3.0-or-later
// How often a line is placed on the strings that it was played on: given its pitches alone, and given the place of its
// first note. Recordings are folders of a folder, each with a truth.json; theirs is the first guitar's line.
// Usage: places FOLDER

#include <cmath>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <nlohmann/json.hpp>

#include "../truth.h"
#include "core/phrase/placing.h"

namespace {

using namespace ear;

struct Line {
  Guitar guitar;
  std::vector<NoteToPlace> notes;
  std::vector<FretPosition> truth;
};

Line lineOf(const nlohmann::json& truth) {
  Line line;
  line.guitar = guitarOf(truth);
  double last = -1;
  for (const auto& note : truth.at("notes")) {
    const auto technique = note.at("technique").get<std::string>();
    if (note.at("guitar") != 0 || technique == "harmonic" || technique == "mute") continue;
    NoteToPlace n;
    const FretPosition place{line.guitar.strings() - note.at("string").get<int>(), note.at("fret").get<int>()};
    n.midi = line.guitar.pitch(place);
    n.moment = line.notes.empty() ? 0 : line.notes.back().moment;
    if (note.at("start_s").get<double>() > last + 0.03) ++n.moment, last = note.at("start_s").get<double>();
    n.slid = technique == "slide";
    n.led = n.slid || technique == "hammer" || technique == "pull" || technique == "release";
    n.bent = technique == "bend" || technique == "prebend" || technique == "release";
    line.notes.push_back(n);
    line.truth.push_back(place);
  }
  return line;
}

int agreeing(const Line& line, std::span<const NoteToPlace> notes) {
  const auto ways = placeLine(line.guitar, notes, {}, 1);
  if (ways.front().places.size() != line.truth.size()) return 0;
  int same = 0;
  for (std::size_t i = 0; i < line.truth.size(); ++i)
    if (ways.front().places[i].string == line.truth[i].string) ++same;
  return same;
}

}  // namespace

int main(int count, char** arguments) {
  if (count != 2) {
    std::cerr << "Usage: places FOLDER\n";
    return 2;
  }
  int notes = 0, alone = 0, given = 0;
  for (const auto& entry : std::filesystem::directory_iterator(arguments[1])) {
    if (!std::filesystem::exists(entry.path() / "truth.json")) continue;
    Line line = lineOf(nlohmann::json::parse(std::ifstream(entry.path() / "truth.json")));
    if (line.notes.empty()) continue;
    notes += static_cast<int>(line.notes.size());
    alone += agreeing(line, line.notes);
    line.notes.front().fixed = line.truth.front();
    given += agreeing(line, line.notes);
  }
  std::cout << nlohmann::json{{"notes", notes},
                              {"from_pitches", static_cast<double>(alone) / std::max(1, notes)},
                              {"from_first_place", static_cast<double>(given) / std::max(1, notes)}}
            << '\n';
}
