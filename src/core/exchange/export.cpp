// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/export.h"

#include <algorithm>
#include <array>

#include "core/exchange/jams.h"
#include "core/exchange/lilypond.h"
#include "core/exchange/midi_tab.h"
#include "core/exchange/musicxml.h"
#include "core/exchange/repeated_bars.h"
#include "core/study/durable_file.h"

namespace ear {
namespace {

using Kind = ExportFormat::Kind;

constexpr std::array kFormats = {
    ExportFormat{Kind::musicXml, "musicxml", ".musicxml", "MusicXML: tab and notes for notation programs", true, true},
    ExportFormat{Kind::mxl, "mxl", ".mxl", "MusicXML, packed", true, true},
    ExportFormat{Kind::midi, "midi", ".mid", "MIDI: a channel for each string, bends by the wheel", true},
    ExportFormat{Kind::lilyPond, "lilypond", ".ly", "LilyPond: a text to engrave from", true},
    ExportFormat{Kind::notesCsv, "notes", ".csv", "Table of the written notes", true},
    ExportFormat{Kind::csv, "csv", ".csv", "Table of beats, sections and chords", false},
    ExportFormat{Kind::jams, "jams", ".jams", "JAMS: all that is known, for research programs", false},
    ExportFormat{Kind::chordPro, "chordpro", ".cho", "ChordPro: chords of the form in bars", false},
    ExportFormat{Kind::labels, "labels", ".txt", "Label text: times and names", false},
};

}  // namespace

std::span<const ExportFormat> exportFormats() {
  return kFormats;
}

const ExportFormat* exportFormat(std::string_view name) {
  const auto* found =
      std::find_if(kFormats.begin(), kFormats.end(), [&](const ExportFormat& f) { return f.name == name; });
  return found == kFormats.end() ? nullptr : found;
}

Outcome<std::vector<std::string>> exportTake(const TakeLists& source, const ExportFormat& format,
                                             const ExportChoice& choice, const std::filesystem::path& file) {
  std::vector<TabPiece> pieces;
  std::vector<std::string> losses;
  if (format.notes || format.kind == Kind::jams) {
    pieces = tabPiecesOf(source.study, source.take, source.findings, choice.part, choice.phrase);
    if (pieces.empty() && format.notes)
      return Problem{"There are no written notes to put into the file: write a phrase first, or choose another one."};
    for (const TabPiece& p : pieces)
      for (const auto& loss : p.notKept)
        if (std::find(losses.begin(), losses.end(), loss) == losses.end()) losses.push_back(loss);
  }
  if (choice.repeats && format.repeats && repeatedBars(pieces, pieces.front().barLines).marksLost)
    losses.emplace_back("Bars that are played again bear the name they have at the first time.");
  Outcome<Done> done = Done{};
  switch (format.kind) {
    case Kind::musicXml:
      done = writeDurably(file, writeMusicXml(pieces, choice.repeats));
      break;
    case Kind::mxl:
      done = writeMxl(writeMusicXml(pieces, choice.repeats), file);
      break;
    case Kind::midi:
      done = writeMidi(pieces, file);
      break;
    case Kind::lilyPond:
      done = writeDurably(file, writeLilyPond(pieces));
      break;
    case Kind::notesCsv:
      done = writeDurably(file, csvOfNotes(pieces));
      break;
    case Kind::csv:
      done = writeDurably(file, csvOfTake(source));
      break;
    case Kind::jams:
      done = writeDurably(file, writeJams(source, pieces));
      break;
    case Kind::chordPro:
      done = writeDurably(file, chordProChart(source));
      break;
    case Kind::labels:
      done = writeDurably(file, labelText(source));
      break;
  }
  if (!done) return Problem{done.problem()};
  return losses;
}

}  // namespace ear
