// SPDX-License-Identifier: GPL-3.0-or-later
// What an entry line says of strings, frets and chords.
#include <algorithm>
#include <cctype>
#include <utility>

#include "core/phrase/entry/reader.h"
#include "core/theory/fingering.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr int kHighestSaid = 36;  // a number beyond it is no fret

}  // namespace

void EntryReader::number() {
  const Token token = here();
  ++at_;
  if (take(Word::times)) return repeat(token.value);
  if (take(Word::more)) {
    flush();
    if (entry_.steps.empty()) return problem(token.range, "More of what? Nothing was said before it.");
    copy(entry_.steps.size() - 1, 1, std::min(token.value, 64));
    return;
  }
  if (token.value > kHighestSaid) return problem(token.range, "There is no fret " + token.text + ".");
  addFret(token.value, token.range);
}

std::optional<int> EntryReader::numbered(int number) const {
  const int strings = context_.guitar.strings();
  if (number < 1 || number > strings) return std::nullopt;
  return context_.schools.strings == NotationPreferences::Strings::numberFromLow ? number - 1 : strings - number;
}

/// Strings of that name: in this tuning, else in standard tuning, as strings are often called by it.
std::vector<int> EntryReader::stringsOf(const Token& said) const {
  std::string name = said.text;
  name[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(name[0])));
  auto pc = parsePitchClass(name);
  if (context_.schools.letters == NotationPreferences::Letters::german) {
    if (name == "H") pc = PitchClass(11);
    if (name == "B") pc = PitchClass(10);
  }
  if (!pc) return {};
  const auto named = [&](std::span<const int> strings) {
    std::vector<int> found;
    for (std::size_t s = 0; s < strings.size(); ++s)
      if (PitchClass(strings[s]) == *pc) found.push_back(static_cast<int>(s));
    return found;
  };
  const auto& tuning = context_.guitar.tuning.strings;
  const bool standard = tuning.size() == kStandardTuning.size();
  if (standard && context_.schools.strings == NotationPreferences::Strings::standardLetter)
    return named(kStandardTuning);
  auto found = named(tuning);
  return found.empty() && standard ? named(kStandardTuning) : found;
}

void EntryReader::letter() {
  const Token token = here();
  const bool small = std::islower(token.value) != 0;
  // "a half bend": no string.
  if (token.text == "a" && (is(Word::half, 1) || is(Word::whole, 1) || is(Word::quarter, 1) || is(Word::step, 1) ||
                            is(Word::semitone, 1) || is(Word::rest, 1) || is(Word::dotted, 1))) {
    ++at_;
    return;
  }
  ++at_;
  if (clause_.chord) {
    if (const auto chord = parseChord(token.text)) return addChord(*chord, token.range);
  }
  const auto found = stringsOf(token);
  if (!found.empty()) return nameString(token, found);
  const auto chord = small ? std::nullopt : parseChord(token.text);
  if (chord) return addChord(*chord, token.range);
  problem(token.range, "No string is called “" + token.text + "” here.");
}

/// One of the strings with a name; of two the school may tell which, else it is asked.
void EntryReader::nameString(const Token& token, const std::vector<int>& found) {
  if (found.size() == 1) return addStrings(found, token.range), void(take(Word::string));
  const bool small = std::islower(static_cast<unsigned char>(token.text[0])) != 0;
  using Strings = NotationPreferences::Strings;
  const bool byLetter =
      context_.schools.strings == Strings::letter || context_.schools.strings == Strings::standardLetter;
  if (byLetter) return addStrings({small ? found.back() : found.front()}, token.range);
  std::string name = token.text;
  name[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(name[0])));
  entry_.questions.push_back({token.range,
                              "Which " + name + " string?",
                              {{"the high-sounding one", "high " + name}, {"the low-sounding one", "low " + name}}});
  addStrings({small ? found.back() : found.front()}, token.range);
}

void EntryReader::highOrLow() {
  const Token token = here();
  ++at_;
  if (!is(Word::letter) && !is(Word::name))
    return problem(token.range, "“" + token.text + "” what? Say the string's letter.");
  const Token name = here();
  ++at_;
  const auto found = stringsOf(name);
  if (found.empty()) return problem(name.range, "No string is called “" + name.text + "” here.");
  addStrings({token.word == Word::high ? found.back() : found.front()}, {token.range.from, name.range.to});
  take(Word::string);
}

