// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace ear {

/// Where a value came from. What a person set or confirmed is never replaced by a measurement.
enum class Origin { measured, set, confirmed };

}  // namespace ear
