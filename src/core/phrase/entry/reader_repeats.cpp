// SPDX-License-Identifier: GPL-3.0-or-later
// What an entry line says to play again.
#include <algorithm>

#include "core/phrase/entry/reader.h"

namespace ear {
namespace {

constexpr int kMostTimes = 64;  // more is a slip of the key
constexpr std::size_t kMostSteps = 512;

}  // namespace

bool EntryReader::copy(std::size_t from, std::size_t count, int times) {
  if (entry_.steps.size() + count * static_cast<std::size_t>(times) > kMostSteps) {
    problem(tokens_[at_ - 1].range, "That is more than a line can hold.");
    return false;
  }
  for (int time = 0; time < times; ++time)
    for (std::size_t i = 0; i < count; ++i) {
      EnteredStep step = entry_.steps[from + i];
      step.at = 0;  // it follows
      entry_.steps.push_back(std::move(step));
    }
  return true;
}

void EntryReader::repeat(int times) {
  const TextRange range = tokens_[at_ - 1].range;
  flush();
  if (!said_) return problem(range, "Again what? Nothing was said before it.");
  if (times < 1 || times > kMostTimes)
    return problem(range, "Up to " + std::to_string(kMostTimes) + " times can be said.");
  // Rests, "more" and "back to the first" since then belong to it.
  said_ = Said{said_->first, entry_.steps.size() - said_->first, 1};
  if (copy(said_->first, said_->count, times - 1)) said_->times = times;
}

/// "back to the first": the line's first note once more.
void EntryReader::backWord() {
  const TextRange range = here().range;
  ++at_;
  take(Word::to);
  take(Word::article);
  if (is(Word::ordinal) && here().value == 1) ++at_;
  take(Word::note);
  flush();
  if (entry_.steps.empty()) return problem(range, "Back to what? Nothing was said before it.");
  copy(0, 1);
}

/// "same", "same but last bent", "the same, second one a fret higher" as far as words are known.
void EntryReader::sameWord() {
  const TextRange range = here().range;
  ++at_;
  flush();
  if (!said_) {
    if (context_.before.empty()) return problem(range, "The same as what? Nothing was said before it.");
    said_ = Said{0, 0, 1};
    for (const Note& n : context_.before) {
      if (entry_.steps.empty() || entry_.steps.back().at != n.at - context_.before.front().at)
        entry_.steps.push_back({{}, n.at - context_.before.front().at, n.length, range}), ++said_->count;
      entry_.steps.back().notes.push_back(n);
    }
  } else {
    const std::size_t first = entry_.steps.size();
    if (!copy(said_->first, said_->count)) return;
    said_ = Said{first, said_->count, 1};
  }
  string_ = entry_.steps.back().notes.empty() ? string_ : std::optional(entry_.steps.back().notes.back().place.string);
  std::vector<std::size_t> steps;
  for (std::size_t i = 0; i < said_->count; ++i) steps.push_back(said_->first + i);
  beginChanging(std::move(steps));
}

/// "second time ...": what follows is said of that time alone.
void EntryReader::onTimeOf(int which) {
  const TextRange range = tokens_[at_ - 2].range;
  flush();
  if (!said_) return problem(range, "The second time of what? Nothing was said before it.");
  if (which == said_->times + 1 && copy(said_->first, said_->count)) ++said_->times;
  if (which > said_->times || which < 1)
    return problem(range, "It is played " + std::to_string(said_->times) + " times.");
  std::vector<std::size_t> steps;
  const std::size_t first = said_->first + said_->count * static_cast<std::size_t>(which - 1);
  for (std::size_t i = 0; i < said_->count; ++i) steps.push_back(first + i);
  beginChanging(std::move(steps));
}

/// Up to the next comma marks go to these steps; "last" and "third" choose one of them.
void EntryReader::beginChanging(std::vector<std::size_t> steps) {
  changing_ = std::move(steps);
  take(Word::comma);
  while (take(Word::but) || take(Word::conjunction) || take(Word::article)) {
  }
  const auto one = [&](std::size_t which) { changing_ = {changing_[std::min(which, changing_.size() - 1)]}; };
  if (take(Word::last)) {
    one(changing_.size() - 1);
  } else if (is(Word::ordinal) && !is(Word::string, 1) && !is(Word::time, 1)) {
    one(static_cast<std::size_t>(here().value - 1));
    ++at_;
  }
  take(Word::note);
}

/// "without the hammer": that gesture is taken away.
void EntryReader::withoutWord() {
  ++at_;
  take(Word::article);
  const Token token = here();
  ++at_;
  Change change;
  switch (token.word) {
    case Word::hammer:
    case Word::pull:
    case Word::slide:
    case Word::tap:
    case Word::rake:
      take(Word::on), take(Word::off);
      change = [](Note& n) { n.attack = Attack::plucked, n.slidFrom.reset(), n.ending = Ending::plain; };
      break;
    case Word::bend:
    case Word::bent:
      change = [](Note& n) { n.bend.reset(); };
      break;
    case Word::release:
      change = [](Note& n) {
        if (n.bend) n.bend->released = false;
      };
      break;
    case Word::vibrato:
      change = [](Note& n) { n.vibrato.reset(); };
      break;
    case Word::trill:
      change = [](Note& n) { n.trill.reset(); };
      break;
    case Word::palmMute:
      take(Word::mute);
      change = [](Note& n) { n.palmMuted = false; };
      break;
    case Word::last:
    case Word::note:
      // "without the last": one note less.
      take(Word::note);
      if (!changing_.empty()) entry_.steps[changing_.back()].notes.clear();
      return;
    default:
      return problem(token.range, "Without what? “" + token.text + "” is nothing a note does.");
  }
  if (changing_.empty() && clause_.items.empty() && said_)
    for (std::size_t i = 0; i < said_->count; ++i)
      for (Note& n : entry_.steps[said_->first + i].notes) change(n);
  else
    mark(change);
}

}  // namespace ear
