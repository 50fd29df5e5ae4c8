// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/theory/notation_preferences.h"

namespace ear {

/// The naming choices kept for the next start; defaults where there are none.
NotationPreferences loadNotation();
void saveNotation(const NotationPreferences& schools);

}  // namespace ear
