// SPDX-License-Identifier: GPL-3.0-or-later
// How well written lines are checked by ear, on recordings with their truth (folders of a folder): the true line has to
// be confirmed, one wrong fret and a bend that is a semitone wrong have to be found. Usage: ear-check FOLDER

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <nlohmann/json.hpp>
#include <random>

#include "core/audio/decode.h"
#include "core/checking/by_ear.h"
#include "core/listening/frontend/spectra.h"
#include "core/writing/suggestions.h"
#include "truth.h"

namespace {

using namespace ear;

struct Line {
  Guitar guitar;
  std::vector<Note> notes;
};

Line lineOf(const nlohmann::json& truth) {
  Line line;
  line.guitar = guitarOf(truth);
  for (const auto& n : truth.at("notes")) {
    const auto technique = n.at("technique").get<std::string>();
    // A release is the end of the note before it, a muted one has no pitch.
    if (n.at("guitar") != 0 || technique == "release" || technique == "mute") continue;
    Note note;
    note.id = static_cast<int>(line.notes.size()) + 1;
    note.place = {line.guitar.strings() - n.at("string").get<int>(), n.at("fret").get<int>()};
    note.free = TimeSpan{Seconds(n.at("start_s").get<double>()), Seconds(n.at("end_s").get<double>())};
    if (technique == "harmonic") note.harmonic = PlayedHarmonic{};
    if (technique == "bend" || technique == "prebend")
      note.bend = Bend{Cents(n.value("bend_cents", 0.0)), technique == "prebend"};
    line.notes.push_back(note);
  }
  return line;
}

struct Counts {
  int notes = 0, confirmed = 0, wrongFrets = 0, fretsFound = 0, bends = 0, bendsFound = 0, suggested = 0, heard = 0;
};

const NoteVerdict& verdictOf(const EarCheck& check, int id) {
  return *std::find_if(check.verdicts.begin(), check.verdicts.end(),
                       [&](const NoteVerdict& v) { return v.note == id; });
}

bool flagged(const NoteVerdict& v) {
  return v.kind == NoteVerdict::Kind::somethingElse || v.kind == NoteVerdict::Kind::notHeard || v.bendDiffers;
}

void measure(const Line& line, const Recording& recording, std::mt19937& random, Counts& counts) {
  const TimeMap noBeats;
  const Phrase phrase{};
  const PhraseTime time(phrase, noBeats);
  const HeardVoice voice = hearVoice(recording, line.guitar.offset, {});
  const PitchSalience salience = measureSalience(listeningMono(recording), {});
  const auto check = [&](const std::vector<Note>& notes) {
    return checkByEar(notes, voice, salience, time, line.guitar);
  };
  for (const NoteVerdict& v : check(line.notes).verdicts) ++counts.notes, counts.confirmed += flagged(v) ? 0 : 1;
  counts.heard += static_cast<int>(voice.notes.size());
  counts.suggested += static_cast<int>(suggestionsFor(voice.notes, time, {line.guitar}).size());
  for (int tries = 0; tries < 4; ++tries) {
    auto wrong = line.notes;
    Note& one = wrong[random() % wrong.size()];
    // Up to five frets off; a harmonic has a few frets only.
    const int by = 1 + static_cast<int>(random() % 5);
    if (one.harmonic) continue;
    one.place.fret += one.place.fret >= by && random() % 2 == 0 ? -by : by;
    ++counts.wrongFrets;
    counts.fretsFound += flagged(verdictOf(check(wrong), one.id)) ? 1 : 0;
  }
  for (const Note& n : line.notes) {
    if (!n.bend) continue;
    auto bent = line.notes;
    Note& other = bent[static_cast<std::size_t>(n.id - 1)];
    other.bend->size = *n.bend->size + Cents(n.bend->size->value > 150 ? -100 : 100);
    ++counts.bends;
    counts.bendsFound += flagged(verdictOf(check(bent), n.id)) ? 1 : 0;
  }
}

}  // namespace

int main(int count, char** arguments) {
  if (count != 2) {
    std::cerr << "Usage: ear-check FOLDER\n";
    return 2;
  }
  std::vector<std::filesystem::path> folders;
  for (const auto& entry : std::filesystem::directory_iterator(arguments[1]))
    if (std::filesystem::exists(entry.path() / "truth.json")) folders.push_back(entry.path());
  std::sort(folders.begin(), folders.end());
  std::mt19937 random(1);
  Counts c;
  for (const auto& folder : folders) {
    const Line line = lineOf(nlohmann::json::parse(std::ifstream(folder / "truth.json")));
    const auto recording = decode(folder / "mix.flac");
    if (!recording || line.notes.empty()) continue;
    measure(line, *recording, random, c);
  }
  const auto share = [](int part, int of) { return static_cast<double>(part) / std::max(1, of); };
  std::cout << nlohmann::json{{"notes", c.notes},
                              {"confirmed", share(c.confirmed, c.notes)},
                              {"wrong_frets", c.wrongFrets},
                              {"wrong_frets_found", share(c.fretsFound, c.wrongFrets)},
                              {"bends", c.bends},
                              {"wrong_bends_found", share(c.bendsFound, c.bends)},
                              {"suggested_of_heard", share(c.suggested, c.heard)}}
            << '\n';
}
