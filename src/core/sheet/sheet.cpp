// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/sheet/sheet.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <sstream>

#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/study/grid.h"
#include "core/study/lesson_notes.h"
#include "core/study/parts.h"
#include "core/study/tune_up.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

using Kind = SheetBlock::Kind;
constexpr std::size_t kLineWidth = 78;

std::string kindWord(TakeKind kind) {
  switch (kind) {
    case TakeKind::studio:
      return "studio recording";
    case TakeKind::live:
      return "live recording";
    case TakeKind::other:
      return "another recording";
    case TakeKind::unknown:
      return "recording";
  }
  return "";
}

/// "measured, likely" or "confirmed by ear": only a measurement needs to say how sure it is.
template <class T>
std::string standing(const Decision<T>& d) {
  std::string text(originWord(d.origin));
  if (d.origin == Origin::measured) text += ", " + std::string(certaintyWord(d.certainty));
  return text;
}

std::vector<std::vector<std::string>> stringTable(const GuitarSetup& setup, Cents offset,
                                                  const NotationPreferences& schools) {
  std::vector<std::vector<std::string>> rows{{"String", "Tune to", "Hz", "From standard"}};
  const Spelling spelling = spellingOf(setup.tuning, schools);
  for (const StringTarget& t : tuneUp(setup, offset))
    rows.push_back({stringName(schools, guitarOf(setup, offset), t.string, spelling), noteName(t.midi, spelling),
                    hertzFigure(t.pitch), signedCents(t.fromStandard)});
  return rows;
}

/// "a; b; or c", since readings have commas of their own.
std::string either(const std::vector<std::string>& words) {
  std::string text;
  for (std::size_t i = 0; i < words.size(); ++i)
    text += (i == 0 ? "" : i + 1 == words.size() ? "; or " : "; ") + words[i];
  return text;
}

/// Nobody tunes by a guess: what was heard is named, and nothing is asked of the strings but the recording's pitch.
void addOpenGuitar(Sheet& sheet, const GuitarPart& part, const Findings* findings, const Brief& brief) {
  constexpr std::size_t kNamed = 3;
  std::vector<std::string> readings;
  if (const FoundGuitar* heard = heardFor(part, findings))
    for (const auto& r : heard->readings)
      if (readings.size() < kNamed) readings.push_back(sentenceOf(GuitarSetup{r.tuning, r.capo}));
  sheet.push_back({Kind::paragraph,
                   readings.empty()
                       ? "Tuning and capo are open: nothing was heard of them."
                       : "Tuning and capo are open. Perhaps " + either(readings) + ": listen before you tune.",
                   {}});
  if (const auto hint = whatWouldTell(part, findings)) sheet.push_back({Kind::paragraph, hint->sentence, {}});
  if (isSettled(brief.pitch)) {
    const double cents = std::round(brief.pitch->value.offset.value);
    sheet.push_back({Kind::paragraph,
                     cents == 0 ? "Whatever it is, a tuner at A = 440 Hz fits the recording."
                                : "Whatever it is, set the tuner's reference to A = " +
                                      referenceWords(a4At(brief.pitch->value.offset)) + ": " +
                                      sentenceOf(brief.pitch->value) + ".",
                     {}});
  }
}

/// What the guitar is: "Electric guitar; neck pickup, a little gain; from E2 to B4; doubled by Right guitar."
std::string playedOn(const GuitarPart& part, const std::vector<GuitarPart>& parts) {
  std::vector<std::string> words;
  if (part.instrument != Instrument::unknown) words.emplace_back(instrumentWord(part.instrument));
  if (!part.sound.empty()) words.push_back(part.sound);
  if (part.range) words.push_back("from " + rangeWords(part.range));
  for (const auto& other : parts)
    if (other.id == part.doubledBy) words.push_back("doubled by " + other.name);
  std::string sentence;
  for (const auto& w : words) sentence += (sentence.empty() ? "" : "; ") + w;
  if (sentence.empty()) return {};
  sentence[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(sentence[0])));
  return sentence + ".";
}

