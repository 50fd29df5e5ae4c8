// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <set>

#include "core/audio/recording.h"
#include "core/base/outcome.h"
#include "core/base/progress.h"
#include "core/listening/results/findings.h"

namespace ear {

/// Listens to a recording: one set of spectra, then every part asked for. The same samples give the same findings, and
/// a part is the same whichever others are asked for.
class Listener {
 public:
  std::set<Aspect> parts = {Aspect::reference, Aspect::time, Aspect::chords, Aspect::key, Aspect::guitar, Aspect::form};

  /// Called from the working thread each time a part is ready, with the findings so far.
  std::function<void(Aspect, const Findings&)> onPart;

  /// Uses two threads of its own and returns when both are done. @return a sentence when there is too little sound, or
  /// when cancelled: then what onPart() was told by that time holds, and nothing more is told
  Outcome<Findings> listen(const Recording& recording, const Progress& progress = {}) const;
};

}  // namespace ear
