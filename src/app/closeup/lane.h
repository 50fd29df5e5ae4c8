// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QRectF>
#include <QString>

#include "core/base/units.h"

class QPainter;
class QPoint;
class QWheelEvent;

namespace ear {

/// The stretch of the recording that is seen, laid over the area of a lane. Positions are those of the close-up.
struct LaneView {
  QRectF area;
  TimeSpan window;

  double xOf(Seconds t) const {
    return window.length() > Seconds(0) ? area.left() + (t - window.start) / window.length() * area.width() : 0;
  }
  Seconds timeAt(double x) const {
    return window.start + window.length() * ((x - area.left()) / std::max(1.0, area.width()));
  }
};

/// One strip of the close-up, on the axis of time that all of them share.
///
/// A new one says how high it is and paints itself; what it does not answer for is the close-up's own: a click goes
/// there, a drag marks a passage, the wheel zooms.
class Lane : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;

  /// Pixels it takes; none for a lane that is not shown. @param room  what the lanes above leave; the last takes all
  virtual int height(int room) const = 0;
  virtual void paint(QPainter& p, const LaneView& view) = 0;
  /// Lines that go on through the lanes that are crossed, and what must be seen over the passage in hand.
  virtual void paintThrough(QPainter& p, const LaneView& crossed);
  virtual void paintOver(QPainter& p, const LaneView& view);
  /// Bars and beats are drawn through it.
  virtual bool crossed() const { return false; }
  /// Another theme, size or recording: what was painted before is of no use.
  virtual void forget() {}

  /// What a press there takes hold of. A firm hold goes before the edges of the passage in hand, a loose one after.
  enum class Hold { none, loose, firm };
  virtual Hold holdAt(QPointF at, Qt::KeyboardModifiers modifiers, const LaneView& view) const;
  /// The hold is taken, drawn along and let go.
  virtual void grab(QPointF at, Qt::KeyboardModifiers modifiers, const LaneView& view);
  virtual void drag(QPointF to, Qt::KeyboardModifiers modifiers, const LaneView& view);
  virtual void letGo(QPointF at, bool moved, const LaneView& view);

  /// A plain click, after the playhead went there.
  virtual void clicked(QPointF at, const LaneView& view);
  virtual void doubleClicked(QPointF at, const LaneView& view);
  virtual void menu(QPointF at, QPoint global, const LaneView& view);
  /// @return whether it was for this lane
  virtual bool wheel(const QWheelEvent& event, const LaneView& view);
  /// Words for what lies there, or none.
  virtual QString tip(QPointF at, const LaneView& view) const;

 signals:
  void changed();  ///< paint it again
};

}  // namespace ear
