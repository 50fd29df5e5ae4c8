// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/guitar/guitar_setup.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numeric>

#include "core/base/parameter.h"
#include "core/theory/fingering.h"

namespace ear {
namespace {

constexpr int kLowest = 40, kHighest = 81;  // MIDI of what is compared: below it a bass would speak for the guitar
constexpr std::size_t kRange = static_cast<std::size_t>(kHighest - kLowest + 1);

constexpr int kHighestCapo = 7;

struct Parameters {
  int highestGrip = parameter("guitarSetup.highestGrip", 5, "frets");
  std::size_t grips = parameter("guitarSetup.grips", std::size_t{12}, "a chord");     ///< tried for each chord
  std::size_t mostChords = parameter("guitarSetup.mostChords", std::size_t{10}, "");  ///< the longest standing ones
  double enough = parameter("guitarSetup.enough", 6.0, "s");  ///< of a chord that count as all it has to say
  /// of a cosine: how sharply a grip must fit what sounds
  double matchWeight = parameter("guitarSetup.matchWeight", 20.0, "per cosine");
  double choice = parameter("guitarSetup.choice", 0.3, "per effort");
  /// of effort: in choosing a grip, and in choosing the setup for a song
  double comfort = parameter("guitarSetup.comfort", 0.3, "per effort");
  double noGrip = parameter("guitarSetup.noGrip", 13.0, "log weight");      ///< lost by a chord that has no grip
  double unplayable = parameter("guitarSetup.unplayable", 12.0, "effort");  ///< of it
  double barreEffort = parameter("guitarSetup.barreEffort", 3.0, "effort");
  double alongNeck = parameter("guitarSetup.alongNeck", 0.1, "effort a fret");
  double barreStyle = parameter("guitarSetup.barreStyle", -3.0, "log weight");
  /// log weights of playing barre chords throughout
  double barreWithCapo = parameter("guitarSetup.barreWithCapo", -4.0, "log weight");
  double lowLevel = parameter("guitarSetup.lowLevel", 0.35, "of the strongest note");
  double lowTimes = parameter("guitarSetup.lowTimes", 0.03, "share of frames");  ///< of the frames: less is a stray
  double below = parameter("guitarSetup.below", -2.5, "log weight");
  double exact = parameter("guitarSetup.exact", 1.0, "log weight");
  double above = parameter("guitarSetup.above", -0.35, "log weight");
  double farAbove = parameter("guitarSetup.farAbove", -1.4, "log weight");
  double leastShare = parameter("guitarSetup.leastShare", 0.18, "of what sounds");
  double mainShare = parameter("guitarSetup.mainShare", 0.3, "of what sounds");  ///< for a guitar at a side
  /// of all strings down a semitone or a tone
  double evenUsual = parameter("guitarSetup.evenUsual", -1.2, "log weight");
  double evenOther = parameter("guitarSetup.evenOther", -2.2, "log weight");  ///< of all strings shifted otherwise
  double retunedAndCapo = parameter("guitarSetup.retunedAndCapo", -2.0, "log weight");  ///< of both at once
  /// from which a frame tells the lowest note
  double sounding = parameter("guitarSetup.sounding", 0.5, "of the mean level");
};
const Parameters kPar{};

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

std::vector<Heard> gather(const NoteActivations& notes, const std::vector<FoundChord>& chords) {
  std::map<std::pair<int, const ChordType*>, Heard> all;
  std::map<std::pair<int, const ChordType*>, double> longest;
  for (const FoundChord& c : chords) {
    if (!c.chord) continue;
    const auto id = std::pair{c.chord->root.value, c.chord->type};
    Heard& heard = all[id];
    heard.chord = {c.chord->root, c.chord->type, {}};
    heard.seconds += c.span.length().value;
    if (c.span.length().value > longest[id]) longest[id] = c.span.length().value, heard.at = c.span.start;
    const auto from = static_cast<std::size_t>(std::ceil(notes.clock.placeOf(c.span.start)));
    const auto to = std::min(notes.count(), notes.clock.frameBefore(c.span.end));
    for (std::size_t f = from; f < to; ++f) {
      const auto frame = notes.frame(f);
      for (std::size_t n = 0; n < kRange; ++n)
        heard.sounding[n] += frame[n + static_cast<std::size_t>(kLowest - NoteActivations::kLowestMidi)];
    }
  }
  std::vector<Heard> list;
  for (auto& [id, heard] : all) {
    for (double& x : heard.sounding) x = std::sqrt(x);
    normalise(heard.sounding);
    list.push_back(heard);
  }
  std::stable_sort(list.begin(), list.end(), [](const Heard& a, const Heard& b) { return a.seconds > b.seconds; });
  if (list.size() > kPar.mostChords) list.resize(kPar.mostChords);
  return list;
}

/// How usual a tuning and a capo are before hearing anything, as a log weight.
double usual(const Tuning& tuning, int capo) {
  static constexpr std::array<double, kHighestCapo + 1> kCapo = {0.0, -1.6, -1.0, -1.2, -1.3, -1.4, -2.2, -1.8};
  const auto shifts = shiftsFromStandard(tuning);
  const bool even = std::all_of(shifts.begin(), shifts.end(), [&](int s) { return s == shifts.front(); });
  double weight = kCapo[static_cast<std::size_t>(capo)];
  if (even)
    weight += shifts.front() == 0                            ? 0.0
              : shifts.front() == -1 || shifts.front() == -2 ? kPar.evenUsual
                                                             : kPar.evenOther;
  else
    weight +=
        tuning.strings[1] - tuning.strings[0] == 7 && shifts[1] == shifts[5] ? (shifts[1] == 0 ? -0.7 : -1.6) : -2.0;
  if (even && shifts.front() != 0 && capo > 0) weight += kPar.retunedAndCapo;  // retuned as a whole and a capo as well
  return weight;
}

/// A grip of a chord on a tuning without capo.
struct Known {
  Fingering shape;
  std::vector<int> notes;  // MIDI
  double effort = 0.0;
};

/// The grips of a chord by the two ways to play: with what is easiest in the open position, and with barre and power
/// chords moved along the neck.
struct Grips {
  std::vector<Known> open, moved;
};

Grips gripsOf(const Tuning& tuning, const Chord& chord) {
  Grips grips;
  const Guitar bare{.tuning = tuning};
  for (const Fingering& shape : easiestShapes(bare, chord, kPar.grips, kPar.highestGrip))
    grips.open.push_back({shape, pitchesOf(bare, shape.places), shape.grip.effort});
  // A barre is a capo that moves: the easiest shapes over it with the root open on one of the two lowest strings.
  constexpr int kRootStrings = 2, kLastBarre = 11;
  constexpr std::size_t kEach = 2;
  for (int string = 0; string < kRootStrings; ++string) {
    const int fret = PitchClass(chord.root.value - bare.open(string)).value;
    if (fret > kLastBarre) continue;
    const Guitar barred{.tuning = tuning, .capo = {fret, 0}};
    std::size_t taken = 0;
    for (Fingering shape : easiestShapes(barred, chord, 8, 3)) {
      if (shape.places.front() != FretPosition{string, 0}) continue;
      if (taken++ == kEach) break;
      const auto notes = pitchesOf(barred, shape.places);
      for (FretPosition& p : shape.places) p.fret += fret;
      grips.moved.push_back({shape, notes, kPar.alongNeck * fret});
    }
    // A power chord: root, fifth and octave on neighbouring strings.
    if (chord.type->tones.size() > 2) continue;
    std::vector<FretPosition> places{{string, fret}};
    for (const int step : {7, 12}) {
      const int next = places.back().string + 1;
      places.push_back({next, bare.open(string) + fret + step - bare.open(next)});
    }
    const bool held = std::all_of(places.begin(), places.end(), [&](FretPosition p) { return p.fret >= 0; });
    if (const Grip grip = gripOf(places); held && grip.playable())
      grips.moved.push_back({{places, grip}, pitchesOf(bare, places), kPar.alongNeck * fret});
  }
  return grips;
}

/// The grips of every chord of a song on one tuning; a capo only moves them, so they are looked up once for all capos.
class GripBook {
 public:
  explicit GripBook(Tuning tuning) : tuning_(std::move(tuning)) {}
  const Grips& of(const Chord& shape) {
    const auto key = std::pair{shape.root.value, shape.type};
    const auto found = book_.find(key);
    return found != book_.end() ? found->second : book_.emplace(key, gripsOf(tuning_, shape)).first->second;
  }

