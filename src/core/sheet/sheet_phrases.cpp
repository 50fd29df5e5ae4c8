// SPDX-License-Identifier: GPL-3.0-or-later
// What is written down of the recording: phrases as tab, and passages with what was typed for them.
#include <algorithm>
#include <cmath>
#include <map>

#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/engraving/systems.h"
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

/// How a phrase ends this time: from a bar line on, for the so-manieth time.
struct Ending {
  Beats from;
  int number = 1;
};

/// Where all that a repeat does otherwise lies: the start of the bar of the first difference; nothing where it begins
/// otherwise already, or is moved as a whole.
std::optional<Beats> endsOtherwiseFrom(const Phrase& p, const Setting& s) {
  if (!p.link || p.link->frets != 0 || p.link->strings != 0) return std::nullopt;
  const Phrase* original = s.study().phrase(p.link->to);
  const PhraseTime time(p, s.map);
  if (original == nullptr || original->link || original->take != p.take || !time.known()) return std::nullopt;
  std::optional<Beats> first;
  const auto see = [&](Beats at) { first = first ? std::min(*first, at) : at; };
  for (const Note& n : p.link->changed) see(n.at);
  for (const Note& n : original->levels->front().notes) {
    const auto isIn = [&](const Note& c) { return c.id == n.id; };
    const auto& gone = p.link->without;
    // A note that moved differs where it was as well.
    if (std::find(gone.begin(), gone.end(), n.id) != gone.end() ||
        std::any_of(p.link->changed.begin(), p.link->changed.end(), isIn))
      see(n.at);
  }
  if (!first) return std::nullopt;
  const auto lines = time.barLines(Beats(0), *first + Beats(1));
  const auto after = std::upper_bound(lines.begin(), lines.end(), *first);
  if (after == lines.begin() || *std::prev(after) <= Beats(0)) return std::nullopt;
  return *std::prev(after);
}

/// Endings of repeats and of what they repeat, by id.
std::map<std::string, Ending> endingsOf(const Setting& s) {
  std::map<std::string, Ending> endings;
  std::map<std::string, int> count;
  for (const Phrase* p : s.phrases()) {
    const auto from = endsOtherwiseFrom(*p, s);
    if (!from) continue;
    endings[p->id] = {*from, 2 + count[p->link->to]++};
    const auto [original, fresh] = endings.try_emplace(p->link->to, Ending{*from, 1});
    if (!fresh) original->second.from = std::min(original->second.from, *from);
  }
  return endings;
}

std::string ordinal(int number) {
  static constexpr const char* kWords[] = {"first", "second", "third", "fourth"};
  return number <= 4 ? kWords[number - 1] : std::to_string(number) + "th";
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

/// Of a repeat that ends otherwise the end alone; over the original's own end a bracket.
void showEnding(SheetPhrase& phrase, const Phrase& p, const Ending& ending) {
  TabScore& score = phrase.score;
  if (ending.from >= score.to || ending.from <= score.from) return;
  if (p.link) {
    TabSystem end = partOf(score, ending.from, score.to);
    const auto keep = [&](auto& all) {
      all.erase(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(std::min(end.firstBar, all.size())));
    };
    keep(phrase.bars), keep(phrase.barTimes);
    score = std::move(end.score);
    const int bar = phrase.bars.empty() ? 0 : phrase.bars.front();
    phrase.about.back() += " From bar " + std::to_string(bar) + " on it has its " + ordinal(ending.number) + " ending:";
  }
  score.stretches.push_back({ending.from, score.to, TabStretch::Kind::ending, std::to_string(ending.number) + "."});
}

SheetPhrase written(const Phrase& p, const Setting& s, const std::map<std::string, Ending>& endings) {
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
  if (const auto ending = endings.find(p.id); ending != endings.end() && level == 0 && !phrase.score.heads.empty())
    showEnding(phrase, p, ending->second);
  for (int string = 0; string < guitar.strings(); ++string)
    phrase.strings.push_back(stringMark(s.schools(), guitar, string, s.spelling()));
  return phrase;
}

/// Two guitars at the same time, near enough to stand in one line: most of the shorter one is under the other.
bool playTogether(const Phrase& a, const SheetPhrase& first, const Phrase& b, const SheetPhrase& second) {
  constexpr double kMost = 0.8;
  if (a.part == b.part || first.score.heads.empty() || second.score.heads.empty()) return false;
  if (first.bars.empty() || second.bars.empty() || first.with.size() >= 2) return false;
  const double shorter = std::min(a.span.length().value, b.span.length().value);
  return overlap(a.span, b.span).value >= kMost * shorter;
}

/// Puts what another guitar plays under a phrase, in its count of beats.
void addTo(SheetPhrase& block, const Phrase& phrase, SheetPhrase other, const Phrase& otherPhrase, const Setting& s) {
  const Beats by = PhraseTime(otherPhrase, s.map).origin() - PhraseTime(phrase, s.map).origin();
  other.score = shifted(std::move(other.score), by);
  for (auto* named : {&other.chords, &other.scales})
    for (auto& [at, name] : *named) at += by;
  block.about.push_back("With it plays: " + (other.number > 0 ? std::to_string(other.number) + " " : "") + other.name +
                        (s.part(otherPhrase.part) != nullptr ? " (" + s.part(otherPhrase.part)->name + ")" : "") + ".");
  block.with.push_back(std::move(other));
}

}  // namespace

void addPhrases(Sheet& sheet, const Setting& s, std::size_t most, bool together) {
  const auto all = s.phrases();
  const auto endings = endingsOf(s);
  std::vector<std::pair<const Phrase*, SheetPhrase>> shown;
  for (std::size_t i = 0; i < all.size() && shown.size() < most; ++i) {
    const int place = static_cast<int>(i) + 1;
    if (place < s.choice.first || place > s.choice.last) continue;
    shown.emplace_back(all[i], written(*all[i], s, endings));
  }
  if (shown.empty()) return;
  sheet.blocks.emplace_back(SheetHeading{"Phrases"});
  std::vector<bool> placed(shown.size());
  for (std::size_t i = 0; i < shown.size(); ++i) {
    if (placed[i]) continue;
    auto& [phrase, block] = shown[i];
    for (std::size_t k = i + 1; together && k < shown.size(); ++k)
      if (!placed[k] && playTogether(*phrase, block, *shown[k].first, shown[k].second)) {
        placed[k] = true;
        addTo(block, *phrase, std::move(shown[k].second), *shown[k].first, s);
      }
    sheet.blocks.emplace_back(std::in_place_type<SheetPhrase>, std::move(block));
  }
}

SheetPassage passageOf(const Passage& p, const Setting& s) {
  std::string about =
      clockTenths(p.span.start) + " to " + clockTenths(p.span.end) + ", practise at " + percentWords(p.speed);
  if (const GuitarPart* part = s.part(p.part); part != nullptr && s.parts.size() > 1) about += ", " + part->name;
  if (p.shift != Cents(0)) about += ", shifted " + signedCents(p.shift);
  return {p.name.empty() ? "Passage" : p.name, about, p.text};
}

void addPassages(Sheet& sheet, const Setting& s) {
  bool first = true;
  for (const auto& p : s.study().passages) {
    if (p.take != s.take().id) continue;
    if (first) sheet.blocks.emplace_back(SheetHeading{"Passages"});
    first = false;
    sheet.blocks.emplace_back(passageOf(p, s));
  }
}

}  // namespace ear::sheet
