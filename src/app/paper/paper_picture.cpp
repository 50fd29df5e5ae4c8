// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paper/paper_picture.h"

#include <QBuffer>
#include <QImage>
#include <array>
#include <cmath>

#include "app/theme/words.h"
#include "core/study/durable_file.h"

namespace ear {
namespace {

constexpr double kMarginMm = 3.0;
constexpr double kPixelsPerInch = 300.0;
constexpr double kOnPage = 110.0;  // mm: so narrow that a phone shows it without scrolling

constexpr std::array kKinds = {
    PictureKind{PictureOf::phrases, "phrases", "Phrases as tab",
                "There are no written notes to draw: write a phrase first, or choose another one."},
    PictureKind{PictureOf::grips, "grips", "Usual grips of the chords",
                "There are no grips to draw: they need a guitar whose tuning is settled and chords that are at least "
                "likely."},
    PictureKind{PictureOf::tuning, "tuning", "How the strings are tuned",
                "No guitar's tuning is settled, so that none is drawn. Settle it first."},
    PictureKind{PictureOf::neck, "neck", "Neck with the scale, or with one phrase",
                "There is no neck to draw: it needs a guitar whose tuning is settled, and a phrase or a settled key."},
};

std::vector<SheetItem> allOf(const std::vector<SheetBlock>& blocks, double width) {
  std::vector<SheetItem> all;
  for (const SheetBlock& block : blocks)
    for (SheetItem& item : itemsOf(block, SheetStyle(), width)) all.push_back(std::move(item));
  return all;
}

}  // namespace

PaperPicture::PaperPicture(const std::vector<SheetBlock>& blocks, double width)
    : PaperPicture(allOf(blocks, mm(width - 2 * kMarginMm)), width) {}

PaperPicture::PaperPicture(std::vector<SheetItem> items, double width) : items_(std::move(items)) {
  if (!items_.empty()) items_.front().before = 0;
  double high = 0;
  for (const SheetItem& item : items_) high += item.before + item.height;
  size_ = {mm(width), high + 2 * mm(kMarginMm)};
}

void PaperPicture::paint(QPainter& p) const {
  p.setRenderHint(QPainter::Antialiasing);
  p.translate(mm(kMarginMm), mm(kMarginMm));
  double y = 0;
  for (const SheetItem& item : items_) {
    y += item.before;
    p.save();
    item.paint(p, y);
    p.restore();
    y += item.height;
  }
}

QByteArray PaperPicture::svg(const QString& title, bool ground, const SvgDevice::Colours& colours) const {
  SvgDevice device(size_, colours);
  {
    QPainter p(&device);
    if (ground) p.fillRect(QRectF(QPointF(0, 0), size_), Qt::white);
    paint(p);
  }
  return device.svg(title);
}

QImage PaperPicture::image() const {
  const double scale = kPixelsPerInch / kSheetResolution;
  QImage image(static_cast<int>(std::ceil(size_.width() * scale)), static_cast<int>(std::ceil(size_.height() * scale)),
               QImage::Format_RGB32);
  const int perMetre = static_cast<int>(std::lround(kPixelsPerInch / 0.0254));
  image.setDotsPerMeterX(perMetre), image.setDotsPerMeterY(perMetre);
  image.fill(Qt::white);
  QPainter p(&image);
  p.scale(scale, scale);
  paint(p);
  return image;
}

namespace {

Outcome<Done> keep(const std::filesystem::path& file, const QByteArray& bytes) {
  return writeDurably(file, std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
}

}  // namespace

Outcome<Done> PaperPicture::writeSvg(const std::filesystem::path& file, const QString& title) const {
  return keep(file, svg(title));
}

Outcome<Done> PaperPicture::writePng(const std::filesystem::path& file) const {
  QByteArray bytes;
  QBuffer buffer(&bytes);
  buffer.open(QIODevice::WriteOnly);
  if (!image().save(&buffer, "PNG"))
    return Problem{"The picture is too large for the memory there is. Choose fewer phrases."};
  return keep(file, bytes);
}

std::span<const PictureKind> pictureKinds() {
  return kKinds;
}

const PictureKind* pictureKind(std::string_view name) {
  for (const PictureKind& kind : kKinds)
    if (kind.name == name) return &kind;
  return nullptr;
}

std::string pageDrawing(const SheetPhrase& phrase) {
  const Theme& t = Theme::paper();
  const std::array<std::pair<QColor, const char*>, 8> names = {{{t.ink, "currentColor"},
                                                                {t.softInk, "var(--soft)"},
                                                                {t.hairline, "var(--line)"},
                                                                {t.accent, "var(--accent)"},
                                                                {t.warning, "var(--care)"},
                                                                {t.error, "var(--care)"},
                                                                {t.panel, "var(--wash)"},
                                                                {t.ground, "var(--ground)"}}};
  const PaperPicture picture(tabItems(phrase, SheetStyle(), mm(kOnPage - 2 * kMarginMm)), kOnPage);
  return picture
      .svg(text(phrase.name), false,
           [&names](const QColor& c) {
             for (const auto& [colour, name] : names)
               if (colour.rgb() == c.rgb()) return QByteArray(name);
             return c.name().toLatin1();
           })
      .toStdString();
}

}  // namespace ear