 private:
  Tuning tuning_;
  std::map<std::pair<int, const ChordType*>, Grips> book_;
};

double logSum(std::span<const double> values) {
  const double top = *std::max_element(values.begin(), values.end());
  double sum = 0;
  for (const double v : values) sum += std::exp(v - top);
  return top + std::log(sum);
}

/// How well one way of playing explains a chord.
struct Fit {
  double weight = -kPar.noGrip;  // log
  const Known* best = nullptr;
};

/// Sums over the grips: the easier one is the likelier choice, and each must agree with what sounds.
Fit fitOf(const std::vector<Known>& grips, double choice, int capo, const Voicing& sounding) {
  if (grips.empty()) return {};
  std::vector<double> joint, prior;
  Fit fit;
  double best = -1e9;
  for (const Known& grip : grips) {
    Voicing played{};
    for (const int midi : grip.notes)
      if (const int note = midi + capo - kLowest; note >= 0 && note < static_cast<int>(kRange))
        played[static_cast<std::size_t>(note)] = 1.0;
    normalise(played);
    prior.push_back(-choice * grip.effort);
    joint.push_back(prior.back() + kPar.matchWeight * (dot(played, sounding) - 1.0));
    if (joint.back() > best) best = joint.back(), fit.best = &grip;
  }
  fit.weight = std::max(-kPar.noGrip, logSum(joint) - logSum(prior));
  return fit;
}

struct Candidate {
  Tuning tuning;
  int capo = 0;
  double score = 0.0;
  std::vector<Fingering> grips;  // of the chords, in their order; without places where there is none
};

/// Finds how well a tuning and capo explain every chord, played open or by moved shapes throughout.
Candidate weigh(GripBook& book, const Tuning& tuning, int capo, const std::vector<Heard>& heard) {
  double open = 0.0, moved = kPar.barreStyle + (capo > 0 ? kPar.barreWithCapo : 0.0);
  std::vector<Fingering> openGrips, movedGrips;
  for (const Heard& h : heard) {
    const Grips& grips = book.of(transposed(h.chord, -capo));
    const double weight = std::min(1.0, h.seconds / kPar.enough);
    double easiest = kPar.unplayable;
    for (const Known& grip : grips.open) easiest = std::min(easiest, grip.effort);
    const Fit byOpen = fitOf(grips.open, kPar.choice, capo, h.sounding),
              byMoved = fitOf(grips.moved, 1.0, capo, h.sounding);
    open += weight * (byOpen.weight - kPar.comfort * easiest);
    moved += weight * (byMoved.weight - kPar.comfort * kPar.barreEffort);
    openGrips.push_back(byOpen.best != nullptr ? byOpen.best->shape : Fingering{});
    movedGrips.push_back(byMoved.best != nullptr ? byMoved.best->shape : Fingering{});
  }
  return {tuning, capo, logSum(std::array{open, moved}) + usual(tuning, capo), open >= moved ? openGrips : movedGrips};
}

/// In how many frames each low note stands out, of those in which something sounds.
class LowNotes {
 public:
  static constexpr int kFrom = NoteActivations::kLowestMidi, kTo = 55;

