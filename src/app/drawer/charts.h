#pragma once

#include <QWidget>
#include <vector>

#include "core/listening/findings.h"

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

/// The offset over time: what drifts, and where a splice was made.
class CentsCurve : public QWidget {
  Q_OBJECT
 public:
  explicit CentsCurve(QWidget* parent = nullptr);
  void show(const std::optional<ReferencePitch>& measured, Seconds duration);

 signals:
  void clicked(Seconds at);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  std::optional<ReferencePitch> measured_;
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
    float height;  ///< 0 ... 1
    bool marked;
  };
  explicit BarChart(QWidget* parent = nullptr);
  void show(std::vector<Bar> bars);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::vector<Bar> bars_;
};

}  // namespace ear
