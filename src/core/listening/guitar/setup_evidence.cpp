// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/guitar/setup_evidence.h"

#include <algorithm>
#include <bit>
#include <cmath>

#include "core/base/parameter.h"

namespace ear {
namespace {

constexpr int kStrings = 6;

struct Parameters {
  double afterChange = parameter("setupEvidence.afterChange", 0.05, "s");  ///< the old chord still rings so long
  std::size_t fewestFrames = parameter("setupEvidence.fewestFrames", std::size_t{4}, "frames");  ///< of a stretch
  double leastOfChord = parameter("setupEvidence.leastOfChord", 0.5, "s");
  std::size_t mostChords = parameter("setupEvidence.mostChords", std::size_t{12}, "");  ///< the longest ones
  double enough = parameter("setupEvidence.enough", 4.0, "s");  ///< of a chord that count as all it has to say

  int highestGrip = parameter("setupEvidence.highestGrip", 5, "frets");
  std::size_t grips = parameter("setupEvidence.grips", std::size_t{16}, "a chord");  ///< tried for each
  /// How likely a note of the grip is heard at a moment, and one that is not in it.
  double inGrip = parameter("setupEvidence.inGrip", 0.6, "probability");
  double besides = parameter("setupEvidence.besides", 0.05, "probability");
  double moments = parameter("setupEvidence.moments", 2.0, "");          ///< that speak for themselves, of a chord
  double choice = parameter("setupEvidence.choice", 0.8, "per effort");  ///< how much the easier grip is preferred
  double named = parameter("setupEvidence.named", 1.6, "per effort");    ///< the same where one is to be named
  double noGrip = parameter("setupEvidence.noGrip", -25.0, "log likelihood");
  double noGripEffort = parameter("setupEvidence.noGripEffort", 14.0, "effort");

