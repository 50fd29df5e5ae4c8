// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <nlohmann/json.hpp>
#include <set>
#include <string>

#include "core/listening/melody/gestures.h"
#include "core/listening/results/findings.h"

namespace ear {

/// The report of `inner-ear-cli analyze`, as docs/command-line.md describes it. A part that cannot be said is left out.
/// @param from  where the measured excerpt starts in the file; added to all times
nlohmann::ordered_json reportOf(const Findings& findings, const std::string& file, Seconds from,
                                const std::set<std::string>& only);

/// The value of `notes`: start, end and MIDI number against the recording's own reference.
nlohmann::ordered_json notesOf(const std::vector<PlayedNote>& notes, Cents reference, Seconds from);

/// The value of `pitch`: every 10 ms the frequency of the leading voice in Hz, or null where none sounds.
nlohmann::ordered_json pitchOf(const F0Contour& line, Seconds from);

}  // namespace ear
