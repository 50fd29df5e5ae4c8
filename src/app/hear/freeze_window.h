// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>

#include "core/listening/frontend/moment_spectrum.h"
#include "core/listening/harmony/note_hints.h"

class QLabel;
class QListWidget;
class QPushButton;

namespace ear {

class Workbench;

/// The spectrum of a held moment over the notes, the notes that may sound marked.
class SpectrumChart : public QWidget {
  Q_OBJECT
 public:
  explicit SpectrumChart(Workbench& bench, QWidget* parent = nullptr);
  void show(MomentSpectrum spectrum, std::vector<NoteHint> notes);

 protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;

 private:
  double xOf(double midi) const;

  Workbench& bench_;
  MomentSpectrum spectrum_;
  std::vector<NoteHint> notes_;
};

/// A moment that is held: it goes on sounding, with its spectrum and the notes that may be in it, each to be played.
class FreezeWindow : public QDialog {
  Q_OBJECT
 public:
  explicit FreezeWindow(Workbench& bench, QWidget* parent);
  ~FreezeWindow() override;

 private:
  void take();
  void refresh();

  Workbench& bench_;
  QLabel* sentence_;
  SpectrumChart* chart_;
  QListWidget* list_;
  QPushButton* hold_;
};

}  // namespace ear
