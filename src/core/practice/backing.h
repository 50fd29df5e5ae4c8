// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/playback/click.h"
#include "core/playback/written_line.h"
#include "core/study/grid.h"
#include "core/study/parts.h"

namespace ear {

/// The chords of a stretch as a hand strums them, to play over: down on each beat, the first of a bar stronger, and up,
/// lighter and on the higher strings, between beats where they are swung to. In the usual grip on the guitar (how it
/// is strummed is common practice, no source). What is not at least likely, and where no chord sounds, is left silent.
/// @param chords      of the take, in order
/// @param guitar      with the recording's offset from A 440
std::vector<WrittenLine::Strike> strummed(TimeSpan span, const Grid& grid, std::span<const ShownChord> chords,
                                          const Swing& swing, const Guitar& guitar, int sampleRate);

/// The beats of a stretch for a click, in frames.
std::vector<Click::Tick> ticksIn(TimeSpan span, const Grid& grid, int sampleRate);

}  // namespace ear
