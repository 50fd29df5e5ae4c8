// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/playback/written_line.h"
#include "core/study/phrase_time.h"

namespace ear {

/// What a written phrase sounds like on strings, in the recording's own pitch and time: bends of their size, slides,
/// hammer-ons and pull-offs without a new stroke of the pick, vibrato, trills, harmonics, mutes, staccato. What has no
/// size yet sounds without it; what has no time is left out.
///
/// How long gestures take where nobody measured them is common practice, no source.
/// @param notes  of one phrase, in any order
/// @param guitar with the recording's offset from A 440
/// @param pan    -1 left ... 1 right
std::vector<WrittenLine::Strike> strikesOf(std::span<const Note> notes, const PhraseTime& time, const Guitar& guitar,
                                           int sampleRate, double pan = 0.0);

}  // namespace ear
