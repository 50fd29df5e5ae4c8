// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>
#include <vector>

#include "core/listening/results/findings.h"

namespace ear {

/// Weight of stable partials by cents off the tempered notes at A 440, with the answer marked.
class CentsHistogram : public QWidget {
  Q_OBJECT
 public:
  explicit CentsHistogram(QWidget* parent = nullptr);
  void show(const std::optional<ReferencePitch>& measured, std::optional<Cents> decided);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::optional<ReferencePitch> measured_;
  std::optional<Cents> decided_;
};

/// A value over the length of the recording: what drifts, and where something was cut.
class CurveChart : public QWidget {
  Q_OBJECT
 public:
  struct Point {
    Seconds time;
    double value;
  };
  /// @param reach  values shown at least above and below the middle of the curve
  /// @param label  of a value at its line
  CurveChart(double reach, QString (*label)(double), QWidget* parent);
  void show(std::vector<Point> points, Seconds duration);

 signals:
  void clicked(Seconds at);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  double reach_;
  QString (*label_)(double);
  std::vector<Point> points_;
  Seconds duration_;
};

/// How loud it is left, in the middle and right over the recording, a lane for each.
class SidesChart : public QWidget {
  Q_OBJECT
 public:
  explicit SidesChart(QWidget* parent = nullptr);
  void show(const std::vector<SidePoint>& sides, Seconds duration);

 signals:
  void clicked(Seconds at);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  double xOf(Seconds t) const;
  std::vector<SidePoint> sides_;
  Seconds duration_;
};

/// Labelled bars: pitch classes, tempi.
class BarChart : public QWidget {
  Q_OBJECT
 public:
  struct Bar {
    QString label;
    float height;        ///< 0 ... 1
    bool marked;         ///< the answer
    bool noted = false;  ///< another one that may be
  };
  explicit BarChart(QWidget* parent = nullptr);
  void show(std::vector<Bar> bars);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::vector<Bar> bars_;
};

}  // namespace ear