  explicit LowNotes(const NoteActivations& notes) : rate_(notes.clock.rate) {
    std::vector<float> top(notes.count());
    double mean = 0;
    for (std::size_t i = 0; i < notes.count(); ++i) {
      const auto frame = notes.frame(i);
      top[i] = *std::max_element(frame.begin(), frame.end());
      mean += top[i] / static_cast<double>(notes.count());
    }
    for (std::size_t i = 0; i < notes.count(); ++i) {
      if (top[i] < kPar.sounding * mean) continue;
      ++frames_;
      for (std::size_t k = 0; k < times_.size(); ++k)
        if (notes.frame(i)[k] > kPar.lowLevel * top[i] && times_[k]++ == 0) first_[k] = i;
    }
  }

  bool often(int midi) const { return times_[index(midi)] > kPar.lowTimes * frames_; }
  Seconds first(int midi) const { return Seconds(static_cast<double>(first_[index(midi)]) / rate_); }

 private:
  static std::size_t index(int midi) { return static_cast<std::size_t>(midi - kFrom); }
  double rate_;
  int frames_ = 0;
  std::array<int, kTo - kFrom> times_{};
  std::array<std::size_t, kTo - kFrom> first_{};
};

/// Something plays lower than the strings of any usual guitar.
bool bassPlays(const NoteActivations& mix) {
  constexpr int kLowestGuitarString = 35;  // B1
  const LowNotes low(mix);
  for (int midi = LowNotes::kFrom; midi < kLowestGuitarString; ++midi)
    if (low.often(midi)) return true;
  return false;
}

/// The lowest note that is heard more than in passing, or nothing.
struct LowestNote {
  int midi = 0;
  Seconds at{};
};

std::optional<LowestNote> lowestNote(const NoteActivations& notes) {
  const LowNotes low(notes);
  for (int midi = LowNotes::kFrom; midi < LowNotes::kTo; ++midi)
    if (low.often(midi)) return LowestNote{midi, low.first(midi)};
  return std::nullopt;
}

/// What the lowest note says of a lowest string.
double agreement(int lowest, int openString) {
  if (lowest < openString) return kPar.below;  // no string could give it
  return lowest == openString ? kPar.exact : std::max(kPar.farAbove, kPar.above * (lowest - openString));
}

/// A note that keeps sounding while the chords change over it.
struct RingingNote {
  int midi = 0;
  double share = 0.0;  // of the changes
  Seconds at{};        // of the first one
};

/// The note that rings on over most changes of chord, if it does so over half of them: what a drone string does.
std::optional<RingingNote> ringingNote(const NoteActivations& notes, const std::vector<FoundChord>& chords) {
  constexpr int kFrom = 45, kTo = 68;
  constexpr double kAround = 0.25, kRings = 0.3, kOften = 0.5;  // seconds; of a frame's strongest note; of the changes
  constexpr int kEnoughChanges = 8;
  std::array<int, kTo - kFrom> times{};
  std::array<Seconds, kTo - kFrom> first{};
  int changes = 0;
  for (std::size_t c = 1; c < chords.size(); ++c) {
    if (!chords[c].chord || !chords[c - 1].chord || chords[c].chord->root == chords[c - 1].chord->root) continue;
    const Seconds at = chords[c].span.start;
    const auto before = notes.clock.frameBefore(at - Seconds(kAround));
    const auto after = notes.clock.frameBefore(at + Seconds(kAround));
    if (after >= notes.count()) continue;
    ++changes;
    for (int midi = kFrom; midi < kTo; ++midi) {
      const auto rings = [&](std::size_t frame) {
        const auto f = notes.frame(frame);
        return f[static_cast<std::size_t>(midi - NoteActivations::kLowestMidi)] >
               kRings * static_cast<double>(*std::max_element(f.begin(), f.end()));
      };
      auto& count = times[static_cast<std::size_t>(midi - kFrom)];
      if (rings(before) && rings((before + after) / 2) && rings(after) && count++ == 0)
        first[static_cast<std::size_t>(midi - kFrom)] = at;
    }
  }
  const auto most = std::max_element(times.begin(), times.end());
  if (changes < kEnoughChanges || *most < kOften * changes) return std::nullopt;
  const auto i = static_cast<std::size_t>(most - times.begin());
  return RingingNote{kFrom + static_cast<int>(i), static_cast<double>(*most) / changes, first[i]};
}

/// What was heard of the guitar besides its chords.
struct Clues {
  const LowestNote* lowest = nullptr;    // null where a bass may have played it
  const RingingNote* ringing = nullptr;  // null where none does
};

/// A chord by the shape that the hand makes, and where it makes it.
SetupReason::Grip gripFor(const Candidate& c, const std::vector<Heard>& heard, std::size_t i) {
  return {transposed(heard[i].chord, -c.capo - commonShift(c.tuning)),
          c.grips[i].places.empty() ? "" : fretsText(c.grips[i].places, static_cast<int>(c.tuning.count()))};
}

SetupReason lowestReason(const Candidate& c, const LowestNote& lowest) {
  using Kind = SetupReason::Kind;
  const int open = c.tuning.strings.front() + c.capo;
  const Kind kind = lowest.midi == open  ? Kind::lowestIsOpen
                    : lowest.midi > open ? Kind::lowestIsAbove
                                         : Kind::lowestIsBelow;
  SetupReason reason{.kind = kind, .at = lowest.at};
  reason.numbers = {lowest.midi, open};
  return reason;
}

SetupReason ringingReason(const Candidate& c, const RingingNote& ringing) {
  const bool open = std::any_of(c.tuning.strings.begin(), c.tuning.strings.end(),
                                [&](int string) { return string + c.capo == ringing.midi; });
  SetupReason reason{.kind = open ? SetupReason::Kind::ringsOpen : SetupReason::Kind::ringsFretted, .at = ringing.at};
  reason.numbers = {ringing.midi, static_cast<int>(std::lround(100 * ringing.share))};
  return reason;
}

/// How the whole song lies under the hand.
SetupReason easeReason(const Candidate& c, const std::vector<Heard>& heard) {
  constexpr double kEasy = 4.0;
  std::size_t easy = 0, hardest = 0;
  for (std::size_t i = 0; i < heard.size(); ++i) {
    const auto effort = [&](std::size_t k) {
      return c.grips[k].places.empty() ? kPar.unplayable : gripOf(c.grips[k].places).effort;
    };
    if (effort(i) <= kEasy) ++easy;
    if (effort(i) > effort(hardest)) hardest = i;
  }
  return {.kind = SetupReason::Kind::ease,
          .at = heard[hardest].at,
          .numbers = {static_cast<int>(easy), static_cast<int>(heard.size())},
          .grips = {gripFor(c, heard, hardest)}};
}

std::vector<SetupReason> reasonsFor(const Candidate& c, const std::vector<Heard>& heard, const Clues& clues) {
  std::vector<SetupReason> reasons;
  if (clues.lowest) reasons.push_back(lowestReason(c, *clues.lowest));
  SetupReason fits{.kind = SetupReason::Kind::fitsGrips, .at = heard.front().at};
  for (std::size_t i = 0; i < heard.size() && i < 4; ++i)
    if (!c.grips[i].places.empty()) fits.grips.push_back(gripFor(c, heard, i));
  if (!fits.grips.empty()) reasons.push_back(std::move(fits));
  reasons.push_back(easeReason(c, heard));
  if (clues.ringing) reasons.push_back(ringingReason(c, *clues.ringing));
  if (!clues.lowest) reasons.push_back({.kind = SetupReason::Kind::lowestIsBass});
  return reasons;
}

}  // namespace

std::vector<SetupReading> readGuitarSetup(const NoteActivations& notes, const std::vector<FoundChord>& chords,
                                          bool alone, std::size_t most) {
  const auto heard = gather(notes, chords);
  if (heard.empty()) return {};
  const auto lowest = alone ? lowestNote(notes) : std::nullopt;
  const auto ringing = ringingNote(notes, chords);
  const Clues clues{lowest ? &*lowest : nullptr, ringing ? &*ringing : nullptr};
  std::vector<Candidate> all;
  for (const auto& named : tuningCatalogue()) {
    if (named.tuning.count() != 6) continue;
    GripBook book(named.tuning);
    for (int capo = 0; capo <= kHighestCapo; ++capo) {
      all.push_back(weigh(book, named.tuning, capo, heard));
      if (clues.lowest) all.back().score += agreement(clues.lowest->midi, named.tuning.strings.front() + capo);
    }
  }
  std::stable_sort(all.begin(), all.end(), [](const Candidate& a, const Candidate& b) { return a.score > b.score; });
  double sum = 0;
  for (const Candidate& c : all) sum += std::exp(c.score - all.front().score);

  std::vector<SetupReading> readings;
  const auto add = [&](const Candidate& c) {
    readings.push_back(
        {c.tuning, {c.capo, 0}, std::exp(c.score - all.front().score) / sum, reasonsFor(c, heard, clues)});
  };
  // The best reading with and the best without a capo are always among them.
  const auto first = [&](bool capo) {
    return std::find_if(all.begin(), all.end(), [&](const Candidate& c) { return (c.capo > 0) == capo; });
  };
  const auto last = std::max(first(false), first(true));
  for (auto c = all.begin(); c != all.end() && readings.size() < most; ++c)
    if (readings.size() + 1 < most || c >= last) add(*c);
  return readings;
}

std::vector<FoundGuitar> findGuitars(const StereoField& field, const NoteActivations& mix, Cents tuning,
                                     const std::vector<FoundChord>& chords, const Progress& progress) {
  std::vector<FoundGuitar> guitars;
  // A bass in the middle leaks to the sides: its notes are told from a guitar's lowest ones by ear alone.
  const bool alone = !bassPlays(mix);
  for (const Side side : {Side::left, Side::right})
    if (field.shareOf(side) >= kPar.leastShare)
      guitars.push_back({side, field.shareOf(side),
                         readGuitarSetup(measureNoteActivations(field.at(side), tuning, progress), chords, alone)});
  std::stable_sort(guitars.begin(), guitars.end(), [](const auto& a, const auto& b) { return a.share > b.share; });
  // Where no side carries much, the main guitar sits in the middle, and the whole sound speaks for it.
  if (guitars.empty() || guitars.front().share < kPar.mainShare)
    guitars.insert(guitars.begin(), {Side::centre, field.shareOf(Side::centre), readGuitarSetup(mix, chords, alone)});
  return guitars;
}

}  // namespace ear
