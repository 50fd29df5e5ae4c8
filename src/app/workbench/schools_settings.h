// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/theory/schools.h"

namespace ear {

/// The naming choices kept for the next start; defaults where there are none.
Schools loadSchools();
void saveSchools(const Schools& schools);

}  // namespace ear
