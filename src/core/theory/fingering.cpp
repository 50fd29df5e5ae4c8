// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fingering.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <limits>
#include <set>

namespace ear {
namespace {

constexpr int kHandSpan = 4;  // frets a shape may reach over

/// True when stopping all strings from `from` up at `fret` silences no open string that should sound.
bool canBarre(std::span<const FretPosition> places, int fret, int from) {
  return std::none_of(places.begin(), places.end(), [&](FretPosition p) { return p.string >= from && p.fret < fret; });
}

}  // namespace

Grip gripOf(std::span<const FretPosition> places) {
  Grip grip;
  if (places.empty()) return grip;
  constexpr int kNone = std::numeric_limits<int>::max();
  int lowString = kNone, highString = 0;
  grip.low = kNone;
  for (const FretPosition p : places) {
    lowString = std::min(lowString, p.string), highString = std::max(highString, p.string);
    if (p.fret == 0) continue;
    ++grip.fingers;
    grip.low = std::min(grip.low, p.fret), grip.high = std::max(grip.high, p.fret);
  }
  grip.innerMutes = highString - lowString + 1 - static_cast<int>(places.size());
  if (grip.fingers == 0) {
    grip.low = 0;
    grip.effort = 0.5 * grip.innerMutes;
    return grip;
  }
  int onLowest = 0, firstOnLowest = kNone;
  for (const FretPosition p : places)
    if (p.fret == grip.low) ++onLowest, firstOnLowest = std::min(firstOnLowest, p.string);
  if (onLowest > 1 && canBarre(places, grip.low, firstOnLowest) && (grip.fingers > 3 || onLowest > 2)) {
    grip.barre = grip.low;
    grip.fingers -= onLowest - 1;
  }
  // Where fingers are short, one lies flat over neighbouring strings.
  int flat = 0;
  const FretPosition* before = nullptr;  // the stopped place before
  for (const FretPosition& p : places) {
    if (p.fret == 0) continue;
    const bool neighbours = before != nullptr && p.string == before->string + 1 && p.fret == before->fret;
    if (neighbours && p.fret != grip.barre && grip.fingers > 4) --grip.fingers, ++flat;
    before = &p;
  }
  const int span = grip.high - grip.low;
  // Frets get narrower up the neck, so that a stretch there costs less.
  const double stretch = std::max(0.0, span - (grip.low >= 7 ? 3.0 : 2.0));
  grip.effort = grip.fingers + (grip.barre > 0 ? 2.0 : 0.0) + 1.2 * flat + 1.5 * stretch + 0.15 * grip.low +
                0.6 * grip.innerMutes + (grip.fingers > 4 ? 6.0 * (grip.fingers - 4) : 0.0);
  return grip;
}

std::string fretsText(std::span<const FretPosition> places, int strings) {
  const bool wide = std::any_of(places.begin(), places.end(), [](FretPosition p) { return p.fret > 9; });
  std::string text;
  for (int s = 0; s < strings; ++s) {
    const auto at = std::find_if(places.begin(), places.end(), [&](FretPosition p) { return p.string == s; });
    if (wide && s > 0) text += ' ';
    text += at == places.end() ? "x" : std::to_string(at->fret);
  }
  return text;
}

namespace {

constexpr unsigned bit(PitchClass pc) {
  return 1U << pc.value;
}

/// Collects shapes of a chord string by string within one stretch of the neck.
class ShapeSearch {
 public:
  ShapeSearch(const Guitar& guitar, const Chord& chord) : bass_(bit(chord.bass.value_or(chord.root))) {
    for (int s = 0; s < guitar.strings(); ++s) {
      strings_.emplace_back();
      for (int fret = 0; fret <= guitar.lastFret(s); ++fret)
        strings_.back().push_back(bit(PitchClass(guitar.open(s) + fret)));
    }
    for (const PitchClass pc : notesOf(chord)) tones_ |= bit(pc);
    needed_ = tones_;
    const auto& tones = chord.type->tones;
    if (tones.size() > 3) needed_ &= ~bit(PitchClass(chord.root.value + 7));
    if (tones.size() > 5) needed_ &= ~bit(PitchClass(chord.root.value + tones[4]));
    fewest_ = std::min<std::size_t>(3, static_cast<std::size_t>(std::popcount(tones_)));
  }

  void around(int lowFret) {
    low_ = lowFret;
    extend(0, 0U);
  }