/// Each guitar with how to tune it.
void addGuitars(Sheet& sheet, const std::vector<GuitarPart>& parts, const Findings* findings, const Brief& brief,
                const NotationPreferences& schools) {
  const Cents offset = settled(brief.pitch).value_or(PitchValue{}).offset;
  for (const auto& part : parts) {
    const auto setup = setupOf(part, findings);
    const std::string played = playedOn(part, parts);
    if (!setup && !brief.pitch && played.empty()) continue;
    sheet.push_back({Kind::heading, parts.size() > 1 ? "How to tune: " + part.name : "How to tune", {}});
    if (!played.empty()) sheet.push_back({Kind::paragraph, played, {}});
    if (!isSettled(setup)) {
      addOpenGuitar(sheet, part, findings, brief);
      continue;
    }
    const GuitarSetup& value = setup->value;
    std::string known = sentenceOf(value) + " (" + standing(*setup) + ")";
    known[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(known[0])));
    if (part.arranged) known += ", arranged";
    if (isSettled(brief.key) && shapeShift(value) != 0)
      known += ". Key: " + keySentence(schools, brief.key->value, value);
    sheet.push_back({Kind::paragraph, known + ".", {}});
    sheet.push_back({Kind::paragraph, tuningAdvice(value, offset), {}});
    sheet.push_back({Kind::table, "", stringTable(value, offset, schools)});
    if (schools.strings == NotationPreferences::Strings::numberFromHigh)
      sheet.push_back({Kind::paragraph, "String 1 is the highest sounding.", {}});
    if (schools.strings == NotationPreferences::Strings::numberFromLow)
      sheet.push_back({Kind::paragraph, "String 1 is the lowest sounding.", {}});
  }
}

/// How many bars, counted on the grid where there is one, else from tempo and metre.
std::string barsOf(TimeSpan span, const Grid& grid, const std::optional<Decision<TimeValue>>& time) {
  if (!grid.empty()) return std::to_string(barsIn(grid, span));
  if (!isSettled(time)) return "";
  const double bars = span.length().value * time->value.tempo.value / 60.0 / time->value.meter;
  return "about " + std::to_string(std::lround(bars));
}

void addForm(Sheet& sheet, const Brief& brief, const Grid& grid) {
  if (!brief.form) return;
  sheet.push_back({Kind::heading, "Form", {}});
  const bool differences = std::any_of(brief.form->value.begin(), brief.form->value.end(),
                                       [](const Section& s) { return !s.difference.empty(); });
  std::vector<std::vector<std::string>> rows{{"Start", "End", "Part", "Name", "Bars"}};
  if (differences) rows[0].emplace_back("Against the first time");
  for (const auto& s : brief.form->value) {
    rows.push_back(
        {clockTenths(s.span.start), clockTenths(s.span.end), s.letter, s.name, barsOf(s.span, grid, brief.time)});
    if (differences) rows.back().push_back(s.difference);
  }
  sheet.push_back({Kind::table, "", rows});
}

/// Marks of a take or notes of the lesson: a time and words.
template <class Pinned>
void addPinned(Sheet& sheet, const std::string& heading, const std::vector<Pinned>& pinned) {
  if (pinned.empty()) return;
  sheet.push_back({Kind::heading, heading, {}});
  std::vector<std::vector<std::string>> rows{{"Time", "What"}};
  for (const auto& p : pinned) rows.push_back({clockTenths(p.time), p.text});
  sheet.push_back({Kind::table, "", rows});
}

void addPassages(Sheet& sheet, const Study& study, const Take& take, const std::vector<GuitarPart>& parts) {
  bool first = true;
  for (const auto& p : study.passages) {
    if (p.take != take.id) continue;
    if (first) sheet.push_back({Kind::heading, "Passages", {}});
    first = false;
    std::vector<std::string> line{clockTenths(p.span.start) + " to " + clockTenths(p.span.end),
                                  "practise at " + percentWords(p.speed)};
    if (const auto of =
            std::find_if(parts.begin(), parts.end(), [&](const GuitarPart& part) { return part.id == p.part; });
        parts.size() > 1 && of != parts.end())
      line.push_back(of->name);
    if (p.shift != Cents(0)) line.push_back("shifted " + signedCents(p.shift));
    sheet.push_back({Kind::passage, p.name.empty() ? "Passage" : p.name, {line}});
    if (!p.text.empty()) sheet.push_back({Kind::monospace, p.text, {}});
  }
}

