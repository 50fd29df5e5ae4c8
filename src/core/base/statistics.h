// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

namespace ear {

/// The middle value; of an even number the upper one of the two in the middle. @param values  not empty
double medianOf(std::vector<double> values);

/// Values in deviations from their mean; all zero where they are all the same.
std::vector<double> standardised(std::vector<double> values);

}  // namespace ear
