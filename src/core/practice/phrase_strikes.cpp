// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/phrase_strikes.h"

#include <algorithm>
#include <cmath>

#include "core/theory/pitch.h"

namespace ear {
namespace {

using Move = PluckedString::Move;

constexpr double kLevel = 0.25, kGhost = 0.35, kPulled = 0.5;  // of a pluck; shares of it
constexpr Seconds kRing{5.0}, kMuted{0.35}, kDead{0.06};       // until 60 dB are gone
constexpr Seconds kLetRing{3.0};                               // beyond the written end, unless the string is needed
constexpr Seconds kBend{0.14}, kSlide{0.07};                   // where the note is long enough
constexpr double kUsualVibrato = 5.5;                          // Hz (common practice, no source: 4 to 8)
constexpr Cents kUsualWidth{25}, kWideWidth{60};
constexpr double kUsualTrill = 8.0;     // changes a second
constexpr double kUsualTremolo = 10.0;  // strokes a second

/// One note with its time.
struct Timed {
  const Note* note;
  TimeSpan span;
};

class StringLine {
 public:
  StringLine(const Guitar& guitar, int rate, double pan) : guitar_(guitar), rate_(rate), pan_(pan) {}

  void add(const Timed& t) {
    const Note& n = *t.note;
    const bool leads = n.attack == Attack::hammeredOn || n.attack == Attack::pulledOff || n.attack == Attack::slidInto;
    // A led note goes on with the string that sounds, if it still does.
    if (leads && open_ && t.span.start - end_ < Seconds(0.05) && roomFor(n))
      leadInto(t);
    else
      strike(t);
    gestures(t);
    if (n.tremolo && !n.bend && !n.dive) strokes(t);  // a new stroke would start from the fret
    end_ = t.span.end;
  }

  std::vector<WrittenLine::Strike> take() {
    close(Seconds(1e9));
    return std::move(done_);
  }

 private:
  bool roomFor(const Note& n) const {
    const std::size_t needed = n.vibrato || n.trill ? 12 : 4;
    return strike_.pluck.moves.count + needed < PluckedString::kMostMoves;
  }

  /// What the string sounds at over the pluck's own pitch, in cents.
  Cents over(MidiPitch pitch) const { return Cents(100 * (pitch - plucked_).value); }

  MidiPitch pitchOf(const Note& n) const {
    if (const auto start = pitchAtStart(guitar_, n)) return *start;
    return MidiPitch(guitar_.pitch(n.place));
  }

  void move(Seconds at, Cents to, Seconds over, double stroke = 0.0) {
    auto& moves = strike_.pluck.moves;
    if (moves.count == PluckedString::kMostMoves) return;
    const Seconds before = moves.count > 0 ? moves.all[moves.count - 1].after : Seconds(0);
    moves.all[moves.count++] = {std::max({Seconds(0), before, at - start_}), to, over, stroke};
  }

  void strike(const Timed& t) {
    close(t.span.start);
    const Note& n = *t.note;
    plucked_ = pitchOf(n);
    start_ = t.span.start;
    strike_ = {};
    strike_.from = t.span.start.value * rate_;
    strike_.string = static_cast<std::size_t>(n.place.string);
    strike_.pluck.pitch = frequencyOf(plucked_, a4At(guitar_.offset));
    strike_.pluck.level = kLevel * (n.tone == Tone::ghost ? kGhost : 1.0);
    strike_.pluck.pan = pan_;
    strike_.pluck.ring = n.tone == Tone::dead ? kDead : n.palmMuted ? kMuted : kRing;
    open_ = true;
    const std::optional<int> from = n.attack == Attack::slidInto        ? n.slidFrom
                                    : n.attack == Attack::slidFromBelow ? std::optional(n.place.fret - 3)
                                    : n.attack == Attack::slidFromAbove ? std::optional(n.place.fret + 3)
                                                                        : std::nullopt;
    if (from && *from != n.place.fret) {
      // It starts where the finger does and is there after the slide.
      move(t.span.start, Cents(100.0 * (*from - n.place.fret)), Seconds(0));
      move(t.span.start + Seconds(0.02), Cents(0), kSlide);
    }
  }

  void leadInto(const Timed& t) {
    const Note& n = *t.note;
    const bool slid = n.attack == Attack::slidInto;
    const Seconds takes = slid ? std::min(kSlide, t.span.start - start_) : Seconds(0);
    move(t.span.start - takes, over(pitchOf(n)), takes, slid ? 0.0 : kPulled);
  }

