// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/slips.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

#include "core/theory/fingering.h"
#include "core/theory/harmonic.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

using Kind = Slip::Kind;

constexpr Cents kWidestBend{400};  // common practice, no source: a quarter tone to two tones

/// Whether a place lies on halves, quarters, eighths ... of a beat.
bool isBinary(Beats b) {
  return (b.bottom() & (b.bottom() - 1)) == 0;
}

/// The odd part of a fraction's bottom: 3 for triplets, 5 for fives.
std::int64_t tupleOf(Beats b) {
  std::int64_t bottom = b.bottom();
  while (bottom % 2 == 0) bottom /= 2;
  return bottom;
}

class Search {
 public:
  Search(std::span<const Note> notes, const SlipContext& context) : context_(context) {
    for (const Note& n : notes) order_.push_back(&n);
    std::stable_sort(order_.begin(), order_.end(), [](const Note* a, const Note* b) {
      return std::tuple(a->at, a->voice, a->place.string, a->id) < std::tuple(b->at, b->voice, b->place.string, b->id);
    });
  }

  std::vector<Slip> all() {
    std::map<int, const Note*> before;  // on each string
    for (std::size_t i = 0; i < order_.size();) {
      std::size_t end = i;
      while (end < order_.size() && order_[end]->at == order_[i]->at) ++end;
      const auto together = std::span(order_).subspan(i, end - i);
      for (const Note* n : together) alone(*n), after(*n, before);
      atOnce(together);
      for (const Note* n : together) before[n->place.string] = n;
      i = end;
    }
    for (const int voice : {0, 1}) tuplets(voice);
    std::stable_sort(slips_.begin(), slips_.end(), [](const Slip& a, const Slip& b) { return a.at < b.at; });
    return std::move(slips_);
  }

 private:
  void say(Kind kind, std::vector<int> notes, Beats at, std::vector<int> values = {}) {
    slips_.push_back({kind, std::move(notes), at, std::move(values)});
  }

  /// What one note says of itself.
  void alone(const Note& n) {
    const Guitar& g = context_.guitar;
    if (n.place.string >= g.strings() || n.place.fret > g.lastFret(n.place.string))
      return say(Kind::besideNeck, {n.id}, n.at, {n.place.string < g.strings() ? g.lastFret(n.place.string) : 0});
    if (n.bend) {
      if (n.place.fret == 0) say(Kind::openBend, {n.id}, n.at);
      if (!n.bend->size)
        say(Kind::noBendSize, {n.id}, n.at);
      else if (*n.bend->size > kWidestBend)
        say(Kind::wideBend, {n.id}, n.at, {static_cast<int>(std::lround(n.bend->size->value))});
    }
    if (n.harmonic && n.harmonic->kind != PlayedHarmonic::Kind::pinch && !pitchAtStart(g, n))
      say(Kind::noHarmonic, {n.id}, n.at,
          {n.harmonic->kind == PlayedHarmonic::Kind::natural ? n.place.fret : n.harmonic->node});
    if (!context_.meant.contains(n.id)) inScale(n);
  }

  /// A note is outside of the scale where neither its fret nor what it is bent to belongs to it.
  void inScale(const Note& n) {
    const auto sounding = n.bend ? bendTarget(context_.guitar, n) : pitchAtStart(context_.guitar, n);
    if (!sounding) return;
    const int midi = static_cast<int>(std::lround(sounding->value));
    const ScaleStretch* stretch = stretchAt(context_.scales, n.at);
    if (stretch != nullptr && !stretch->scale.contains(PitchClass(midi))) say(Kind::outsideScale, {n.id}, n.at, {midi});
  }

  /// How a note follows the one before it on its string, and what a hammer-on or pull-off starts from.
  void after(const Note& n, const std::map<int, const Note*>& before) {
    const auto there = before.find(n.place.string);
    const Note* last = there == before.end() ? nullptr : there->second;
    if (last != nullptr && last->end() > n.at && last->voice == n.voice && last->at < n.at)
      say(Kind::overlap, {last->id, n.id}, last->at);
    const bool up = n.attack == Attack::hammeredOn, down = n.attack == Attack::pulledOff;
    if (!up && !down) return;
    // A hammer-on out of nowhere and a pull-off from a note that is not written down are played; one from a note that
    // has just sounded elsewhere is a slip of the string.
    const bool fromThere = last != nullptr && last->end() == n.at;
    if (!fromThere) {
      for (const auto& [string, other] : before)
        if (other->end() == n.at && other->voice == n.voice) return say(Kind::slurElsewhere, {other->id, n.id}, n.at);
      return;
    }
    const int from = last->place.fret, to = n.place.fret;
    if (up && to <= from) say(Kind::hammerDown, {last->id, n.id}, n.at, {from, to});
    if (down && to >= from && !last->bend) say(Kind::pullUp, {last->id, n.id}, n.at, {from, to});
  }

