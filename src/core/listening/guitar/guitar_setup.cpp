// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/guitar/guitar_setup.h"

#include <algorithm>
#include <cmath>
#include <future>
#include <map>

#include "core/base/parameter.h"
#include "core/listening/guitar/setup_prior.h"
#include "core/listening/guitar/setup_reasons.h"

namespace ear {
namespace {

struct Parameters {
  // Learned by bench/fit/setups.py.
  double grips = parameter("guitarSetup.grips", 0.48, "per log likelihood");
  double ease = parameter("guitarSetup.ease", -0.35, "per effort");
  double held = parameter("guitarSetup.held", -0.88, "per effort");
  double leastShare = parameter("guitarSetup.leastShare", 0.18, "of what sounds");  ///< of a guitar at a side
  double mainShare = parameter("guitarSetup.mainShare", 0.25, "of what sounds");    ///< of the main one at a side
  /// How much of what one guitar says of the common shift counts for another.
  double together = parameter("guitarSetup.together", 0.3, "of log probability");
  double longest = parameter("guitarSetup.longest", 280.0, "s");
};
const Parameters kPar{};

void normalise(std::vector<WeighedSetup>& all) {
  double top = -1e300, sum = 0;
  for (const auto& s : all) top = std::max(top, s.certainty);
  for (auto& s : all) sum += s.certainty = std::exp(s.certainty - top);
  for (auto& s : all) s.certainty /= sum;
}

/// How likely all strings are shifted so far, from certainties.
std::map<int, double> commonShifts(const std::vector<WeighedSetup>& all) {
  std::map<int, double> shifts;
  for (const auto& s : all) shifts[commonShift(s.tuning)] += s.certainty;
  return shifts;
}

/// Turns what another guitar says of the common shift into more or less certainty.
void weighTogether(std::vector<WeighedSetup>& all, const std::map<int, double>& other) {
  constexpr double kOpen = 1e-3;  // another guitar never rules a shift out
  for (auto& s : all)
    s.certainty = std::log(s.certainty + 1e-12) + kPar.together * std::log(other.at(commonShift(s.tuning)) + kOpen);
  normalise(all);
}

/// What one guitar of a recording plays, and what that says of it.
struct OneGuitar {
  Side side = Side::centre;
  double share = 0.0;
  GuitarActivations notes{};
  Played played{};
  std::vector<WeighedSetup> setups{};
};

std::vector<int> openStrings(const WeighedSetup& s) {
  std::vector<int> open = s.tuning.strings;
  for (int& string : open) string += s.capo;
  return open;
}

/// Setups that sound alike on the open strings, the likeliest first.
using Alike = std::vector<const WeighedSetup*>;

std::vector<Alike> groupedBySound(const std::vector<WeighedSetup>& all) {
  std::map<std::vector<int>, Alike> groups;
  for (const auto& s : all) groups[openStrings(s)].push_back(&s);
  std::vector<Alike> ranked;
  for (auto& [open, group] : groups) {
    std::stable_sort(group.begin(), group.end(),
                     [](const auto* a, const auto* b) { return a->certainty > b->certainty; });
    ranked.push_back(std::move(group));
  }
  std::stable_sort(ranked.begin(), ranked.end(),
                   [](const Alike& a, const Alike& b) { return a.front()->certainty > b.front()->certainty; });
  return ranked;
}

SetupReading readingOf(const Alike& group, const Played& played, const SetupClues& clues) {
  constexpr double kWorthSaying = 0.02;  // of the certainty of the most usual one
  const WeighedSetup& best = *group.front();
  SetupReading reading{best.tuning, {best.capo, 0}, best.certainty, {}};
  reading.reasons = reasonsFor(best.tuning, best.capo, best.fit, played, clues);
  for (const auto* other : group) {
    if (other == &best || other->certainty < kWorthSaying * best.certainty) continue;
    SetupReason same{.kind = SetupReason::Kind::soundsLike, .at = played.chords.front().at, .numbers = {other->capo}};
    same.numbers.insert(same.numbers.end(), other->tuning.strings.begin(), other->tuning.strings.end());
    reading.reasons.push_back(std::move(same));
  }
  return reading;
}

std::vector<SetupReading> ranked(const OneGuitar& guitar, const std::vector<FoundChord>& chords, std::size_t most) {
  if (guitar.setups.empty()) return {};
  const auto groups = groupedBySound(guitar.setups);
  const SetupClues clues = cluesOf(guitar.notes, chords);
  // The best reading with and the best without a capo are always among them.
  const auto first = [&](bool capo) {
    return std::find_if(groups.begin(), groups.end(), [&](const Alike& g) { return (g.front()->capo > 0) == capo; });
  };
  const auto last = std::max(first(false), first(true));
  std::vector<SetupReading> readings;
  for (auto g = groups.begin(); g != groups.end() && readings.size() < most; ++g)
    if (readings.size() + 1 < most || g >= last) readings.push_back(readingOf(*g, guitar.played, clues));
  return readings;
}

/// What the beginning of one side sounds by itself.
GuitarActivations hearSide(const Recording& recording, Side side, Cents offset, const Progress& progress) {
  const auto samples =
      partOf(recording, side == Side::left ? recording.left() : recording.right(), {Seconds(0), Seconds(kPar.longest)});
  return hearGuitars({recording.sampleRate, {Samples(samples.begin(), samples.end())}, {}}, offset, progress);
}

/// The beginning of what was heard.
GuitarActivations beginningOf(GuitarActivations notes) {
  const auto most = notes.clock.framesIn(Seconds(kPar.longest)) * GuitarActivations::kNotes;
  if (most < notes.sounding.size()) notes.sounding.resize(most), notes.struck.resize(most);
  return notes;
}

}  // namespace

std::vector<WeighedSetup> weighSetups(const Played& played) {
  std::vector<WeighedSetup> all;
  if (played.chords.empty()) return all;
  for (const auto& named : tuningCatalogue()) {
    if (named.tuning.count() != 6) continue;
    GripBook book(named.tuning);
    for (int capo = 0; capo <= kHighestCapo; ++capo) {
      WeighedSetup setup{named.tuning, capo, fitOf(played, book, capo)};
      setup.certainty = kPar.grips * setup.fit.grips + kPar.ease * setup.fit.ease + kPar.held * setup.fit.held +
                        logPrior(named.tuning, capo);
      all.push_back(std::move(setup));
    }
  }
  normalise(all);
  return all;
}

std::vector<SetupReading> readGuitarSetup(const GuitarActivations& notes, const std::vector<FoundChord>& chords,
                                          std::size_t most) {
  OneGuitar guitar{.notes = notes, .played = gatherPlayed(notes, chords)};
  guitar.setups = weighSetups(guitar.played);
  return ranked(guitar, chords, most);
}

std::vector<FoundGuitar> findGuitars(const Recording& recording, const StereoField& field, Cents offset,
                                     const GuitarActivations& mix, const std::vector<FoundChord>& chords,
                                     const Progress& progress) {
  std::vector<Side> sides;
  for (const Side side : {Side::left, Side::right})
    if (recording.channels.size() > 1 && field.shareOf(side) >= kPar.leastShare) sides.push_back(side);
  std::stable_sort(sides.begin(), sides.end(), [&](Side a, Side b) { return field.shareOf(a) > field.shareOf(b); });
  // Where no side carries much, the main guitar sits in the middle, and the whole sound speaks for it.
  if (sides.empty() || field.shareOf(sides.front()) < kPar.mainShare) sides.insert(sides.begin(), Side::centre);

  std::vector<std::future<OneGuitar>> heard;
  for (const Side side : sides)
    heard.push_back(std::async(std::launch::async, [&, side] {
      OneGuitar guitar{side, field.shareOf(side),
                       side == Side::centre ? beginningOf(mix) : hearSide(recording, side, offset, progress)};
      guitar.played = gatherPlayed(guitar.notes, chords);
      guitar.setups = weighSetups(guitar.played);
      return guitar;
    }));
  std::vector<OneGuitar> guitars;
  for (auto& guitar : heard) guitars.push_back(guitar.get());
  if (progress.cancelled()) return {};

  std::vector<std::map<int, double>> shifts;
  for (const auto& guitar : guitars) shifts.push_back(commonShifts(guitar.setups));
  for (std::size_t a = 0; a < guitars.size(); ++a)
    for (std::size_t b = 0; b < guitars.size(); ++b)
      if (a != b && !guitars[a].setups.empty() && !guitars[b].setups.empty())
        weighTogether(guitars[a].setups, shifts[b]);

  constexpr std::size_t kMost = 5;
  std::vector<FoundGuitar> found;
  for (const auto& guitar : guitars) found.push_back({guitar.side, guitar.share, ranked(guitar, chords, kMost)});
  return found;
}

}  // namespace ear
