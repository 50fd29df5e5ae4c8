// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/listening/frontend/guitar_frames.h"

namespace ear {

/// Which notes the guitars of a recording sound, over whatever else plays: of each semitone of the recording's own
/// pitch how likely it sounds, and how likely it was struck just then.
struct GuitarActivations {
  static constexpr int kLowestMidi = 36;  ///< C2
  static constexpr int kNotes = 53;       ///< up to E6
  FrameClock clock;
  std::vector<float> sounding, struck;  ///< frames x kNotes, in [0, 1]

  std::size_t count() const { return sounding.size() / kNotes; }
  std::span<const float> soundingAt(std::size_t i) const { return std::span(sounding).subspan(i * kNotes, kNotes); }
  std::span<const float> struckAt(std::size_t i) const { return std::span(struck).subspan(i * kNotes, kNotes); }
};

/// How likely guitars sound a pitch, or one of the two semitones it lies between, and struck it, at a moment.
/// @param midi  of the recording's own pitch
double soundingAt(const GuitarActivations& notes, Seconds t, double midi);
/// The likeliest stroke of it within 70 ms.
double struckNear(const GuitarActivations& notes, Seconds t, double midi);

/// A small convolutional network over frames with their harmonics stacked (after Bittner et al. 2017, "Deep salience
/// representations for F0 estimation in polyphonic music"), learned by bench/fit/activations.py; its recipe stands in
/// guitar_activations.txt beside the weights. What it says is calibrated: of the notes that are said to be 0.8 likely,
/// 0.8 sound. Linear in the frames; about 2 million multiplications each.
/// @return nothing where it was cancelled
GuitarActivations measureGuitarActivations(const GuitarFrames& frames, const Progress& progress);

/// The same of a recording, as long as it may be: its frames are made for some minutes at a time.
/// @param offset  of the recording from A 440
/// @param part    that is listened to at a time, at least a second
GuitarActivations hearGuitars(const Recording& recording, Cents offset, const Progress& progress,
                              Seconds part = Seconds(285));

}  // namespace ear
