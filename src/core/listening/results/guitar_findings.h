// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/units.h"
#include "core/listening/results/sides.h"
#include "core/theory/fretboard.h"
#include "core/theory/tuning.h"

namespace ear {

/// A sentence for a reading of the guitar, and where to hear what it speaks of.
struct SetupReason {
  std::string text;
  std::optional<Seconds> at;
};

/// One way the guitar may have been tuned and capoed.
struct SetupReading {
  Tuning tuning;
  Capo capo;
  double certainty = 0.0;  ///< in [0, 1]; those of a list sum to at most 1
  std::vector<SetupReason> reasons;
};

/// The guitars that can be told apart by where they sit, the one with the most to hear first.
struct FoundGuitar {
  Side side = Side::centre;
  double share = 0.0;  ///< of what sounds, in [0, 1]
  std::vector<SetupReading> readings;
};

}  // namespace ear
