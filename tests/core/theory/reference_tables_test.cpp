// SPDX-License-Identifier: GPL-3.0-or-later
// Chord names and shapes checked against tables of two npm packages; reference/extract_tables.mjs says which.

#include <gtest/gtest.h>

#include <algorithm>
#include <fstream>
#include <map>
#include <set>
#include <sstream>

#include "core/theory/chord_naming.h"
#include "core/theory/fingering.h"
#include "core/theory/fretboard.h"
#include "core/theory/key.h"
#include "core/theory/scale.h"

namespace ear {
namespace {

std::vector<std::vector<std::string>> table(const std::string& name) {
  std::ifstream in(std::string(REFERENCE_DIR) + "/" + name);
  std::vector<std::vector<std::string>> rows;
  for (std::string line; std::getline(in, line);) {
    std::vector<std::string> cells;
    std::istringstream fields(line);
    for (std::string cell; std::getline(fields, cell, '\t');) cells.push_back(cell);
    rows.push_back(std::move(cells));
  }
  return rows;
}

std::vector<int> numbers(const std::string& text) {
  std::istringstream in(text);
  std::vector<int> list;
  for (int n = 0; in >> n;) list.push_back(n);
  return list;
}

template <class List>
std::set<int> classes(const List& notes) {
  std::set<int> set;
  for (const int n : notes) set.insert(PitchClass(n).value);
  return set;
}

std::set<int> classesOf(const Chord& chord) {
  std::set<int> set;
  for (const PitchClass pc : notesOf(chord)) set.insert(pc.value);
  return set;
}

TEST(Reference, TonalSpellsTheSameChordsAlike) {
  const auto rows = table("tonal_chords.tsv");
  ASSERT_EQ(rows.size(), 204U);
  int understood = 0;
  for (const auto& row : rows) {
    if (row[0].starts_with('b') || row[0].starts_with('#')) continue;  // would be read as a sign of the root
    const auto chord = parseChord("C" + row[0]);
    if (!chord) continue;
    ++understood;
    auto theirs = classes(numbers(row[1]));
    auto ours = classesOf(*chord);
    // A tall dominant chord is spelt there without its inner tones (C11 without third, C13 with ninth): compare what
    // both must have.
    if (ours.size() > 5) {
      for (const int pc : theirs) EXPECT_TRUE(ours.contains(pc)) << row[0];
      continue;
    }
    EXPECT_EQ(ours, theirs) << row[0];
  }
  EXPECT_GE(understood, 65);
}

/// With the signs of the table: "E♭2" as "Eb2".
std::string plain(std::string name) {
  for (const auto& [sign, letter] : {std::pair{"♭", "b"}, std::pair{"♯", "#"}})
    for (std::size_t at; (at = name.find(sign)) != std::string::npos;)
      name.replace(at, std::string_view(sign).size(), letter);
  return name;
}

TEST(Reference, TonalNamesTheSameNotesAlike) {
  const auto rows = table("tonal_notes.tsv");
  ASSERT_EQ(rows.size(), 97U);
  for (const auto& row : rows) {
    const int midi = std::stoi(row[0]);
    EXPECT_EQ(plain(noteName(midi, Spelling::sharps)), row[1]);
    EXPECT_EQ(plain(noteName(midi, Spelling::flats)), row[2]);
    std::istringstream names(row[3]);
    for (std::string name; names >> name;) EXPECT_EQ(parsePitch(name), midi) << name;
  }
}

// Every key that has a signature of up to five signs is spelt as the table has it. With six and seven the table writes
// E♯, C♭ and the like, for which a guitarist reads F and B: those notes are only compared by their sound.
TEST(Reference, TonalSpellsTheNotesOfAKeyAlike) {
  int alike = 0;
  for (const auto& row : table("tonal_keys.tsv")) {
    std::istringstream in(row[2]);
    std::vector<std::string> theirs;
    for (std::string name; in >> name;) theirs.push_back(name);
    const auto signs = std::count_if(theirs.begin(), theirs.end(), [](const std::string& n) { return n.size() > 1; });
    const bool many = std::any_of(theirs.begin(), theirs.end(), [](const std::string& n) { return n.size() > 2; });
    const Key key{*parsePitchClass(row[0]), row[1] == "major" ? Mode::major : Mode::minor};
    const auto ours = scaleOf(key).notes();
    ASSERT_EQ(ours.size(), theirs.size());
    for (std::size_t i = 0; i < ours.size(); ++i) {
      EXPECT_EQ(ours[i], parsePitchClass(theirs[i])) << row[0] << ' ' << row[1];
      if (signs > 5 || many) continue;
      EXPECT_EQ(plain(pitchClassName(ours[i], spellingOf(key))), theirs[i]) << row[0] << ' ' << row[1];
      ++alike;
    }
  }
  EXPECT_EQ(alike, 22 * 7) << "eleven major and eleven minor keys";
}

/// Name of a row of chords_db_shapes.tsv as a player writes it.
std::optional<Chord> chordOf(const std::string& key, const std::string& suffix) {
  std::string name = key + (suffix == "major"   ? ""
                            : suffix == "minor" ? "m"
                            : suffix == "mmaj7" ? "m(maj7)"
                            : suffix == "mmaj9" ? "m(maj9)"
                                                : suffix);
  return parseChord(name);
}

TEST(Reference, ShapesOfTheTableSoundAndAreNamedAlike) {
  const auto rows = table("chords_db_shapes.tsv");
  ASSERT_EQ(rows.size(), 1058U);
  int compared = 0, first = 0, listed = 0;
  for (const auto& row : rows) {
    const auto places = parseFrets(row[2]);
    ASSERT_TRUE(places.has_value()) << row[2];
    const auto midi = pitchesOf({}, *places);
    EXPECT_EQ(midi, numbers(row[3])) << row[0] << row[1];
    const auto chord = chordOf(row[0], row[1]);
    if (!chord) continue;
    ++compared;
    const auto readings = nameNotes(midi);
    const auto same = [&](const ChordReading& r) { return r.chord.root == chord->root && r.chord.type == chord->type; };
    const bool found = std::any_of(readings.begin(), readings.end(), same);
    listed += found;
    first += !readings.empty() && same(readings.front());
    // What is not listed under its name must differ from it: the table leaves tones out that the name promises, or adds
    // some.
    EXPECT_TRUE(found || classes(midi) != classesOf(*chord)) << row[0] << row[1] << " " << row[2];
  }
  EXPECT_GE(compared, 850);
  EXPECT_GE(listed, compared * 90 / 100) << listed << " of " << compared;
  EXPECT_GE(first, compared * 70 / 100) << first << " of " << compared;
}

/// The table gives one or two shapes of each chord; nothing was fitted on it.
TEST(Reference, TheUsualShapeIsOneOfTheTable) {
  std::map<std::string, std::set<std::string>> shapes;
  std::map<std::string, Chord> chords;
  for (const auto& row : table("chords_db_shapes.tsv")) {
    const auto chord = chordOf(row[0], row[1]);
    if (!chord || !std::set<std::string>{"major", "minor", "7", "m7", "sus4", "7sus4"}.contains(row[1])) continue;
    chords.emplace(row[0] + row[1], *chord);
    shapes[row[0] + row[1]].insert(fretsText(*parseFrets(row[2]), 6));
  }
  ASSERT_EQ(chords.size(), 72U);
  int usual = 0, easiest = 0;
  for (const auto& [name, chord] : chords) {
    const auto isThere = [&](const Fingering& shape) { return shapes[name].contains(fretsText(shape.places, 6)); };
    usual += isThere(usualShapes({}, chord, 1).front()) ? 1 : 0;
    easiest += isThere(easiestShapes({}, chord, 1).front()) ? 1 : 0;
  }
  EXPECT_GE(usual, 60);
  EXPECT_GT(usual, easiest + 20) << "by ease alone " << easiest;
}

}  // namespace
}  // namespace ear
