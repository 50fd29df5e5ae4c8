// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QTimer>
#include <functional>

#include "app/workbench/background_job.h"
#include "app/workbench/transport.h"
#include "core/study/grid_edit.h"

namespace ear {

class Workbench;

/// The beats of the take on the desk: tapping, correcting and following them, the click on them and the count before
/// playing. Every change of the grid is one step of undo.
class TimeKeeper : public QObject {
  Q_OBJECT
 public:
  explicit TimeKeeper(Workbench& bench);
  ~TimeKeeper() override;

  const Grid& grid() const { return grid_; }
  /// Bar and beat at a time, as the chosen school counts; empty outside of the grid.
  QString counted(Seconds t) const;

  void edit(const QString& label, const std::function<void(Grid&)>& change, const Evidence& evidence,
            const std::string& merge = {});
  void halve();
  void makeDouble();
  void shiftBars(int beats);
  /// Tempo, metre and feel by hand; bar lines follow another metre.
  void set(const QString& label, const TimeValue& value, const Evidence& evidence);
  /// The beat nearest to the playhead starts a bar.
  void barHere();
  /// The beats of the passage are right, or are let go.
  void fixPassage(bool fixed);
  void confirm();
  /// Back to what was measured.
  void drop();

  /// A tap at the playhead while it plays. @param first  this beat starts a bar
  void tap(bool first);
  int taps() const { return static_cast<int>(taps_.size()); }
  /// Ends the tapping now instead of after a pause.
  void endTaps();

  /// The machine follows the beats around the fixed ones, in the background.
  void followAround();
  bool following() const { return job_.running(); }
  void stopFollowing() { job_.cancel(); }

  bool click() const { return click_; }
  void setClick(bool on);
  bool countIn() const { return countIn_; }
  void setCountIn(bool on);

 signals:
  void changed();  ///< taps, following, click, count-in
  void followed(double share);

 private:
  Transport::Count barToCount() const;
  void refresh();
  void giveClick();
  std::size_t beatNear(Seconds t) const;

  Workbench& bench_;
  Grid grid_;
  std::vector<Seconds> taps_;
  std::size_t firstOfBar_ = 0;
  QTimer pause_{this};
  BackgroundJob job_;
  bool click_ = false, countIn_ = false;
};

}  // namespace ear
