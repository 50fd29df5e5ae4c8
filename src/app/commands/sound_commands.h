// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "app/commands/commands.h"
#include "app/workbench/workbench.h"

namespace ear {

/// What the commands that play, loop, isolate and shift do to the sound, and how their switches stand.
class SoundCommands : public QObject {
  Q_OBJECT
 public:
  SoundCommands(Commands& commands, Workbench& bench, QObject* parent);

 private:
  void bindPlaying();
  void bindPassage();
  void bindEdges();
  void bindTime();
  void bindIsolation();
  void bindPitch();
  void stepSpeed(int percent);
  int percentNow() const;
  void toOwnSpeed(bool faster);
  void markEdge(bool start);
  void refresh();

  Commands& commands_;
  Workbench& bench_;
};

}  // namespace ear
