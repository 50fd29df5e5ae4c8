// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/closeup/lane.h"
#include "app/closeup/pitch_axis.h"
#include "app/workbench/ear_keeper.h"
#include "core/theory/pitch.h"

namespace ear {

/// The voice that was followed, as a line over the pitch map, with what the hand does.
/// @param offset  how far the recording lies from A 440
void paintVoiceLine(QPainter& p, const LaneView& view, const PitchAxis& axis, const EarKeeper::Followed& followed,
                    Cents offset, Spelling spelling);

}  // namespace ear
