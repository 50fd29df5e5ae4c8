// SPDX-License-Identifier: GPL-3.0-or-later
// Written lines through the files of other programs and back: MusicXML, MIDI and JAMS of the true notes of recordings
// (folders of a folder, with truth.json), of which no note, string, fret or size of a bend may change. With SECONDS
// their readers are given spoilt copies for so long: each has to give a reason or notes that a study may hold. Usage:
// round-trips FOLDER [SECONDS]

#include <algorithm>
#include <chrono>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <iostream>
#include <random>
#include <sstream>

#include "core/exchange/facts.h"
#include "core/exchange/jams.h"
#include "core/exchange/midi_tab.h"
#include "core/exchange/musicxml.h"
#include "core/phrase/phrase.h"
#include "core/study/validity.h"
#include "spoilt.h"
#include "truth.h"

namespace {

using namespace ear;
using Clock = std::chrono::steady_clock;

/// The notes of the first guitar on twelfths of the true beats.
TabPiece pieceOf(const nlohmann::json& truth) {
  TabPiece piece{.title = truth.at("id"), .name = "guitar"};
  piece.guitar = guitarOf(truth);
  const auto beats = truth.at("beats").get<std::vector<double>>();
  const auto placeOf = [&](double t) {
    const auto after = std::upper_bound(beats.begin(), beats.end(), t);
    const auto i =
        std::clamp<std::ptrdiff_t>(after - beats.begin() - 1, 0, static_cast<std::ptrdiff_t>(beats.size()) - 2);
    const double from = beats[static_cast<std::size_t>(i)], to = beats[static_cast<std::size_t>(i) + 1];
    return Beats(std::llround((static_cast<double>(i) + 4 + (t - from) / (to - from)) * 12), 12);
  };
  for (const auto& n : truth.at("notes")) {
    const auto technique = n.at("technique").get<std::string>();
    if (n.at("guitar") != 0 || technique == "release") continue;
    Note note;
    note.at = std::max(Beats(0), placeOf(n.at("start_s")));
    note.length = std::max(Beats(1, 12), placeOf(n.at("end_s")) - note.at);
    note.place = {piece.guitar.strings() - n.at("string").get<int>(), n.at("fret").get<int>()};
    if (technique == "bend" || technique == "prebend")
      note.bend = Bend{Cents(n.value("bend_cents", 0.0)), technique == "prebend"};
    if (technique == "hammer") note.attack = Attack::hammeredOn;
    if (technique == "pull") note.attack = Attack::pulledOff;
    if (technique == "slide") note.attack = Attack::slidInto;
    if (technique == "mute") note.tone = Tone::dead;
    if (technique == "vibrato") note.vibrato = Vibrato{};
    // A string sounds one note at a time.
    const bool taken = std::any_of(piece.notes.begin(), piece.notes.end(), [&](const Note& o) {
      return o.place.string == note.place.string && o.at == note.at;
    });
    if (!taken) piece.notes.push_back(note);
  }
  putInOrder(piece.notes);
  Beats to(0);
  for (std::size_t i = 0; i < piece.notes.size(); ++i)
    piece.notes[i].id = static_cast<int>(i) + 1, to = std::max(to, piece.notes[i].end());
  piece.barLines = {Beats(0)};
  while (piece.barLines.back() < to) piece.barLines.push_back(piece.barLines.back() + Beats(4));
  return piece;
}

struct Tally {
  long notes = 0, changed = 0;
  void compare(const std::vector<Note>& was, const std::vector<Note>& is) {
    notes += static_cast<long>(was.size());
    if (was.size() != is.size()) {
      changed += static_cast<long>(was.size());
      return;
    }
    for (std::size_t i = 0; i < was.size(); ++i) {
      const bool bend =
          was[i].bend.has_value() == is[i].bend.has_value() && (!was[i].bend || was[i].bend->size == is[i].bend->size);
      changed += was[i].at != is[i].at || was[i].place != is[i].place || !bend;
    }
  }
};

std::string contentOf(const std::filesystem::path& file) {
  std::ostringstream text;
  text << std::ifstream(file, std::ios::binary).rdbuf();
  return text.str();
}

Study emptyStudy(const std::string& title) {
  Study study{.title = title};
  study.takes.push_back({.id = "t",
                         .name = "take",
                         .file = "/x",
                         .hash = "",
                         .duration = Seconds(60),
                         .pitch = {},
                         .key = {},
                         .time = {},
                         .form = {},
                         .chords = {}});
  return study;
}

/// With repeats and endings at some of its bars, as no file from here has them.
std::string withRepeats(std::string text, std::mt19937& random) {
  static constexpr const char* kLines[] = {
      "<barline><repeat direction=\"backward\" times=\"3\"/></barline>",
      "<barline><repeat direction=\"forward\"/></barline>", "<barline><ending number=\"1\" type=\"start\"/></barline>",
      "<barline><ending number=\"1, 2\" type=\"stop\"/><repeat direction=\"backward\"/></barline>"};
  for (std::size_t at = 0; (at = text.find("</measure>", at)) != std::string::npos; at += 10)
    if (random() % 2 == 0) {
      const std::string line = kLines[random() % std::size(kLines)];
      text.insert(at, line);
      at += line.size();
    }
  return text;
}

}  // namespace

