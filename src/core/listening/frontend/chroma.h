// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/listening/frontend/spectra.h"
#include "core/listening/results/harmony_findings.h"
#include "core/signal/frame_clock.h"

namespace ear {

/// Which notes sound, tuned to the recording's own pitch.
struct NoteActivations {
  static constexpr int kLowestMidi = 28;  ///< E1
  static constexpr int kNotes = 72;       ///< up to D#7
  FrameClock clock;                       ///< as of the tonal frames
  std::vector<float> activity;            ///< frames x kNotes, amplitude-like, >= 0

  std::size_t count() const { return activity.size() / kNotes; }
  std::span<const float> frame(std::size_t i) const { return std::span(activity).subspan(i * kNotes, kNotes); }
};

/// Explains each frame's partials as a sum of notes with overtones: approximate transcription by non-negative least
/// squares (Mauch & Dixon 2010), on fifths of a semitone tuned to the recording, with a plain and an overdriven string
/// for each note.
/// Linear in the frames.
/// @param tuning  offset of the recording from A 440
/// @return as many frames as were given; silent ones where it was cancelled
NoteActivations measureNoteActivations(const SpectralPeaks& frames, Cents tuning, const Progress& progress);

/// Sum of the notes from `lowest` to `highest` (MIDI) over the frames of a span, folded into an octave and
/// scaled so that the greatest is 1; all zero where nothing sounds.
ChromaVector chromaOf(const NoteActivations& notes, TimeSpan span, int lowest, int highest);

}  // namespace ear
