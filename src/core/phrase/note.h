// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/base/origin.h"
#include "core/base/rational.h"
#include "core/base/units.h"
#include "core/theory/fretboard.h"

namespace ear {

/// A finger of the hand on the neck.
enum class Finger { unsaid, first, second, third, fourth, thumb };

/// What the other hand does: a pick down or up, thumb and fingers (p i m a), pick and fingers together, or a slap.
enum class Picking { unsaid, down, up, thumb, index, middle, ring, hybrid, slap };

/// How a note starts.
enum class Attack {
  plucked,
  hammeredOn,     ///< from a lower note of the same string
  pulledOff,      ///< from a higher one
  slidInto,       ///< from the note before on the same string, or from `slidFrom`
  slidFromBelow,  ///< from nowhere in particular
  slidFromAbove,
  tapped,
  raked,  ///< at the end of a rake or sweep across the strings
};

/// How a note ends, unless it is let go or led into the next one.
enum class Ending { plain, slidUp, slidDown, pulledOff, choked, faded };

/// What of a note sounds.
enum class Tone {
  full,
  ghost,  ///< hardly played
  dead,   ///< struck on a damped string: a click without a pitch
};

/// A size that was measured or written down; nothing while nobody has said it.
using Size = std::optional<Cents>;

/// A string pushed or pulled aside. Two strings bent together are two notes, each with its own; a unison bend is a bent
/// note beside one that stays.
struct Bend {
  Size size{};            ///< up from the fretted pitch
  bool before = false;    ///< bent before it is struck
  bool released = false;  ///< let down again while it sounds
  int again = 0;          ///< times it is struck again while bent
  bool operator==(const Bend&) const = default;
};

struct Vibrato {
  enum class Kind { finger, wide, bar };
  Kind kind = Kind::finger;
  std::optional<Hertz> rate{};
  Size width{};  ///< from the middle to the top
  bool operator==(const Vibrato&) const = default;
};

/// The vibrato bar pressed down.
struct Dive {
  Size depth{};  ///< down from the note
  bool back = false;
  bool operator==(const Dive&) const = default;
};

/// Two notes of a string in quick turn.
struct Trill {
  int fret = 0;  ///< of the other one
  std::optional<Hertz> rate{};
  bool operator==(const Trill&) const = default;
};

/// A partial of the string instead of its whole note.
struct PlayedHarmonic {
  enum class Kind {
    natural,  ///< an open string touched over a fret, which is the note's own
    pinch,
    tapped,  ///< a stopped string touched at `node`
  };
  Kind kind = Kind::natural;
  int node = 0;  ///< fret over which it is touched; of a pinch harmonic, where it is known, the fret of the same
                 ///< partial; 0 where it is not
  bool operator==(const PlayedHarmonic&) const = default;
};

/// A bar on the strings instead of a finger.
enum class SlideBar {
  none,
  atFret,  ///< over the fret wire
  lifted,  ///< the bar leaves the string for a fretted or open note
};

/// A quick repetition by the pick.
struct Tremolo {
  int strokesInBeat = 0;  ///< 0: as fast as can be
  bool operator==(const Tremolo&) const = default;
};

/// Another way to read a note, kept beside it.
struct NoteReading {
  Beats at, length;
  FretPosition place;
  std::optional<Bend> bend{};
  double certainty = 0.0;  ///< in [0, 1]
  std::string why{};
  bool operator==(const NoteReading&) const = default;
};

/// One note of a phrase.
struct Note {
  int id = 0;     ///< its own within the study, 1 ...; kept through every edit, so that a link can name it
  int voice = 0;  ///< 0 the upper, 1 the one beneath (a thumb's bass)

  Beats at;          ///< from the start of the phrase; negative in a pickup
  Beats length = 1;  ///< > 0, as written
  std::optional<TimeSpan>
      free{};  ///< seconds of the take, where no beat is counted; then `at` and `length` are not read

  FretPosition place;
  Finger finger = Finger::unsaid;
  bool barred = false;    ///< under a finger that lies over several strings
  bool keptDown = false;  ///< the finger stays when the note is over
  Picking picking = Picking::unsaid;

  Attack attack = Attack::plucked;
  std::optional<int> slidFrom{};  ///< fret, for Attack::slidInto where no note leads there
  Tone tone = Tone::full;
  std::optional<Bend> bend{};
  std::optional<Vibrato> vibrato{};
  std::optional<Dive> dive{};
  std::optional<Trill> trill{};
  std::optional<PlayedHarmonic> harmonic{};
  std::optional<Tremolo> tremolo{};
  SlideBar bar = SlideBar::none;
  bool letRing = false;
  bool palmMuted = false;
  bool staccato = false;
  bool feedback = false;
  Ending ending = Ending::plain;

  Origin origin = Origin::set;
  double certainty = 1.0;  ///< in [0, 1]
  std::string why{};       ///< a word on it; may be empty
  std::vector<NoteReading> readings{};

  bool operator==(const Note&) const = default;

  Beats end() const { return at + length; }
};

/// What a note sounds when it starts, MIDI at the recording's own pitch: a pre-bend is up already, a harmonic sounds
/// its partial. Nothing for a dead note, a bend before the stroke without a size, and a harmonic whose partial is not
/// known.
std::optional<MidiPitch> pitchAtStart(const Guitar& guitar, const Note& note);

/// The highest pitch a bend leads to; nothing without a bend or a size.
std::optional<MidiPitch> bendTarget(const Guitar& guitar, const Note& note);

/// Whether one of two notes that sound together is bent up to the pitch of the other, within a quarter of a semitone.
bool isUnisonBend(const Guitar& guitar, const Note& one, const Note& other);

}  // namespace ear
