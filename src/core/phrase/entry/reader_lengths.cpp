// SPDX-License-Identifier: GPL-3.0-or-later
// How long an entry line says that notes last, where they lie in the bar, and rests.
#include <algorithm>

#include "core/phrase/entry/reader.h"
#include "core/phrase/note_value.h"

namespace ear {

bool EntryReader::lengthWord() {
  const std::size_t before = at_;
  const bool all = take(Word::all);
  const bool dotted = take(Word::dotted);
  NoteValue value;
  const Token token = here();
  switch (token.word) {
    case Word::quarter:
      value.part = 4;
      break;
    case Word::half:
      value.part = 2;
      break;
    case Word::whole:
      value.part = 1;
      break;
    case Word::eighth:
      value.part = 8;
      break;
    case Word::sixteenth:
      value.part = 16;
      break;
    case Word::thirtySecond:
      value.part = 32;
      break;
    case Word::rest: {
      ++at_;
      Beats length = length_;
      if (is(Word::number) && is(Word::beats, 1) && here().value > 0) length = here().value, at_ += 2;
      flush();
      entry_.steps.push_back({{}, {}, length, token.range});
      return true;
    }
    default:
      at_ = before;
      return false;
  }
  ++at_;
  take(Word::note);
  if (take(Word::triplet)) value.tuple = 3, value.inTimeOf = 2;
  if (dotted) value.dots = 1;
  const Beats length = lengthOf(value);
  if (is(Word::bend) || is(Word::bent) || is(Word::step) || is(Word::before) ||
      (here().text == "a" && is(Word::step, 1))) {
    // "11 half bend", "a half step bend": a size, not a length.
    at_ = before;
    const Size size = sizeHere();
    const bool prebend = is(Word::before);
    if (!take(Word::bend) && !take(Word::bent)) take(Word::before);
    mark([size, prebend](Note& n) {
      if (!n.bend) n.bend = Bend{};
      n.bend->size = size;
      n.bend->before = n.bend->before || prebend;
    });
    return true;
  }
  if (is(Word::rest)) {
    ++at_;
    flush();
    entry_.steps.push_back({{}, {}, length, token.range});
  } else if (all) {
    sayOfAll(length);
  } else {
    sayLength(length);
  }
  return true;
}

/// "8 slide quarter 10": a length right before the fret that it belongs to.
void EntryReader::lengthBeforeFret() {
  std::size_t ahead = is(Word::dotted) ? 1 : 0;
  const Word word = here(ahead).word;
  const bool value = word == Word::whole || word == Word::half || word == Word::quarter || word == Word::eighth ||
                     word == Word::sixteenth || word == Word::thirtySecond;
  if (!value) return;
  if (is(Word::triplet, ++ahead)) ++ahead;
  if (is(Word::number, ahead) || is(Word::open, ahead)) lengthWord();
}

/// "all eighths": of every note so far, and of those to come until another length is said.
void EntryReader::sayOfAll(Beats length) {
  for (EnteredStep& s : entry_.steps) s.length = length;
  for (Clause::Item& item : waiting_) item.length = length;
  for (Clause::Item& item : clause_.items)
    if (!item.isString()) item.length = length;
  length_ = length;
}

/// "count 1 and 2 trip": where the notes of the clause before it (or of this one) lie in the bar, one after the other.
void EntryReader::countWords() {
  const TextRange range = here().range;
  ++at_;
  flush();
  std::vector<Beats> places;
  Beats beat;
  for (; !atEnd() && !is(Word::comma); ++at_) {
    const Token& t = here();
    if (t.word == Word::number) {
      places.push_back(beat = Beats(std::max(1, t.value) - 1));
    } else if (t.word == Word::conjunction) {
      places.push_back(beat + Beats(1, 2));
    } else if (t.word == Word::letter && t.value == 'e') {
      places.push_back(beat + Beats(1, 4));
    } else if (t.word == Word::letter && t.value == 'a') {
      places.push_back(beat + Beats(3, 4));
    } else if (t.word == Word::trip) {
      places.push_back(beat + Beats(1, 3));
    } else if (t.word == Word::letRing) {
      places.push_back(beat + Beats(2, 3));
    } else {
      problem(t.range, "“" + t.text + "” is no place in a bar.");
    }
  }
  const std::size_t steps = said_ ? said_->count * static_cast<std::size_t>(said_->times) : 0;
  if (steps == 0 || places.size() != steps || !std::is_sorted(places.begin(), places.end()))
    return problem(range, "These are " + std::to_string(places.size()) + " places for " + std::to_string(steps) +
                              " notes: say one for each, in their order.");
  // A clause that begins where the one before it has not ended goes on in the next bar.
  const std::size_t first = said_->first;
  Beats from;
  for (std::size_t i = 0; i < first; ++i) from = std::max(from, entry_.steps[i].at) + entry_.steps[i].length;
  Beats bar;
  while (bar + places.front() < from) bar += 4;
  for (std::size_t i = 0; i < steps; ++i) {
    EnteredStep& s = entry_.steps[first + i];
    s.at = bar + places[i];
    s.length = i + 1 < steps ? places[i + 1] - places[i] : length_;
  }
}

}  // namespace ear
