// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/placing.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <set>
#include <string_view>

#include "core/base/parameter.h"
#include "core/theory/fingering.h"

namespace ear {
namespace {

constexpr double kInfinity = std::numeric_limits<double>::infinity();
constexpr int kSpan = 4;            // frets under a hand
constexpr std::size_t kGrips = 40;  // of a chord that are tried

constexpr std::string_view kFitted = "bench/fit/places.py on 300 licks of each source (seeds 5501, 5502), 2026-11-29";

struct Parameters {
  double shift = parameter("placing.shift", 2.0, "effort", kFitted);  ///< of moving the hand at all
  double shiftFar = parameter("placing.shiftFar", 20.0, "effort a fret", kFitted);
  double stretch = parameter("placing.stretch", 0.8, "effort", kFitted);  ///< of a fret beyond the four under the hand
  double far = parameter("placing.far", 18.0, "effort", kFitted);         ///< of a second one beyond them
  double back = parameter("placing.back", 4.0, "effort", kFitted);        ///< of the first finger reaching back a fret
  double strings = parameter("placing.strings", 0.01, "effort a string", kFitted);  ///< of going from one to another
  double open = parameter("placing.open", 1.0, "effort", kFitted);  ///< of an open string while the hand is up the neck
  double bendThick = parameter("placing.bendThick", 0.75, "effort", kFitted);  ///< of bending one of the thick strings
  double bendLow =
      parameter("placing.bendLow", 1.5, "effort a fret", kFitted);           ///< under fret 5, where strings are stiff
  double otherString = parameter("placing.otherString", 300.0, "effort");    ///< of what is led to another string
  double away = parameter("placing.away", 0.013, "effort a fret", kFitted);  ///< of playing far from where lines lie
  double middle = parameter("placing.middle", 3.1, "fret", kFitted);         ///< where lines lie
  double wish = parameter("placing.wish", 5.0, "effort");                    ///< of leaving what is in use
  double thick = parameter("placing.thick", 2.0, "effort a string");         ///< of a string against what is wished
};
const Parameters kPar{};

/// The places of one moment and the fret of the first finger over them.
struct State {
  std::vector<FretPosition> places;
  int hand = 1;
  double own = 0.0;  // effort, whatever came before
  double cost = kInfinity;
  std::size_t from = 0;
};

struct Moment {
  std::vector<std::size_t> notes;  // indices
  std::vector<State> states;
};

class Line {
 public:
  Line(const Guitar& guitar, std::span<const NoteToPlace> notes, const PlacingWishes& wishes)
      : guitar_(guitar), notes_(notes), wishes_(wishes) {
    for (std::size_t i = 0; i < notes.size(); ++i) {
      if (optionsOf(notes[i]).empty()) {
        unplayable_.push_back(i);
        continue;
      }
      if (moments_.empty() || notes[moments_.back().notes.front()].moment != notes[i].moment) moments_.emplace_back();
      moments_.back().notes.push_back(i);
    }
    for (Moment& m : moments_) {
      fill(m);
      if (m.states.empty()) unplayable_.insert(unplayable_.end(), m.notes.begin(), m.notes.end());
    }
    std::erase_if(moments_, [](const Moment& m) { return m.states.empty(); });
    std::sort(unplayable_.begin(), unplayable_.end());
  }

  bool empty() const { return moments_.empty(); }
  const std::vector<std::size_t>& unplayable() const { return unplayable_; }

  /// Places of the first note, each of which can begin a way.
  std::vector<FretPosition> beginnings() const {
    std::set<FretPosition> found;
    if (!moments_.empty())
      for (const State& s : moments_.front().states) found.insert(s.places.front());
    return {found.begin(), found.end()};
  }

