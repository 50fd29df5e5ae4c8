// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QPaintDevice>
#include <functional>
#include <memory>

namespace ear {

class SvgEngine;

/// Paints into an SVG 1.1 picture. All of it, letters as well, becomes outlines: it looks the same wherever it is
/// opened, whichever faces are there.
class SvgDevice : public QPaintDevice {
 public:
  /// How a colour is written: "#1b2025" by itself, or what a page calls it.
  using Colours = std::function<QByteArray(const QColor&)>;

  /// @param size  in fortieths of a millimetre, which are the units that are painted in
  explicit SvgDevice(QSizeF size, Colours colours = {});
  ~SvgDevice() override;

  /// @param title  read out to who does not see it
  QByteArray svg(const QString& title) const;

  QPaintEngine* paintEngine() const override;

 protected:
  int metric(PaintDeviceMetric metric) const override;

 private:
  QSizeF size_;
  std::unique_ptr<SvgEngine> engine_;
};

}  // namespace ear
