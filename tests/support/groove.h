// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <initializer_list>
#include <vector>

#include "core/listening/frontend/onsets.h"

namespace ear::test {

/// Onset strengths written by hand: kick, snare and something that marks the small parts of the beat.
class Groove {
 public:
  explicit Groove(double seconds) {
    const auto frames = static_cast<std::size_t>(seconds * kRate);
    for (auto* s : {&onsets_.all, &onsets_.low, &onsets_.high, &onsets_.kick, &onsets_.snare}) s->assign(frames, 0.0F);
    onsets_.clock = {kRate};
  }
  Groove& kick(double at) { return strike(at, 0.9F, {&onsets_.all, &onsets_.low, &onsets_.kick}); }
  Groove& snare(double at) { return strike(at, 0.9F, {&onsets_.all, &onsets_.high, &onsets_.snare}); }
  Groove& strum(double at, float how) { return strike(at, how, {&onsets_.all}); }
  const OnsetStrength& onsets() const { return onsets_; }

 private:
  static constexpr double kRate = 100.0;
  Groove& strike(double at, float how, std::initializer_list<std::vector<float>*> where) {
    for (auto* s : where)
      for (int d = -1; d <= 1; ++d) {
        const auto i = static_cast<std::size_t>(std::lround(at * kRate) + d);
        if (i < s->size()) (*s)[i] = std::max((*s)[i], d == 0 ? how : 0.6F * how);
      }
    return *this;
  }
  OnsetStrength onsets_;
};

}  // namespace ear::test
