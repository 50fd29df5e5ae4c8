// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fingering.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <limits>

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
  using Ranked = std::pair<Fingering, double>;  // and its worth, the less the better

  ShapeSearch(const Guitar& guitar, const Chord& chord) : bass_(bit(chord.bass.value_or(chord.root))) {
    for (int s = 0; s < guitar.strings(); ++s) {
      strings_.push_back({guitar.open(s), {}});
      for (int fret = 0; fret <= guitar.lastFret(s); ++fret)
        strings_.back().sounds.push_back(bit(PitchClass(guitar.open(s) + fret)));
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

  std::vector<Fingering> take(std::size_t most) {
    std::stable_sort(found_.begin(), found_.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
    std::vector<Fingering> best;
    for (Ranked& found : found_) {
      if (best.size() == most) break;
      Fingering& shape = found.first;
      if (std::none_of(best.begin(), best.end(), [&](const auto& b) { return b.places == shape.places; }))
        best.push_back(std::move(shape));
    }
    return best;
  }

 private:
  /// Effort, less something for a full sound; a third at the very bottom is muddy, open strings under a high hand ring
  /// strangely.
  double worthOf(const Grip& grip) const {
    const bool open = std::any_of(places_.begin(), places_.end(), [](FretPosition p) { return p.fret == 0; });
    const bool lowThird = places_.size() > 1 && pitch(places_[1]) - pitch(places_[0]) < 5;
    return grip.effort - static_cast<double>(places_.size()) + 0.9 * grip.innerMutes +
           (open && grip.high >= 5 ? 2.0 : 0.0) + (lowThird ? 1.0 : 0.0);
  }

  int pitch(FretPosition p) const { return strings_[static_cast<std::size_t>(p.string)].open + p.fret; }

  void extend(int string, unsigned sounding) {
    if (string == static_cast<int>(strings_.size())) {
      finish(sounding);
      return;
    }
    const OneString& on = strings_[static_cast<std::size_t>(string)];
    // Not played: before the first sounding string, after the last, or one in between.
    if (places_.empty() || string - places_.back().string < 2 || (sounding & needed_) == needed_)
      extend(string + 1, sounding);
    const auto tryFret = [&](int fret) {
      if (fret >= static_cast<int>(on.sounds.size())) return;
      const unsigned sound = on.sounds[static_cast<std::size_t>(fret)];
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
    if (grip.playable() && grip.innerMutes <= 1) found_.emplace_back(Fingering{places_, grip}, worthOf(grip));
  }

  struct OneString {
    int open;                      ///< MIDI
    std::vector<unsigned> sounds;  ///< by fret, as a bit
  };
  std::vector<OneString> strings_;
  unsigned bass_, tones_ = 0, needed_ = 0;  // bit c: pitch class c
  std::size_t fewest_ = 3;
  int low_ = 1;
  std::vector<FretPosition> places_;
  std::vector<Ranked> found_;
};

}  // namespace

std::vector<Fingering> easiestShapes(const Guitar& guitar, const Chord& chord, std::size_t most, int highest) {
  ShapeSearch search(guitar, chord);
  for (int low = 1; low <= highest; ++low) search.around(low);
  return search.take(most);
}

}  // namespace ear
