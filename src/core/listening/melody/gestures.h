// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/listening/melody/notes.h"

namespace ear {

/// A string drawn to another pitch while it sounds.
struct HeardBend {
  TimeSpan rise;  ///< from where it leaves its pitch to where it has arrived; empty length when bent before the stroke
  MidiPitch from, to;                 ///< against A 440
  bool before = false;                ///< it was bent already when it was struck
  bool again = false;                 ///< and by the stroke before this one, which had not been let down
  std::optional<Seconds> released{};  ///< where it starts to be let down
  Cents size() const { return Cents(100 * (to - from).value); }
};

/// A pitch that is shaken.
struct HeardVibrato {
  TimeSpan span;
  Hertz rate{};
  Cents width{};  ///< from the middle to the top
};

/// A finger that slides along the string from another fret.
struct HeardSlide {
  TimeSpan span;
  MidiPitch from;
};

/// A note with what the hand does to it.
struct PlayedNote {
  HeardNote note;
  std::optional<HeardBend> bend{};
  std::optional<HeardVibrato> vibrato{};
  std::optional<HeardSlide> slide{};  ///< into it
  bool leading = true;                ///< of the voice that stands out
};

/// Where the finger is: the pitch before a bend, not the mean of the note, which lies somewhere on the way.
MidiPitch frettedPitch(const PlayedNote& played);

/// Measures bends, vibrato and slides on the pitch line within each note. Bends are taken against the level at which
/// the note stands before, where it stands long enough, else against the semitone of the recording's own pitch that it
/// leaves; a note at the height of a bend that ends as it starts is the same bend struck again. Vibrato by the
/// strongest line of the pitch's own spectrum between 3 and 9 Hz.
/// @param offset  of the recording from A 440
std::vector<PlayedNote> measureGestures(const F0Contour& line, const std::vector<HeardNote>& notes, Cents offset);

}  // namespace ear
