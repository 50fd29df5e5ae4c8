// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/study/study.h"

/// Writes the phrases of the demo study into it, as the score (song.py) has them, and an open question. Ends the
/// program where one of its lines is not understood.
void writeDemoPhrases(ear::Study& study);