  LinePlacing easiest(FretPosition first) {
    LinePlacing way;
    way.unplayable = unplayable_;
    for (State& s : moments_.front().states) s.cost = s.places.front() == first ? s.own + begin(s) : kInfinity;
    for (std::size_t m = 1; m < moments_.size(); ++m)
      for (State& s : moments_[m].states) {
        s.cost = kInfinity;
        for (std::size_t k = 0; k < moments_[m - 1].states.size(); ++k) {
          const State& before = moments_[m - 1].states[k];
          if (before.cost >= s.cost) continue;
          if (const double cost = before.cost + s.own + step(before, s, moments_[m]); cost < s.cost)
            s.cost = cost, s.from = k;
        }
      }
    const auto& last = moments_.back().states;
    auto at = static_cast<std::size_t>(
        std::min_element(last.begin(), last.end(), [](const State& a, const State& b) { return a.cost < b.cost; }) -
        last.begin());
    way.effort = last[at].cost;
    std::vector<const State*> path(moments_.size());
    for (std::size_t m = moments_.size(); m-- > 0; at = moments_[m].states[at].from) path[m] = &moments_[m].states[at];
    tell(way, path);
    return way;
  }

 private:
  std::vector<FretPosition> optionsOf(const NoteToPlace& note) const {
    if (note.fixed) return {*note.fixed};
    auto places = placesOf(guitar_, note.midi);
    if (!wishes_.strings.empty())
      std::erase_if(places, [this](FretPosition p) { return !wishes_.strings.contains(p.string); });
    if (note.bent) std::erase_if(places, [](FretPosition p) { return p.fret == 0; });
    return places;
  }

  /// All ways to play the notes of a moment, under each hand that reaches them.
  void fill(Moment& moment) const {
    std::vector<std::vector<FretPosition>> shapes = {{}};
    for (const std::size_t i : moment.notes) {
      std::vector<std::vector<FretPosition>> longer;
      for (const auto& shape : shapes)
        for (const FretPosition p : optionsOf(notes_[i])) {
          if (std::any_of(shape.begin(), shape.end(), [&](FretPosition o) { return o.string == p.string; })) continue;
          auto with = shape;
          with.push_back(p);
          if (with.size() < 2 || reachable(with)) longer.push_back(std::move(with));
        }
      shapes = std::move(longer);
      if (shapes.size() > kGrips) keepEasiest(shapes);
    }
    for (const auto& shape : shapes) underHands(moment, shape);
  }

  static bool reachable(std::span<const FretPosition> shape) {
    int low = std::numeric_limits<int>::max(), high = 0;
    for (const FretPosition p : shape)
      if (p.fret > 0) low = std::min(low, p.fret), high = std::max(high, p.fret);
    return high == 0 || high - low <= kSpan;
  }

  static double effortOf(std::vector<FretPosition> shape) {
    std::sort(shape.begin(), shape.end());
    return gripOf(shape).effort;
  }

  static void keepEasiest(std::vector<std::vector<FretPosition>>& shapes) {
    std::vector<std::pair<double, std::size_t>> order;
    for (std::size_t i = 0; i < shapes.size(); ++i) order.emplace_back(effortOf(shapes[i]), i);
    std::sort(order.begin(), order.end());
    std::vector<std::vector<FretPosition>> kept;
    for (std::size_t i = 0; i < kGrips; ++i) kept.push_back(std::move(shapes[order[i].second]));
    shapes = std::move(kept);
  }

  void underHands(Moment& moment, const std::vector<FretPosition>& shape) const {
    int low = std::numeric_limits<int>::max(), high = 0;
    for (const FretPosition p : shape)
      if (p.fret > 0) low = std::min(low, p.fret), high = std::max(high, p.fret);
    // Four frets, one back and two beyond: as far as a hand reaches without moving.
    const int lowest = high == 0 ? 1 : std::max(1, high - kSpan - 1),
              highest = high == 0 ? guitar_.frets - kSpan : low + 1;
    for (int hand = lowest; hand <= highest; ++hand) {
      State s{shape, hand};
      s.own = kPar.away * std::abs(hand - kPar.middle);
      if (shape.size() > 1) s.own += 0.3 * effortOf(shape);
      for (std::size_t i = 0; i < shape.size(); ++i) s.own += ownOf(shape[i], hand, notes_[moment.notes[i]]);
      moment.states.push_back(std::move(s));
    }
  }

