#include "core/listening/guitar_setup.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numeric>

namespace ear {
namespace {

constexpr int kLowest = 38, kHighest = 79;  // MIDI of a guitar's chords
constexpr std::size_t kRange = static_cast<std::size_t>(kHighest - kLowest + 1);
constexpr int kHighestCapo = 7, kHighestGrip = 5;
constexpr std::size_t kGrips = 12;       // tried for each chord
constexpr std::size_t kMostChords = 10;  // the longest standing ones
constexpr double kMatchWeight = 30.0, kEffortWeight = 0.5;
constexpr double kUnplayable = 12.0;  // effort of a chord without any grip
constexpr double kLowLevel = 0.35;    // of a frame's strongest note
constexpr double kLowTimes = 0.03;    // of the frames: less is a stray
constexpr double kBelow = -2.5, kExact = 1.0, kAbove = -0.35, kFarAbove = -1.4;
constexpr double kLeastShare = 0.18;  // of what sounds, for a guitar at a side
constexpr double kTemper = 1.0;       // of the scores that certainties come from

using Voicing = std::array<double, kRange>;  // unit length

double dot(const Voicing& a, const Voicing& b) {
  return std::inner_product(a.begin(), a.end(), b.begin(), 0.0);
}

void normalise(Voicing& v) {
  const double length = std::sqrt(dot(v, v));
  if (length > 0)
    for (double& x : v) x /= length;
}

/// A chord of the song: what sounds while it stands, over all its stretches.
struct Heard {
  Chord chord;
  Voicing sounding{};
  double seconds = 0.0;
  Seconds at;  // of its longest stretch
};

std::vector<Heard> gather(const NoteActivity& notes, const std::vector<FoundChord>& chords) {
  std::map<std::pair<int, const ChordType*>, Heard> all;
  std::map<std::pair<int, const ChordType*>, double> longest;
  for (const FoundChord& c : chords) {
    if (!c.chord) continue;
    const auto id = std::pair{c.chord->root.value, c.chord->type};
    Heard& heard = all[id];
    heard.chord = {c.chord->root, c.chord->type, {}};
    heard.seconds += c.span.length().value;
    if (c.span.length().value > longest[id]) longest[id] = c.span.length().value, heard.at = c.span.start;
    const auto from = static_cast<std::size_t>(std::ceil(c.span.start.value * notes.rate));
    const auto to = std::min(notes.count(), static_cast<std::size_t>(c.span.end.value * notes.rate));
    for (std::size_t f = from; f < to; ++f) {
      const auto frame = notes.frame(f);
      for (std::size_t n = 0; n < kRange; ++n)
        heard.sounding[n] += frame[n + static_cast<std::size_t>(kLowest - NoteActivity::kLowestMidi)];
    }
  }
  std::vector<Heard> list;
  for (auto& [id, heard] : all) {
    for (double& x : heard.sounding) x = std::sqrt(x);
    normalise(heard.sounding);
    list.push_back(heard);
  }
  std::stable_sort(list.begin(), list.end(), [](const Heard& a, const Heard& b) { return a.seconds > b.seconds; });
  if (list.size() > kMostChords) list.resize(kMostChords);
  return list;
}

/// How usual a tuning and a capo are before hearing anything, as a log weight.
double usual(const Tuning& tuning, int capo) {
  static constexpr std::array<double, kHighestCapo + 1> kCapo = {0.0, -1.6, -1.0, -1.2, -1.3, -1.4, -2.2, -1.8};
  const auto shifts = shiftsFromStandard(tuning);
  const bool even = std::all_of(shifts.begin(), shifts.end(), [&](int s) { return s == shifts.front(); });
  double weight = kCapo[static_cast<std::size_t>(capo)];
  if (even)
    weight += shifts.front() == 0 ? 0.0 : shifts.front() == -1 || shifts.front() == -2 ? -1.2 : -2.2;
  else
    weight +=
        tuning.strings[1] - tuning.strings[0] == 7 && shifts[1] == shifts[5] ? (shifts[1] == 0 ? -0.7 : -1.6) : -2.0;
  if (even && shifts.front() != 0 && capo > 0) weight -= 2.0;  // retuned as a whole and a capo as well
  return weight;
}

struct Candidate {
  Tuning tuning;
  int capo = 0;
  double score = 0.0, match = 0.0, effort = 0.0;
  std::vector<ChordShape> grips;  // of the chords, in their order; without places where there is none
};

/// Finds the grip of each chord that agrees best with what sounds, for one tuning and capo.
Candidate weigh(const Tuning& tuning, int capo, const std::vector<Heard>& heard) {
  Candidate candidate{.tuning = tuning, .capo = capo, .grips = {}};
  const Guitar guitar{.tuning = tuning, .capo = {capo, 0}};
  double total = 0;
  for (const Heard& h : heard) {
    double best = -1e9, match = 0, effort = kUnplayable;
    ChordShape chosen;
    for (const ChordShape& shape : easiestShapes(guitar, h.chord, kGrips, kHighestGrip)) {
      Voicing played{};
      for (const Place p : shape.places) {
        const int note = guitar.pitch(p) - kLowest;
        if (note >= 0 && note < static_cast<int>(kRange)) played[static_cast<std::size_t>(note)] = 1.0;
      }
      normalise(played);
      const double fit = dot(played, h.sounding);
      const double value = kMatchWeight * fit - kEffortWeight * shape.grip.effort;
      if (value > best) best = value, match = fit, effort = shape.grip.effort, chosen = shape;
    }
    candidate.match += h.seconds * match;
    candidate.effort += h.seconds * effort;
    candidate.grips.push_back(chosen);
    total += h.seconds;
  }
  candidate.match /= total;
  candidate.effort /= total;
  candidate.score = kMatchWeight * candidate.match - kEffortWeight * candidate.effort + usual(tuning, capo);
  return candidate;
}

/// The lowest note that is heard more than in passing, or nothing.
struct LowestNote {
  int midi;
  Seconds at;
};

std::optional<LowestNote> lowestNote(const NoteActivity& notes) {
  constexpr int kFrom = 31, kTo = 55;
  std::array<int, kTo - kFrom> times{};
  std::array<std::size_t, kTo - kFrom> first{};
  double usual = 0;
  std::vector<float> top(notes.count());
  for (std::size_t i = 0; i < notes.count(); ++i) {
    const auto frame = notes.frame(i);
    top[i] = *std::max_element(frame.begin(), frame.end());
    usual += top[i] / static_cast<double>(notes.count());
  }
  int frames = 0;
  for (std::size_t i = 0; i < notes.count(); ++i) {
    if (top[i] < 0.5 * usual) continue;
    ++frames;
    for (int midi = kFrom; midi < kTo; ++midi)
      if (notes.frame(i)[static_cast<std::size_t>(midi - NoteActivity::kLowestMidi)] > kLowLevel * top[i]) {
        auto& count = times[static_cast<std::size_t>(midi - kFrom)];
        if (count++ == 0) first[static_cast<std::size_t>(midi - kFrom)] = i;
      }
  }
  for (std::size_t k = 0; k < times.size(); ++k)
    if (times[k] > kLowTimes * frames)
      return LowestNote{kFrom + static_cast<int>(k), Seconds(static_cast<double>(first[k]) / notes.rate)};
  return std::nullopt;
}

/// What the lowest note says of a lowest string.
double agreement(int lowest, int openString) {
  if (lowest < openString) return kBelow;  // no string could give it
  return lowest == openString ? kExact : std::max(kFarAbove, kAbove * (lowest - openString));
}

std::vector<SetupReason> reasonsFor(const Candidate& c, const std::vector<Heard>& heard,
                                    const std::optional<LowestNote>& lowest) {
  std::vector<SetupReason> reasons;
  if (lowest) {
    const int open = c.tuning.strings.front() + c.capo;
    const std::string note = noteName(lowest->midi, Spelling::sharps);
    reasons.push_back({lowest->midi == open  ? "The lowest note heard is " + note + ", its lowest string."
                       : lowest->midi > open ? "The lowest note heard is " + note + "; its lowest string would give " +
                                                   noteName(open, Spelling::sharps) + "."
                                             : "But " + note + " was heard, lower than any of its strings.",
                       lowest->at});
  }
  std::string shapes;
  for (std::size_t i = 0; i < heard.size() && i < 4; ++i)
    if (!c.grips[i].places.empty())
      shapes += (shapes.empty() ? "" : ", ") +
                chordName(transposed(heard[i].chord, -c.capo - commonShift(c.tuning)), Spelling::sharps) + " as " +
                fretsText(c.grips[i].places, static_cast<int>(c.tuning.count()));
  if (!shapes.empty()) reasons.push_back({"The chords lie under the hand: " + shapes + ".", heard.front().at});
  return reasons;
}

}  // namespace

std::vector<SetupReading> readGuitarSetup(const NoteActivity& notes, const std::vector<FoundChord>& chords, bool alone,
                                          std::size_t most) {
  const auto heard = gather(notes, chords);
  if (heard.empty()) return {};
  const auto lowest = alone ? lowestNote(notes) : std::nullopt;
  std::vector<Candidate> all;
  for (const auto& named : tuningCatalogue()) {
    if (named.tuning.count() != 6) continue;
    for (int capo = 0; capo <= kHighestCapo; ++capo) {
      all.push_back(weigh(named.tuning, capo, heard));
      if (lowest) all.back().score += agreement(lowest->midi, named.tuning.strings.front() + capo);
    }
  }
  std::stable_sort(all.begin(), all.end(), [](const Candidate& a, const Candidate& b) { return a.score > b.score; });
  double sum = 0;
  for (const Candidate& c : all) sum += std::exp(kTemper * (c.score - all.front().score));

  std::vector<SetupReading> readings;
  const auto add = [&](const Candidate& c) {
    readings.push_back(
        {c.tuning, {c.capo, 0}, std::exp(kTemper * (c.score - all.front().score)) / sum, reasonsFor(c, heard, lowest)});
  };
  for (const Candidate& c : all) {
    if (readings.size() == most) break;
    // Keep room for the best reading with and without a capo.
    const auto has = [&](bool capo) {
      return std::any_of(readings.begin(), readings.end(),
                         [&](const SetupReading& r) { return (r.capo.fret > 0) == capo; });
    };
    const bool lastRoom = readings.size() + 1 == most;
    if (lastRoom && !has(c.capo == 0) && !(has(true) && has(false))) continue;
    add(c);
  }
  return readings;
}

std::vector<FoundGuitar> findGuitars(const StereoField& field, const NoteActivity& mix, Cents tuning,
                                     const std::vector<FoundChord>& chords, const Progress& progress) {
  std::vector<FoundGuitar> guitars;
  for (const Side side : {Side::left, Side::right})
    if (field.shareOf(side) >= kLeastShare)
      guitars.push_back(
          {side, field.shareOf(side), readGuitarSetup(measureNotes(field.at(side), tuning, progress), chords, true)});
  std::stable_sort(guitars.begin(), guitars.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
  // In the middle a guitar cannot be told from the bass: the whole sound speaks for it.
  if (guitars.empty())
    guitars.push_back({Side::centre, field.shareOf(Side::centre), readGuitarSetup(mix, chords, false)});
  return guitars;
}

}  // namespace ear
