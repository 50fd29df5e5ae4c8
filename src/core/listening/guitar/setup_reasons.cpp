// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/guitar/setup_reasons.h"

#include <algorithm>
#include <cmath>

#include "core/base/parameter.h"

namespace ear {
namespace {

struct Parameters {
  float sounds = parameter("setupReasons.sounds", 0.55F, "probability");
  double lowTimes = parameter("setupReasons.lowTimes", 0.04, "of its frames");  ///< less is a stray
  double around = parameter("setupReasons.around", 0.25, "s");                  ///< of a change, where a note rings on
  double often = parameter("setupReasons.often", 0.5, "of the changes");
  int enoughChanges = parameter("setupReasons.enoughChanges", 8, "");
  double easy = parameter("setupReasons.easy", 4.0, "effort");  ///< up to which a grip is easy
};
const Parameters kPar{};

std::optional<SetupClues::Lowest> lowestOf(const GuitarActivations& notes) {
  std::array<int, GuitarActivations::kNotes> times{};
  std::array<std::size_t, GuitarActivations::kNotes> first{};
  int frames = 0;
  for (std::size_t i = 0; i < notes.count(); ++i) {
    const auto frame = notes.soundingAt(i);
    bool any = false;
    for (std::size_t n = 0; n < frame.size(); ++n)
      if (frame[n] > kPar.sounds) {
        any = true;
        if (times[n]++ == 0) first[n] = i;
      }
    frames += any;
  }
  for (std::size_t n = 0; n < times.size(); ++n)
    if (times[n] > 0 && times[n] >= kPar.lowTimes * frames)
      return SetupClues::Lowest{GuitarActivations::kLowestMidi + static_cast<int>(n), notes.clock.timeOf(first[n])};
  return std::nullopt;
}

std::optional<SetupClues::Ringing> ringingOf(const GuitarActivations& notes, const std::vector<FoundChord>& chords) {
  std::array<int, GuitarActivations::kNotes> times{};
  std::array<Seconds, GuitarActivations::kNotes> first{};
  int changes = 0;
  for (std::size_t c = 1; c < chords.size(); ++c) {
    if (!chords[c].chord || !chords[c - 1].chord || chords[c].chord->root == chords[c - 1].chord->root) continue;
    const Seconds at = chords[c].span.start;
    const auto before = notes.clock.frameBefore(at - Seconds(kPar.around));
    const auto after = notes.clock.frameBefore(at + Seconds(kPar.around));
    if (after >= notes.count()) continue;
    ++changes;
    for (std::size_t n = 0; n < times.size(); ++n) {
      const auto rings = [&](std::size_t frame) { return notes.soundingAt(frame)[n] > kPar.sounds; };
      if (rings(before) && rings((before + after) / 2) && rings(after) && times[n]++ == 0) first[n] = at;
    }
  }
  const auto most = std::max_element(times.begin(), times.end());
  if (changes < kPar.enoughChanges || *most < kPar.often * changes) return std::nullopt;
  const auto n = static_cast<std::size_t>(most - times.begin());
  return SetupClues::Ringing{GuitarActivations::kLowestMidi + static_cast<int>(n), static_cast<double>(*most) / changes,
                             first[n]};
}

int percent(double share) {
  return static_cast<int>(std::lround(100 * share));
}

/// A setup whose reasons are told.
struct Told {
  const Tuning& tuning;
  int capo;
  const SetupFit& fit;
  const Played& played;

  /// A chord by the shape that the hand makes, and where it makes it.
  SetupReason::Grip grip(std::size_t i) const {
    const auto& places = fit.best[i].places;
    return {transposed(played.chords[i].chord, -capo - commonShift(tuning)),
            places.empty() ? "" : fretsText(places, static_cast<int>(tuning.count()))};
  }
};

SetupReason lowestReason(const Told& told, const SetupClues::Lowest& lowest) {
  using Kind = SetupReason::Kind;
  const int open = told.tuning.strings.front() + told.capo;
  const Kind kind = lowest.midi == open  ? Kind::lowestIsOpen
                    : lowest.midi > open ? Kind::lowestIsAbove
                                         : Kind::lowestIsBelow;
  return {.kind = kind, .at = lowest.at, .numbers = {lowest.midi, open}};
}

SetupReason ringingReason(const Told& told, const SetupClues::Ringing& ringing) {
  const bool open = std::any_of(told.tuning.strings.begin(), told.tuning.strings.end(),
                                [&](int string) { return string + told.capo == ringing.midi; });
  return {.kind = open ? SetupReason::Kind::ringsOpen : SetupReason::Kind::ringsFretted,
          .at = ringing.at,
          .numbers = {ringing.midi, percent(ringing.share)}};
}

/// How the whole song lies under the hand.
SetupReason easeReason(const Told& told) {
  std::size_t easy = 0, hardest = 0;
  const auto effort = [&](std::size_t i) {
    constexpr double kNone = 1e9;
    return told.fit.best[i].places.empty() ? kNone : told.fit.best[i].grip.effort;
  };
  for (std::size_t i = 0; i < told.fit.best.size(); ++i) {
    if (effort(i) <= kPar.easy) ++easy;
    if (effort(i) > effort(hardest)) hardest = i;
  }
  return {.kind = SetupReason::Kind::ease,
          .at = told.played.chords[hardest].at,
          .numbers = {static_cast<int>(easy), static_cast<int>(told.fit.best.size())},
          .grips = {told.grip(hardest)}};
}

}  // namespace

SetupClues cluesOf(const GuitarActivations& notes, const std::vector<FoundChord>& chords) {
  return {lowestOf(notes), ringingOf(notes, chords)};
}

std::vector<SetupReason> reasonsFor(const Tuning& tuning, int capo, const SetupFit& fit, const Played& played,
                                    const SetupClues& clues) {
  const Told told{tuning, capo, fit, played};
  std::vector<SetupReason> reasons;
  if (clues.lowest) reasons.push_back(lowestReason(told, *clues.lowest));
  SetupReason fits{.kind = SetupReason::Kind::fitsGrips, .at = played.chords.front().at};
  for (std::size_t i = 0; i < fit.best.size() && i < 4; ++i)
    if (!fit.best[i].places.empty()) fits.grips.push_back(told.grip(i));
  if (!fits.grips.empty()) reasons.push_back(std::move(fits));
  reasons.push_back(easeReason(told));
  if (const int share = percent(fit.cannotHold); share > 0)
    reasons.push_back({.kind = SetupReason::Kind::cannotHold, .at = fit.cannotHoldAt, .numbers = {share}});
  if (clues.ringing) reasons.push_back(ringingReason(told, *clues.ringing));
  return reasons;
}

}  // namespace ear
