// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/engraving/rhythm_row.h"
#include "core/phrase/phrase.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// A number on a string.
struct TabHead {
  Beats at, end;
  int note = 0;    ///< id
  int string = 0;  ///< 0 the lowest
  int voice = 0;
  std::string text{};  ///< "12", "×", "(7)", "‹12›"
  Origin origin = Origin::set;
  bool differs = false;   ///< from the phrase that it is the same as
  bool doubtful = false;  ///< not likely, or with another reading beside it
  bool rings = false;     ///< it is let ring until `end`
  bool staccato = false;
  std::optional<Beats> keptTo{};  ///< the finger stays down behind the note, as far as here
  std::string finger{};           ///< "1" ... "4", "T"
};

/// What a note does, drawn at it or on to the next one.
struct TabMark {
  enum class Kind {
    bend,      ///< a rise from the number; `cents`
    heldBend,  ///< up before the stroke
    release,   ///< down again
    again,     ///< struck again while bent; text: how often
    hammer,    ///< from the note before on its string
    pull,
    slide,
    slideIn,   ///< from nowhere, from below or above (cents > 0: from above)
    slideOut,  ///< to nowhere, up or down (cents > 0: up)
    vibrato,
    wideVibrato,
    dive,
    word,  ///< text over the note: "tap", "rake", "pinch", "choke"
  };
  Kind kind{};
  Beats from, to;
  int string = 0;
  int note = 0;  ///< id
  double cents = 0.0;
  std::string text{};  ///< a size in words; "?" where none is said
};

/// Words over a stretch: palm mute, an unclear spot, a free fill, how it ends this time.
struct TabStretch {
  enum class Kind { palmMute, unclear, freeFill, hardest, ending };
  Beats from, to;
  Kind kind{};
  std::string text{};
};

/// What the hand with the pick does at a moment.
struct TabStroke {
  Beats at;
  Picking picking = Picking::unsaid;
};

struct TabCount {
  Beats at;
  std::string text;
  bool onBeat = false;
};

/// A phrase as tab with its rhythm, in beats: what is drawn and where it belongs, but not how wide. The same score is
/// drawn under the sound, on the bench and on paper.
struct TabScore {
  int strings = 6;
  std::vector<TabHead> heads{};
  std::vector<TabMark> marks{};
  std::vector<TabStretch> stretches{};
  std::vector<TabStroke> strokes{};
  std::vector<TabCount> counts{};
  std::vector<Beats> barLines{};
  std::vector<RhythmRow> voices{};  ///< one or two
  Beats from, to;                   ///< from the first thing to the end of the last one
};

struct TabScoreContext {
  Guitar guitar{};
  NotationPreferences schools{};
  bool fretsFromNut = false;
  std::vector<Beats> barLines{};  ///< rising, around the phrase; empty where no beat is known
  BeatUnit unit{};
};

/// Engraves notes. @param shown  in order; notes free of the beat have to be given the beats near which they stand, and
/// get no rhythm
TabScore engrave(const ShownPhrase& shown, const TabScoreContext& context);

/// The short form of a bend's size, for the top of its line: "¼", "½", "1", "1½" of a tone, or "+2" in frets.
std::string bendMark(const NotationPreferences& schools, Cents size);

/// "12", "×", "(7)", "‹12›".
std::string headText(const Note& note, const Guitar& guitar, bool fromNut);

}  // namespace ear
