// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/phrase/phrase.h"
#include "core/study/time_map.h"

namespace ear {

/// Where the beats of a phrase lie in its take. Its beat 0 is the sixteenth nearest to where its span starts, so that
/// it follows the grid when that is corrected.
class PhraseTime {
 public:
  /// @param map  of the take; must outlive this. Empty where no beat is known: then only notes in seconds have a time
  PhraseTime(const Phrase& phrase, const TimeMap& map);

  bool known() const { return !map_.empty(); }
  /// The phrase's beat 0, counted from the first bar line of the take. @pre known()
  Beats origin() const { return origin_; }
  /// When a place of the phrase sounds. @pre known()
  Seconds timeOf(Beats place) const { return map_.timeAt(origin_ + place); }
  /// The place of a time, as it is written (swing undone). @pre known()
  double placeOf(Seconds time) const { return map_.beatsAt(time) - origin_.value(); }
  /// The number of the bar in which a place lies: 1 ..., 0 the pickup. @pre known()
  int barAt(Beats place) const { return map_.placeOf(origin_ + place).bar; }
  /// From where to where a note sounds; nothing where it is counted in beats and no beat is known.
  std::optional<TimeSpan> spanOf(const Note& note) const;
  /// Bar lines in beats of the phrase, rising, from the last one that is not after `from` to the first that is not
  /// before `to`. @pre known()
  std::vector<Beats> barLines(Beats from, Beats to) const;

 private:
  const TimeMap& map_;
  Beats origin_;
};

/// A start as it is written, and how far it had to move.
struct Quantised {
  Beats at;
  Seconds moved;  ///< from where it was heard to where it is written to sound
};

struct QuantiseRules {
  int finest = 4;        ///< parts of a beat: 1, 2 or 4
  bool triplets = true;  ///< beats may be parted in three
};

/// Puts starts on the raster. Within each beat the coarsest parting that explains its starts is taken: halves, quarters
/// or thirds, as the squared distance from the raster against a price for finer ones (how they are weighed is common
/// practice, no source). Two starts never come to the same place while another one is free within the beat.
/// @param starts  rising
/// @pre time.known()
std::vector<Quantised> quantised(std::span<const Seconds> starts, const PhraseTime& time,
                                 const QuantiseRules& rules = {});

}  // namespace ear
