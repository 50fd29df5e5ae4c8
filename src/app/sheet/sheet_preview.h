// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QScrollArea>
#include <memory>

#include "app/paper/sheet_pages.h"

namespace ear {

/// Pages one below the other, as they print. Control and the wheel, or + and - make them larger and smaller; 0 makes a
/// page as wide as the view.
class SheetPreview : public QScrollArea {
  Q_OBJECT
 public:
  explicit SheetPreview(QWidget* parent);

  void show(std::shared_ptr<const SheetPages> pages);
  void zoom(double factor);
  void fitWidth();
  /// Share of its real size at which a page is seen.
  double zoom() const { return zoom_; }
  void goToPage(int page);

 signals:
  void zoomed();

 protected:
  void wheelEvent(QWheelEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  class Paper;
  void setZoom(double zoom);
  void place();

  Paper* paper_;
  std::shared_ptr<const SheetPages> pages_;
  double zoom_ = 1.0;
  bool fits_ = true;  // the width of the view decides
};

}  // namespace ear
