// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <nlohmann/json_fwd.hpp>

#include "core/study/document.h"

namespace ear {

/// The study's keys of a study file.
nlohmann::ordered_json studyToJson(const Study& study, const Measurements& measurements,
                                   const std::filesystem::path& folder);

/// @throws std::exception with a short reason when a value is missing, of the wrong kind or out of range
void studyFromJson(const nlohmann::ordered_json& root, const std::filesystem::path& folder, Study& study,
                   Measurements& measurements);

}  // namespace ear
