// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "core/listening/results/findings.h"

namespace ear {

/// Measurements as kept in a study file, so that evidence is there without listening again.
nlohmann::ordered_json findingsToJson(const Findings& findings);

/// @throws std::exception when something is missing or of the wrong kind
Findings findingsFromJson(const nlohmann::ordered_json& json);

}  // namespace ear
