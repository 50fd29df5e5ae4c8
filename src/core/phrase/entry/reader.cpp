// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/entry/reader.h"

#include <algorithm>
#include <utility>

#include "core/theory/fret_count.h"

namespace ear {

EntryReader::EntryReader(std::string_view line, const EntryContext& context)
    : context_(context),
      tokens_(wordsOf(line, context.schools.letters == NotationPreferences::Letters::german)),
      string_(context.string),
      length_(context.usual) {
  end_.word = Word::comma;
  end_.range = {line.size(), line.size()};
}

const Token& EntryReader::here(std::size_t ahead) const {
  return at_ + ahead < tokens_.size() ? tokens_[at_ + ahead] : end_;
}

bool EntryReader::take(Word word) {
  if (!is(word) || atEnd()) return false;
  ++at_;
  return true;
}

bool EntryReader::touching() const {
  return at_ > 0 && !atEnd() && tokens_[at_ - 1].range.to == here().range.from;
}

Entry EntryReader::read() {
  while (!atEnd()) word();
  flush();
  if (!waiting_.empty() && entry_.problems.empty())
    problem({waiting_.front().range.from, waiting_.back().range.to},
            "On which string? Say it before or after the fret.");
  Beats at;
  for (EnteredStep& s : entry_.steps) {
    s.at = std::max(at, s.at);
    at = s.at + s.length;
    for (Note& n : s.notes) n.at = s.at, n.length = s.length;
  }
  return std::move(entry_);
}

void EntryReader::word() {
  const Token token = here();
  if (gesture() || lengthWord()) return;
  switch (token.word) {
    case Word::number:
      return number();
    case Word::letter:
      return letter();
    case Word::joined:
      return joined();
    case Word::name:
      return chordName();
    case Word::string:
      return stringWord();
    case Word::ordinal:
      return ordinal();
    case Word::high:
    case Word::low:
      return highOrLow();
    case Word::top:
    case Word::bottom:
      return topOrBottom();
    case Word::open:
    case Word::opens:
      return openWord();
    case Word::same:
      return sameWord();
    case Word::back:
      return backWord();
    case Word::without:
      return withoutWord();
    case Word::count:
      return countWords();
    default:
      break;
  }
  ++at_;
  switch (token.word) {
    case Word::comma:
      return flush();
    case Word::on:
      // "15 on 2": a number there is a string, where there is one of it.
      if (is(Word::number) && numbered(here().value) && clause_.lastFret() != nullptr && changing_.empty()) ordinal();
      return;
    case Word::fret:
    case Word::conjunction:
    case Word::article:
    case Word::of:
    case Word::note:
    case Word::but:
      return;
    case Word::dead:
      return addFret(0, token.range, Tone::dead);
    case Word::together:
      clause_.together = true;
      return;
    case Word::singly:
      clause_.singly = true;
      return;
    case Word::chord:
      clause_.chord = true;
      return;
    case Word::all:
      if (take(Word::string)) {
        std::vector<int> strings;
        for (int s = 0; s < context_.guitar.strings(); ++s) strings.push_back(s);
        addStrings(strings, token.range);
      }
      return;
    case Word::times:
      if (token.value > 0) return repeat(token.value);
      [[fallthrough]];
    default:
      problem(token.range, "“" + token.text + "” says nothing here.");
  }
}

void EntryReader::addFret(int fret, TextRange range, Tone tone) {
  // After "same but last", a number is the fret that is played instead.
  if (!changing_.empty() && clause_.items.empty()) {
    for (const std::size_t step : changing_)
      for (Note& n : entry_.steps[step].notes) n.place.fret = fret, n.tone = tone;
    return;
  }
  Clause::Item item;
  item.note.place.fret = fret;
  item.note.tone = tone;
  goOn(item.note);
  item.length = length_;
  item.range = range;
  for (const Change& change : next_) change(item.note);
  next_.clear();
  lengthAtEnd_ = false;
  clause_.items.push_back(std::move(item));
}

void EntryReader::addStrings(const std::vector<int>& strings, TextRange range) {
  for (const int s : strings) {
    Clause::Item item;
    item.string = s;
    item.range = range;
    clause_.items.push_back(std::move(item));
  }
}

void EntryReader::mark(const Change& change) {
  if (!changing_.empty()) {
    for (const std::size_t step : changing_)
      for (Note& n : entry_.steps[step].notes) change(n);
    return;
  }
  if (Clause::Item* fret = clause_.lastFret())
    change(fret->note);
  else
    next_.push_back(change);
}

void EntryReader::sayLength(Beats length) {
  lengthBefore_ = length_;
  length_ = length;
  lengthAtEnd_ = true;
}

void EntryReader::flush() {
  changing_.clear();
  // "12 on G, bent": what is said of no fret is said of the note before.
  if (clause_.items.empty() && !waiting_.empty())
    for (const Change& change : next_) change(waiting_.back().note);
  else if (clause_.items.empty() && !entry_.steps.empty())
    for (const Change& change : next_)
      for (Note& n : entry_.steps.back().notes) change(n);
  if (!clause_.items.empty() || entry_.steps.empty()) {
    if (!next_.empty() && atEnd()) problem({end_.range.to, end_.range.to}, "Of which note? A fret is missing.");
  }
  next_.clear();
  if (lengthAtEnd_)
    if (Clause::Item* fret = clause_.lastFret()) fret->length = std::exchange(length_, lengthBefore_);
  lengthAtEnd_ = false;
  clause_.items.insert(clause_.items.begin(), waiting_.begin(), waiting_.end());
  if (context_.fretsFromNut)
    for (std::size_t i = waiting_.size(); i < clause_.items.size(); ++i) {
      Note& n = clause_.items[i].note;
      if (!clause_.items[i].isString()) n.place.fret = std::max(0, n.place.fret - context_.guitar.capo.fret);
    }
  ClauseSteps found = stepsOf(clause_, context_.guitar, string_, length_);
  waiting_ = std::move(found.waiting);
  clause_ = {};
  std::move(found.questions.begin(), found.questions.end(), std::back_inserter(entry_.questions));
  std::move(found.problems.begin(), found.problems.end(), std::back_inserter(entry_.problems));
  if (found.steps.empty()) return;
  said_ = Said{entry_.steps.size(), found.steps.size(), 1};
  for (EnteredStep& s : found.steps) {
    string_ = s.notes.back().place.string;
    // "8, slide to 10": on the string of the note before it comes from there.
    for (Note& n : s.notes) {
      const bool nowhere = n.attack == Attack::slidFromBelow || n.attack == Attack::slidFromAbove;
      if (nowhere && !entry_.steps.empty() && entry_.steps.back().notes.size() == 1 &&
          entry_.steps.back().notes.front().place.string == n.place.string &&
          entry_.steps.back().notes.front().place.fret != n.place.fret)
        n.attack = Attack::slidInto;
    }
    entry_.steps.push_back(std::move(s));
  }
}

Entry readEntry(std::string_view line, const EntryContext& context) {
  return EntryReader(line, context).read();
}

}  // namespace ear
