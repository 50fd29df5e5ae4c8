// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/base/outcome.h"
#include "core/study/grid.h"

namespace ear {

/// The sections in order as teachers list them: "intro, A, B, A', B". A name stands in place of the letter; an
/// apostrophe marks a repeat that differs.
std::string runningOrder(const Form& form);

/// Edits a form so that its running order is `text`.
///
/// What is written in both orders keeps its borders (longest common subsequence). A word that was changed renames its
/// section; one that is gone joins its section to the one before; new ones take equal parts of the section before
/// them, cut at the nearest bar lines.
/// @return the edited form, or what is wrong with the text
Outcome<Form> withRunningOrder(const Form& form, const std::string& text, const Grid& grid);

}  // namespace ear
