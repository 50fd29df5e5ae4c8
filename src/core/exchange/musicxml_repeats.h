// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <pugixml.hpp>
#include <set>
#include <string>
#include <vector>

namespace ear::musicxml {

/// The measures of a part in the order in which they are played: repeats and their endings written out, at most `most`
/// measures. Nested repeats are played as the inner one alone says.
/// @param losses  gains a sentence where something was written out, or could not be followed (da capo and the like)
std::vector<pugi::xml_node> playedMeasures(pugi::xml_node part, std::size_t most, std::set<std::string>& losses);

}  // namespace ear::musicxml
