// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <optional>

#include "core/study/parts.h"

namespace ear {

class Workbench;

/// The chords of the take on the desk; what a person says of one is a step of undo.
class ChordKeeper : public QObject {
  Q_OBJECT
 public:
  explicit ChordKeeper(Workbench& bench);

  /// The chord under a time, with its stretch; empty where nothing is known of it.
  std::optional<ShownChord> at(Seconds t) const;
  void decide(const QString& label, TimeSpan span, std::optional<Chord> chord, Origin origin);
  /// Reads a name and decides it; a name that is none is said. An empty one means that no chord sounds.
  void decideTyped(TimeSpan span, const QString& name);
  void backToMeasured(TimeSpan span);
  /// Puts a chord under the playhead: over the stretch of the one that stands there, else over the bar.
  void putHere(const Chord& chord);

 private:
  Workbench& bench_;
};

}  // namespace ear
