// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/origin.h"
#include "core/base/shared.h"
#include "core/base/units.h"
#include "core/listening/results/sides.h"
#include "core/phrase/phrase.h"
#include "core/settings/isolation.h"
#include "core/study/evidence.h"
#include "core/study/lesson.h"
#include "core/theory/chord.h"
#include "core/theory/key.h"
#include "core/theory/rhythm_values.h"
#include "core/theory/tuning.h"

namespace ear {

/// A value with where it came from, how sure it is and on what evidence.
template <class T>
struct Decision {
  T value;
  Origin origin = Origin::measured;
  double certainty = 0.0;  ///< in [0, 1]
  Evidence evidence{};
  bool operator==(const Decision&) const = default;
};

inline constexpr double kSure = 0.75, kLikely = 0.45;  ///< certainties from which these words are said

/// Whether a value may drive anything else: a person's, or a measurement that is at least likely. A guess is shown as
/// open and gives no orders.
template <class T>
bool isSettled(const std::optional<Decision<T>>& decision) {
  return decision && (decision->origin != Origin::measured || decision->certainty >= kLikely);
}

/// The value where it is settled.
template <class T>
std::optional<T> settled(const std::optional<Decision<T>>& decision) {
  return isSettled(decision) ? std::optional<T>(decision->value) : std::nullopt;
}

/// How far the recording lies from concert pitch. That strings were tuned down is a matter of each guitar.
struct PitchValue {
  Cents offset;  ///< of the recording from A 440, in (-50, 50]
  bool operator==(const PitchValue&) const = default;
};

/// How a guitar was set up.
struct GuitarSetup {
  Tuning tuning = standardTuning();
  Capo capo{};
  std::string nickname{};  ///< the teacher's own word for the tuning; may be empty
  bool operator==(const GuitarSetup&) const = default;
};

inline constexpr int kUsualFrets = 22;

/// What a part is played on.
enum class Instrument { unknown, steelString, nylonString, electric, twelveString, resonator, bass, other };
inline constexpr int kInstruments = 8;

/// The lowest and the highest note of a part, as MIDI numbers.
struct NoteRange {
  int lowest = 0, highest = 0;
  bool operator==(const NoteRange&) const = default;
};

/// A guitar of a take: tuning and capo belong to it, not to the song.
struct GuitarPart {
  std::string id;
  std::string take;  ///< id
  std::string name;
  Side side = Side::centre;
  bool arranged = false;                         ///< changed or merged for one pair of hands; else as recorded
  std::optional<Decision<GuitarSetup>> setup{};  ///< what a person decided; empty where the measurement stands
  bool fretsFromNut = false;                     ///< frets are counted from the nut where a capo is on
  int frets = kUsualFrets;                       ///< on its neck, from the nut
  Instrument instrument = Instrument::unknown;
  std::string sound{};               ///< the teacher's own words: pickup, gain, effects, slide; may be empty
  std::optional<NoteRange> range{};  ///< as played, sounding
  std::string doubledBy{};           ///< id of the part that plays the same; empty where none does
  bool operator==(const GuitarPart&) const = default;
};

/// What a person says of the chord of a stretch; it stands in place of what was measured there.
struct ChordDecision {
  TimeSpan span;
  std::optional<Chord> chord;  ///< empty: no chord
  Origin origin = Origin::set;
  bool operator==(const ChordDecision&) const = default;
};

struct TimeValue {
  Bpm tempo;
  int meter = 4;  ///< beats in a bar
  Swing swing{};
  bool operator==(const TimeValue&) const = default;
};

/// One beat of a take.
struct Beat {
  Seconds time;
  bool bar = false;    ///< it starts one
  bool fixed = false;  ///< by hand; the machine may move the others
  bool operator==(const Beat&) const = default;
};
using Grid = std::vector<Beat>;  ///< rising in time

/// A spot worth finding again, in the teacher's own words.
struct Marker {
  Seconds time;
  std::string text;
  bool operator==(const Marker&) const = default;
};

/// A stretch of the form. One letter = the same music.
struct Section {
  TimeSpan span;
  std::string letter;
  std::string name;  ///< the teacher's own word for it; may be empty
  Origin origin = Origin::measured;
  double certainty = 0.0;
  std::string difference{};  ///< from the first section of its letter; may be empty
  std::string guess{};       ///< what the machine takes it for, such as "verse"; never more than a guess
  bool operator==(const Section&) const = default;
};
using Form = std::vector<Section>;

enum class TakeKind { unknown, studio, live, other };  ///< unknown until somebody says so

/// One recording of the song. Every claim about the music belongs to a take.
struct Take {
  std::string id;
  std::string name;
  TakeKind kind = TakeKind::unknown;
  std::filesystem::path file;  ///< absolute; the study file keeps it relative to itself
  std::string hash;            ///< SHA-256 of the file, empty until read
  Seconds duration;

