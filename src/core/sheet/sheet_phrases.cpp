// SPDX-License-Identifier: GPL-3.0-or-later
// What is written down of the recording: phrases as tab, and passages with what was typed for them.
#include <algorithm>

#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/sheet/engraved_phrase.h"
#include "core/sheet/sheet_parts.h"
#include "core/theory/scale.h"

namespace ear::sheet {
namespace {

std::string faithWords(Faith faith) {
  return faith == Faith::asRecorded ? "as recorded" : faith == Faith::arranged ? "arranged" : "in the style of it";
}

std::string nameOf(const Phrase& p, const Setting& s) {
  const int number = s.numbers.contains(p.id) ? s.numbers.at(p.id) : 0;
  const std::string name = p.name.empty() ? "Phrase at " + clockTenths(p.span.start) : p.name;
  return number > 0 ? std::to_string(number) + " (" + name + ")" : "“" + name + "”";
}

/// "The same as 1 (Opening hook), but its last note is held."
std::string sameWords(const Phrase& p, const Setting& s) {
  const Phrase* other = s.study().phrase(p.link->to);
  if (other == nullptr) return "The same as a phrase that is no longer there.";
  std::string words = "The same as " + nameOf(*other, s);
  if (p.link->frets != 0) words += ", " + withSign(p.link->frets, 0) + " frets";
  if (p.link->strings != 0) words += ", " + withSign(p.link->strings, 0) + " strings";
  const bool differs = !p.link->changed.empty() || !p.link->without.empty();
  if (!p.link->how.empty()) words += ", but: " + p.link->how;
  if (differs) words += p.link->how.empty() ? ", but for the notes with a star" : " (with a star)";
  return words + ".";
}

std::string barsWords(const Phrase& p, const PhraseTime& time) {
  if (!time.known()) return "";
  const int first = time.barAt(Beats(0));
  const int last = time.barAt(Beats(std::max<std::int64_t>(0, std::llround(time.placeOf(p.span.end)) - 1)));
  return first == last ? ", bar " + std::to_string(first)
                       : ", bars " + std::to_string(first) + " to " + std::to_string(last);
}

std::size_t levelOf(const Phrase& p, const std::string& name) {
  for (std::size_t i = 1; i < p.levels->size(); ++i)
    if (!name.empty() && (*p.levels)[i].name == name) return i;
  return 0;
}

SheetPhrase written(const Phrase& p, const Setting& s) {
  const GuitarPart* part = s.part(p.part);
  const Guitar guitar = part != nullptr ? s.guitar(*part) : s.guitar(s.parts.front());
  const PhraseTime time(p, s.map);
  const std::size_t level = levelOf(p, s.choice.level);
  const Arrangement& arrangement = (*p.levels)[level];
  const EngravedPhrase engraved = engravePhrase(
      s.study().phrases, p, level, {guitar, s.schools(), part != nullptr && part->fretsFromNut}, time, s.chords);
  SheetPhrase phrase{.number = s.numbers.at(p.id),
                     .id = p.id,
                     .name = p.name.empty() ? "Phrase" : p.name,
                     .about = {clockTenths(p.span.start) + " to " + clockTenths(p.span.end) + barsWords(p, time)},
                     .score = engraved.score,
                     .bars = engraved.bars,
                     .barTimes = engraved.barTimes,
                     .remark = p.remark};
  std::string& about = phrase.about.front();
  if (part != nullptr && s.parts.size() > 1) about += ", " + part->name;
  about += ", " + faithWords(p.faith);
  if (level > 0) about += ", " + arrangement.name + (arrangement.made.empty() ? "" : ": " + arrangement.made);
  if (p.certainty < kLikely) about += ", not sure";
  // A whole repeat needs no second tab.
  const bool plainRepeat = p.link && p.link->changed.empty() && p.link->without.empty() && p.link->frets == 0 &&
                           p.link->strings == 0 && s.study().phrase(p.link->to) != nullptr;
  if (p.link) phrase.about.push_back(sameWords(p, s));
  if (!engraved.shown.problem.empty()) phrase.about.push_back(engraved.shown.problem);
  if (plainRepeat) phrase.score = TabScore{}, phrase.bars.clear(), phrase.barTimes.clear();
  std::string last;
  for (const auto& [at, c] : engraved.chords) {
    const bool known = isSettled(c);
    std::string name = known ? s.chordName(*c.chord) : "?";
    if (const std::string shape = known ? s.shapeName(*c.chord, part) : ""; !shape.empty()) name += " (" + shape + ")";
    if (name != last && !plainRepeat) phrase.chords.emplace_back(at, name);
    last = name;
  }
  for (const ScaleStretch& x : p.scales) {
    std::string name = pitchClassName(x.scale.tonic, s.spelling()) + " " + std::string(scaleName(x.scale.kind));
    if (x.box > 0) name += ", box " + std::to_string(x.box);
    if (!plainRepeat) phrase.scales.emplace_back(&x == &p.scales.front() ? phrase.score.from : x.from, name);
  }
  for (int string = 0; string < guitar.strings(); ++string)
    phrase.strings.push_back(stringMark(s.schools(), guitar, string, s.spelling()));
  return phrase;
}

}  // namespace

void addPhrases(Sheet& sheet, const Setting& s, std::size_t most) {
  const auto all = s.phrases();
  std::size_t shown = 0;
  for (std::size_t i = 0; i < all.size() && shown < most; ++i) {
    const int place = static_cast<int>(i) + 1;
    if (place < s.choice.first || place > s.choice.last) continue;
    if (shown++ == 0) sheet.blocks.push_back(SheetHeading{"Phrases"});
    sheet.blocks.push_back(written(*all[i], s));
  }
}

void addPassages(Sheet& sheet, const Setting& s) {
  bool first = true;
  for (const auto& p : s.study().passages) {
    if (p.take != s.take().id) continue;
    if (first) sheet.blocks.push_back(SheetHeading{"Passages"});
    first = false;
    std::string about =
        clockTenths(p.span.start) + " to " + clockTenths(p.span.end) + ", practise at " + percentWords(p.speed);
    if (const GuitarPart* part = s.part(p.part); part != nullptr && s.parts.size() > 1) about += ", " + part->name;
    if (p.shift != Cents(0)) about += ", shifted " + signedCents(p.shift);
    sheet.blocks.push_back(SheetPassage{p.name.empty() ? "Passage" : p.name, about, p.text});
  }
}

}  // namespace ear::sheet
