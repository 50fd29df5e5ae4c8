// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <vector>

#include "core/theory/tuning.h"

namespace ear {

/// A tuning by the word a teacher has for it. Those of all studies are offered again.
struct OwnTuning {
  QString name;
  Tuning tuning;
};

/// Kept for the next start, by name.
std::vector<OwnTuning> ownTunings();

/// Keeps a tuning under a name; one of that name before is replaced.
void rememberTuning(const QString& name, const Tuning& tuning);

}  // namespace ear
