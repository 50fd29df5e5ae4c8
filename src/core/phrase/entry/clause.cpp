// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/entry/clause.h"

#include <algorithm>

namespace ear {
namespace {

using Item = Clause::Item;

/// Frets and the strings that are said for them.
struct Group {
  std::vector<Item> frets{}, strings{};
  TextRange range() const {
    const Item& first = frets.empty() ? strings.front() : frets.front();
    TextRange all = first.range;
    for (const auto* list : {&frets, &strings})
      for (const Item& i : *list) all = {std::min(all.from, i.range.from), std::max(all.to, i.range.to)};
    return all;
  }
};

/// Strings are said either before their frets or behind them, all through a clause.
std::vector<Group> groupsOf(const Clause& clause) {
  std::vector<Group> groups;
  const bool stringsFirst = !clause.items.empty() && clause.items.front().isString();
  for (const Item& item : clause.items) {
    const bool opens = item.isString() == stringsFirst;
    if (groups.empty() || (opens && !(stringsFirst ? groups.back().frets : groups.back().strings).empty()))
      groups.emplace_back();
    (item.isString() ? groups.back().strings : groups.back().frets).push_back(item);
  }
  return groups;
}

std::string count(std::size_t n, const char* one, const char* many) {
  return std::to_string(n) + " " + (n == 1 ? one : many);
}

class Placing {
 public:
  Placing(const Clause& clause, const Guitar& guitar, std::optional<int> string, Beats usual)
      : clause_(clause), guitar_(guitar), string_(string), usual_(usual) {}

  ClauseSteps result() {
    for (const Group& g : groupsOf(clause_)) place(g);
    return std::move(out_);
  }

 private:
  void place(const Group& g) {
    const std::size_t frets = g.frets.size(), strings = g.strings.size();
    if (frets == 0 && clause_.faulty) return;
    if (frets == 0) return fail(g.range(), "Which fret? A string is named, and no fret for it.");
    if (strings == 0) return placeWithoutStrings(g);
    if (strings == 1) {
      for (const Item& fret : g.frets) step({at(fret, *g.strings.front().string)}, fret);
    } else if (frets == 1) {
      std::vector<Note> notes;
      for (const Item& s : g.strings) notes.push_back(at(g.frets.front(), *s.string));
      atOnce(std::move(notes), g, g.frets.front());
    } else if (frets == strings) {
      std::vector<Note> notes;
      for (std::size_t i = 0; i < frets; ++i) notes.push_back(at(g.frets[i], *g.strings[i].string));
      if (clause_.together) return atOnce(std::move(notes), g, g.frets.front());
      for (std::size_t i = 0; i < frets; ++i) step({notes[i]}, g.frets[i]);
    } else {
      fail(g.range(), "These are " + count(frets, "fret", "frets") + " and " + count(strings, "string", "strings") +
                          ": say one string, or as many as there are frets.");
    }
  }

  void placeWithoutStrings(const Group& g) {
    const bool full = g.frets.size() == static_cast<std::size_t>(guitar_.strings());
    const bool damped =
        std::any_of(g.frets.begin(), g.frets.end(), [](const Item& i) { return i.note.tone == Tone::dead; });
    if (full && !clause_.singly && (damped || clause_.chord)) return shape(g);
    if (clause_.chord)
      return fail(g.range(), "A chord by its frets needs one for each of the " + std::to_string(guitar_.strings()) +
                                 " strings, low to high, with x for a silent one.");
    if (full && !clause_.singly && !string_) {
      out_.questions.push_back(
          {g.range(),
           "A chord, or one after the other?",
           {{"a chord, low string to high", "chord " + words(g)}, {"one after the other", "run " + words(g)}}});
      return;
    }
    if (string_)
      for (const Item& fret : g.frets) step({at(fret, *string_)}, fret);
    else
      out_.waiting.insert(out_.waiting.end(), g.frets.begin(), g.frets.end());
  }

  static std::string words(const Group& g) {
    std::string text;
    for (const Item& i : g.frets) text += (text.empty() ? "" : " ") + std::to_string(i.note.place.fret);
    return text;
  }

  /// One fret a string, low to high; x is a string that is not played.
  void shape(const Group& g) {
    std::vector<Note> notes;
    for (std::size_t i = 0; i < g.frets.size(); ++i)
      if (g.frets[i].note.tone != Tone::dead) notes.push_back(at(g.frets[i], static_cast<int>(i)));
    if (notes.empty()) return fail(g.range(), "No string of this chord sounds.");
    atOnce(std::move(notes), g, g.frets.front());
  }

  Note at(const Item& fret, int string) const {
    Note n = fret.note;
    n.place.string = string;
    return n;
  }

  void atOnce(std::vector<Note> notes, const Group& g, const Item& first) {
    for (std::size_t i = 0; i < notes.size(); ++i)
      for (std::size_t k = 0; k < i; ++k)
        if (notes[i].place.string == notes[k].place.string)
          return fail(g.range(), "Two notes at once on one string: only one of them can sound.");
    std::sort(notes.begin(), notes.end(), [](const Note& a, const Note& b) { return a.place.string < b.place.string; });
    step(std::move(notes), first, g.range());
  }

  void step(std::vector<Note> notes, const Item& from) { step(std::move(notes), from, from.range); }

  void step(std::vector<Note> notes, const Item& from, TextRange range) {
    for (const Note& n : notes)
      if (n.place.fret > guitar_.lastFret(n.place.string))
        fail(from.range, "This neck ends at fret " + std::to_string(guitar_.lastFret(n.place.string)) + ".");
    string_ = notes.back().place.string;
    out_.steps.push_back({std::move(notes), {}, from.length.value_or(usual_), range});
  }

  void fail(TextRange range, std::string text) { out_.problems.push_back({range, std::move(text)}); }

  const Clause& clause_;
  const Guitar& guitar_;
  std::optional<int> string_;
  Beats usual_;
  ClauseSteps out_;
};

}  // namespace

Clause::Item* Clause::lastFret() {
  const auto at = std::find_if(items.rbegin(), items.rend(), [](const Item& i) { return !i.isString(); });
  return at == items.rend() ? nullptr : &*at;
}

ClauseSteps stepsOf(const Clause& clause, const Guitar& guitar, std::optional<int> string, Beats usual) {
  return Placing(clause, guitar, string, usual).result();
}

}  // namespace ear
