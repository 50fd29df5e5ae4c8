// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/paper/svg_device.h"

#include <QPaintEngine>
#include <QPainterPath>
#include <QPen>
#include <cmath>

#include "app/paper/sheet_style.h"

namespace ear {

/// Writes one element for each thing that is painted, in the units of the device.
class SvgEngine : public QPaintEngine {
 public:
  explicit SvgEngine(SvgDevice::Colours colours)
      : QPaintEngine(QPaintEngine::AllFeatures), colours_(std::move(colours)) {}

  const QByteArray& elements() const { return elements_; }

  bool begin(QPaintDevice*) override { return true; }
  bool end() override { return true; }
  Type type() const override { return User; }

  void updateState(const QPaintEngineState& now) override {
    const auto dirty = now.state();
    if (dirty.testFlag(DirtyPen)) pen_ = now.pen();
    if (dirty.testFlag(DirtyBrush)) brush_ = now.brush();
    if (dirty.testFlag(DirtyTransform)) transform_ = now.transform();
    if (dirty.testFlag(DirtyOpacity)) opacity_ = now.opacity();
  }

  void drawPath(const QPainterPath& path) override {
    const bool filled = brush_.style() != Qt::NoBrush, lined = pen_.style() != Qt::NoPen;
    if (path.isEmpty() || !(filled || lined)) return;
    QByteArray element = "<path";
    if (filled && path.fillRule() == Qt::OddEvenFill) element += " fill-rule=\"evenodd\"";
    element += " fill=\"" + (filled ? colour(brush_.color()) : QByteArray("none")) + '"';
    // A hatched brush is a fainter one.
    const double share = opacity_ * (filled ? brush_.color().alphaF() : 1.0) *
                         (filled && brush_.style() != Qt::SolidPattern ? 0.4 : 1.0);
    if (share < 1.0) element += " opacity=\"" + number(share, 2) + '"';
    if (lined) element += stroke();
    elements_ += element + " d=\"" + outline(transform_.map(path)) + "\"/>\n";
  }

  void drawPolygon(const QPointF* points, int count, PolygonDrawMode mode) override {
    if (count < 2) return;
    QPainterPath path(points[0]);
    for (int i = 1; i < count; ++i) path.lineTo(points[i]);
    if (mode == PolylineMode) {
      const QBrush brush = std::exchange(brush_, QBrush());
      drawPath(path);
      brush_ = brush;
      return;
    }
    path.closeSubpath();
    path.setFillRule(mode == WindingMode ? Qt::WindingFill : Qt::OddEvenFill);
    drawPath(path);
  }

  /// The sheet has no pixels in it.
  void drawPixmap(const QRectF&, const QPixmap&, const QRectF&) override {}

 private:
  static QByteArray number(double value, int decimals) {
    QByteArray digits = QByteArray::number(value, 'f', decimals);
    if (!digits.contains('.')) return digits;
    while (digits.endsWith('0')) digits.chop(1);
    if (digits.endsWith('.')) digits.chop(1);
    return digits == "-0" ? QByteArray("0") : digits;
  }

  QByteArray colour(const QColor& c) const { return colours_ ? colours_(c) : c.name().toLatin1(); }

  QByteArray stroke() const {
    const double scale = std::sqrt(std::abs(transform_.determinant()));
    const double wide = std::max(1.0, pen_.widthF() * scale);
    QByteArray words = " stroke=\"" + colour(pen_.color()) + "\" stroke-width=\"" + number(wide, 1) + '"';
    if (pen_.capStyle() == Qt::RoundCap) words += " stroke-linecap=\"round\"";
    if (pen_.capStyle() == Qt::SquareCap) words += " stroke-linecap=\"square\"";
    if (pen_.joinStyle() == Qt::RoundJoin) words += " stroke-linejoin=\"round\"";
    if (pen_.style() != Qt::SolidLine) {
      QByteArray dashes;
      for (const double part : pen_.dashPattern()) dashes += (dashes.isEmpty() ? "" : " ") + number(part * wide, 1);
      words += " stroke-dasharray=\"" + dashes + '"';
    }
    return words;
  }

  static QByteArray outline(const QPainterPath& path) {
    QByteArray d;
    const auto point = [](const QPainterPath::Element& e) { return number(e.x, 0) + ' ' + number(e.y, 0); };
    for (int i = 0; i < path.elementCount(); ++i) {
      const auto e = path.elementAt(i);
      if (e.isMoveTo()) {
        d += 'M' + point(e);
      } else if (e.isLineTo()) {
        d += 'L' + point(e);
      } else if (e.isCurveTo()) {
        d += 'C' + point(e) + ' ' + point(path.elementAt(i + 1)) + ' ' + point(path.elementAt(i + 2));
        i += 2;
      }
    }
    return d;
  }

  SvgDevice::Colours colours_;
  QByteArray elements_;
  QPen pen_;
  QBrush brush_;
  QTransform transform_;
  double opacity_ = 1.0;
};

SvgDevice::SvgDevice(QSizeF size, Colours colours)
    : size_(size), engine_(std::make_unique<SvgEngine>(std::move(colours))) {}

SvgDevice::~SvgDevice() = default;

QPaintEngine* SvgDevice::paintEngine() const {
  return engine_.get();
}

int SvgDevice::metric(PaintDeviceMetric metric) const {
  switch (metric) {
    case PdmWidth:
      return static_cast<int>(std::ceil(size_.width()));
    case PdmHeight:
      return static_cast<int>(std::ceil(size_.height()));
    case PdmWidthMM:
      return static_cast<int>(size_.width() / kPerMm);
    case PdmHeightMM:
      return static_cast<int>(size_.height() / kPerMm);
    case PdmDpiX:
    case PdmDpiY:
    case PdmPhysicalDpiX:
    case PdmPhysicalDpiY:
      return kSheetResolution;
    case PdmDevicePixelRatio:
      return 1;
    case PdmDevicePixelRatioScaled:
      return static_cast<int>(devicePixelRatioFScale());
    case PdmDepth:
      return 32;
    case PdmNumColors:
      return INT_MAX;
    default:
      return QPaintDevice::metric(metric);
  }
}

QByteArray SvgDevice::svg(const QString& title) const {
  const QByteArray wide = QByteArray::number(size_.width(), 'f', 0), high = QByteArray::number(size_.height(), 'f', 0);
  const auto millimetres = [](double units) { return QByteArray::number(units / kPerMm, 'f', 2) + "mm"; };
  return R"(<svg xmlns="http://www.w3.org/2000/svg" width=")" + millimetres(size_.width()) + R"(" height=")" +
         millimetres(size_.height()) + R"(" viewBox="0 0 )" + wide + ' ' + high + "\" role=\"img\">\n<title>" +
         title.toHtmlEscaped().toUtf8() + "</title>\n" + engine_->elements() + "</svg>\n";
}

}  // namespace ear
