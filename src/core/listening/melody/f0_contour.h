// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/base/units.h"
#include "core/listening/frontend/guitar_activations.h"
#include "core/listening/frontend/onsets.h"
#include "core/signal/frame_clock.h"

namespace ear {

/// Pitch of one voice, frame by frame.
struct F0Contour {
  struct Point {
    std::optional<MidiPitch> pitch{};   ///< against A 440; empty where nothing sounds that has one
    float certainty = 0;                ///< in [0, 1]
    std::optional<MidiPitch> second{};  ///< another pitch that sounds with it, as in a double stop
    float level = 0;                    ///< of its overtones
    bool alone = true;                  ///< nothing else sounds that hides its period
  };
  FrameClock clock;  ///< of the points
  std::vector<Point> points;

  /// A point of it for those who want it at even times, in Hz; nothing where nothing sounds that has a pitch.
  struct Moment {
    Seconds time;
    std::optional<Hertz> pitch;
  };
  /// @param each  from one moment to the next; > 0
  std::vector<Moment> sampled(Seconds each = Seconds(0.01)) const;
};

/// The pitch of what one voice plays, with bends and vibrato as they are: candidates by the difference function of YIN
/// under a distribution of thresholds, and the likeliest path through them (pYIN: Mauch & Dixon 2014). Where something
/// is struck the pitch may jump, elsewhere it glides. Among other voices the notes that guitars sound are likelier than
/// others.
/// @param mono    samples at kListeningRate
/// @param onsets  of the same sound
/// @param guitar  of the same sound; may be empty
/// @param offset  that `guitar` was measured at
F0Contour measureF0Contour(std::span<const float> mono, const OnsetStrength& onsets, const GuitarActivations& guitar,
                           Cents offset, const Progress& progress);

}  // namespace ear
