// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/chords.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

#include "core/base/parameter.h"
#include "core/base/statistics.h"
#include "core/listening/harmony/key_finder.h"
#include "core/signal/viterbi.h"
#include "core/theory/scale.h"

namespace ear {
namespace {

constexpr int kChordNone = 34, kChordFull = 50, kChordHigh = 84, kBassFull = 36, kBassHigh = 50;  // MIDI

struct Parameters {
  double step = parameter("chords.step", 0.5, "s");                       ///< where there are no beats
  double fit = parameter("chords.fit", 13.0, "per likeness");             ///< of likeness against prior and change
  double bassWeight = parameter("chords.bassWeight", 2.0, "log weight");  ///< of the root in the bass
  double change = parameter("chords.change", 3.0, "log weight");          ///< cost of another chord, on a beat
  double onDownbeat = parameter("chords.onDownbeat", 1.0, "log weight");  ///< less of it where a bar starts
  double inKey = parameter("chords.inKey", 0.8, "log weight");  ///< for a chord whose notes are all of the key's scale
  /// for a chord on the tonic of a phrase, over which a lead plays its other notes
  double onTonic = parameter("chords.onTonic", 0.8, "log weight", "240 phrases of one source and 66 of another");
  double nothing = parameter("chords.nothing", 0.50, "likeness");  ///< that silence and noise count for
  double silence = parameter("chords.silence", 0.04, "of the usual level");
  /// at most where another chord has the same notes and no bass tells
  double twin = parameter("chords.twin", 0.4, "certainty");
  Seconds shortest = parameter("chords.shortest", Seconds(0.05), "s");  ///< of a slice
  double barWithin = parameter("chords.barWithin", 0.03, "s");          ///< of a first beat, where a slice starts a bar
  /// of no chord, over a full fit, where it is silent
  double silenceOver = parameter("chords.silenceOver", 4.0, "log weight");
  /// of the logistic that turns leads into certainties
  double confidence = parameter("chords.confidence", 0.7, "per log weight");
};
const Parameters kPar{};

/// The kinds looked for, with how much likelier or not each is before hearing (log weights, by hand as the parameters).
struct Kind {
  const char* symbol;
  double prior;
};
constexpr std::array kKinds = {Kind{"", 0.0},      Kind{"m", 0.0},   Kind{"5", -1.1},    Kind{"7", -0.9},
                               Kind{"maj7", -1.0}, Kind{"m7", -0.8}, Kind{"sus2", -1.6}, Kind{"sus4", -1.4},
                               Kind{"6", -1.3},    Kind{"m6", -1.4}, Kind{"dim", -1.8},  Kind{"m7♭5", -2.0},
                               Kind{"dim7", -2.4}, Kind{"aug", -2.2}};
constexpr std::size_t kChords = kKinds.size() * 12;
constexpr std::size_t kStates = kChords + 1;  // the last: no chord

struct Template {
  Chord chord;
  std::array<double, 12> weights{};  // unit length
  double prior = 0.0;
};

std::vector<Template> templates(const std::optional<Key>& key, bool phrase) {
  static constexpr std::array<double, 4> kToneWeight = {1.0, 0.95, 0.85, 0.6};  // root, third, fifth, seventh
  std::vector<Template> list;
  for (const Kind& kind : kKinds)
    for (int root = 0; root < 12; ++root) {
      Template t{.chord = {PitchClass(root), chordType(kind.symbol), {}}, .prior = kind.prior};
      double length = 0;
      bool inside = key.has_value(), insideHarmonic = key && key->mode == Mode::minor;
      const auto tones = t.chord.type->tones;
      for (std::size_t i = 0; i < tones.size(); ++i) {
        const auto pc = static_cast<std::size_t>(PitchClass(root + tones[i]).value);
        t.weights[pc] = kToneWeight[i];
        length += kToneWeight[i] * kToneWeight[i];
        inside = inside && scaleOf(*key).contains(PitchClass(root + tones[i]));
        insideHarmonic =
            insideHarmonic && Scale{key->tonic, ScaleKind::harmonicMinor}.contains(PitchClass(root + tones[i]));
      }
      for (double& w : t.weights) w /= std::sqrt(length);
      if (inside || insideHarmonic) t.prior += kPar.inKey;
      if (phrase && key && key->tonic == t.chord.root) t.prior += kPar.onTonic;
      list.push_back(t);
    }
  return list;
}

struct Slice {
  TimeSpan span;
  bool startsBar = false;
  std::array<double, 12> chord{};  // unit length
  std::array<double, 12> bass{};   // greatest = 1
  double level = 0.0;
};

/// How much a note counts as bass: all of it down to the low strings, nothing where guitars play their chords.
double bassShare(int midi) {
  return std::clamp(static_cast<double>(kBassHigh - midi) / (kBassHigh - kBassFull), 0.0, 1.0);
}

/// How much a note counts for the chord: rising over the low strings, so that no key lies at an edge.
double chordShare(int midi) {
  return std::clamp(static_cast<double>(midi - kChordNone) / (kChordFull - kChordNone), 0.0, 1.0);
}

std::vector<Slice> slicesOf(const NoteActivations& notes, std::vector<Seconds> borders,
                            const std::vector<Seconds>& downbeats, Seconds duration) {
  if (borders.size() < 4) {
    borders.clear();
    for (double t = kPar.step; t < duration.value; t += kPar.step) borders.emplace_back(t);
  }
  std::vector<Slice> slices;
  Seconds from(0);
  for (std::size_t i = 0; i <= borders.size(); ++i) {
    const Seconds to = i < borders.size() ? std::min(borders[i], duration) : duration;
    if (to - from < kPar.shortest) continue;
    Slice s{.span = {from, to}};
    s.startsBar = std::any_of(downbeats.begin(), downbeats.end(),
                              [&](Seconds d) { return std::abs((d - from).value) < kPar.barWithin; });
    const auto begin = notes.clock.frameAt(from);
    const auto end = std::min(notes.count(), std::max(begin + 1, notes.clock.frameAt(to)));
    for (std::size_t f = begin; f < end; ++f) {
      const auto frame = notes.frame(f);
      for (int n = 0; n < NoteActivations::kNotes; ++n) {
        const int midi = NoteActivations::kLowestMidi + n;
        const double a = frame[static_cast<std::size_t>(n)];
        if (midi <= kChordHigh) s.chord[static_cast<std::size_t>(midi % 12)] += a * chordShare(midi);
        if (midi < kBassHigh) s.bass[static_cast<std::size_t>(midi % 12)] += a * bassShare(midi);
        s.level += a;
      }
    }
    s.level /= static_cast<double>(std::max<std::size_t>(1, end - std::min(begin, end)));
    double length = 0;
    for (double& c : s.chord) c = std::sqrt(c), length += c * c;
    if (length > 0)
      for (double& c : s.chord) c /= std::sqrt(length);
    const double top = *std::max_element(s.bass.begin(), s.bass.end());
    if (top > 0)
      for (double& b : s.bass) b /= top;
    slices.push_back(s);
    from = to;
  }
  return slices;
}

/// Log likelihood of each state for a slice, up to a constant.
std::array<double, kStates> likelihood(const Slice& slice, const std::vector<Template>& all, double usual) {
  std::array<double, kStates> score{};
  for (std::size_t k = 0; k < kChords; ++k) {
    const double fit = std::inner_product(slice.chord.begin(), slice.chord.end(), all[k].weights.begin(), 0.0);
    const double bass = slice.bass[static_cast<std::size_t>(all[k].chord.root.value)];
    score[k] = kPar.fit * fit + kPar.bassWeight * bass + all[k].prior;
  }
  score[kChords] = slice.level < kPar.silence * usual ? kPar.fit + kPar.silenceOver : kPar.fit * kPar.nothing;
  return score;
}

/// Chords stay, or change at a price, which is lower where bars begin.
class ChangeModel {
 public:
  ChangeModel(const std::vector<Slice>& slices, const std::vector<std::array<double, kStates>>& score)
      : slices_(slices), score_(score) {}

