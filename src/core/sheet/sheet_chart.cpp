// SPDX-License-Identifier: GPL-3.0-or-later
// The chords of the form in bars, and how they are gripped.
#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/text.h"
#include "core/sheet/sheet_parts.h"
#include "core/study/form_bars.h"
#include "core/theory/fingering.h"

namespace ear {

std::string SheetBoxes::Box::text() const {
  std::vector<FretPosition> places;
  for (std::size_t s = 0; s < frets.size(); ++s)
    if (frets[s] >= 0) places.push_back({static_cast<int>(s), frets[s]});
  return fretsText(places, static_cast<int>(frets.size()));
}

}  // namespace ear

namespace ear::sheet {
namespace {

SheetChord written(const ShownChord& c, const Setting& s, const GuitarPart* part) {
  if (!c.chord) return {0.0, "none", "", false, true};
  if (!isSettled(c)) return {0.0, "?", "", true};
  return {0.0, s.chordName(*c.chord), s.shapeName(*c.chord, part)};
}

bool alike(const SheetChord& a, const SheetChord& b) {
  return a.sounding == b.sounding && a.shape == b.shape;
}

/// Chords of a bar; what goes on from the bar before is left out, but for the first bar of a section.
std::vector<SheetChord> chordsIn(const FormBar& bar, int beats, bool first, std::optional<SheetChord>& last,
                                 const Setting& s, const GuitarPart* part) {
  std::vector<SheetChord> in;
  for (const ShownChord& c : bar.chords) {
    SheetChord chord = written(c, s, part);
    const double share = (c.span.start - bar.span.start).value / bar.span.length().value;
    chord.at = std::clamp(std::round(share * beats) / beats, 0.0, 1.0 - 1.0 / (2 * beats));
    const bool goesOn = last && alike(*last, chord);
    last = chord;
    if (goesOn && !(first && in.empty())) continue;
    if (!in.empty() && in.back().at == chord.at)
      in.back() = chord;
    else
      in.push_back(chord);
  }
  return in;
}

bool sameChords(const SheetChart::Section& a, const SheetChart::Section& b) {
  return a.letter == b.letter && std::equal(a.bars.begin(), a.bars.end(), b.bars.begin(), b.bars.end(),
                                            [](const auto& x, const auto& y) { return x.chords == y.chords; });
}

}  // namespace

void addChart(Sheet& sheet, const Setting& s) {
  if (barLines(s.grid).size() < 2 || s.chords.empty()) return;
  const GuitarPart* part = s.settledPart();
  const int usual = std::max(1, meterOf(s.grid));
  SheetChart chart;
  for (const FormBars& own :
       barsOfForm(s.brief.form ? s.brief.form->value : Form{}, s.grid, s.take().duration, s.chords)) {
    const Section& of = own.section;
    SheetChart::Section section{of.letter, of.name, of.difference, of.span, {}, 0, {}};
    std::optional<SheetChord> last;
    for (const FormBar& bar : own.bars)
      section.bars.push_back({bar.number, chordsIn(bar, usual, section.bars.empty(), last, s, part)});
    section.barCount = static_cast<int>(section.bars.size());
    const bool silent = std::all_of(section.bars.begin(), section.bars.end(), [](const SheetChart::Bar& b) {
      return std::all_of(b.chords.begin(), b.chords.end(), [](const SheetChord& c) { return c.silent; });
    });
    if (silent) continue;
    const auto first = std::find_if(chart.sections.begin(), chart.sections.end(), [&](const SheetChart::Section& x) {
      return x.sameAs.empty() && sameChords(x, section);
    });
    if (first != chart.sections.end()) section.sameAs = clockTenths(first->span.start), section.bars.clear();
    chart.sections.push_back(std::move(section));
  }
  if (chart.sections.empty()) return;
  bool open = false;
  for (const auto& x : chart.sections)
    for (const auto& bar : x.bars)
      for (const auto& c : bar.chords) open = open || c.open;
  sheet.blocks.push_back(SheetHeading{"Chords"});
  sheet.blocks.push_back(std::move(chart));
  if (open)
    sheet.blocks.push_back(
        SheetWords{"“?” is a chord that was heard, but not surely enough to be written down.", SheetWords::Tone::soft});
}

void addBoxes(Sheet& sheet, const Setting& s) {
  constexpr std::size_t kMost = 12;
  const GuitarPart* part = s.settledPart();
  if (part == nullptr) return;
  struct Heard {
    Chord chord;
    double seconds = 0.0;
  };
  std::map<std::string, Heard> heard;
  for (const ShownChord& c : s.chords)
    if (c.chord && isSettled(c)) {
      Heard& h = heard.try_emplace(s.chordName(*c.chord), Heard{*c.chord, 0.0}).first->second;
      h.seconds += c.span.length().value;
    }
  std::vector<Heard> most;
  for (const auto& [name, h] : heard) most.push_back(h);
  std::stable_sort(most.begin(), most.end(), [](const Heard& a, const Heard& b) { return a.seconds > b.seconds; });
  const Guitar guitar = s.guitar(*part);
  SheetBoxes boxes{.capo = guitar.capo.fret, .boxes = {}};
  for (const Heard& h : most) {
    if (boxes.boxes.size() == kMost) break;
    const auto shapes = usualShapes(guitar, h.chord, 1);
    if (shapes.empty()) continue;
    SheetBoxes::Box box{s.chordName(h.chord), s.shapeName(h.chord, part),
                        std::vector<int>(static_cast<std::size_t>(guitar.strings()), -1), shapes.front().grip.barre};
    for (const FretPosition& place : shapes.front().places)
      box.frets[static_cast<std::size_t>(place.string)] = place.fret;
    boxes.boxes.push_back(std::move(box));
  }
  if (boxes.boxes.empty()) return;
  sheet.blocks.push_back(SheetHeading{s.parts.size() > 1 ? "Usual grips: " + part->name : std::string("Usual grips")});
  sheet.blocks.push_back(std::move(boxes));
}

}  // namespace ear::sheet
