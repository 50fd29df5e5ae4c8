// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QTimer>
#include <optional>

#include "app/workbench/background_job.h"
#include "core/listening/rhythm/micro_timing.h"
#include "core/listening/rhythm/strokes.h"
#include "core/settings/isolation.h"

class QLabel;
class QTableWidget;

namespace ear {

class Workbench;

/// Loudness of a passage with its attacks.
class StrokesChart : public QWidget {
  Q_OBJECT
 public:
  explicit StrokesChart(QWidget* parent = nullptr);
  void show(const PassageStrokes& strokes, Seconds length);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  PassageStrokes strokes_;
  Seconds length_;
};

/// What is struck in the passage in hand: picking or an effect, how many strokes, and where each lies in its beat.
class StrokesWindow : public QDialog {
  Q_OBJECT
 public:
  explicit StrokesWindow(Workbench& bench, QWidget* parent);
  bool busy() const { return job_.running(); }

 private:
  void measure();
  void showNothing(const QString& verdict, const QString& evidence);
  void showStrokes(const PassageStrokes& strokes);
  void place(const PassageStrokes& strokes);

  Workbench& bench_;
  QLabel *verdict_, *evidence_, *timing_;
  StrokesChart* chart_;
  QTableWidget* table_;
  std::vector<PlacedAttack> placed_;
  QTimer pause_;  // the passage in hand is followed once it stands
  std::optional<TimeSpan> measured_;
  Isolation heard_;
  BackgroundJob job_;
};

}  // namespace ear