void EntryReader::topOrBottom() {
  const Token token = here();
  ++at_;
  TextRange range = token.range;
  if (is(Word::letter) || is(Word::string)) range.to = here().range.to, ++at_;
  const auto high =
      numbered(context_.schools.strings == NotationPreferences::Strings::numberFromLow ? context_.guitar.strings() : 1);
  const std::string last = std::to_string(context_.guitar.strings());
  const bool fromLow = context_.schools.strings == NotationPreferences::Strings::numberFromLow;
  entry_.questions.push_back({range,
                              "“" + token.text + "” means opposite strings to different players.",
                              {{"the highest sounding one", "string " + (fromLow ? last : "1")},
                               {"the lowest sounding one", "string " + (fromLow ? "1" : last)}}});
  addStrings({high.value_or(0)}, range);
}

void EntryReader::joined() {
  const Token token = here();
  ++at_;
  const std::string name = token.text.substr(0, 1);
  const auto chord = parseChord(token.text);
  if (clause_.chord && chord) return addChord(*chord, token.range);
  const std::string fret = std::to_string(token.value);
  entry_.questions.push_back({token.range,
                              "A string with a fret, or a chord?",
                              {{"fret " + fret + " on the " + name + " string", fret + " on " + name},
                               {chord ? "the chord " + token.text
                                      : "the chord " + name + ", then fret " + fret + " on the " + name + " string",
                                chord ? "chord " + token.text : "chord " + name + ", " + fret + " on " + name}}});
}

void EntryReader::stringWord() {
  const Token token = here();
  ++at_;
  std::vector<int> strings;
  TextRange range = token.range;
  while (is(Word::number) || is(Word::letter) || is(Word::ordinal) ||
         (!strings.empty() && is(Word::conjunction) && (is(Word::number, 1) || is(Word::ordinal, 1)))) {
    if (take(Word::conjunction)) continue;
    // "string 3 fret 12": one number alone belongs to "string" where a fret is still to be said.
    if (!strings.empty() && token.text.back() != 's' && token.text.back() != 'n') break;
    if (is(Word::letter)) return letter();
    const auto string = numbered(here().value);
    if (!string) return problem(here().range, "There is no string " + here().text + " on this guitar."), void(++at_);
    strings.push_back(*string);
    range.to = here().range.to;
    ++at_;
  }
  // "third string" is read at "third"; here nothing followed.
  if (strings.empty()) return problem(token.range, "Which string? Say its number or letter.");
  addStrings(strings, range);
}

void EntryReader::ordinal() {
  const Token token = here();
  ++at_;
  if (take(Word::time)) return onTimeOf(token.value);
  if (!changing_.empty()) {
    const std::size_t first = changing_.front();
    const auto which = static_cast<std::size_t>(token.value - 1);
    if (said_ && which < said_->count)
      changing_ = {said_->first + which};
    else
      problem(token.range, "There is no such note."), changing_ = {first};
    return;
  }
  const auto string = numbered(token.value);
  if (!string) return problem(token.range, "There is no string " + std::to_string(token.value) + " on this guitar.");
  addStrings({*string}, token.range);
  take(Word::string);
}

void EntryReader::openWord() {
  const Token token = here();
  ++at_;
  const bool aString = is(Word::letter) || is(Word::string) || is(Word::ordinal) || is(Word::high) || is(Word::low) ||
                       is(Word::on) || is(Word::top) || is(Word::bottom);
  const bool behindAString = !clause_.items.empty() && clause_.items.back().isString();
  if (token.word == Word::open && palmMuted_ && !aString && !behindAString) {
    palmMuted_ = false;  // "palm mute ... open"
    return;
  }
  addFret(0, token.range);
  if (token.word == Word::opens && !aString && !behindAString) {
    std::vector<int> strings;
    for (int s = 0; s < context_.guitar.strings(); ++s) strings.push_back(s);
    addStrings(strings, token.range);
  }
  take(Word::string);
}

void EntryReader::chordName() {
  const Token token = here();
  ++at_;
  // "F#" may be a string of this guitar.
  if (const auto found = stringsOf(token); !found.empty() && !clause_.chord) return nameString(token, found);
  if (const auto chord = parseChord(token.text)) return addChord(*chord, token.range);
  problem(token.range, "“" + token.text + "” says nothing here.");
}

void EntryReader::addChord(const Chord& chord, TextRange range) {
  clause_.chord = false;
  const auto said = std::exchange(next_, {});  // of this chord, not of what is flushed
  flush();
  const auto shapes = usualShapes(context_.guitar, chord, 1);
  if (shapes.empty()) return problem(range, "No hand can hold this chord in this tuning.");
  EnteredStep step{{}, {}, length_, range};
  for (const FretPosition place : shapes.front().places) {
    Note n;
    n.place = place;
    goOn(n);
    for (const Change& change : said) change(n);
    step.notes.push_back(std::move(n));
  }
  said_ = Said{entry_.steps.size(), 1, 1};
  entry_.steps.push_back(std::move(step));
}

}  // namespace ear
