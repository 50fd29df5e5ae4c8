// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

namespace ear {

/// Speeds that a teacher comes back to, in per cent, rising; kept for the next start.
std::vector<int> ownSpeeds();

/// Keeps a speed, or lets one go that is kept. @return whether it is kept now
bool toggleOwnSpeed(int percent);

/// The next of them above or below a speed; nothing where there is none.
std::optional<int> ownSpeedBeside(double percent, bool faster);

}  // namespace ear
