// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <filesystem>
#include <span>
#include <string>
#include <vector>

#include "core/base/outcome.h"
#include "core/base/rational.h"
#include "core/base/units.h"

namespace ear {

/// A note of a MIDI file. What the pitch wheel does while it sounds is kept with it, in the range the file declares.
struct MidiNote {
  Rational at, length;  ///< quarter notes from the start of the file; length > 0
  int midi = 0;         ///< 0 ... 127
  int channel = 0;      ///< 0 ... 15
  Cents before;         ///< off the note by the wheel when it starts
  Cents most;           ///< furthest from the note while it sounds
  Cents after;          ///< when it ends
  std::string words{};  ///< text events of its track where it starts, a line each
  bool operator==(const MidiNote&) const = default;
};

/// What one track plays.
struct MidiVoice {
  std::string name;  ///< the file's own, or "track 2"
  std::vector<MidiNote> notes{};
};

struct MidiFile {
  std::vector<MidiVoice> voices{};  ///< of tracks that have notes, in order
  Rational bar = 4;                 ///< quarter notes in its first bar
};

/// Reads a Standard MIDI File of type 0 or 1 (MIDI Manufacturers Association, RP-001, 1996) in quarter notes: running
/// status, system exclusive and unknown meta events are passed over, a note struck again ends before, one that is never
/// let go lasts to the end. The wheel's range is two semitones until the file declares another one (registered
/// parameter 0). Of type 0 each channel is a voice. Names that are no UTF-8 are read as Windows-1252.
///
/// Our own reader, since the library that Debian has for it ends the program where a file is damaged.
/// @return the file, or a sentence: no MIDI file, cut off (with the place), timed by film frames, of type 2, no notes,
///         too large
Outcome<MidiFile> readMidi(std::span<const std::byte> bytes);
/// @param file  up to 16 MB
Outcome<MidiFile> readMidi(const std::filesystem::path& file);

}  // namespace ear
