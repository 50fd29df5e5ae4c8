// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <variant>
#include <vector>

#include "core/engraving/tab_score.h"
#include "core/study/brief.h"
#include "core/study/study.h"
#include "core/theory/notation_preferences.h"

namespace ear {

/// What of a study goes onto its sheet.
struct SheetChoice {
  enum class Extent {
    complete,
    onePage,  ///< the brief, how to tune, the form and the first phrases, as far as a page holds them
    phrases,  ///< those numbered or listed from `first` to `last`, with how to tune in one sentence
    chart,    ///< the chords of the form alone
    form,
  };
  Extent extent = Extent::complete;
  int first = 1, last = 999;       ///< phrases, as they are numbered on the sheet
  std::string level{};             ///< name of the level that is shown where a phrase has it; empty: the fullest
  std::string header{}, footer{};  ///< the studio's own lines, on every page
  bool operator==(const SheetChoice&) const = default;
};

// A lesson sheet is a list of blocks of these kinds; printing, HTML and plain text are ways to set it.

struct SheetHeading {
  std::string text;
};

struct SheetWords {
  enum class Tone { plain, soft, caution };
  std::string text;
  Tone tone = Tone::plain;
};

/// Rows of cells; `head` is empty where the columns need no names.
struct SheetTable {
  std::vector<std::string> head;
  std::vector<std::vector<std::string>> rows;
};

/// How the strings are tuned, as a picture.
struct SheetTuning {
  struct String {
    std::string name, note, hertz, cents;  ///< cents from standard; what the tuner shows, before the capo is on
    bool underCapo = false;
    bool changed = false;  ///< not tuned as in standard tuning, whatever the recording's pitch
  };
  std::vector<String> strings;  ///< the highest sounding first
  int capo = 0;                 ///< fret; 0 for none
};

struct SheetChord {
  double at = 0.0;  ///< share of the bar, in [0, 1)
  std::string sounding;
  std::string shape;    ///< as the hand plays it; empty where that is the same, or not known
  bool open = false;    ///< heard, but not at least likely: what stands there is "?"
  bool silent = false;  ///< no chord sounds: what stands there is "none"
  bool operator==(const SheetChord&) const = default;
};

/// The chords of the form in a grid of bars.
struct SheetChart {
  struct Bar {
    int number = 0;
    std::vector<SheetChord> chords;  ///< that start in it; empty: the one before goes on
  };
  struct Section {
    std::string letter, name, difference;
    TimeSpan span;
    std::string sameAs;  ///< when the section that has the same chords starts; then it has no bars of its own
    int barCount = 0;
    std::vector<Bar> bars;
  };
  std::vector<Section> sections;
};

/// Grips of the chords, in the guitar's own tuning and capo.
struct SheetBoxes {
  struct Box {
    std::string sounding, shape;
    std::vector<int> frets;    ///< by string from the lowest, -1 where it is silent; counted from the capo
    int barre = 0;             ///< fret of it; 0 for none
    std::string text() const;  ///< "x02210", the lowest string first
  };
  int capo = 0;
  std::vector<Box> boxes;
};

/// Places on the neck: a scale, or those of a phrase.
struct SheetNeck {
  struct Dot {
    int string = 0;  ///< 0 the lowest
    int fret = 0;    ///< counted from the capo
    std::string label;
    bool tonic = false;
  };
  std::string name;
  std::vector<std::string> strings;  ///< what they are called, the lowest first
  int frets = 0;                     ///< drawn, from the capo
  int capo = 0;
  std::vector<Dot> dots;
  /// Each string with its frets, the highest sounding first.
  std::vector<std::vector<std::string>> rows() const;
};

/// A written phrase.
struct SheetPhrase {
  int number = 0;  ///< on the sheet, 1 ...
  std::string id, name;
  std::vector<std::string> about;  ///< times and bars; how true it is; what it is the same as
  TabScore score;                  ///< without heads where the words say all
  std::vector<int> bars;           ///< of the score's bar lines
  std::vector<Seconds> barTimes;
  std::vector<std::pair<Beats, std::string>> chords{}, scales{};
  std::vector<std::string> strings{};  ///< what they are called at their left end, the lowest first
  std::string remark;
  std::vector<SheetPhrase> with{};  ///< what other guitars play at the time, in the same count of beats
};

/// A passage with what was typed for it.
struct SheetPassage {
  std::string name, about, typed;
};

using SheetBlock = std::variant<SheetHeading, SheetWords, SheetTable, SheetTuning, SheetChart, SheetBoxes, SheetNeck,
                                SheetPhrase, SheetPassage>;

struct Sheet {
  std::string title;
  std::string recording;  ///< which one all times belong to
  std::string header, footer;
  int revision = 0;  ///< of the lesson; 0: it has no number
  std::vector<SheetBlock> blocks;
};

/// What a sheet is made from.
struct SheetSource {
  const Study& study;
  const Take& take;
  const Findings* findings = nullptr;  ///< of the take, or null
  NotationPreferences schools{};
  std::string part{};  ///< id of the guitar whose shapes and grips are meant; empty: the first settled one
};

/// A study's sheet for one take. What is open is said as open: no guess tells anybody how to tune or what to play.
Sheet layOutSheet(const SheetSource& source, const SheetChoice& choice = {});

/// What of the sheet belongs to a step of the lesson: how to tune; the chords of a section and their grips; the tab of
/// a phrase, that of its original where it is a whole repeat. Empty for steps that need none.
std::vector<SheetBlock> stepBlocks(const SheetSource& source, const LessonStep& step, const std::string& level);

/// What of a take becomes a picture of its own.
enum class PictureOf {
  phrases,  ///< as tab
  grips,    ///< of the chords, the usual ones
  tuning,
  neck,  ///< the scale of the key, or the places of a phrase
};
/// @param part, phrase  ids; empty: the first settled guitar, all phrases
/// @return empty where there is nothing of it, or it is not settled
std::vector<SheetBlock> pictureBlocks(const SheetSource& source, PictureOf what, const std::string& part = {},
                                      const std::string& phrase = {});

/// The sheet as UTF-8 text, lines of at most 78 characters but for what was typed; tab lines up in any fixed-width
/// face.
std::string sheetText(const Sheet& sheet);

/// The sheet as one HTML file without anything beside it, for screens of any width, light and dark.
/// @param drawn  makes an SVG picture of a phrase's tab; without it tab is set in characters
std::string sheetHtml(const Sheet& sheet, const std::function<std::string(const SheetPhrase&)>& drawn = {});

}  // namespace ear
