// SPDX-License-Identifier: GPL-3.0-or-later
// What was found out of the recording, how the guitars are tuned, and the form.
#include <algorithm>
#include <cctype>
#include <cmath>

#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/sheet/sheet_parts.h"
#include "core/study/tune_up.h"

namespace ear::sheet {
namespace {

/// "measured, likely" or "confirmed by ear": only a measurement needs to say how sure it is.
template <class T>
std::string standing(const Decision<T>& d) {
  std::string text(originWord(d.origin));
  if (d.origin == Origin::measured) text += ", " + std::string(certaintyWord(d.certainty));
  return text;
}

std::string capitalised(std::string sentence) {
  if (!sentence.empty()) sentence[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(sentence[0])));
  return sentence;
}

SheetTuning pictureOf(const GuitarSetup& setup, Cents offset, const NotationPreferences& schools) {
  SheetTuning picture{.strings = {}, .capo = setup.capo.fret};
  const Spelling spelling = spellingOf(setup.tuning, schools);
  const auto targets = tuneUp(setup, offset);
  const auto shifts = shiftsFromStandard(setup.tuning);
  for (auto t = targets.rbegin(); t != targets.rend(); ++t) {
    const auto string = static_cast<std::size_t>(t->string);
    picture.strings.push_back({stringName(schools, guitarOf(setup, offset), t->string, spelling),
                               noteName(t->midi, spelling), hertzFigure(t->pitch), signedCents(t->fromStandard),
                               setup.capo.covers(string), string < shifts.size() && shifts[string] != 0});
  }
  return picture;
}

/// "a; b; or c", since readings have commas of their own.
std::string either(const std::vector<std::string>& words) {
  std::string text;
  for (std::size_t i = 0; i < words.size(); ++i)
    text += (i == 0 ? "" : i + 1 == words.size() ? "; or " : "; ") + words[i];
  return text;
}

/// Nobody tunes by a guess: what was heard is named, and nothing is asked of the strings but the recording's pitch.
void addOpenGuitar(Sheet& sheet, const Setting& s, const GuitarPart& part) {
  constexpr std::size_t kNamed = 3;
  std::vector<std::string> readings;
  if (const FoundGuitar* heard = heardFor(part, s.source.findings))
    for (const auto& r : heard->readings)
      if (readings.size() < kNamed) readings.push_back(sentenceOf(GuitarSetup{r.tuning, r.capo}));
  sheet.blocks.push_back(SheetWords{readings.empty() ? "Tuning and capo are open: nothing was heard of them."
                                                     : "Tuning and capo are open. Perhaps " + either(readings) +
                                                           ": listen before you tune."});
  if (const auto hint = whatWouldTell(part, s.source.findings)) sheet.blocks.push_back(SheetWords{hint->sentence});
  if (!isSettled(s.brief.pitch)) return;
  const double cents = std::round(s.brief.pitch->value.offset.value);
  sheet.blocks.push_back(SheetWords{cents == 0 ? "Whatever it is, a tuner at A = 440 Hz fits the recording."
                                               : "Whatever it is, set the tuner's reference to A = " +
                                                     referenceWords(a4At(s.brief.pitch->value.offset)) + ": " +
                                                     sentenceOf(s.brief.pitch->value) + "."});
}

/// What the guitar is: "Electric guitar; neck pickup, a little gain; from E2 to B4; doubled by Right guitar."
std::string playedOn(const GuitarPart& part, const std::vector<GuitarPart>& parts) {
  std::vector<std::string> words;
  if (part.instrument != Instrument::unknown) words.emplace_back(instrumentWord(part.instrument));
  if (!part.sound.empty()) words.push_back(part.sound);
  if (part.range) words.push_back("from " + rangeWords(part.range));
  for (const auto& other : parts)
    if (other.id == part.doubledBy) words.push_back("doubled by " + other.name);
  return words.empty() ? "" : capitalised(joined(words, "; ")) + ".";
}

/// How many bars, counted on the grid where there is one, else from tempo and metre.
std::string barsOf(TimeSpan span, const Setting& s) {
  if (!s.grid.empty()) return std::to_string(barsIn(s.grid, span));
  if (!isSettled(s.brief.time)) return "";
  const TimeValue& time = s.brief.time->value;
  return "about " + std::to_string(std::lround(span.length().value * time.tempo.value / 60.0 / time.meter));
}

}  // namespace

