// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/listening/frontend/pitch_salience.h"
#include "core/listening/melody/voices.h"
#include "core/study/phrase_time.h"

namespace ear {

/// What the recording says of one written note.
struct NoteVerdict {
  enum class Kind {
    heard,          ///< at its place, at its pitch
    notHeard,       ///< nothing starts there
    somethingElse,  ///< another pitch starts there
    timeless,       ///< it has no time, or no pitch that could be heard
  };
  int note = 0;  ///< id
  Kind kind = Kind::timeless;
  std::optional<MidiPitch> heard{};  ///< what starts there, of the recording's own pitch
  Seconds late{};                    ///< from where it is written to where it is heard
  std::optional<Cents> bendHeard{};  ///< size of the bend that is heard
  bool bendDiffers = false;          ///< by over kBendTolerance from the written one, or one of the two is missing
  double certainty = 0.0;            ///< of the hearing
};

inline constexpr Cents kBendTolerance{60};

/// What a take says of a written phrase.
struct EarCheck {
  std::vector<NoteVerdict> verdicts{};  ///< one for each note, by time
  std::vector<PlayedNote> unwritten{};  ///< heard between the first and the last note, and not written
};

/// Compares written notes with what is heard of the leading voice: both are aligned as wholes, so that one wrong or
/// missing note does not shift the others (dynamic programming over pairs, as for edit distances: Wagner & Fischer
/// 1974; the price of a pair by its distance in time and pitch). Where no heard note is the pair of a written one, or
/// another one is, the pitch line itself is asked: a hammer-on or a slide need not have been cut into notes of its own;
/// and where it is silent of a note, as of all but one of a chord, how strongly that pitch is supported by its
/// overtones.
/// @param notes  of one phrase, in any order
/// @param voice  heard against A 440
/// @param salience  of the same sound; may be empty
/// @param guitar with the recording's offset
/// Cost: the product of both counts, and the frames of the line.
EarCheck checkByEar(std::span<const Note> notes, const HeardVoice& voice, const PitchSalience& salience,
                    const PhraseTime& time, const Guitar& guitar);

/// Semitones by which nearly everything sounds beside what is written, where it does: strings that were tuned down, a
/// capo, or another octave, rather than so many wrong notes. Empty where the notes are wrong each by itself.
std::optional<int> commonShift(const EarCheck& check, std::span<const Note> notes, const Guitar& guitar);

/// Share of the notes that sound as they are written, bends among them; those without a pitch are not asked.
double shareHeard(const EarCheck& check);

/// The verdict as a sentence: "A♯3 is heard here, not A3.", "It comes 80 ms late."; empty where all is well.
std::string sentenceOf(const NoteVerdict& verdict, const Note& note, const Guitar& guitar, Spelling spelling);

}  // namespace ear
