// SPDX-License-Identifier: GPL-3.0-or-later
// What the writer and the reader of MusicXML both know.
#pragma once

#include <string>
#include <string_view>

#include "core/phrase/note.h"
#include "core/theory/chord.h"
#include "core/theory/key.h"

namespace ear::musicxml {

/// Of the key signature, negative for flats.
int fifthsOf(const Key& key);
Key keyOf(int fifths, Mode mode);

struct Step {
  char letter = 'C';
  int alter = 0;   ///< semitones
  int octave = 4;  ///< C4 is middle C
};
Step stepOf(int midi, bool flats);
int midiOf(const Step& step);

/// "minor-seventh"; "other" for what the format has no word for.
std::string_view kindOf(const ChordType& type);
const ChordType* typeOf(std::string_view kind);

/// What of a note no element of the format holds, as words: "again=2 barre length=3/4". Empty where all is held.
/// @param written  the length that its elements say
std::string leftoverOf(const Note& note, Beats written);
/// The other way round; words that are not known are passed over.
void readLeftover(std::string_view words, Note& note);

}  // namespace ear::musicxml