void addFacts(Sheet& sheet, const Setting& s) {
  const Brief& brief = s.brief;
  sheet.blocks.push_back(SheetHeading{"In short"});
  SheetTable facts;
  const auto fact = [&](const char* name, const auto& decision, const std::string& words) {
    if (decision)
      facts.rows.push_back({name, isSettled(decision) ? words : "open; perhaps " + words, standing(*decision)});
  };
  if (brief.pitch)
    fact("Pitch", brief.pitch, sentenceOf(brief.pitch->value) + " (" + figureOf(brief.pitch->value) + ")");
  if (brief.key)
    fact("Key", brief.key, keyName(brief.key->value, spellingIn(s.schools(), brief.key->value)) + " (sounding)");
  if (brief.time) fact("Time", brief.time, sentenceOf(brief.time->value));
  if (brief.form) fact("Form", brief.form, sentenceOf(brief.form->value));
  if (facts.rows.empty())
    sheet.blocks.push_back(SheetWords{"Nothing was measured or set yet."});
  else
    sheet.blocks.push_back(std::move(facts));
}

void addGuitars(Sheet& sheet, const Setting& s) {
  std::vector<std::string> told;
  for (const auto& part : s.parts) {
    if (std::find(told.begin(), told.end(), part.id) != told.end()) continue;
    const auto setup = setupOf(part, s.source.findings);
    const std::string played = playedOn(part, s.parts);
    if (!setup && !s.brief.pitch && played.empty()) continue;
    std::string names = part.name;
    // Guitars that are tuned alike are told once.
    for (const auto& other : s.parts)
      if (other.id != part.id && isSettled(setup) && s.setup(other) == setup->value &&
          playedOn(other, s.parts).empty() && played.empty() && other.arranged == part.arranged) {
        names += ", " + other.name;
        told.push_back(other.id);
      }
    sheet.blocks.push_back(SheetHeading{s.parts.size() > 1 ? "How to tune: " + names : "How to tune"});
    if (!played.empty()) sheet.blocks.push_back(SheetWords{played});
    if (!isSettled(setup)) {
      addOpenGuitar(sheet, s, part);
      continue;
    }
    const GuitarSetup& value = setup->value;
    std::string known = capitalised(sentenceOf(value) + " (" + standing(*setup) + ")");
    if (part.arranged) known += ", arranged";
    if (isSettled(s.brief.key) && shapeShift(value) != 0)
      known += ". Key: " + keySentence(s.schools(), s.brief.key->value, value);
    sheet.blocks.push_back(SheetWords{known + "."});
    sheet.blocks.push_back(SheetWords{tuningAdvice(value, s.offset())});
    sheet.blocks.push_back(pictureOf(value, s.offset(), s.schools()));
    if (s.schools().strings == NotationPreferences::Strings::numberFromHigh)
      sheet.blocks.push_back(SheetWords{"String 1 is the highest sounding.", SheetWords::Tone::soft});
    if (s.schools().strings == NotationPreferences::Strings::numberFromLow)
      sheet.blocks.push_back(SheetWords{"String 1 is the lowest sounding.", SheetWords::Tone::soft});
  }
}

void addForm(Sheet& sheet, const Setting& s) {
  if (!s.brief.form) return;
  const Form& form = s.brief.form->value;
  sheet.blocks.push_back(SheetHeading{"Form"});
  const bool differences =
      std::any_of(form.begin(), form.end(), [](const Section& x) { return !x.difference.empty(); });
  const bool names = std::any_of(form.begin(), form.end(), [](const Section& x) { return !x.name.empty(); });
  SheetTable table{{"Start", "End", "Part"}, {}};
  if (names) table.head.emplace_back("Name");
  table.head.emplace_back("Bars");
  if (differences) table.head.emplace_back("Against the first time");
  for (const auto& x : form) {
    std::vector<std::string> row{clockTenths(x.span.start), clockTenths(x.span.end), x.letter};
    if (names) row.push_back(x.name);
    row.push_back(barsOf(x.span, s));
    if (differences) row.push_back(x.difference);
    table.rows.push_back(std::move(row));
  }
  sheet.blocks.push_back(std::move(table));
}

}  // namespace ear::sheet
