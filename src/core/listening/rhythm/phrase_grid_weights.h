// SPDX-License-Identifier: GPL-3.0-or-later
// Written by bench/fit/phrase_grid.py.
#pragma once

#include <array>

namespace ear {

// Learned on 2026-11-30, ridge 3, from one: 240 phrases; two: 304 phrases.
// A weight for each of GridSigns.
inline constexpr std::array<double, 18> kPhraseGridWeights = {-0.269, 0.551, 1.269,  -0.232, 0.337,  0.168,
                                                              0.947,  2.648, -1.588, -3.000, -0.182, -0.552,
                                                              -3.282, 2.332, -0.581, -0.308, 1.001,  -1.401};

}  // namespace ear
