// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

#include "core/phrase/entry/entry.h"

namespace ear {

class Workbench;

/// What was understood of a line that is being typed: its tab, the name and degree of its last notes, and where on the
/// neck they lie.
class EntryEcho : public QWidget {
  Q_OBJECT
 public:
  explicit EntryEcho(Workbench& bench, QWidget* parent = nullptr);
  void show(const Entry& entry);
  /// The words beside the picture.
  const QString& words() const { return words_; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::vector<Note> lastNotes() const;
  void paintSpot(QPainter& p, const QRectF& box) const;

  Workbench& bench_;
  Entry entry_;
  QString words_;
};

}  // namespace ear