int main(int count, char** arguments) {
  if (count < 2) {
    std::cerr << "Usage: round-trips FOLDER [SECONDS]\n";
    return 2;
  }
  const auto folder = std::filesystem::temp_directory_path() / "inner-ear-round-trips";
  std::filesystem::create_directories(folder);
  Tally xml, midi, jams;
  long lines = 0, otherBytes = 0;
  std::vector<std::string> files[3];
  for (const auto& entry : std::filesystem::recursive_directory_iterator(arguments[1])) {
    if (entry.path().filename() != "truth.json") continue;
    const TabPiece piece = pieceOf(nlohmann::json::parse(std::ifstream(entry.path())));
    if (piece.notes.empty()) continue;
    ++lines;
    const std::string text = writeMusicXml({piece});
    if (const auto back = readMusicXml(text)) {
      xml.compare(piece.notes, back->front().notes);
      otherBytes += writeMusicXml(*back) != text;
    } else {
      xml.compare(piece.notes, {});
    }
    const auto file = folder / "line.mid";
    static_cast<void>(writeMidi({piece}, file));
    if (const auto back = readMidi(file))
      midi.compare(piece.notes, tabPieceOf(back->voices.front(), piece.guitar, back->bar).notes);
    else
      midi.compare(piece.notes, {});
    const Study study = emptyStudy(piece.title);
    const std::string said = writeJams({study, study.takes[0]}, {piece});
    std::vector<Note> heard;
    if (const auto back = readJams(said))
      for (const auto& n : back->notes)
        if (n.written) heard.push_back(*n.written);
    putInOrder(heard);
    jams.compare(piece.notes, heard);
    files[0].push_back(text), files[1].push_back(contentOf(file)), files[2].push_back(said);
  }
  std::cout << lines << " lines; changed notes: MusicXML " << xml.changed << " of " << xml.notes
            << " (written again other bytes " << otherBytes << "), MIDI " << midi.changed << " of " << midi.notes
            << ", JAMS " << jams.changed << " of " << jams.notes << "\n";
  const double seconds = count > 2 ? std::atof(arguments[2]) : 0.0;
  std::mt19937 random(1);
  long tried[3] = {}, read[3] = {}, insane = 0;
  const auto sane = [](const Note& n) {
    return n.length > Beats(0) && n.at.sane() && n.length.sane() && n.end().sane();
  };
  for (const auto start = Clock::now();
       lines > 0 && std::chrono::duration<double>(Clock::now() - start).count() < seconds;) {
    for (int k = 0; k < 3; ++k) {
      const std::string text = spoilt(files[k][random() % files[k].size()], random);
      ++tried[k];
      if (k == 0) {
        if (const auto back = readMusicXml(random() % 2 == 0 ? text : withRepeats(text, random))) {
          ++read[k];
          for (const auto& p : *back) insane += !std::all_of(p.notes.begin(), p.notes.end(), sane);
        }
      } else if (k == 1) {
        read[k] += readMidi(std::as_bytes(std::span(text.data(), text.size()))).ok();
      } else {
        const auto back = readJams(text);
        read[k] += back.ok();
        if (!back) continue;
        Study study = emptyStudy("t");
        static_cast<void>(takeFacts(study, "t", *back));
        if (const auto fault = faultOf(study)) ++insane, std::cerr << "JAMS: " << *fault << "\n";
      }
    }
  }
  if (seconds > 0)
    std::cout << "spoilt files read / tried: MusicXML " << read[0] << " / " << tried[0] << ", MIDI " << read[1] << " / "
              << tried[1] << ", JAMS " << read[2] << " / " << tried[2] << "; pieces that no study may hold: " << insane
              << "\n";
  std::filesystem::remove_all(folder);
  return xml.changed + midi.changed + jams.changed + otherBytes + insane > 0 ? 1 : 0;
}
