// SPDX-License-Identifier: GPL-3.0-or-later
// What an entry line says a note does.
#include <algorithm>
#include <utility>

#include "core/phrase/entry/reader.h"

namespace ear {

namespace {

constexpr int kMostStrokes = 64;  // in a beat, as a study may hold (validity.h)

/// Words that need no other: what they make of a note.
constexpr std::pair<Word, void (*)(Note&)> kPlain[] = {{Word::vibrato, [](Note& n) { n.vibrato = Vibrato{}; }},
                                                       {Word::ghost, [](Note& n) { n.tone = Tone::ghost; }},
                                                       {Word::rake, [](Note& n) { n.attack = Attack::raked; }},
                                                       {Word::staccato, [](Note& n) { n.staccato = true; }},
                                                       {Word::choke, [](Note& n) { n.ending = Ending::choked; }},
                                                       {Word::fade, [](Note& n) { n.ending = Ending::faded; }},
                                                       {Word::feedback, [](Note& n) { n.feedback = true; }},
                                                       {Word::slap, [](Note& n) { n.picking = Picking::slap; }},
                                                       {Word::thumb, [](Note& n) { n.picking = Picking::thumb; }},
                                                       {Word::strokeDown, [](Note& n) { n.picking = Picking::down; }},
                                                       {Word::down, [](Note& n) { n.picking = Picking::down; }},
                                                       {Word::strokeUp, [](Note& n) { n.picking = Picking::up; }},
                                                       {Word::up, [](Note& n) { n.picking = Picking::up; }},
                                                       {Word::barre, [](Note& n) { n.barred = true; }},
                                                       {Word::stays, [](Note& n) { n.keptDown = true; }},
                                                       {Word::hybrid, [](Note& n) { n.picking = Picking::hybrid; }},
                                                       {Word::lifted, [](Note& n) { n.bar = SlideBar::lifted; }}};

}  // namespace

bool EntryReader::gesture() {
  for (const auto& [word, change] : kPlain)
    if (is(word) && !atEnd()) return ++at_, mark(change), true;
  switch (here().word) {
    case Word::slide:
      return slideWord(), true;
    case Word::hammer:
    case Word::pull:
      return slurWord(), true;
    case Word::bend:
    case Word::bent:
      return bendWord(), true;
    case Word::before:
      return preBend(), true;
    case Word::release:
      return releaseWord(), true;
    case Word::wide:
      ++at_;
      take(Word::vibrato);
      mark([](Note& n) { n.vibrato = Vibrato{Vibrato::Kind::wide}; });
      return true;
    case Word::trill:
      return trillWord(), true;
    case Word::tremolo:
      return tremoloWord(), true;
    case Word::pinch:
    case Word::harmonic:
      return harmonicWord(), true;
    case Word::tap:
      return tapWord(), true;
    case Word::bar:
    case Word::dive:
      return barWord(), true;
    case Word::finger:
      return fingerWord(), true;
    case Word::pluck:
      return pluckWord(), true;
    case Word::again:
      return againWord(), true;
    case Word::held:
      return heldWord(), true;
    case Word::palmMute:
    case Word::mute:
      ++at_;
      take(Word::mute);
      return region(&Note::palmMuted), true;
    case Word::letRing:
      ++at_;
      take(Word::ring);
      return region(&Note::letRing), true;
    case Word::stop:
    case Word::off:
      ++at_;
      palmMuted_ = letRing_ = slideBar_ = false;
      return true;
    default:
      return false;
  }
}

/// A hammer-on or pull-off: to the fret that follows, or off the string.
void EntryReader::slurWord() {
  const Token token = here();
  const bool up = token.word == Word::hammer;
  ++at_;
  take(up ? Word::on : Word::off);
  take(Word::to);
  lengthBeforeFret();
  if (is(Word::number) || is(Word::open))
    next_.emplace_back([up](Note& n) { n.attack = up ? Attack::hammeredOn : Attack::pulledOff; });
  else if (up)
    problem(token.range, "A hammer-on to which fret?");
  else
    mark([](Note& n) { n.ending = Ending::pulledOff; });
}

void EntryReader::releaseWord() {
  ++at_;
  const bool tight = touching();
  mark([](Note& n) {
    if (!n.bend) n.bend = Bend{};
    n.bend->released = true;
  });
  // "10b12r10": the fret it comes back to is its own.
  const Clause::Item* fret = clause_.lastFret();
  if (tight && is(Word::number) && fret != nullptr && here().value == fret->note.place.fret) ++at_;
}

void EntryReader::trillWord() {
  const Token token = here();
  ++at_;
  take(Word::to);
  if (!is(Word::number)) return problem(token.range, "A trill with which fret?");
  mark([fret = here().value](Note& n) { n.trill = Trill{fret}; });
  ++at_;
}

/// "tremolo 6 per beat", or as fast as can be.
void EntryReader::tremoloWord() {
  ++at_;
  const bool counted = is(Word::number) && is(Word::per, 1) && is(Word::beats, 2);
  if (counted && here().value > kMostStrokes) {
    problem(here().range, "No hand strikes so often: up to 64 strokes per beat.");
    at_ += 3;
    return;
  }
  mark([strokes = counted ? here().value : 0](Note& n) { n.tremolo = Tremolo{strokes}; });
  if (counted) at_ += 3;
}

void EntryReader::fingerWord() {
  const Token token = here();
  ++at_;
  if (take(Word::thumb)) return mark([](Note& n) { n.finger = Finger::thumb; });
  if (!is(Word::number) || here().value < 1 || here().value > 4)
    return problem(token.range, "Which finger? 1 to 4, or thumb.");
  mark([finger = static_cast<Finger>(here().value)](Note& n) { n.finger = finger; });
  ++at_;
}

/// The finger that plucks, by the letter that players write for it.
void EntryReader::pluckWord() {
  constexpr std::pair<std::string_view, Picking> kFingers[] = {
      {"p", Picking::thumb}, {"i", Picking::index}, {"m", Picking::middle}, {"a", Picking::ring}};
  const Token token = here();
  ++at_;
  for (const auto& [letter, finger] : kFingers)
    if (!atEnd() && here().text == letter) {
      ++at_;
      return mark([finger = finger](Note& n) { n.picking = finger; });
    }
  problem(token.range, "Plucked by which finger? p for the thumb, i, m or a.");
}

/// A bent note is struck again while it is bent, any other once more.
void EntryReader::againWord() {
  const TextRange range = here().range;
  ++at_;
  int strikes = 1;
  if (is(Word::times) && here().value > 0)
    strikes = here().value, ++at_;
  else if (is(Word::number) && is(Word::times, 1))
    strikes = here().value, at_ += 2;
  const Clause::Item* fret = clause_.lastFret();
  if (fret != nullptr && fret->note.bend) return mark([strikes](Note& n) { n.bend->again = strikes; });
  flush();
  if (entry_.steps.empty()) return problem(range, "Again what? Nothing was said before it.");
  copy(entry_.steps.size() - 1, 1, std::min(strikes, 64));
}

void EntryReader::heldWord() {
  ++at_;
  const bool said = is(Word::number) && is(Word::beats, 1) && here().value > 0;
  const auto longer = [&](Beats now) { return said ? Beats(here().value) : now * 2; };
  if (Clause::Item* fret = clause_.lastFret())
    fret->length = longer(fret->length.value_or(length_));
  else if (!entry_.steps.empty())
    entry_.steps.back().length = longer(entry_.steps.back().length);
  if (said) at_ += 2;
}

/// "palm mute": from here on, until "open", "off" or "stop"; behind a fret, of that one.
void EntryReader::region(bool Note::*what) {
  bool& on = what == &Note::palmMuted ? palmMuted_ : letRing_;
  if (take(Word::off) || take(Word::stop)) {
    on = false;
    return;
  }
  if (clause_.lastFret() != nullptr || !changing_.empty())
    mark([what](Note& n) { n.*what = true; });
  else
    on = true;
}

/// What was said to hold from there on.
void EntryReader::goOn(Note& note) const {
  note.palmMuted = palmMuted_, note.letRing = letRing_;
  if (slideBar_) note.bar = SlideBar::atFret;
}

void EntryReader::slideWord() {
  const Token token = here();
  ++at_;
  if (take(Word::bar)) {  // on the finger, not between two frets
    if (clause_.lastFret() != nullptr || !changing_.empty()) return mark([](Note& n) { n.bar = SlideBar::atFret; });
    slideBar_ = true;
    return;
  }
  const bool down = token.text == "\\" || is(Word::down) || is(Word::out) || is(Word::off);
  const bool way = take(Word::up) || take(Word::down) || take(Word::out) || take(Word::off);
  std::optional<int> origin;
  if (is(Word::from) && is(Word::number, 1)) origin = here(1).value, at_ += 2;
  take(Word::to);
  lengthBeforeFret();
  const bool leads = is(Word::number) || is(Word::open);
  const bool after = clause_.lastFret() != nullptr;
  if (leads && (after || origin)) {
    next_.emplace_back([origin](Note& n) { n.attack = Attack::slidInto, n.slidFrom = origin; });
  } else if (leads) {
    next_.emplace_back([down](Note& n) { n.attack = down ? Attack::slidFromAbove : Attack::slidFromBelow; });
  } else if (way || !changing_.empty()) {
    mark([down](Note& n) { n.ending = down ? Ending::slidDown : Ending::slidUp; });
  } else {
    problem(token.range, "A slide to which fret? Or say “slide out”, “slide up”, “slide down”.");
  }
}

Size EntryReader::sizeHere() {
  const std::size_t before = at_;
  while (is(Word::article) || (is(Word::letter) && here().text == "a")) ++at_;
  double steps = 0;  // whole tones
  const auto unit = [&]() -> std::optional<double> {
    if (take(Word::step)) return 1.0;
    if (take(Word::semitone) || take(Word::fret)) return 0.5;
    return std::nullopt;
  };
  const auto part = [&]() -> std::optional<double> {
    if (take(Word::quarter)) return 0.25;
    if (take(Word::half)) return 0.5;
    if (take(Word::whole)) return 1.0;
    return std::nullopt;
  };
  if (is(Word::number) &&
      (is(Word::step, 1) || is(Word::semitone, 1) || is(Word::fret, 1) ||
       (is(Word::conjunction, 1) && (is(Word::half, 2) || (here(2).text == "a" && is(Word::half, 3)))))) {
    steps = here().value;
    ++at_;
    if (take(Word::conjunction)) {
      if (here().text == "a") ++at_;
      steps += part().value_or(0);
    }
    return Cents(200 * steps * unit().value_or(1.0));
  }
  if (const auto share = part()) {
    steps = *share;
    unit();  // "half a step", "half step"
    return Cents(200 * steps);
  }
  if (is(Word::semitone)) return ++at_, Cents(100);
  if (is(Word::step)) return ++at_, Cents(200);
  at_ = before;
  return std::nullopt;
}

void EntryReader::bendWord() {
  const Token token = here();
  ++at_;
  const bool tight = touching();
  Size size = sizeHere();
  // "12 bent to 14", "12b14": up to the pitch of that fret.
  std::optional<int> target;
  const bool to = take(Word::to);
  const Clause::Item* fret = clause_.lastFret();
  const bool onFret = fret != nullptr || !changing_.empty();
  if (is(Word::number) && onFret && !size && (to || tight)) {
    target = here().value;
    if (fret != nullptr && *target <= fret->note.place.fret)
      problem({token.range.from, here().range.to}, "A bend goes up: fret " + std::to_string(*target) +
                                                       " is not above " + std::to_string(fret->note.place.fret) + ".");
    ++at_;
  }
  mark([size, target](Note& n) {
    if (!n.bend) n.bend = Bend{};
    if (size) n.bend->size = size;
    if (target && *target > n.place.fret) n.bend->size = Cents(100.0 * (*target - n.place.fret));
  });
}

void EntryReader::preBend() {
  ++at_;
  take(Word::bend);
  const Size size = sizeHere();
  mark([size](Note& n) {
    if (!n.bend) n.bend = Bend{};
    n.bend->before = true;
    if (size) n.bend->size = size;
  });
}

void EntryReader::harmonicWord() {
  const bool pinch = take(Word::pinch);
  take(Word::harmonic);
  mark([pinch](Note& n) {
    n.harmonic = PlayedHarmonic{pinch ? PlayedHarmonic::Kind::pinch : PlayedHarmonic::Kind::natural};
  });
}

void EntryReader::tapWord() {
  const Token token = here();
  ++at_;
  if (!take(Word::harmonic)) {
    // Between two frets it is how the second one starts.
    if (is(Word::number))
      next_.emplace_back([](Note& n) { n.attack = Attack::tapped; });
    else
      mark([](Note& n) { n.attack = Attack::tapped; });
    return;
  }
  take(Word::on);
  if (!is(Word::number)) return problem(token.range, "A tapped harmonic at which fret? Say where it is touched.");
  mark([node = here().value](Note& n) { n.harmonic = PlayedHarmonic{PlayedHarmonic::Kind::tapped, node}; });
  ++at_;
}

void EntryReader::barWord() {
  const Token token = here();
  ++at_;
  if (token.word == Word::bar && take(Word::vibrato))
    return mark([](Note& n) { n.vibrato = Vibrato{Vibrato::Kind::bar}; });
  if (token.word == Word::bar && !take(Word::dive))
    return problem(token.range, "The bar does what? Say “bar dive” or “bar vibrato”.");
  const Size depth = sizeHere();
  const bool back = take(Word::back);
  mark([depth, back](Note& n) { n.dive = Dive{depth, back}; });
}

}  // namespace ear
