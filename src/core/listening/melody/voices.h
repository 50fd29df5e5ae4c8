// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/audio/recording.h"
#include "core/base/progress.h"
#include "core/listening/melody/gestures.h"

namespace ear {

/// Notes of several voices at once, as of chords and picking that rings on: by the learned activations of guitars
/// (guitar_activations.h), each from where it was struck to where it sounds no more or is
/// struck again; starts are those of the attacks that are near. Coarser than the leading voice, which knows bends:
/// pitches are whole semitones of the recording. Linear in the length.
/// @param offset  of the recording from A 440
/// @return by time, then pitch; empty where it was cancelled
std::vector<HeardNote> hearStruckNotes(const Recording& passage, Cents offset, const Progress& progress);

/// Notes and what the hand does to them, with the pitch line of the leading voice.
struct HeardVoice {
  F0Contour line;
  std::vector<PlayedNote> notes;
};

/// The notes of every voice of a passage, those of the leading one with what the hand does to them.
/// @param offset  of the recording from A 440
HeardVoice hearAllNotes(const Recording& passage, Cents offset, const Progress& progress);

/// The leading voice of a passage: of the notes that its pitch line makes those that a guitar strikes, and bends, which
/// are no note of whole semitones. Where no guitar is heard to strike anything they stand as the line has them.
/// @param offset  of the recording from A 440
HeardVoice hearVoice(const Recording& passage, Cents offset, const Progress& progress);

}  // namespace ear