  void atOnce(std::span<const Note* const> together) {
    std::vector<FretPosition> places;
    std::vector<int> ids;
    for (const Note* n : together) {
      const auto same =
          std::find_if(places.begin(), places.end(), [&](FretPosition p) { return p.string == n->place.string; });
      if (same != places.end()) {
        say(Kind::sameString, {ids[static_cast<std::size_t>(same - places.begin())], n->id}, n->at);
        continue;
      }
      places.push_back(n->place), ids.push_back(n->id);
    }
    if (places.size() < 2) return;
    std::sort(places.begin(), places.end());
    // A bar over the strings stops all of them; a tapping hand helps.
    if (std::any_of(together.begin(), together.end(),
                    [](const Note* n) { return n->bar != SlideBar::none || n->attack == Attack::tapped; }))
      return;
    if (const Grip grip = gripOf(places); !grip.playable())
      say(Kind::noHand, std::move(ids), together.front()->at, {grip.low, grip.high});
  }

  /// Notes of a tuplet that follow each other have to end where plain values can go on.
  void tuplets(int voice) {
    std::vector<const Note*> run;
    const auto close = [&] {
      if (run.empty()) return;
      const Beats each = run.back()->length, end = run.back()->end();
      if (!isBinary(end - run.front()->at)) {
        int missing = 0;
        for (Beats place = end; !isBinary(place - run.front()->at) && missing < 16; place += each) ++missing;
        std::vector<int> ids;
        for (const Note* n : run) ids.push_back(n->id);
        const int count = static_cast<int>(run.size());
        say(Kind::tupletOpen, std::move(ids), run.front()->at, {count, count + missing});
      }
      run.clear();
    };
    for (const Note* n : order_) {
      if (n->voice != voice || n->free) continue;
      if (!run.empty() && n->at == run.back()->at) continue;  // of the same chord
      const bool goesOn =
          !run.empty() && n->at == run.back()->end() && tupleOf(n->length) == tupleOf(run.front()->length);
      if (!goesOn) close();
      if (tupleOf(n->length) > 1) run.push_back(n);
    }
    close();
  }

  const SlipContext& context_;
  std::vector<const Note*> order_;
  std::vector<Slip> slips_;
};

std::string count(int n, const char* one, const char* many) {
  return std::to_string(n) + " " + (n == 1 ? one : many);
}

}  // namespace

Slip::Weight Slip::weight() const {
  if (kind == Kind::noBendSize) return Weight::unsaid;
  return kind < Kind::wideBend ? Weight::wrong : Weight::odd;
}

std::vector<Slip> slipsIn(std::span<const Note> notes, const SlipContext& context) {
  return Search(notes, context).all();
}

std::vector<Slip> slipsWhileTyped(const Entry& entry, std::span<const Note> before, const SlipContext& context) {
  std::vector<Note> notes;
  if (!before.empty() && !before.back().free) {
    notes.push_back(before.back());
    notes.back().id = 0;
    notes.back().at = -notes.back().length;
  }
  for (std::size_t i = 0; i < entry.steps.size(); ++i)
    for (Note n : entry.steps[i].notes) {
      n.id = static_cast<int>(i) + 1;
      notes.push_back(std::move(n));
    }
  auto slips = slipsIn(notes, context);
  std::erase_if(slips, [](const Slip& s) { return s.notes == std::vector<int>{0}; });
  return slips;
}

std::string sentenceOf(const Slip& slip, const SlipContext& context, const NotationPreferences& schools,
                       Spelling spelling) {
  const auto value = [&](std::size_t i) { return std::to_string(slip.values.at(i)); };
  switch (slip.kind) {
    case Kind::besideNeck:
      return "This neck ends at fret " + value(0) + ".";
    case Kind::sameString:
      return "Two notes start together on one string: only one of them can sound.";
    case Kind::noHand:
      return "No hand reaches from fret " + value(0) + " to " + value(1) +
             " here: one of the notes is another guitar's, or lies elsewhere.";
    case Kind::hammerDown:
      return "A hammer-on goes up, and fret " + value(1) + " is not above " + value(0) + ".";
    case Kind::pullUp:
      return "A pull-off goes down, and fret " + value(1) + " is not below " + value(0) + ".";
    case Kind::slurElsewhere:
      return "A hammer-on or pull-off stays on the string of the note before it.";
    case Kind::noHarmonic:
      return "No harmonic speaks over fret " + value(0) + ": over 12, 7, 5, 4 and 9 one does.";
    case Kind::wideBend:
      return "A bend of " + bendName(schools, Cents(slip.values.at(0))) + " (" + value(0) +
             " cents) is more than most strings take.";
    case Kind::openBend:
      return "An open string cannot be bent but behind the nut or by the bar.";
    case Kind::overlap:
      return "The note still sounds when the next one starts on its string: it ends there.";
    case Kind::outsideScale:
      if (const ScaleStretch* stretch = stretchAt(context.scales, slip.at))
        return noteName(slip.values.at(0), spelling) + " is not in " + pitchClassName(stretch->scale.tonic, spelling) +
               " " + std::string(scaleName(stretch->scale.kind)) + ": meant, or a slip?";
      return noteName(slip.values.at(0), spelling) + " is outside of the stated scale: meant, or a slip?";
    case Kind::tupletOpen:
      return "Of a tuplet there " + std::string(slip.values.at(0) == 1 ? "is " : "are ") +
             count(slip.values.at(0), "note", "notes") + " where " + value(1) + " fill it.";
    case Kind::noBendSize:
      return "How far is it bent? Nobody has said yet.";
  }
  return {};
}

}  // namespace ear
