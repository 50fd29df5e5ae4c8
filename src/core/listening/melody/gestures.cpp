// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/melody/gestures.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

#include "core/base/parameter.h"
#include "core/base/statistics.h"

namespace ear {
namespace {

struct Parameters {
  // Of what goes from one note to the next without a stop, 133 on one source and 103 on another were told by these.
  Seconds smearFrom = parameter("gestures.smearFrom", Seconds(0.08), "s");
  Seconds smearTo = parameter("gestures.smearTo", Seconds(0.14), "s");
  double fastest = parameter("gestures.fastest", 0.02, "s a fret");
  double leastBend = parameter("gestures.leastBend", 0.35, "semitones");
  double mostBend = parameter("gestures.mostBend", 3.4, "semitones");  ///< one and a half tones, and a hand's excess
  /// faster is another fret or another note
  double glide = parameter("gestures.glide", 0.62, "semitones a frame");
  double flat = parameter("gestures.flat", 0.2, "semitones");  ///< within which a pitch stands
  /// a finger put down is quicker, as far as a window of 50 ms can tell
  Seconds leastRise = parameter("gestures.leastRise", Seconds(0.045), "s");
  std::size_t stands = parameter("gestures.stands", std::size_t{4}, "frames");  ///< that make a level
  /// that a bend stays where it arrived
  std::size_t plateau = parameter("gestures.plateau", std::size_t{8}, "frames");
  double slowestVibrato = parameter("gestures.slowestVibrato", 3.0, "Hz");
  double fastestVibrato = parameter("gestures.fastestVibrato", 9.0, "Hz");
  double leastWidth = parameter("gestures.leastWidth", 0.07, "semitones");  ///< from the middle
  Seconds leastShake = parameter("gestures.leastShake", Seconds(0.33), "s");
  /// within which a pitch belongs to a semitone, or to a level
  double ofItsFret = parameter("gestures.ofItsFret", 0.45, "semitones");
  double leaves = parameter("gestures.leaves", 0.12, "of the bend");   ///< up to which it has not begun, or is let down
  double arrives = parameter("gestures.arrives", 0.1, "of the bend");  ///< from its top, where it has arrived
  double onSemitone = parameter("gestures.onSemitone", 0.25, "semitones");  ///< of a pre-bend's end from its fret
  /// that one line of the pitch's spectrum carries in a vibrato
  double shaken = parameter("gestures.shaken", 0.45, "of the power");
  /// by which a slide may start before the note before ends
  Seconds overlap = parameter("gestures.overlap", Seconds(-0.03), "s");
  double backwards = parameter("gestures.backwards", -0.1, "semitones a frame");  ///< of a slide that turns round
  double atLevel = parameter("gestures.atLevel", 0.4, "semitones");               ///< of both ends of a slide
  Seconds longestSlide = parameter("gestures.longestSlide", Seconds(0.6), "s");
};
const Parameters kPar{};

/// The pitch of a note frame by frame, without gaps and single strays.
struct Curve {
  std::size_t first = 0;       // frame of the line
  std::vector<double> values;  // MIDI
};

Curve curveOf(const F0Contour& line, TimeSpan span) {
  Curve curve;
  const auto from = line.clock.frameAt(span.start);
  const auto to = std::min(line.points.size(), line.clock.frameAt(span.end));
  std::vector<double> raw;
  for (std::size_t k = from; k < to; ++k) {
    if (!line.points[k].pitch) {
      if (raw.empty()) continue;
      raw.push_back(raw.back());
    } else {
      if (raw.empty()) curve.first = k;
      raw.push_back(line.points[k].pitch->value);
    }
  }
  curve.values.resize(raw.size());
  for (std::size_t i = 0; i < raw.size(); ++i) {
    std::vector<double> near;
    for (std::size_t k = i < 2 ? 0 : i - 2; k < std::min(raw.size(), i + 3); ++k) near.push_back(raw[k]);
    curve.values[i] = medianOf(std::move(near));
  }
  // What leaps is another fret, another string or an error: only the longest stretch without a leap is the note's.
  std::size_t best = 0, length = 0;
  for (std::size_t i = 0; i < raw.size();) {
    std::size_t end = i + 1;
    while (end < raw.size() && std::abs(curve.values[end] - curve.values[end - 1]) < kPar.glide) ++end;
    if (end - i > length) best = i, length = end - i;
    i = end;
  }
  curve.first += best;
  curve.values = {curve.values.begin() + static_cast<std::ptrdiff_t>(best),
                  curve.values.begin() + static_cast<std::ptrdiff_t>(best + length)};
  return curve;
}

double medianFrom(const std::vector<double>& values, std::size_t from, std::size_t to) {
  return medianOf(std::vector<double>(values.begin() + static_cast<std::ptrdiff_t>(from),
                                      values.begin() + static_cast<std::ptrdiff_t>(std::min(to, values.size()))));
}

/// The semitone of the recording's own pitch next to one.
double semitoneNear(double midi, Cents offset) {
  return std::round(midi - offset.value / 100) + offset.value / 100;
}

/// The level that frames [from, to) leave or keep: where they stand, else the semitone they start at.
double levelAtStart(const std::vector<double>& v, Cents offset) {
  const std::size_t early = std::min<std::size_t>(v.size(), 14);
  const double lowest = *std::min_element(v.begin(), v.begin() + static_cast<std::ptrdiff_t>(early));
  std::vector<double> standing;
  for (std::size_t k = 0; k < early; ++k)
    if (v[k] < lowest + kPar.flat / 2) standing.push_back(v[k]);
  if (standing.size() >= 2 * kPar.stands) return medianOf(std::move(standing));
  const double semitone = semitoneNear(lowest, offset);
  return std::abs(semitone - lowest) < kPar.ofItsFret ? semitone : lowest;
}

/// The highest level at which a curve stays for a while, and where; from there on it may be let down.
struct Top {
  double level = 0;
  std::size_t from = 0, to = 0;
};
std::optional<Top> topOf(const std::vector<double>& v) {
  if (v.size() < kPar.plateau) return std::nullopt;
  // The highest value that is held for a plateau's length, allowing for vibrato.
  double best = -1e9;
  for (std::size_t i = 0; i + kPar.plateau <= v.size(); ++i) best = std::max(best, medianFrom(v, i, i + kPar.plateau));
  Top top{best, v.size(), 0};
  std::vector<double> held;
  for (std::size_t k = 0; k < v.size(); ++k)
    if (v[k] > best - kPar.ofItsFret) {
      top.from = std::min(top.from, k);
      top.to = k + 1;
    }
  for (std::size_t k = top.from; k < top.to; ++k)
    if (v[k] > best - kPar.ofItsFret) held.push_back(v[k]);
  top.level = medianOf(std::move(held));
  return top;
}

std::optional<HeardBend> bendOf(const F0Contour& line, const Curve& curve, Cents offset) {
  const auto& v = curve.values;
  if (v.size() < 2 * kPar.plateau) return std::nullopt;
  const auto top = topOf(v);
  if (!top) return std::nullopt;
  const auto time = [&](std::size_t k) { return line.clock.timeOf(curve.first + k); };
  const std::size_t tail = std::min<std::size_t>(v.size(), kPar.plateau);
  const double start = levelAtStart(v, offset), end = medianFrom(v, v.size() - tail, v.size());
  const auto leaves = [&](double low, double high, std::size_t before) {
    std::size_t k = before;
    while (k > 0 && v[k - 1] > low + kPar.leaves * (high - low)) --k;
    return k;
  };
  if (std::max(top->level - start, top->level - end) > kPar.mostBend) return std::nullopt;
  const bool rises = top->level - start >= kPar.leastBend, falls = top->level - end >= kPar.leastBend;
  if (rises) {
    HeardBend bend{
        {time(leaves(start, top->level, top->from)), time(top->from)}, MidiPitch(start), MidiPitch(top->level)};
    std::size_t arrived = top->from;
    while (arrived < top->to && v[arrived] < top->level - kPar.arrives * (top->level - start)) ++arrived;
    bend.rise.end = time(arrived);
    if (bend.rise.length() < kPar.leastRise) return std::nullopt;
    if (falls) bend.released = time(top->to);
    return bend;
  }
  if (!falls || top->from > v.size() / 4) return std::nullopt;
  std::size_t down = top->to;
  while (down < v.size() && v[down] > end + kPar.leaves * (top->level - end)) ++down;
  if (time(down) - time(top->to) < kPar.leastRise - line.clock.timeOf(2.0)) return std::nullopt;  // a pull-off
  // It was up already and comes down: bent before the stroke.
  const double low = std::abs(semitoneNear(end, offset) - end) < kPar.onSemitone ? semitoneNear(end, offset) : end;
  HeardBend bend{{time(0), time(0)}, MidiPitch(low), MidiPitch(top->level), true};
  bend.released = time(top->to);
  return bend;
}

std::optional<HeardVibrato> vibratoOf(const F0Contour& line, const Curve& curve, const std::optional<HeardBend>& bend) {
  // The part that stands: behind the attack or the rise, before it is let down.
  std::size_t from = 6, to = curve.values.size();
  const auto frameOf = [&](Seconds t) {
    return static_cast<std::size_t>(
        std::max<std::int64_t>(0, std::llround(line.clock.placeOf(t)) - static_cast<std::int64_t>(curve.first)));
  };
  if (bend && bend->rise.end > bend->rise.start) from = std::max(from, frameOf(bend->rise.end) + 2);
  if (bend && bend->released) to = std::min(to, frameOf(*bend->released));
  if (to < from + line.clock.framesIn(kPar.leastShake)) return std::nullopt;
  const std::size_t n = to - from;
  // Without its straight trend.
  double meanX = static_cast<double>(n - 1) / 2, meanY = 0, xy = 0, xx = 0;
  for (std::size_t k = 0; k < n; ++k) meanY += curve.values[from + k] / static_cast<double>(n);
  for (std::size_t k = 0; k < n; ++k) {
    const double x = static_cast<double>(k) - meanX;
    xy += x * (curve.values[from + k] - meanY), xx += x * x;
  }
  std::vector<double> rest(n);
  double power = 0, weight = 0;
  for (std::size_t k = 0; k < n; ++k) {
    const double w =
        0.5 - 0.5 * std::cos(2 * std::numbers::pi * (static_cast<double>(k) + 0.5) / static_cast<double>(n));
    rest[k] = w * (curve.values[from + k] - meanY - xy / xx * (static_cast<double>(k) - meanX));
    power += rest[k] * rest[k], weight += w;
  }
  const auto amplitudeAt = [&](double hertz) {
    std::complex<double> sum = 0;
    for (std::size_t k = 0; k < n; ++k)
      sum += rest[k] * std::polar(1.0, -2 * std::numbers::pi * hertz * line.clock.timeOf(k).value);
    return 2 * std::abs(sum) / weight;
  };
  double best = 0, rate = 0;
  for (double hertz = kPar.slowestVibrato; hertz <= kPar.fastestVibrato; hertz += 0.05)
    if (const double a = amplitudeAt(hertz); a > best) best = a, rate = hertz;
  if (best < kPar.leastWidth || rate <= kPar.slowestVibrato || rate >= kPar.fastestVibrato) return std::nullopt;
  // One line carries most of what moves: a Hann window keeps 3/8 of a sine's power.
  const double carried = 0.5 * best * best * 3.0 / 8 * static_cast<double>(n);
  if (carried < kPar.shaken * power) return std::nullopt;
  const auto time = [&](std::size_t k) { return line.clock.timeOf(curve.first + k); };
  return HeardVibrato{{time(from), time(to)}, Hertz(rate), Cents(100 * best)};
}

/// What the line's windows make of a jump from one note to the next: about a tenth of a second, however far it goes, or
/// next to no time over many frets, through which no finger goes so fast.
/// @param way  semitones
bool isSmear(Seconds length, double way) {
  return (length > kPar.smearFrom && length < kPar.smearTo) || length.value < kPar.fastest * way;
}

/// A finger that came along the string: pitches between the two notes are passed through, one fret after the other.
std::optional<HeardSlide> slideInto(const F0Contour& line, const HeardNote& before, const HeardNote& note) {
  constexpr Seconds kLongest{0.4}, kAround{0.1};
  constexpr std::size_t kLeast = 3;  // frames
  const Seconds gap = note.span.start - before.span.end;
  if (gap > kLongest || gap < kPar.overlap) return std::nullopt;
  const double low = std::min(before.pitch.value, note.pitch.value) + 0.5;
  const double high = std::max(before.pitch.value, note.pitch.value) - 0.5;
  if (high - low < 0.5 || high - low > 12) return std::nullopt;
  const auto frame = [&](Seconds t) { return line.clock.frameBefore(t); };
  const std::size_t from = frame(before.span.end - kAround);
  const std::size_t to = std::min(line.points.size(), frame(note.span.start + kAround));
  std::size_t first = to, last = from, passed = 0;
  for (std::size_t k = from; k < to; ++k)
    if (const auto& p = line.points[k].pitch; p && p->value > low && p->value < high)
      first = std::min(first, k), last = k, ++passed;
  // All in one go, and in one direction.
  if (passed < kLeast || last + 1 - first != passed) return std::nullopt;
  const double way = note.pitch.value > before.pitch.value ? 1 : -1;
  for (std::size_t k = first + 1; k <= last; ++k)
    if (way * (line.points[k].pitch->value - line.points[k - 1].pitch->value) < kPar.backwards) return std::nullopt;
  const HeardSlide slide{{line.clock.timeOf(first), line.clock.timeOf(last + 1)}, before.pitch};
  return isSmear(slide.span.length(), high - low) ? std::nullopt : std::optional(slide);
}

/// A note that glides farther than any bend is two, with a slide from one to the other. A slide of few frets sounds as
/// a bend does and stays one.
std::optional<std::pair<PlayedNote, PlayedNote>> splitSlide(const F0Contour& line, const Curve& curve,
                                                            const HeardNote& note) {
  const auto& v = curve.values;
  if (v.size() < 2 * kPar.plateau) return std::nullopt;
  const double start = medianFrom(v, 2, 2 + kPar.stands), end = medianFrom(v, v.size() - kPar.plateau, v.size());
  if (std::abs(end - start) <= kPar.mostBend) return std::nullopt;
  const double way = end > start ? 1 : -1;
  std::size_t leaves = 0, arrives = 0;
  for (std::size_t k = 0; k < v.size(); ++k)
    if (way * (v[k] - start) < kPar.atLevel) leaves = k;
  for (arrives = leaves; arrives < v.size() && way * (end - v[arrives]) > kPar.atLevel;) ++arrives;
  const auto time = [&](std::size_t k) { return line.clock.timeOf(curve.first + k); };
  if (time(arrives) - time(leaves) > kPar.longestSlide) return std::nullopt;
  PlayedNote first{{{note.span.start, time(leaves)}, MidiPitch(start), note.certainty}};
  PlayedNote second{{{time(arrives), note.span.end}, MidiPitch(end), note.certainty}};
  second.slide = HeardSlide{{time(leaves), time(arrives)}, MidiPitch(start)};
  return std::pair{first, second};
}

/// A note that starts where the one before it is held bent: the string is struck again. The same pitch on another fret
/// or string would sound alike, but a hand has no time to go there.
void strikeAgain(const PlayedNote& before, PlayedNote& note) {
  constexpr Seconds kGap{0.06};
  if (!before.bend || before.bend->released || note.slide) return;
  const HeardBend& held = *before.bend;
  const bool here = std::abs((note.note.pitch - held.to).value) < kPar.leastBend;
  if (!here || note.note.span.start - before.note.span.end > kGap) return;
  if (note.bend && !note.bend->before) return;  // it is drawn on from there
  HeardBend bend{{note.note.span.start, note.note.span.start}, held.from, held.to, true, true};
  if (note.bend) bend.released = note.bend->released;
  note.bend = bend;
}

}  // namespace

MidiPitch frettedPitch(const PlayedNote& played) {
  return played.bend ? played.bend->from : played.note.pitch;
}

std::vector<PlayedNote> measureGestures(const F0Contour& line, const std::vector<HeardNote>& notes, Cents offset) {
  std::vector<PlayedNote> played;
  for (const HeardNote& note : notes) {
    PlayedNote p{note};
    const Curve curve = curveOf(line, note.span);
    // The second note of a double stop is not what the line follows.
    const bool own = !curve.values.empty() && std::any_of(curve.values.begin(), curve.values.end(), [&](double v) {
      return std::abs(v - note.pitch.value) < 0.5;
    });
    if (auto two = own ? splitSlide(line, curve, note) : std::nullopt) {
      played.push_back(two->first);
      played.push_back(two->second);
      continue;
    }
    if (own) {
      p.bend = bendOf(line, curve, offset);
      p.vibrato = vibratoOf(line, curve, p.bend);
      if (!played.empty()) p.slide = slideInto(line, played.back().note, note);
      if (!played.empty()) strikeAgain(played.back(), p);
    }
    played.push_back(p);
  }
  return played;
}

}  // namespace ear
