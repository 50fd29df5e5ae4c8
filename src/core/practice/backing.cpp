// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/backing.h"

#include <algorithm>
#include <map>

#include "core/theory/fingering.h"

namespace ear {
namespace {

constexpr Seconds kBlink{0.06};                                // by which a chord may be late and still be the beat's
constexpr Seconds kDown{0.014}, kUp{0.010};                    // from one string to the next
constexpr double kFirst = 0.2, kBeat = 0.15, kBetween = 0.08;  // levels of a string
constexpr std::size_t kUpStrings = 3;                          // that an upstroke reaches
constexpr Seconds kRing{3.0};

/// One stroke over the strings of a grip.
struct Stroke {
  Seconds at, until;
  bool up = false;
  double level = kBeat;
};

class Hand {
 public:
  Hand(const Guitar& guitar, int rate) : guitar_(guitar), rate_(rate) {}

  void strike(const Stroke& s, const Chord& chord) {
    std::vector<FretPosition> places = gripOn(chord);
    if (s.up) {
      std::reverse(places.begin(), places.end());
      places.resize(std::min(places.size(), kUpStrings));
    }
    Seconds at = s.at;
    for (const FretPosition& place : places) {
      WrittenLine::Strike strike;
      strike.from = at.value * rate_;
      strike.until = s.until.value * rate_;
      strike.string = static_cast<std::size_t>(place.string);
      strike.pluck.pitch = guitar_.frequency(place);
      strike.pluck.level = s.level;
      strike.pluck.ring = kRing;
      if (at < s.until && strike.string < WrittenLine::kStrings) strikes_.push_back(strike);
      at += s.up ? kUp : kDown;
    }
  }
  /// A string that is struck again stops what it sounded.
  std::vector<WrittenLine::Strike> take() && {
    std::stable_sort(strikes_.begin(), strikes_.end(), [](const auto& a, const auto& b) { return a.from < b.from; });
    std::map<std::size_t, std::size_t> last;
    for (std::size_t i = 0; i < strikes_.size(); ++i) {
      const auto before = last.find(strikes_[i].string);
      if (before != last.end())
        strikes_[before->second].until = std::min(strikes_[before->second].until, strikes_[i].from);
      last[strikes_[i].string] = i;
    }
    return std::move(strikes_);
  }

 private:
  std::vector<FretPosition> gripOn(const Chord& chord) {
    const std::string name = chordName(chord, Spelling::sharps);
    auto known = grips_.find(name);
    if (known == grips_.end()) {
      const auto shapes = usualShapes(guitar_, chord, 1);
      known = grips_.emplace(name, shapes.empty() ? std::vector<FretPosition>() : shapes.front().places).first;
      std::sort(known->second.begin(), known->second.end());
    }
    return known->second;
  }

  const Guitar& guitar_;
  int rate_;
  std::map<std::string, std::vector<FretPosition>> grips_;  // from the lowest string
  std::vector<WrittenLine::Strike> strikes_;
};

const ShownChord* chordAt(std::span<const ShownChord> chords, Seconds t) {
  const auto found =
      std::find_if(chords.begin(), chords.end(), [&](const ShownChord& c) { return c.span.contains(t); });
  return found == chords.end() || !found->chord || !isSettled(*found) ? nullptr : &*found;
}

}  // namespace

std::vector<WrittenLine::Strike> strummed(TimeSpan span, const Grid& grid, std::span<const ShownChord> chords,
                                          const Swing& swing, const Guitar& guitar, int sampleRate) {
  Hand hand(guitar, sampleRate);
  const double share = swing.level == SwingLevel::eighths ? swingShare(swing.ratio) : 0.5;
  for (std::size_t i = 0; i < grid.size(); ++i) {
    const Seconds at = grid[i].time;
    if (at < span.start - kBlink || at >= span.end - kBlink) continue;
    const Seconds next = i + 1 < grid.size() ? std::min(grid[i + 1].time, span.end) : span.end;
    const Seconds between = at + (next - at) * share;
    // Until something else is struck or the chord ends, whichever comes first; a grip goes on ringing over its beats.
    const auto until = [&](const ShownChord& c) { return std::min(span.end, std::max(next, c.span.end)); };
    if (const ShownChord* c = chordAt(chords, at + kBlink))
      hand.strike({std::max(span.start, at), until(*c), false, grid[i].bar ? kFirst : kBeat}, *c->chord);
    if (const ShownChord* c = chordAt(chords, between + kBlink))
      hand.strike({between, until(*c), true, kBetween}, *c->chord);
  }
  return std::move(hand).take();
}

std::vector<Click::Tick> ticksIn(TimeSpan span, const Grid& grid, int sampleRate) {
  std::vector<Click::Tick> ticks;
  for (const Beat& b : grid)
    if (b.time >= span.start - kBlink && b.time < span.end - kBlink)
      ticks.push_back({std::max(span.start, b.time).value * sampleRate, b.bar});
  return ticks;
}

}  // namespace ear
