// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <filesystem>
#include <span>
#include <string_view>

#include "app/paper/sheet_item.h"
#include "app/paper/svg_device.h"
#include "core/base/outcome.h"

namespace ear {

/// Parts of a sheet as a picture of their own.
class PaperPicture {
 public:
  /// @param width  of the picture in millimetres
  explicit PaperPicture(const std::vector<SheetBlock>& blocks, double width = 180.0);
  PaperPicture(std::vector<SheetItem> items, double width);

  QSizeF size() const { return size_; }  ///< in fortieths of a millimetre
  void paint(QPainter& p) const;
  /// @param ground  whether it stands on white, or on what is behind it
  QByteArray svg(const QString& title, bool ground = true, const SvgDevice::Colours& colours = {}) const;
  /// With 300 pixels to the inch.
  QImage image() const;

  Outcome<Done> writeSvg(const std::filesystem::path& file, const QString& title) const;
  Outcome<Done> writePng(const std::filesystem::path& file) const;

 private:
  std::vector<SheetItem> items_;
  QSizeF size_;
};

/// What pictures are made of, for who chooses one.
struct PictureKind {
  PictureOf what{};
  std::string_view name;   ///< for the command line: "phrases"
  std::string_view words;  ///< "Phrases as tab"
  std::string_view none;   ///< why there may be none, and what to do
};
std::span<const PictureKind> pictureKinds();
const PictureKind* pictureKind(std::string_view name);  ///< null for none of that name

/// A phrase's tab for a page with these names of colours in its style: --ink, --soft, --line, --accent, --care, --wash.
std::string pageDrawing(const SheetPhrase& phrase);

}  // namespace ear
