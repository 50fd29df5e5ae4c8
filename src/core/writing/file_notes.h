// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/exchange/midi_file.h"
#include "core/writing/suggestions.h"

namespace ear {

/// Notes of a MIDI file as they would be written from a phrase's first beat on: starts and lengths on a raster of 24
/// parts of a beat, short gaps closed, on the easiest places of the neck; the wheel becomes bends. They are marked as
/// measured and in doubt until a person has confirmed them, since nobody knows how the file was made. Notes that no
/// string has, and those before `from`, are left out.
/// @param from  quarter notes of the file that become beat 0
std::vector<Suggestion> suggestionsOf(const MidiVoice& voice, Rational from, const SuggestionContext& context);

/// Where the bar of its first note starts.
Rational firstBarOf(const MidiVoice& voice, Rational bar);

}  // namespace ear