  float sounds = parameter("setupEvidence.sounds", 0.55F, "probability");
  int fewestHeld = parameter("setupEvidence.fewestHeld", 3, "frames");  ///< less is a passing state
  std::size_t mostHeld = parameter("setupEvidence.mostHeld", std::size_t{150}, "");
  int highestFret = parameter("setupEvidence.highestFret", 12, "frets");
  double alongNeck = parameter("setupEvidence.alongNeck", 0.3, "effort a fret");
  double cannotHold = parameter("setupEvidence.cannotHold", 12.0, "effort");
};
const Parameters kPar{};

bool anySounds(std::span<const float> frame) {
  return std::any_of(frame.begin(), frame.end(), [](float p) { return p > 0.5F; });
}

std::optional<PlayedChord::Stretch> stretchOf(const GuitarActivations& notes, TimeSpan span) {
  PlayedChord::Stretch stretch;
  const auto from = static_cast<std::size_t>(std::ceil(notes.clock.placeOf(span.start + Seconds(kPar.afterChange))));
  const std::size_t to = std::min(notes.count(), notes.clock.frameBefore(span.end));
  std::size_t frames = 0;
  for (std::size_t i = from; i < to; ++i) {
    const auto frame = notes.soundingAt(i);
    if (!anySounds(frame)) continue;
    ++frames;
    for (std::size_t n = 0; n < frame.size(); ++n) stretch.sounding[n] += static_cast<double>(frame[n]);
  }
  if (frames < kPar.fewestFrames) return std::nullopt;
  for (double& p : stretch.sounding) p /= static_cast<double>(frames);
  stretch.seconds = static_cast<double>(frames) / notes.clock.rate;
  return stretch;
}

std::vector<PlayedChord> chordsOf(const GuitarActivations& notes, const std::vector<FoundChord>& chords) {
  std::map<std::pair<int, const ChordType*>, PlayedChord> all;
  std::map<std::pair<int, const ChordType*>, double> longest;
  for (const FoundChord& c : chords) {
    if (!c.chord) continue;
    const auto stretch = stretchOf(notes, c.span);
    if (!stretch) continue;
    const auto id = std::pair{c.chord->root.value, c.chord->type};
    PlayedChord& played = all[id];
    played.chord = {c.chord->root, c.chord->type, {}};
    played.seconds += stretch->seconds;
    played.stretches.push_back(*stretch);
    if (stretch->seconds > longest[id]) longest[id] = stretch->seconds, played.at = c.span.start;
  }
  std::vector<PlayedChord> list;
  for (auto& [id, played] : all)
    if (played.seconds > kPar.leastOfChord) list.push_back(std::move(played));
  std::stable_sort(list.begin(), list.end(),
                   [](const PlayedChord& a, const PlayedChord& b) { return a.seconds > b.seconds; });
  if (list.size() > kPar.mostChords) list.resize(kPar.mostChords);
  return list;
}

std::vector<HeldNotes> heldIn(const GuitarActivations& notes) {
  std::map<std::vector<int>, HeldNotes> sets;
  std::vector<int> now, before;
  int run = 0;
  const auto close = [&](std::size_t end) {
    if (run < kPar.fewestHeld || before.empty() || before.size() > kStrings) return;
    HeldNotes& held = sets[before];
    if (held.frames == 0) held = {before, 0, notes.clock.timeOf(end - static_cast<std::size_t>(run))};
    held.frames += run;
  };
  for (std::size_t i = 0; i < notes.count(); ++i) {
    const auto frame = notes.soundingAt(i);
    now.clear();
    for (std::size_t n = 0; n < frame.size(); ++n)
      if (frame[n] > kPar.sounds) now.push_back(GuitarActivations::kLowestMidi + static_cast<int>(n));
    if (now != before) {
      close(i);
      before = now;
      run = 0;
    }
    ++run;
  }
  close(notes.count());
  std::vector<HeldNotes> list;
  for (auto& [set, held] : sets) list.push_back(std::move(held));
  std::stable_sort(list.begin(), list.end(),
                   [](const HeldNotes& a, const HeldNotes& b) { return a.frames > b.frames; });
  if (list.size() > kPar.mostHeld) list.resize(kPar.mostHeld);
  return list;
}

double logSum(std::span<const double> values) {
  const double top = *std::max_element(values.begin(), values.end());
  double sum = 0;
  for (const double v : values) sum += std::exp(v - top);
  return top + std::log(sum);
}

/// Of each note, what it adds to a grip's likelihood to have it among its own, over what it adds to be none of them.
std::array<double, GuitarActivations::kNotes> gains(const PlayedChord::Stretch& stretch) {
  static const double kHeard = std::log(kPar.inGrip / kPar.besides),
                      kSilent = std::log((1 - kPar.inGrip) / (1 - kPar.besides));
  std::array<double, GuitarActivations::kNotes> gain{};
  for (std::size_t n = 0; n < gain.size(); ++n)
    gain[n] = stretch.sounding[n] * kHeard + (1 - stretch.sounding[n]) * kSilent;
  return gain;
}

/// Log likelihood of a chord by its grips, each as likely as it is easy.
struct GripFit {
  double likelihood = kPar.noGrip;
  double easiest = kPar.noGripEffort;
  const GripBook::Known* best = nullptr;
};

GripFit gripFit(const PlayedChord& played, const std::vector<GripBook::Known>& grips, int capo) {
  constexpr double kOutOfRange = -3.0;
  if (grips.empty()) return {};
  GripFit fit{.likelihood = 0.0};
  std::vector<double> prior, joint(grips.size()), total(grips.size(), 0.0);
  for (const auto& grip : grips) {
    prior.push_back(-kPar.choice * grip.shape.grip.effort);
    fit.easiest = std::min(fit.easiest, grip.shape.grip.effort);
  }
  const double all = logSum(prior);
  for (std::size_t g = 0; g < grips.size(); ++g) total[g] = (kPar.choice - kPar.named) * grips[g].shape.grip.effort;
  for (const auto& stretch : played.stretches) {
    const auto gain = gains(stretch);
    for (std::size_t g = 0; g < grips.size(); ++g) {
      joint[g] = prior[g];
      for (const int midi : grips[g].notes) {
        const auto n = static_cast<std::size_t>(midi + capo - GuitarActivations::kLowestMidi);
        joint[g] += kPar.moments * (n < gain.size() ? gain[n] : kOutOfRange);
      }
    }
    const double share = stretch.seconds / played.seconds;
    fit.likelihood += share * (logSum(joint) - all);
    for (std::size_t g = 0; g < grips.size(); ++g) total[g] += share * joint[g];
  }
  fit.best = &grips[static_cast<std::size_t>(std::max_element(total.begin(), total.end()) - total.begin())];
  return fit;
}

/// Effort of the easiest way to hold notes together, the higher ones on higher strings.
double effortOf(const HeldNotes& held, const Tuning& tuning, int capo) {
  double least = kPar.cannotHold;
  std::vector<FretPosition> places;
  for (unsigned strings = 0; strings < 1U << kStrings; ++strings) {
    if (std::popcount(strings) != static_cast<int>(held.notes.size())) continue;
    places.clear();
    for (int s = 0; s < kStrings; ++s) {
      if ((strings >> s & 1U) == 0) continue;
      const int fret = held.notes[places.size()] - tuning.strings[static_cast<std::size_t>(s)] - capo;
      if (fret < 0 || fret > kPar.highestFret) break;
      places.push_back({s, fret});
    }
    if (places.size() < held.notes.size()) continue;
    if (const Grip grip = gripOf(places); grip.playable())
      least = std::min(least, grip.effort + kPar.alongNeck * std::max(0, grip.low - 1));
  }
  return least;
}

}  // namespace

Played gatherPlayed(const GuitarActivations& notes, const std::vector<FoundChord>& chords) {
  return {chordsOf(notes, chords), heldIn(notes)};
}

const std::vector<GripBook::Known>& GripBook::of(const Chord& shape) {
  const auto key = std::pair{shape.root.value, shape.type};
  if (const auto found = book_.find(key); found != book_.end()) return found->second;
  const Guitar bare{.tuning = tuning_};
  std::vector<Known> grips;
  std::vector<Chord> chords{shape};
  // Another instrument may give the seventh over a guitar's plain chord.
  if (shape.type->tones.size() > 3) chords.push_back({shape.root, chordType(shape.minor() ? "m" : ""), {}});
  for (const Chord& chord : chords)
    for (Fingering& way : easiestShapes(bare, chord, kPar.grips, kPar.highestGrip)) {
      auto notes = pitchesOf(bare, way.places);
      std::sort(notes.begin(), notes.end());
      notes.erase(std::unique(notes.begin(), notes.end()), notes.end());  // two strings may give the same one
      grips.push_back({std::move(way), std::move(notes)});
    }
  return book_.emplace(key, std::move(grips)).first->second;
}

SetupFit fitOf(const Played& played, GripBook& book, int capo) {
  SetupFit fit;
  for (const PlayedChord& chord : played.chords) {
    const GripFit grip = gripFit(chord, book.of(transposed(chord.chord, -capo)), capo);
    const double weight = std::min(1.0, chord.seconds / kPar.enough);
    fit.grips += weight * grip.likelihood;
    fit.ease += weight * grip.easiest;
    fit.best.push_back(grip.best != nullptr ? grip.best->shape : Fingering{});
  }
  int frames = 0;
  for (const HeldNotes& held : played.held) {
    const double effort = effortOf(held, book.tuning(), capo);
    fit.held += held.frames * effort;
    if (effort >= kPar.cannotHold) {
      if (fit.cannotHold == 0) fit.cannotHoldAt = held.at;
      fit.cannotHold += held.frames;
    }
    frames += held.frames;
  }
  if (frames > 0) fit.held /= frames, fit.cannotHold /= frames;
  return fit;
}

}  // namespace ear