/// Letters as a reader sees them: UTF-8 continuation bytes do not count.
std::size_t widthOf(const std::string& text) {
  return static_cast<std::size_t>(std::count_if(text.begin(), text.end(), [](char c) { return (c & 0xC0) != 0x80; }));
}

void wrap(std::ostream& out, const std::string& text) {
  std::istringstream words(text);
  std::string word;
  std::size_t used = 0;
  while (words >> word) {
    if (used > 0 && used + 1 + widthOf(word) > kLineWidth)
      out << '\n', used = 0;
    else if (used > 0)
      out << ' ', ++used;
    out << word;
    used += widthOf(word);
  }
  out << '\n';
}

void setTable(std::ostream& out, const std::vector<std::vector<std::string>>& rows) {
  std::vector<std::size_t> widths(rows.front().size(), 0);
  for (const auto& row : rows)
    for (std::size_t c = 0; c < row.size(); ++c) widths[c] = std::max(widths[c], widthOf(row[c]));
  for (const auto& row : rows) {
    std::string line;
    for (std::size_t c = 0; c < row.size(); ++c) line += row[c] + std::string(widths[c] - widthOf(row[c]) + 2, ' ');
    line.erase(line.find_last_not_of(' ') + 1);
    out << "  " << line << '\n';
  }
}

}  // namespace

Sheet layOutSheet(const Study& study, const Take& take, const Findings* findings, const NotationPreferences& schools) {
  const auto parts = partsOf(study, take, findings);
  const Brief brief = briefOf(take, parts.front(), findings);
  Sheet sheet{{Kind::title, study.title, {}}};
  sheet.push_back(
      {Kind::subtitle,
       "All times are those of: " + take.name + " (" + kindWord(take.kind) + ", " + clockTenths(take.duration) + ")",
       {}});
  sheet.push_back({Kind::heading, "In short", {}});
  std::vector<std::vector<std::string>> facts{{"", "", ""}};
  const auto fact = [&](const char* name, const auto& decision, const std::string& words) {
    if (!decision) return;
    facts.push_back({name, isSettled(decision) ? words : "open; perhaps " + words, standing(*decision)});
  };
  if (brief.pitch)
    fact("Pitch", brief.pitch, sentenceOf(brief.pitch->value) + " (" + figureOf(brief.pitch->value) + ")");
  if (brief.key)
    fact("Key", brief.key, keyName(brief.key->value, spellingIn(schools, brief.key->value)) + " (sounding)");
  if (brief.time) fact("Time", brief.time, sentenceOf(brief.time->value));
  if (brief.form) fact("Form", brief.form, sentenceOf(brief.form->value));
  facts.erase(facts.begin());
  if (facts.empty())
    sheet.push_back({Kind::paragraph, "Nothing was measured or set yet.", {}});
  else
    sheet.push_back({Kind::table, "", std::move(facts)});
  addGuitars(sheet, parts, findings, brief, schools);
  addForm(sheet, brief, gridOf(take, findings));
  addPinned(sheet, "Marks", take.cues);
  addPinned(sheet, "Notes for the lesson", notesOf(study, take.id));
  addPassages(sheet, study, take, parts);
  return sheet;
}

std::string sheetText(const Sheet& sheet) {
  std::ostringstream out;
  for (const auto& block : sheet) {
    switch (block.kind) {
      case Kind::title:
        out << block.text << '\n' << std::string(widthOf(block.text), '=') << '\n';
        break;
      case Kind::heading:
        out << '\n' << block.text << '\n' << std::string(widthOf(block.text), '-') << '\n';
        break;
      case Kind::subtitle:
      case Kind::paragraph:
        wrap(out, block.text);
        break;
      case Kind::table:
        setTable(out, block.rows);
        break;
      case Kind::passage: {
        std::string line = block.text + ": ";
        for (std::size_t i = 0; i < block.rows.front().size(); ++i) line += (i > 0 ? ", " : "") + block.rows.front()[i];
        out << '\n';
        wrap(out, line);
        break;
      }
      case Kind::monospace: {
        std::istringstream lines(block.text);
        for (std::string line; std::getline(lines, line);) out << "    " << line << '\n';
        break;
      }
    }
  }
  return out.str();
}

}  // namespace ear
