// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/guitar/setup_prior.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parameter.h"

namespace ear {
namespace {

struct Parameters {
  double standard = parameter("setupPrior.standard", 0.52, "of guitars");  ///< without a capo
  double withCapo = parameter("setupPrior.withCapo", 0.22, "of guitars");  ///< in standard tuning
  double semitoneDown = parameter("setupPrior.semitoneDown", 0.07, "of guitars");
  double toneDown = parameter("setupPrior.toneDown", 0.035, "of guitars");
  double furtherDown = parameter("setupPrior.furtherDown", 0.003, "of guitars");  ///< each step
  double allUp = parameter("setupPrior.allUp", 0.001, "of guitars");
  double dropped = parameter("setupPrior.dropped", 0.06, "of guitars");           ///< dropped D
  double droppedDown = parameter("setupPrior.droppedDown", 0.011, "of guitars");  ///< the same a semitone or tone down
  double droppedFar = parameter("setupPrior.droppedFar", 0.003, "of guitars");
  double usualOpen = parameter("setupPrior.usualOpen", 0.012, "of guitars");  ///< each of the four usual ones
  double otherTuning = parameter("setupPrior.otherTuning", 0.001, "of guitars");
  /// Guitars that are retuned and have a capo besides, of those without one.
  double evenAndCapo = parameter("setupPrior.evenAndCapo", 0.15, "of guitars");
  double droppedAndCapo = parameter("setupPrior.droppedAndCapo", 0.2, "of guitars");
  double openAndCapo = parameter("setupPrior.openAndCapo", 0.4, "of guitars");
};
const Parameters kPar{};

/// Where capos sit, by fret.
constexpr std::array<double, kHighestCapo + 1> kCapoAt = {0.0, 0.14, 0.26, 0.18, 0.14, 0.14, 0.05, 0.09};

double ofEven(int shift) {
  switch (shift) {
    case 0:
      return kPar.standard;
    case -1:
      return kPar.semitoneDown;
    case -2:
      return kPar.toneDown;
    default:
      return shift > 0 ? kPar.allUp : kPar.furtherDown;
  }
}

double ofDropped(int shift) {
  if (shift == 0) return kPar.dropped;
  return shift == -1 || shift == -2 ? kPar.droppedDown : kPar.droppedFar;
}

bool isUsualOpen(const Tuning& tuning) {
  static const std::array kUsual = {*parseTuning("D G D G B D"), *parseTuning("D A D F# A D"),
                                    *parseTuning("D A D G A D"), *parseTuning("D A D G B D")};
  return std::find(kUsual.begin(), kUsual.end(), tuning) != kUsual.end();
}

}  // namespace

double logPrior(const Tuning& tuning, int capo) {
  const auto shifts = shiftsFromStandard(tuning);
  const int shift = shifts[1];
  const bool upper = std::all_of(shifts.begin() + 1, shifts.end(), [&](int s) { return s == shift; });
  double without = isUsualOpen(tuning) ? kPar.usualOpen : kPar.otherTuning, andCapo = kPar.openAndCapo;
  if (upper && shifts[0] == shift)
    without = ofEven(shift), andCapo = shift == 0 ? kPar.withCapo / kPar.standard : kPar.evenAndCapo;
  else if (upper && shifts[0] == shift - 2)
    without = ofDropped(shift), andCapo = kPar.droppedAndCapo;
  return std::log(capo == 0 ? without : without * andCapo * kCapoAt[static_cast<std::size_t>(capo)]);
}

}  // namespace ear