  /// @param cost  of a shape, the less the better
  template <class Cost>
  std::vector<Fingering> take(std::size_t most, const Cost& cost) {
    std::vector<std::pair<double, Fingering*>> ranked;
    for (Fingering& shape : found_) ranked.emplace_back(cost(shape), &shape);
    std::stable_sort(ranked.begin(), ranked.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<Fingering> best;
    for (const auto& [worth, found] : ranked) {
      if (best.size() == most) break;
      Fingering& shape = *found;
      if (std::none_of(best.begin(), best.end(), [&](const auto& b) { return b.places == shape.places; }))
        best.push_back(std::move(shape));
    }
    return best;
  }

 private:
  void extend(int string, unsigned sounding) {
    if (string == static_cast<int>(strings_.size())) {
      finish(sounding);
      return;
    }
    const auto& sounds = strings_[static_cast<std::size_t>(string)];
    // Not played: before the first sounding string, after the last, or one in between.
    if (places_.empty() || string - places_.back().string < 2 || (sounding & needed_) == needed_)
      extend(string + 1, sounding);
    const auto tryFret = [&](int fret) {
      if (fret >= static_cast<int>(sounds.size())) return;
      const unsigned sound = sounds[static_cast<std::size_t>(fret)];
      if ((sound & tones_) == 0) return;
      if (places_.empty() ? sound != bass_ : string - places_.back().string > 2) return;
      places_.push_back({string, fret});
      extend(string + 1, sounding | sound);
      places_.pop_back();
    };
    tryFret(0);
    for (int f = low_; f < low_ + kHandSpan; ++f) tryFret(f);
  }

  void finish(unsigned sounding) {
    if (places_.size() < fewest_ || (sounding & needed_) != needed_) return;
    const bool touchesLow =
        low_ == 1 || std::any_of(places_.begin(), places_.end(), [&](FretPosition p) { return p.fret == low_; });
    if (!touchesLow) return;  // found from another fret as well
    const Grip grip = gripOf(places_);
    if (grip.playable() && grip.innerMutes <= 1) found_.push_back({places_, grip});
  }

  std::vector<std::vector<unsigned>> strings_;  // what each sounds by fret, as a bit
  unsigned bass_, tones_ = 0, needed_ = 0;      // bit c: pitch class c
  std::size_t fewest_ = 3;
  int low_ = 1;
  std::vector<FretPosition> places_;
  std::vector<Fingering> found_;
};

/// Signs of a shape that are no effort of the hand.
struct ShapeSigns {
  ShapeSigns(const Guitar& guitar, const Chord& chord, const Fingering& shape) {
    std::set<int> pitches;
    for (const FretPosition p : shape.places) pitches.insert(guitar.pitch(p)), open = open || p.fret == 0;
    sounding = static_cast<int>(shape.places.size());
    doubled = sounding - static_cast<int>(pitches.size());
    mutedAbove = guitar.strings() - 1 - shape.places.back().string;
    if (sounding > 1) overBass = guitar.pitch(shape.places[1]) - guitar.pitch(shape.places[0]);
    rootBelow = !chord.bass || *chord.bass == chord.root;
  }
  int sounding = 0, doubled = 0;  // strings; of them those that repeat another one's note
  int mutedAbove = 0;             // strings above the highest that sounds
  int overBass = 12;              // semitones from the lowest note to the one above
  bool open = false, rootBelow = true;
};

}  // namespace

std::vector<Fingering> easiestShapes(const Guitar& guitar, const Chord& chord, std::size_t most, int highest) {
  ShapeSearch search(guitar, chord);
  for (int low = 1; low <= highest; ++low) search.around(low);
  // Effort, less something for a full sound; a third at the very bottom is muddy, open strings under a high hand ring
  // strangely.
  return search.take(most, [&](const Fingering& shape) {
    const ShapeSigns s(guitar, chord, shape);
    return shape.grip.effort - s.sounding + 0.9 * shape.grip.innerMutes + (s.open && shape.grip.high >= 5 ? 2.0 : 0.0) +
           (s.overBass < 5 ? 1.0 : 0.0);
  });
}

std::vector<Fingering> usualShapes(const Guitar& guitar, const Chord& chord, std::size_t most, int highest) {
  ShapeSearch search(guitar, chord);
  for (int low = 1; low <= highest; ++low) search.around(low);
  return search.take(most, [&](const Fingering& shape) {
    const Grip& grip = shape.grip;
    const ShapeSigns s(guitar, chord, shape);
    const double stretch = std::max(0, grip.high - grip.low - (grip.low >= 7 ? 3 : 2));
    double cost = 1.2 * grip.fingers + 4.0 * stretch + 1.5 * grip.low + 3.5 * grip.innerMutes;
    cost -= 3.5 * s.sounding;
    cost += 3.0 * s.doubled;
    if (s.open && grip.high >= 5) cost += 2.0;
    if (s.overBass < 5) cost += 1.5;
    // Over its root a chord has its fifth, the octave or the major third; a minor third is muddy, a second, fourth,
    // sixth or seventh there makes another chord of it.
    if (s.rootBelow && s.overBass == 3) cost += 2.0;
    if (const int step = s.overBass % 12; s.rootBelow && (step == 2 || step == 5 || step >= 9)) cost += 3.5;
    // A chord of two tones ends where the hand does.
    if (chord.type->tones.size() == 2) cost -= 2.0 * s.mutedAbove;
    return cost;
  });
}

}  // namespace ear
