// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_preview.h"

#include <QKeyEvent>
#include <QPaintEvent>
#include <QPainter>
#include <QScrollBar>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"

namespace ear {
namespace {

constexpr double kLeast = 0.25, kMost = 4.0, kStep = 1.2;
constexpr int kGap = 16;  // pixels around a page

}  // namespace

class SheetPreview::Paper : public QWidget {
 public:
  explicit Paper(QWidget* parent) : QWidget(parent) { setAccessibleName(SheetPreview::tr("Sheet as it prints")); }

  void show(const SheetPages* pages, double pixelsPerUnit) {
    pages_ = pages, scale_ = pixelsPerUnit;
    setAccessibleDescription(SheetPreview::tr("%n pages", nullptr, pages->count()));
    const QSizeF page = pages->size() * scale_;
    resize(static_cast<int>(page.width()) + 2 * kGap, static_cast<int>(topOf(pages->count())) + kGap);
    update();
  }
  double topOf(int page) const { return kGap + page * (pages_->size().height() * scale_ + kGap); }

 protected:
  void paintEvent(QPaintEvent* event) override {
    if (pages_ == nullptr) return;
    QPainter p(this);
    for (int i = 0; i < pages_->count(); ++i) {
      const QRectF page(QPointF(kGap, topOf(i)), pages_->size() * scale_);
      if (!page.intersects(event->rect())) continue;
      p.save();
      p.setClipRect(page);
      p.translate(page.topLeft());
      p.scale(scale_, scale_);
      pages_->paint(p, i);
      p.restore();
      p.setPen(Theme::current().hairline);
      p.drawRect(page);
    }
  }

 private:
  const SheetPages* pages_ = nullptr;
  double scale_ = 1.0;
};

SheetPreview::SheetPreview(QWidget* parent) : QScrollArea(parent), paper_(new Paper(this)) {
  setObjectName("sheet-preview");
  setAlignment(Qt::AlignHCenter);
  setFocusPolicy(Qt::StrongFocus);
  setWidget(paper_);
}

void SheetPreview::show(std::shared_ptr<const SheetPages> pages) {
  const int at = verticalScrollBar()->value();
  // The pages before are drawn until the new ones are known.
  pages_.swap(pages);
  if (fits_)
    fitWidth();
  else
    place();
  verticalScrollBar()->setValue(at);
}

void SheetPreview::place() {
  if (pages_ != nullptr) paper_->show(pages_.get(), zoom_ * logicalDpiX() / kSheetResolution);
  emit zoomed();
}

void SheetPreview::setZoom(double zoom) {
  zoom_ = std::clamp(zoom, kLeast, kMost);
  place();
}

void SheetPreview::zoom(double factor) {
  fits_ = false;
  const double middle = (verticalScrollBar()->value() + viewport()->height() / 2.0) / std::max(1, paper_->height());
  setZoom(zoom_ * factor);
  verticalScrollBar()->setValue(static_cast<int>(middle * paper_->height() - viewport()->height() / 2.0));
}

void SheetPreview::fitWidth() {
  fits_ = true;
  if (pages_ == nullptr) return;
  const int bar = verticalScrollBar()->sizeHint().width();
  setZoom((width() - 2 * kGap - bar - 4) / (pages_->size().width() * logicalDpiX() / kSheetResolution));
}

void SheetPreview::goToPage(int page) {
  verticalScrollBar()->setValue(static_cast<int>(paper_->topOf(page)) - kGap / 2);
}

void SheetPreview::wheelEvent(QWheelEvent* event) {
  if (!event->modifiers().testFlag(Qt::ControlModifier)) return QScrollArea::wheelEvent(event);
  zoom(std::pow(kStep, event->angleDelta().y() / 120.0));
  event->accept();
}

void SheetPreview::keyPressEvent(QKeyEvent* event) {
  switch (event->key()) {
    case Qt::Key_Plus:
    case Qt::Key_Equal:
      return zoom(kStep);
    case Qt::Key_Minus:
      return zoom(1 / kStep);
    case Qt::Key_0:
      return fitWidth();
    case Qt::Key_Home:
      return verticalScrollBar()->setValue(0);
    case Qt::Key_End:
      return verticalScrollBar()->setValue(verticalScrollBar()->maximum());
    default:
      QScrollArea::keyPressEvent(event);
  }
}

void SheetPreview::resizeEvent(QResizeEvent* event) {
  QScrollArea::resizeEvent(event);
  if (fits_) fitWidth();
}

}  // namespace ear
