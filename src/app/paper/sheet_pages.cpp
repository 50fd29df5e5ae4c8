// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paper/sheet_pages.h"

#include <QPageLayout>

#include "app/theme/words.h"

namespace ear {
namespace {

constexpr double kSide = 17.0, kTop = 15.0, kFoot = 18.0;  // margins in mm
constexpr double kHeader = 7.0;                            // of the studio's own line
constexpr double kLarge = 1.35, kLeast = 0.78;             // sizes of the print

}  // namespace

SheetPages::SheetPages(Sheet sheet, const PageLook& look, bool onOnePage) : sheet_(std::move(sheet)), look_(look) {
  style_.scale = look.large ? kLarge : 1.0;
  layOut();
  if (!onOnePage) return;
  for (const double full = style_.scale; count() > 1 && style_.scale > kLeast * full; layOut()) style_.scale *= 0.95;
  while (count() > 1 && sheet_.blocks.size() > 1) {
    sheet_.blocks.pop_back();
    // No heading without what it is the heading of.
    while (sheet_.blocks.size() > 1 && std::holds_alternative<SheetHeading>(sheet_.blocks.back()))
      sheet_.blocks.pop_back();
    leftOut_ = true;
    layOut();
  }
}

QPageSize SheetPages::pageSize() const {
  return QPageSize(look_.paper == PageLook::Paper::a4 ? QPageSize::A4 : QPageSize::Letter);
}

QSizeF SheetPages::size() const {
  return pageSize().size(QPageSize::Millimeter) * kPerMm;
}

void SheetPages::layOut() {
  const QSizeF page = size();
  const double width = page.width() - 2 * mm(kSide), head = mm(kTop) + (sheet_.header.empty() ? 0.0 : mm(kHeader));
  const double room = page.height() - mm(kFoot);
  items_ = itemsOf(sheet_, style_, width);
  pages_.assign(1, {});
  double y = head;
  for (std::size_t i = 0; i < items_.size();) {
    // What stays together is placed together.
    std::size_t end = i + 1;
    while (end < items_.size() && items_[end - 1].staysWithNext) ++end;
    double high = 0;
    for (std::size_t k = i; k < end; ++k) high += items_[k].height + (k == i ? 0.0 : items_[k].before);
    const bool top = pages_.back().empty();
    if (!top && y + items_[i].before + high > room) {
      pages_.emplace_back();
      y = head;
    }
    for (std::size_t k = i; k < end; ++k) {
      const bool first = pages_.back().empty();
      // More than a page that would stay together is parted all the same.
      if (!first && y + items_[k].before + items_[k].height > room) {
        pages_.emplace_back();
        y = head;
      }
      y += pages_.back().empty() ? 0.0 : items_[k].before;
      pages_.back().push_back({k, y});
      y += items_[k].height;
    }
    i = end;
  }
}

void SheetPages::paint(QPainter& p, int page) const {
  const QSizeF paper = size();
  const double width = paper.width() - 2 * mm(kSide);
  p.save();
  p.setRenderHint(QPainter::Antialiasing);
  p.fillRect(QRectF(QPointF(0, 0), paper), Qt::white);
  p.translate(mm(kSide), 0);
  const Theme& t = Theme::paper();
  const SheetStyle plain;
  p.setFont(plain.small());
  p.setPen(t.softInk);
  if (!sheet_.header.empty())
    p.drawText(QRectF(0, mm(9), width, mm(6)), Qt::AlignLeft | Qt::AlignVCenter, text(sheet_.header));
  const QRectF foot(0, paper.height() - mm(13), width, mm(6));
  p.drawText(foot, Qt::AlignLeft | Qt::AlignVCenter, text(sheet_.footer));
  p.drawText(foot, Qt::AlignRight | Qt::AlignVCenter,
             text(sheet_.title) +
                 (sheet_.revision > 0 ? QObject::tr(", revision %1").arg(sheet_.revision) : QString()) +
                 QObject::tr(", page %1 of %2").arg(page + 1).arg(count()));
  for (const auto& [item, top] : placedOn(page)) {
    p.save();
    items_[item].paint(p, top);
    p.restore();
  }
  p.restore();
}

}  // namespace ear