  // What a person decided; empty where the measurement stands.
  std::optional<Decision<PitchValue>> pitch;
  std::optional<Decision<Key>> key;
  std::optional<Decision<TimeValue>> time;
  std::optional<Decision<Shared<Grid>>> grid{};
  std::optional<Decision<Shared<Form>>> form;
  std::vector<Marker> cues{};                 ///< rising
  Shared<std::vector<ChordDecision>> chords;  ///< rising, without overlap
  bool operator==(const Take&) const = default;
};

/// A passage of a take that is worth coming back to, with how it is practised and what was heard in it.
struct Passage {
  /// What of it is set on the desk.
  struct Settings {
    TimeSpan span;
    double speed = 1.0;
    Cents shift;
    Isolation isolation{};
    bool operator==(const Settings&) const = default;
  };

  std::string id;
  std::string take;  ///< id
  std::string name;
  TimeSpan span;
  double speed = 1.0;
  Cents shift;
  std::string text;       ///< lines of words or typed tab
  Isolation isolation{};  ///< what of the sound is heard
  /// Id of the guitar it belongs to; empty while nobody has said so. A take's guitars have their ids before any of them
  /// is touched (core/study/parts.h), so that there need not be one in the study.
  std::string part{};
  bool operator==(const Passage&) const = default;

  Settings settings() const { return {span, speed, shift, isolation}; }
  void keep(const Settings& s) { span = s.span, speed = s.speed, shift = s.shift, isolation = s.isolation; }
};

/// Something that is not made out yet, and who could settle it.
struct OpenQuestion {
  std::string id;
  std::string take;  ///< id
  TimeSpan span;
  std::string text;
  std::vector<std::string> readings{};  ///< what it may be
  std::string who{};                    ///< could settle it; may be empty
  std::string answer{};                 ///< empty while it is open
  bool operator==(const OpenQuestion&) const = default;
};

/// A word of the lesson that is pinned to the time at which it was written.
struct LessonNote {
  std::string take;  ///< id
  Seconds time;
  std::string text;
  bool operator==(const LessonNote&) const = default;
};

/// What was practised, and how far it came.
struct PracticeEntry {
  enum class Kind { ladder, chain, answer };
  std::string when;  ///< local date and time, ISO 8601
  std::string take;  ///< id
  TimeSpan span;
  Kind kind = Kind::ladder;
  double speed = 1.0;     ///< reached
  int times = 0;          ///< played to the end, or said to be clean
  std::string reached{};  ///< of a chain: its last link
  bool operator==(const PracticeEntry&) const = default;
};

/// A sheet that was handed out.
struct SheetRevision {
  int number = 0;    ///< of its take, 1 ...
  std::string when;  ///< local date and time, ISO 8601
  std::string take;  ///< id
  std::string text;  ///< all of it, as plain text
  bool operator==(const SheetRevision&) const = default;
};

/// How often the ear was right before the machine said what sounds.
struct EarTally {
  int guesses = 0, hits = 0;
  bool operator==(const EarTally&) const = default;
};

/// A song being prepared. A copy shares with it whatever is not changed.
struct Study {
  std::string title{};
  Pieces<Take> takes{};
  Pieces<GuitarPart> parts{};  ///< those of a take that were touched; see core/study/parts.h
  Pieces<Passage> passages{};
  Pieces<Phrase> phrases{};
  Pieces<OpenQuestion> questions{};
  Shared<std::vector<LessonNote>> notes{};         ///< rising in time for each take
  Shared<std::vector<PracticeEntry>> log{};        ///< oldest first
  Shared<std::vector<SheetRevision>> revisions{};  ///< oldest first
  Pieces<LessonPlan> plans{};                      ///< at most one for each take
  Shared<std::vector<LessonGiven>> lessons{};      ///< oldest first
  EarTally ear{};
  bool audioForStudents = false;  ///< somebody said that parts of its recordings may be given to students
  bool operator==(const Study&) const = default;

  // Null where there is none of that id. Those that are not const are to be changed, and no longer shared.
  const Take* take(const std::string& id) const;
  Take* take(const std::string& id);
  GuitarPart* part(const std::string& id);
  Passage* passage(const std::string& id);
  const Passage* passage(const std::string& id) const;
  Phrase* phrase(const std::string& id);
  const Phrase* phrase(const std::string& id) const;
  /// The plan of the lesson on a take.
  const LessonPlan* plan(const std::string& take) const;
};

/// An id that no take, part, passage, phrase or question of the study has.
std::string freshId(const Study& study, const std::string& prefix);

/// "sure", "likely" or "guess".
std::string_view certaintyWord(double certainty);

}  // namespace ear
