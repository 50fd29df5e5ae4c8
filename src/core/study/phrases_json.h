// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/phrase/phrase.h"
#include "core/study/json_values.h"

namespace ear {

/// Phrases as a study file has them (docs/study-file.md). What is as usual is left out. Reading throws
/// std::runtime_error with a short reason.
Json phraseToJson(const Phrase& phrase);
Phrase phraseFrom(const Json& json);

}  // namespace ear