  void gestures(const Timed& t) {
    const Note& n = *t.note;
    const Seconds from = t.span.start, length = t.span.length();
    const Cents base = over(MidiPitch(guitar_.pitch(n.place)));
    Cents at = over(pitchOf(n));
    if (n.bend && n.bend->size) {
      const Cents top = base + *n.bend->size;
      if (!n.bend->before) move(from + length * 0.1, top, std::min(kBend, length * 0.4));
      at = top;
      for (int i = 0; i < n.bend->again; ++i)
        move(from + length * (static_cast<double>(i + 1) / (n.bend->again + 1)), top, Seconds(0), 1.0);
      if (n.bend->released) move(from + length * 0.6, base, std::min(kBend, length * 0.3)), at = base;
    }
    if (n.vibrato)
      wave(t, at, n.vibrato->rate.value_or(Hertz(kUsualVibrato)).value,
           n.vibrato->width.value_or(n.vibrato->kind == Vibrato::Kind::finger ? kUsualWidth : kWideWidth));
    if (n.trill) {
      const Cents other = over(MidiPitch(guitar_.pitch({n.place.string, n.trill->fret})));
      const double rate = n.trill->rate.value_or(Hertz(kUsualTrill)).value;
      for (int i = 1; Seconds(i / rate) < length && roomFor(n); ++i)
        move(from + Seconds(i / rate), i % 2 == 1 ? other : at, Seconds(0), kPulled / 2);
    }
    if (n.dive) move(from + length * 0.4, at - n.dive->depth.value_or(Cents(700)), length * 0.4);
    if (n.ending == Ending::slidUp || n.ending == Ending::slidDown)
      move(t.span.end - std::min(kSlide * 2, length * 0.5), at + Cents(n.ending == Ending::slidUp ? 500 : -500),
           std::min(kSlide * 2, length * 0.5));
    const bool shortened = n.staccato || n.ending == Ending::choked;
    until_ = shortened ? from + length * 0.5 : n.letRing ? t.span.end + kLetRing : t.span.end;
  }

  /// Struck anew while it lasts.
  void strokes(const Timed& t) {
    const double inAll = t.note->tremolo->strokesInBeat > 0 && !t.note->free
                             ? t.note->tremolo->strokesInBeat * t.note->length.value()
                             : kUsualTremolo * t.span.length().value;
    for (int i = 1; i < std::lround(inAll); ++i) {
      const Timed stroke{t.note, {t.span.start + t.span.length() * (i / inAll), t.span.end}};
      const Seconds until = until_;
      strike(stroke);
      until_ = until;
    }
  }

  /// Half waves from the middle up and down, in the latter part of the note.
  void wave(const Timed& t, Cents middle, double rate, Cents width) {
    const Seconds half(0.5 / rate);
    Seconds at = t.span.start + std::min(Seconds(0.15), t.span.length() * 0.3);
    for (int i = 0; at + half < t.span.end && roomFor(*t.note); ++i, at += half)
      move(at, i % 2 == 0 ? middle + width : middle, half);
  }

  void close(Seconds next) {
    if (open_) {
      strike_.until = std::min(until_, next).value * rate_;
      done_.push_back(strike_);
    }
    open_ = false;
  }

  const Guitar& guitar_;
  int rate_;
  double pan_;
  bool open_ = false;
  WrittenLine::Strike strike_;
  MidiPitch plucked_;
  Seconds start_, end_{-1e9}, until_;
  std::vector<WrittenLine::Strike> done_;
};

}  // namespace

std::vector<WrittenLine::Strike> strikesOf(std::span<const Note> notes, const PhraseTime& time, const Guitar& guitar,
                                           int sampleRate, double pan) {
  std::vector<std::vector<Timed>> strings(static_cast<std::size_t>(guitar.strings()));
  for (const Note& n : notes) {
    const auto span = time.spanOf(n);
    if (!span || n.place.string >= guitar.strings() || !(span->length() > Seconds(0))) continue;
    strings[static_cast<std::size_t>(n.place.string)].push_back({&n, *span});
  }
  std::vector<WrittenLine::Strike> all;
  for (auto& line : strings) {
    std::stable_sort(line.begin(), line.end(),
                     [](const Timed& a, const Timed& b) { return a.span.start < b.span.start; });
    StringLine string(guitar, sampleRate, pan);
    for (const Timed& t : line) string.add(t);
    for (auto& strike : string.take()) all.push_back(strike);
  }
  return all;
}

}  // namespace ear
