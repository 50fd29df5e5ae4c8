// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/checking/by_ear.h"

namespace ear {

/// How the recording plays a written note, beyond its pitch and time.
struct Manner {
  std::optional<Cents> vibrato{};   ///< from the middle to the top, where the pitch is shaken
  std::optional<MidiPitch> slid{};  ///< that a slide into it comes from, of the recording's own pitch
  std::optional<double> fading{};   ///< dB that its overtones lose from 40 to 140 ms behind the attack
  int again = 0;                    ///< times a bent note is struck again
};

/// What of it is plainly not as written.
struct MannerDoubt {
  enum class Kind {
    vibrato,   ///< heard and not written; value: cents
    slidFrom,  ///< from another fret than written; value: that fret
    ringsOn,   ///< written palm-muted; value: dB
    damped,    ///< written to ring; value: dB
    again,     ///< struck again so often; value: times
    strokes,   ///< picked so often while it lasts; value: strokes
  };
  int note = 0;  ///< id
  Kind kind{};
  double value = 0.0;
  bool operator==(const MannerDoubt&) const = default;
};

/// @param note   with its seconds in `free`
/// @param heard  cut out of the line where it starts; may be null
Manner mannerOf(const Note& note, const PlayedNote* heard, const HeardVoice& voice, const PitchSalience& salience,
                const Guitar& guitar);

/// What is heard otherwise at notes that sound where they are written: vibrato and slides by the pitch line, palm mute
/// and let ring by how fast the overtones of the pitch fade, re-strikes of a bend by their attacks. Hints more than
/// verdicts: only what is plain is told. That a written vibrato is not heard is none (it is missed too often), and
/// whether a note at the twelfth fret is a harmonic cannot be told by its overtones (bench/RESULTS.md).
/// @param notes  with their seconds in `free`, in order
/// @param check  of the same notes
std::vector<MannerDoubt> mannerDoubts(std::span<const Note> notes, const EarCheck& check, const HeardVoice& voice,
                                      const PitchSalience& salience, const Guitar& guitar);

/// Strokes of the pick counted in notes that are written as a tremolo, where others are written than are heard, or none
/// are: attacks of the passage (strokes.h) within the note. Notes under a third of a second are not asked.
/// @param notes    with their seconds in `free` and their beats beside, in order
/// @param passage  that the check was made of
std::vector<MannerDoubt> strokeDoubts(std::span<const Note> notes, const EarCheck& check, const Recording& passage);

/// "It rings on: no palm mute by its sound."
std::string sentenceOf(const MannerDoubt& doubt);

}  // namespace ear
