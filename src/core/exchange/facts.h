// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>

#include "core/exchange/jams.h"

namespace ear {

/// What a JAMS file says of the recording as a whole; nothing where a file is none, or says nothing of that.
std::optional<JamsContent> readFacts(const std::filesystem::path& file);

/// "412 beats, 36 chords, 7 sections, the key", or empty.
std::string factsIn(const JamsContent& content);

/// Takes beats, chords, sections and key as set for a take, in place of what was measured; the tempo where there are no
/// beats. What lies behind the recording's end is left out.
/// @return what was taken, as factsIn() says it, or a sentence: nothing in it fits
Outcome<std::string> takeFacts(Study& study, const std::string& take, const JamsContent& content);

}  // namespace ear