  static double start(std::size_t) { return 0.0; }
  void enter(std::size_t i, std::span<const double> before) {
    now_ = i;
    top_ = static_cast<std::size_t>(std::max_element(before.begin(), before.end()) - before.begin());
    change_ = kPar.change - (slices_[i].startsBar ? kPar.onDownbeat : 0.0);
  }
  template <class Come>
  void ways(std::size_t to, Come&& come) const {
    come(to, 0.0);
    come(top_, change_);
  }
  double gain(std::size_t state) const { return score_[now_][state]; }

 private:
  const std::vector<Slice>& slices_;
  const std::vector<std::array<double, kStates>>& score_;
  std::size_t now_ = 0, top_ = 0;
  double change_ = 0.0;
};

/// Whether the bass of a stretch clearly stands on another tone than the root.
bool bassStandsOn(std::span<const Slice> slices, PitchClass pc, PitchClass root) {
  double there = 0, atRoot = 0;
  for (const Slice& s : slices)
    there += s.bass[static_cast<std::size_t>(pc.value)], atRoot += s.bass[static_cast<std::size_t>(root.value)];
  return there > 2.0 * atRoot && there > 0.7 * static_cast<double>(slices.size());
}

/// The bass of a stretch when it clearly is another tone than the root.
std::optional<PitchClass> slashBass(const Chord& chord, std::span<const Slice> slices) {
  std::array<double, 12> bass{};
  for (const Slice& s : slices)
    for (std::size_t pc = 0; pc < 12; ++pc) bass[pc] += s.bass[pc];
  const auto top = static_cast<std::size_t>(std::max_element(bass.begin(), bass.end()) - bass.begin());
  const PitchClass pc(static_cast<int>(top));
  const auto tones = notesOf(chord);
  const bool inside = std::find(tones.begin(), tones.end(), pc) != tones.end();
  return inside && bassStandsOn(slices, pc, chord.root) && pc != chord.root ? std::optional(pc) : std::nullopt;
}

/// The root of the other chord that has the same four notes: a sixth chord is the minor seventh chord on its sixth.
std::optional<PitchClass> twinRoot(const Chord& chord) {
  if (chord.type == chordType("6")) return PitchClass(chord.root.value + 9);
  if (chord.type == chordType("m7")) return PitchClass(chord.root.value + 3);
  return std::nullopt;
}

/// A stretch of one chord, in slices.
struct Run {
  enum class Form { plain, overSeventh, suspended };
  std::size_t from = 0, to = 0;
  std::size_t state = kChords;
  Form form = Form::plain;
};

/// Where the bass walks down from the root to the minor seventh the chord is the same one over its seventh: a bar of it
/// is told from the bars before, and the sixth chord on the third above, which has the same notes, is taken for it.
std::vector<Run> withWalkingBass(const std::vector<Run>& runs, std::span<const Slice> slices,
                                 const std::vector<Template>& all) {
  std::vector<Run> result;
  for (Run run : runs) {
    const Chord* chord = run.state < kChords ? &all[run.state].chord : nullptr;
    const Chord* before = !result.empty() && result.back().state < kChords ? &all[result.back().state].chord : nullptr;
    const auto isA = [](const Chord* c, std::initializer_list<const char*> kinds) {
      return c != nullptr &&
             std::any_of(kinds.begin(), kinds.end(), [&](const char* k) { return c->type == chordType(k); });
    };
    const auto stands = [&](std::size_t from, std::size_t to, PitchClass root) {
      return bassStandsOn(slices.subspan(from, to - from), PitchClass(root.value + 10), root);
    };
    if (isA(before, {"m", "m7"}) && isA(chord, {"", "6"}) && chord->root == PitchClass(before->root.value + 3) &&
        stands(run.from, run.to, before->root)) {
      result.push_back({run.from, run.to, result.back().state, Run::Form::overSeventh});
      continue;
    }
    if (isA(chord, {"m", "m7"}))
      for (std::size_t k = run.from; k < run.to; ++k) {
        std::size_t bar = k + 1;
        while (bar < run.to && !slices[bar].startsBar) ++bar;
        if (!slices[k].startsBar || !stands(k, bar, chord->root)) continue;
        if (k > run.from) result.push_back({run.from, k, run.state, Run::Form::plain});
        result.push_back({k, bar, run.state, Run::Form::overSeventh});
        run.from = bar;
        k = bar - 1;
      }
    if (run.from < run.to) result.push_back(run);
  }
  return result;
}

/// A seventh chord whose fourth stands for two beats or more before it gives way to the third is suspended until then.
std::vector<Run> withSuspensions(const std::vector<Run>& runs, std::span<const Slice> slices,
                                 const std::vector<Template>& all) {
  constexpr double kStands = 1.5, kHeard = 0.25;  // over the other one; of a slice's unit length
  std::vector<Run> result;
  for (Run run : runs) {
    if (run.state < kChords && all[run.state].chord.type == chordType("7") && run.form == Run::Form::plain) {
      const auto tone = [&](std::size_t k, int interval) {
        return slices[k].chord[static_cast<std::size_t>(PitchClass(all[run.state].chord.root.value + interval).value)];
      };
      std::size_t k = run.from;
      while (k < run.to && tone(k, 5) > kHeard && tone(k, 5) > kStands * tone(k, 4)) ++k;
      if (k >= run.from + 2 && k < run.to && tone(k, 4) > kStands * tone(k, 5)) {
        result.push_back({run.from, k, run.state, Run::Form::suspended});
        run.from = k;
      }
    }
    result.push_back(run);
  }
  return result;
}

}  // namespace

std::vector<FoundChord> findChords(const NoteActivations& notes, const std::vector<Seconds>& beats,
                                   const std::vector<Seconds>& downbeats, Seconds duration,
                                   const std::optional<Key>& key) {
  const auto slices = slicesOf(notes, beats, downbeats, duration);
  if (slices.empty()) return {};
  const auto all = templates(key, duration < kSong);
  std::vector<double> levels;
  for (const Slice& s : slices) levels.push_back(s.level);
  const double usual = medianOf(std::move(levels));
  std::vector<std::array<double, kStates>> score;
  for (const Slice& s : slices) score.push_back(likelihood(s, all, usual));
  const auto path = likeliestPath(slices.size(), kStates, ChangeModel(slices, score));

  std::vector<FoundChord> found;
  std::vector<Run> runs;
  for (std::size_t i = 0; i < path.size(); ++i)
    if (i > 0 && path[i] == path[i - 1])
      runs.back().to = i + 1;
    else
      runs.push_back({i, i + 1, path[i], Run::Form::plain});
  for (const auto& [i, end, state, form] : withSuspensions(withWalkingBass(runs, slices, all), slices, all)) {
    FoundChord chord{.span = {slices[i].span.start, slices[end - 1].span.end}, .chord = {}};
    // Sure when no chord on another root or of another third comes near over the whole stretch.
    std::array<double, kStates> sum{};
    for (std::size_t k = i; k < end; ++k)
      for (std::size_t s = 0; s < kStates; ++s) sum[s] += score[k][s];
    double rival = -std::numeric_limits<double>::infinity();
    for (std::size_t s = 0; s < kChords; ++s)
      if (state == kChords || all[s].chord.root != all[state].chord.root ||
          all[s].chord.minor() != all[state].chord.minor())
        rival = std::max(rival, sum[s]);
    chord.certainty =
        1.0 / (1.0 + std::exp(-kPar.confidence * (sum[state] - rival) / std::sqrt(static_cast<double>(end - i))));
    const PitchClass root = state < kChords ? all[state].chord.root : PitchClass(0);
    // Of two chords with the same notes the bass alone tells, and it must be heard to.
    if (const auto twin = state < kChords ? twinRoot(all[state].chord) : std::nullopt;
        twin && form == Run::Form::plain && !bassStandsOn(std::span(slices).subspan(i, end - i), root, *twin))
      chord.certainty = std::min(chord.certainty, kPar.twin);
    if (form == Run::Form::suspended) {
      chord.chord = Chord{root, chordType("7sus4"), {}};
    } else if (form == Run::Form::overSeventh) {
      chord.chord = Chord{root, chordType("m7"), PitchClass(root.value + 10)};
    } else if (state < kChords) {
      chord.chord = all[state].chord;
      chord.chord->bass = slashBass(*chord.chord, std::span(slices).subspan(i, end - i));
    }
    found.push_back(chord);
  }
  return found;
}

}  // namespace ear
