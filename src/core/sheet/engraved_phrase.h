// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <utility>
#include <vector>

#include "core/engraving/tab_score.h"
#include "core/study/parts.h"
#include "core/study/phrase_time.h"

namespace ear {

/// A phrase as tab, with where its bars lie in the recording and the chords that sound under it.
struct EngravedPhrase {
  ShownPhrase shown{};
  TabScore score{};
  bool timed = false;                                  ///< the beats of its take are known
  std::vector<int> bars{};                             ///< number of each bar line of the score
  std::vector<Seconds> barTimes{};                     ///< when each of them sounds
  std::vector<std::pair<Beats, ShownChord>> chords{};  ///< where they change, from the phrase's start on
};

/// Notes free of the beat stand near the beats at which they sound; without beats a second is drawn as one.
/// @param level    < phrase.levels->size()
/// @param context  without bar lines, which are taken from `time`
/// @param chords   of its take, in order; empty where they are not to be shown
EngravedPhrase engravePhrase(const Pieces<Phrase>& phrases, const Phrase& phrase, std::size_t level,
                             TabScoreContext context, const PhraseTime& time, std::span<const ShownChord> chords);

/// Where a time lies in the phrase, in beats as they are written; in seconds from its start where no beat is known.
double placeIn(const Phrase& phrase, const PhraseTime& time, Seconds at);

}  // namespace ear
