// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <map>
#include <vector>

#include "app/closeup/lane.h"
#include "app/workbench/background_job.h"
#include "app/workbench/workbench.h"

class QPainter;

namespace ear {

/// Where something is struck: small marks under the sound of the close-up, measured beside the window as one looks.
class AttackMarks : public QObject {
  Q_OBJECT
 public:
  AttackMarks(Workbench& bench, QObject* parent);

  void paint(QPainter& p, const LaneView& view);
  /// Marks in the last look are still being measured.
  bool busy() const { return job_.running(); }
  /// What is known of a stretch by now.
  std::vector<Seconds> in(TimeSpan span) const;

 signals:
  void changed();

 private:
  void measure(int chunk);

  Workbench& bench_;
  std::map<int, std::vector<Seconds>> known_;  // by stretch of kChunk
  BackgroundJob job_;
};

}  // namespace ear