  double ownOf(FretPosition p, int hand, const NoteToPlace& note) const {
    double cost = 0;
    if (p.fret == 0) cost += hand > 3 ? kPar.open : 0.3 * kPar.open;
    if (p.fret - hand >= kSpan) cost += kPar.stretch + (p.fret - hand > kSpan ? kPar.far : 0.0);
    if (p.fret > 0 && p.fret < hand) cost += kPar.back;
    if (note.bent) {
      // Strings 0, 1 and 2 of six are wound, and heavy to push.
      if (p.string < guitar_.strings() / 2) cost += kPar.bendThick;
      cost += kPar.bendLow * std::max(0, 5 - guitar_.fromNut(p));
    }
    if (!wishes_.inUse.empty() && std::find(wishes_.inUse.begin(), wishes_.inUse.end(), p) == wishes_.inUse.end())
      cost += kPar.wish;
    return cost + kPar.thick * wishes_.thick * p.string;
  }

  double begin(const State& s) const { return wishes_.hand ? kPar.shiftFar * std::abs(s.hand - *wishes_.hand) : 0.0; }

  double step(const State& before, const State& now, const Moment& moment) const {
    double cost = 0;
    bool slid = false;
    for (std::size_t i = 0; i < now.places.size(); ++i) {
      const NoteToPlace& note = notes_[moment.notes[i]];
      if (!note.led) continue;
      slid = slid || note.slid;
      if (std::none_of(before.places.begin(), before.places.end(),
                       [&](FretPosition p) { return p.string == now.places[i].string; }))
        cost += kPar.otherString;
    }
    const int far = std::abs(now.hand - before.hand);
    if (far > 0) cost += (slid ? 0.0 : kPar.shift) + (slid ? 0.2 : 1.0) * kPar.shiftFar * far;
    return cost + kPar.strings * std::abs(now.places.front().string - before.places.front().string);
  }

  void tell(LinePlacing& way, const std::vector<const State*>& path) const {
    way.lowest = std::numeric_limits<int>::max();
    std::vector<std::pair<std::size_t, FretPosition>> placed;
    for (std::size_t m = 0; m < path.size(); ++m) {
      for (std::size_t i = 0; i < path[m]->places.size(); ++i)
        placed.emplace_back(moments_[m].notes[i], path[m]->places[i]);
      if (m > 0 && path[m]->hand != path[m - 1]->hand) ++way.shifts;
    }
    std::sort(placed.begin(), placed.end());
    for (const auto& [note, p] : placed) {
      way.places.push_back(p);
      if (p.fret == 0) ++way.open;
      if (p.fret > 0) way.lowest = std::min(way.lowest, p.fret), way.highest = std::max(way.highest, p.fret);
    }
    if (way.highest == 0) way.lowest = 0;
  }

  const Guitar& guitar_;
  std::span<const NoteToPlace> notes_;
  const PlacingWishes& wishes_;
  std::vector<Moment> moments_;
  std::vector<std::size_t> unplayable_;
};

std::string count(int n, const char* one, const char* many) {
  return std::to_string(n) + " " + (n == 1 ? one : many);
}

}  // namespace

std::vector<LinePlacing> placeLine(const Guitar& guitar, std::span<const NoteToPlace> notes,
                                   const PlacingWishes& wishes, std::size_t most) {
  Line line(guitar, notes, wishes);
  if (line.empty()) return {{.unplayable = line.unplayable()}};
  std::vector<LinePlacing> ways;
  for (const FretPosition first : line.beginnings()) ways.push_back(line.easiest(first));
  std::stable_sort(ways.begin(), ways.end(), [](const auto& a, const auto& b) { return a.effort < b.effort; });
  if (ways.size() > most) ways.resize(most);
  return ways;
}

std::string sentenceOf(const LinePlacing& placing) {
  std::string text = placing.highest == 0 ? "open strings alone"
                     : placing.lowest == placing.highest
                         ? "fret " + std::to_string(placing.lowest)
                         : "frets " + std::to_string(placing.lowest) + " to " + std::to_string(placing.highest);
  text += placing.shifts == 0 ? ", the hand stays" : ", " + count(placing.shifts, "shift", "shifts");
  if (placing.highest > 0 && placing.open > 0) text += ", " + count(placing.open, "open string", "open strings");
  if (!placing.unplayable.empty())
    text += "; " + count(static_cast<int>(placing.unplayable.size()), "note", "notes") + " cannot be played";
  return text;
}

}  // namespace ear
