// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

#include "core/base/shared.h"
#include "core/phrase/note.h"
#include "core/phrase/scale_stretch.h"

namespace ear {

/// How true a phrase is to its recording.
enum class Faith { asRecorded, arranged, inTheStyle };

/// A stretch that holds words instead of notes.
struct OpenStretch {
  enum class Kind {
    unclear,   ///< what is played there is not made out
    freeFill,  ///< whatever fits
  };
  Beats from, to;  ///< from the start of the phrase; from < to
  Kind kind = Kind::unclear;
  std::string words{};
  bool operator==(const OpenStretch&) const = default;
};

/// A phrase is the same as another one, but for what is said here. The notes themselves stand there alone, so that a
/// correction reaches every repeat.
struct PhraseLink {
  std::string to;               ///< id of the other phrase, in the same take or another
  int frets = 0;                ///< every stopped and open place so many frets up
  int strings = 0;              ///< ... and so many strings up (sounding), before the frets
  std::vector<int> without{};   ///< ids of notes that are left out
  std::vector<Note> changed{};  ///< in place of the note with that id, or new where the other has none with it
  std::string how{};            ///< the difference in words; may be empty
  bool operator==(const PhraseLink&) const = default;
};

/// One way to play a phrase.
struct Arrangement {
  std::string name{};         ///< empty for the first one; "easier", "bare bones"
  std::string made{};         ///< what was made easier, in words
  std::vector<Note> notes{};  ///< in the order of notesInOrder()
  std::vector<OpenStretch> open{};
  std::optional<std::pair<Beats, Beats>> hardest{};  ///< from, to
  bool operator==(const Arrangement&) const = default;
};

/// A phrase of a guitar part, written down: what is played in a span of one take.
struct Phrase {
  std::string id;
  std::string take, part;  ///< ids
  std::string name{};
  int number = 0;   ///< in the chain in which a solo is taught; 0: in none
  TimeSpan span{};  ///< of the take; its start is beat 0
  Faith faith = Faith::asRecorded;
  double certainty = 1.0;  ///< in [0, 1], of the whole
  std::string remark{};
  std::vector<ScaleStretch> scales{};                        ///< that it is said to use, rising
  std::set<int> meant{};                                     ///< ids of notes outside of them that are meant so
  std::optional<PhraseLink> link{};                          ///< then the first arrangement has no notes of its own
  Shared<std::vector<Arrangement>> levels{{Arrangement{}}};  ///< at least one, the fullest first
  bool operator==(const Phrase&) const = default;
};

/// Orders notes by time, then voice, then string.
void putInOrder(std::vector<Note>& notes);

/// An id that no note of these phrases has or is named by. Ids are of the whole study, so that a note that is added to
/// a repeat never comes to stand for one that its original gains later.
int freshNoteId(const Pieces<Phrase>& phrases);

/// A note as it stands in a phrase.
struct ShownNote {
  Note note;
  bool differs = false;  ///< from the phrase that it is the same as: it is starred
};

/// What a list of phrases says of one of them.
struct ShownPhrase {
  std::vector<ShownNote> notes{};  ///< in order
  std::vector<OpenStretch> open{};
  std::vector<int> lost{};  ///< ids of notes that a transposition by frets or strings leaves no place for
  std::string problem{};    ///< a sentence where the link leads nowhere or in a circle; else empty
};

/// The notes of a level of a phrase, links followed. @pre level < phrase.levels->size()
/// @param guitar  decides which places there are
ShownPhrase shown(const Pieces<Phrase>& phrases, const Phrase& phrase, const Guitar& guitar, std::size_t level = 0);

/// Makes a linked phrase its own: what is shown becomes its notes, the link goes. Nothing changes without a link.
void detach(const Pieces<Phrase>& phrases, Phrase& phrase, const Guitar& guitar);

/// Writes a link so that the phrase shows these notes. @return whether it could be: the notes of the other phrase are
/// known and the link leads there without a circle
bool linkTo(const Pieces<Phrase>& phrases, Phrase& phrase, const std::string& other, std::vector<Note> notes,
            const Guitar& guitar, int frets = 0, int strings = 0);

}  // namespace ear
