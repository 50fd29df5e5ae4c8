// SPDX-License-Identifier: GPL-3.0-or-later
// The parts of a sheet, for sheet.cpp alone.
#pragma once

#include <map>

#include "core/sheet/sheet.h"
#include "core/study/grid.h"
#include "core/study/parts.h"
#include "core/study/time_map.h"

namespace ear::sheet {

/// What is known of the take, worked out once for all parts.
struct Setting {
  Setting(const SheetSource& source, const SheetChoice& choice);

  const SheetSource& source;
  const SheetChoice& choice;
  std::vector<GuitarPart> parts;
  Brief brief;
  Grid grid;
  TimeMap map;
  std::vector<ShownChord> chords;
  std::map<std::string, int> numbers;  ///< of the take's phrases, by id

  const Study& study() const { return source.study; }
  const Take& take() const { return source.take; }
  const NotationPreferences& schools() const { return source.schools; }
  Cents offset() const { return settled(brief.pitch).value_or(PitchValue{}).offset; }
  Spelling spelling() const;
  /// The guitar in hand, or the first one, whose tuning is settled; null where none is.
  const GuitarPart* settledPart() const;
  const GuitarPart* part(const std::string& id) const;
  std::optional<GuitarSetup> setup(const GuitarPart& part) const { return settled(setupOf(part, source.findings)); }
  /// As it sounds; standard tuning where its own is open.
  Guitar guitar(const GuitarPart& part) const;
  std::string chordName(const Chord& chord) const;
  /// By the shape of the hand; empty where it has the same name.
  std::string shapeName(const Chord& chord, const GuitarPart* part) const;
  /// The phrases of the take by time.
  std::vector<const Phrase*> phrases() const;
};

/// "12 cents sharp ...", how each guitar is tuned, form.
void addFacts(Sheet& sheet, const Setting& s);
void addGuitars(Sheet& sheet, const Setting& s);
void addForm(Sheet& sheet, const Setting& s);

void addChart(Sheet& sheet, const Setting& s);
void addBoxes(Sheet& sheet, const Setting& s);

/// @param most      so many at the most, of those the choice names
/// @param together  what guitars play at one time stands in one block
void addPhrases(Sheet& sheet, const Setting& s, std::size_t most = 999, bool together = true);
void addPassages(Sheet& sheet, const Setting& s);
SheetPassage passageOf(const Passage& p, const Setting& s);

void addPlan(Sheet& sheet, const Setting& s);
void addQuestions(Sheet& sheet, const Setting& s);
void addPinned(Sheet& sheet, const Setting& s);
void addCautions(Sheet& sheet, const Setting& s);

}  // namespace ear::sheet
