// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <map>
#include <vector>

#include "app/tab/tab_painter.h"
#include "core/phrase/note.h"

namespace ear {

class Workbench;

// What is said of the notes of the phrase in hand, for every view of them.

/// "B♭3, the ♭7 of C minor; fret 3 on string 3".
QString noteSentence(const Workbench& bench, const Guitar& guitar, const Note& note);

/// The same with where the note came from, what it does, and what is wrong with it.
QString noteTip(const Workbench& bench, int note);

/// Marks of the checks by note.
std::map<int, HeadCheck> checksOf(const Workbench& bench);

/// What a check found, the likeliest to be wrong first.
struct Doubt {
  int note = 0;
  Beats at;
  QString sentence;
  bool byEar = false;
  double weight = 0.0;
};
std::vector<Doubt> doubtsOf(const Workbench& bench);

/// The phrase in hand with what was heard and is not taken yet among its notes, under negative ids.
TabScore withOffered(const Workbench& bench);

/// Plays the chosen notes on the string voice, at the recording's pitch as it sounds now.
void playWritten(Workbench& bench);
/// Loops what the recording has where the chosen notes are.
void loopChosen(Workbench& bench);

}  // namespace ear
