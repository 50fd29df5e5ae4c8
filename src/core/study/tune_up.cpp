// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/tune_up.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/study/parts.h"

namespace ear {
namespace {

constexpr int kSlackSteps = -6;

/// All strings are shifted alike.
bool even(const Tuning& tuning) {
  const auto shifts = shiftsFromStandard(tuning);
  return !shifts.empty() && std::all_of(shifts.begin(), shifts.end(), [&](int s) { return s == shifts.front(); });
}

}  // namespace

Spelling spellingOf(const Tuning& tuning, const NotationPreferences& schools) {
  NotationPreferences by = schools;
  if (by.signs == NotationPreferences::Signs::byKey)
    by.signs = even(tuning) && commonShift(tuning) < 0 ? NotationPreferences::Signs::flats
                                                       : NotationPreferences::Signs::sharps;
  return spellingIn(by, {});
}

std::vector<StringTarget> tuneUp(const GuitarSetup& setup, Cents offset) {
  const auto shifts = shiftsFromStandard(setup.tuning);
  std::vector<StringTarget> targets;
  for (std::size_t s = 0; s < setup.tuning.count(); ++s) {
    const int midi = setup.tuning.strings[s];
    const Cents from = offset + Cents(100.0 * (s < shifts.size() ? shifts[s] : 0));
    targets.push_back(
        {static_cast<int>(s), midi, frequencyOf(MidiPitch(midi), a4At(offset)), from, std::exp2(from.value / 600.0)});
  }
  return targets;
}

std::string tuningAdvice(const GuitarSetup& setup, Cents offset) {
  const double cents = wholeCents(offset);
  const std::string then =
      cents == 0 ? "." : ", then " + centsWords(offset) + (cents > 0 ? " sharp of that." : " flat of that.");
  std::string text;
  const int common = commonShift(setup.tuning);
  if (setup.tuning == standardTuning())
    text = cents == 0 ? "Standard tuning at concert pitch fits the recording as it is."
                      : "Standard tuning, but " + centsWords(offset) + (cents > 0 ? " sharp" : " flat") +
                            " of concert pitch: set the tuner's reference to A = " + referenceWords(a4At(offset)) + ".";
  else if (even(setup.tuning))
    text = "Tune all " + std::string(setup.tuning.count() == 6 ? "six " : "") + "strings " + semitonesWords(common) +
           (common < 0 ? " down" : " up") + then;
  else
    text = "Tune the strings, low to high, to " + tuningLetters(setup.tuning, spellingOf(setup.tuning)) + then;
  if (setup.capo.fret > 0)
    text += setup.capo.strings == 0 ? " Capo at fret " + std::to_string(setup.capo.fret) + "."
                                    : " Capo at fret " + std::to_string(setup.capo.fret) + " on some of the strings.";
  if (even(setup.tuning) && (common != 0 || cents != 0))
    text += " Or leave the guitar in standard tuning and play the recording back shifted by " +
            signedCents(Cents(-wholeCents(offset) - 100.0 * common)) + ".";
  const auto targets = tuneUp(setup, offset);
  if (std::any_of(targets.begin(), targets.end(), [](const StringTarget& t) { return t.strained(); }))
    text +=
        " Tuning up this far strains strings and neck: a capo, lighter strings or the shifted playback are safer; turn "
        "your face away while you tune.";
  return text;
}

std::vector<std::string> tensionCautions(const GuitarSetup& setup, Cents offset) {
  std::vector<std::string> out;
  const auto targets = tuneUp(setup, offset);
  int highest = 0;
  for (const StringTarget& t : targets) {
    const std::string who = "String " + std::to_string(setup.tuning.count() - static_cast<std::size_t>(t.string)) +
                            " to " + noteName(t.midi, Spelling::sharps);
    if (t.strained()) {
      out.push_back(who + " carries " + percentWords(t.tension - 1) + " more than in standard tuning.");
      highest = std::max(highest, static_cast<int>(std::lround(t.fromStandard.value / 100)));
    }
    if (t.fromStandard.value <= 100.0 * kSlackSteps)
      out.push_back(who + " will be slack: a heavier string suits it better.");
  }
  if (highest > 0) {
    if (even(setup.tuning))
      out.push_back("Safer: standard tuning with a capo at fret " + std::to_string(highest) +
                    ", which sounds the same; or the playback shifted down.");
    out.emplace_back(
        "If you tune up all the same: lighter strings, slowly, face turned away, and within what the maker of the "
        "guitar allows; a luthier knows.");
  }
  for (std::size_t s = 0; s + 1 < setup.tuning.count(); ++s)
    if (setup.tuning.strings[s] >= setup.tuning.strings[s + 1])
      out.push_back("String " + std::to_string(setup.tuning.count() - s) +
                    " is not lower than the next one: check the order, low to high.");
  return out;
}

std::vector<PlaybackShift> playbackShifts(const GuitarSetup& setup, Cents offset) {
  std::vector<PlaybackShift> shifts{{"Recording as it is", "The guitar is tuned to the recording.", Cents(0)}};
  if (offset != Cents(0)) shifts.push_back({"At concert pitch", "The same tuning by any tuner at A 440.", -offset});
  const int common = commonShift(setup.tuning);
  if (common != 0)
    shifts.push_back({even(setup.tuning) ? "Meet a guitar in standard tuning" : "Without the common shift",
                      even(setup.tuning) ? "Standard tuning at A 440."
                                         : "Strings " + semitonesWords(common) + (common < 0 ? " higher" : " lower") +
                                               " than in the recording, at A 440.",
                      -offset - Cents(100.0 * common)});
  if (setup.capo.fret > 0 && setup.capo.strings == 0)
    shifts.push_back({"As if the capo were off", "The same shapes without a capo, at A 440.",
                      -offset - Cents(100.0 * (common + setup.capo.fret))});
  return shifts;
}

FittingGuitar fitting(const GuitarSetup& setup, Cents offset, Cents shift) {
  FittingGuitar guitar{setup, {}};
  Cents total = offset + shift;
  const int common = commonShift(setup.tuning);
  if (setup.capo.fret > 0 && setup.capo.strings == 0 &&
      std::abs((total + Cents(100.0 * (common + setup.capo.fret))).value) < 1.0) {
    guitar.setup.capo = {};
    total += Cents(100.0 * setup.capo.fret);
  }
  const int semitones = static_cast<int>(std::lround(total.value / 100));
  for (int& string : guitar.setup.tuning.strings) string += semitones;
  guitar.offset = total - Cents(100.0 * semitones);
  return guitar;
}

}  // namespace ear
