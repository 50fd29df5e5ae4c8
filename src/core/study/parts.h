// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/listening/results/findings.h"
#include "core/study/study.h"
#include "core/theory/fretboard.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// The guitars of a take: those that a person has touched, or else one for each guitar that was heard (one in the
/// middle while nothing is known).
std::vector<GuitarPart> partsOf(const Study& study, const Take& take, const Findings* findings);

/// Puts the parts of a take into the study, as the first edit of one of them needs it.
void keepParts(Study& study, const Take& take, const Findings* findings);

/// The guitar that was heard where a part sits, or null.
const FoundGuitar* heardFor(const GuitarPart& part, const Findings* findings);

/// What is known of a part's setup: decided, else the first reading of what was heard, else nothing.
std::optional<Decision<GuitarSetup>> setupOf(const GuitarPart& part, const Findings* findings);

/// What would tell how an open part was tuned: the passage in which it is heard with the least beside it.
struct SetupHint {
  TimeSpan span;
  std::string sentence;
};
/// Nothing where the setup is settled, or where the part is never heard well enough.
std::optional<SetupHint> whatWouldTell(const GuitarPart& part, const Findings* findings);

/// A part as a guitar in hand. @param offset  of the recording from A 440
Guitar guitarOf(const GuitarSetup& setup, Cents offset);

/// Semitones from the shapes a hand makes to what sounds: strings that are shifted as a whole, and a full capo.
int shapeShift(const GuitarSetup& setup);

/// How measured cents split into strings shifted by semitones and a recording off by the rest.
struct PitchSplit {
  int semitones = 0;  ///< of all strings
  Cents offset;       ///< of the recording, as measured
  double certainty = 0.0;
  std::string reason;
};

/// Ways to read how far strings lie from standard at A 440, likeliest first: "all strings down a semitone, and 10 cents
/// sharp of that". They differ in what the guitar readings say of its strings; the cents are the same.
std::vector<PitchSplit> splitsOf(Cents offset, const GuitarPart& part, const Findings* findings);

std::string sentenceOf(const GuitarSetup& setup);  ///< "open D, capo 2"
std::string sentenceOf(const PitchSplit& split);   ///< "All strings a semitone down, 10 cents sharp of that"

/// The key by sound and by shape, as the studio leads with it: "C♯ minor, A minor shapes", "A minor shapes, sounding C♯
/// minor". Without a shift there is only one name.
std::string keySentence(const NotationPreferences& schools, const Key& key, const GuitarSetup& setup);

/// What the stereo picture says of the guitars: where they sit, and whether two of them could be taken for one.
std::string sidesSentence(const Findings& findings);

/// "left", "right", "middle".
std::string_view sideWord(Side side);

/// "nylon-string guitar"; "not said" for the unknown one.
std::string_view instrumentWord(Instrument instrument);

std::string rangeWords(const std::optional<NoteRange>& range);  ///< "E2 to B4"; empty without one
/// Reads two notes, such as "E2 to B4", "E2-B4" or "B4 E2"; empty where there are not two.
std::optional<NoteRange> parseRange(std::string_view text);

/// A guitar leaves the study; what named it names none.
void removePart(Study& study, const std::string& id);

/// A chord of the recording as it is shown: decided where a person said so, else measured.
struct ShownChord {
  TimeSpan span;
  std::optional<Chord> chord;
  Origin origin = Origin::measured;
  double certainty = 0.0;
  double kindCertainty = 0.0;  ///< of its kind apart from its root; 0 where nothing tells it
};
/// Whether it may be written down for somebody to play: decided, or at least likely.
inline bool isSettled(const ShownChord& c) {
  return c.origin != Origin::measured || c.certainty >= kLikely;
}
std::vector<ShownChord> chordsOf(const Take& take, const Findings* findings);

/// Says what a stretch's chord is; decisions it covers are replaced, others are cut to make room.
void decideChord(Take& take, const ChordDecision& decision);

}  // namespace ear
