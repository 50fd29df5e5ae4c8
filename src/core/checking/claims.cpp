// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/claims.h"

#include <algorithm>
#include <cctype>
#include <sstream>

#include "core/theory/chord_naming.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

/// The nearest fret of a string that has a pitch class.
std::optional<int> nearestFret(const Guitar& guitar, FretPosition place, PitchClass wanted) {
  std::optional<int> best;
  for (int fret = 0; fret <= guitar.lastFret(place.string); ++fret)
    if (PitchClass(guitar.open(place.string) + fret) == wanted &&
        (!best || std::abs(fret - place.fret) < std::abs(*best - place.fret)))
      best = fret;
  return best;
}

}  // namespace

std::optional<WrongName> wrongNote(const Guitar& guitar, FretPosition place, PitchClass said,
                                   const NotationPreferences& schools, Spelling spelling) {
  const PitchClass is(guitar.pitch(place));
  if (is == said) return std::nullopt;
  WrongName wrong{pitchClassName(said, spelling), pitchClassName(is, spelling), {}};
  wrong.sentence = placeName(schools, guitar, place, false, spelling) + " is " + wrong.is + ", not " + wrong.said;
  if (const auto fret = nearestFret(guitar, place, said))
    wrong.sentence += " (that is fret " + std::to_string(*fret) + ")";
  wrong.sentence += ".";
  return wrong;
}

std::optional<WrongName> wrongChord(const Guitar& guitar, std::span<const FretPosition> places, const Chord& said,
                                    Spelling spelling) {
  const auto midi = pitchesOf(guitar, places);
  auto readings = nameNotes(midi);
  const auto right = [&](const ChordReading& r) {
    return r.missing.empty() && !r.rootMissing && r.chord.root == said.root && r.chord.type == said.type &&
           (!said.bass || r.chord.bass.value_or(r.chord.root) == *said.bass);
  };
  if (std::any_of(readings.begin(), readings.end(), right)) return std::nullopt;
  WrongName wrong{chordName(said, spelling), readings.empty() ? "" : readingName(readings.front(), spelling), {}};
  std::string notes;
  for (const int n : midi) notes += (notes.empty() ? "" : " ") + pitchClassName(PitchClass(n), spelling);
  wrong.sentence = "These frets are " + notes + (wrong.is.empty() ? "" : ", " + wrong.is) + ", not " + wrong.said + ".";
  std::string lacking;
  for (const PitchClass pc : notesOf(said))
    if (std::none_of(midi.begin(), midi.end(), [&](int n) { return PitchClass(n) == pc; }))
      lacking += (lacking.empty() ? "" : " and ") + pitchClassName(pc, spelling);
  if (!lacking.empty()) wrong.sentence += " There is no " + lacking + " in them.";
  return wrong;
}

std::optional<WrongInRun> wrongInRun(const Guitar& guitar, std::span<const FretPosition> places,
                                     std::span<const PitchClass> said, const NotationPreferences& schools,
                                     Spelling spelling) {
  for (std::size_t i = 0; i < std::min(places.size(), said.size()); ++i)
    if (auto wrong = wrongNote(guitar, places[i], said[i], schools, spelling)) return WrongInRun{i, *std::move(wrong)};
  return std::nullopt;
}

std::string wrongClaim(const Entry& entry, std::string_view claim, const Guitar& guitar,
                       const NotationPreferences& schools, Spelling spelling) {
  std::vector<std::string> words;
  std::istringstream in{std::string(claim)};
  for (std::string word; in >> word;) {
    while (!word.empty() && (word.back() == ',' || word.back() == ';')) word.pop_back();
    if (!word.empty()) words.push_back(word);
  }
  if (words.empty() || entry.steps.empty()) return {};
  std::vector<FretPosition> places;
  bool line = true;
  for (const EnteredStep& s : entry.steps) {
    line = line && s.notes.size() <= 1;
    for (const Note& n : s.notes)
      if (n.tone != Tone::dead) places.push_back(n.place);
  }
  const bool german = schools.letters == NotationPreferences::Letters::german;
  const auto nameOf = [&](std::string word) -> std::optional<PitchClass> {
    word[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(word[0])));
    if (german && (word == "H" || word == "B")) return PitchClass(word == "H" ? 11 : 10);
    if (const auto pitch = parsePitch(word)) return PitchClass(*pitch);
    return parsePitchClass(word);
  };
  if (line && words.size() == places.size()) {
    std::vector<PitchClass> said;
    for (const std::string& word : words) {
      const auto name = nameOf(word);
      if (!name) return "“" + word + "” is no name of a note.";
      said.push_back(*name);
    }
    if (said.size() == 1) {
      const auto wrong = wrongNote(guitar, places.front(), said.front(), schools, spelling);
      return wrong ? wrong->sentence : "";
    }
    for (std::size_t i = 0; i < said.size(); ++i)
      if (const auto wrong = wrongNote(guitar, places[i], said[i], schools, spelling))
        return "Name " + std::to_string(i + 1) + ": " + wrong->sentence;
    return {};
  }
  if (words.size() == 1 && entry.steps.size() == 1)
    if (const auto chord = parseChord(words.front())) {
      const auto wrong = wrongChord(guitar, places, *chord, spelling);
      return wrong ? wrong->sentence : "";
    }
  return "These are " + std::to_string(words.size()) + (words.size() == 1 ? " name" : " names") + " for " +
         std::to_string(places.size()) + (places.size() == 1 ? " note." : " notes.");
}

}  // namespace ear
