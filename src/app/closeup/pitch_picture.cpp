// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/pitch_picture.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"

namespace ear {
namespace {

PitchMap::Mix mixOf(Isolation::Channel channel) {
  switch (channel) {
    case Isolation::Channel::left:
      return {1.0F, 0.0F};
    case Isolation::Channel::right:
      return {0.0F, 1.0F};
    case Isolation::Channel::sides:
      return {0.5F, -0.5F};
    default:
      return {};
  }
}

/// Draws parts of tiles stretched, linear between columns and rows. The toolkit's own smooth stretching of indexed
/// pictures takes three times as long, too long for every frame.
struct PitchStretch {
  QVector<QRgb> colours;
  double topRow, bottomRow;  ///< of the tiles, at the edges of the image

  /// @param columnsPerPixel  from `firstColumn` of the tile on, which lies at `left`
  void draw(const QImage& tile, double firstColumn, double columnsPerPixel, QImage& to, double left,
            double right) const {
    const int from = std::max(0, static_cast<int>(std::ceil(left - 0.5)));
    const int end = std::min(to.width(), static_cast<int>(std::ceil(right - 0.5)));
    std::vector<Between> columns;
    for (int x = from; x < end; ++x)
      columns.push_back(between(firstColumn + (x + 0.5 - left) * columnsPerPixel - 0.5, tile.width()));
    const QRgb* colour = colours.constData();
    std::vector<std::uint32_t> line(static_cast<std::size_t>(tile.width()));
    for (int y = 0; y < to.height(); ++y) {
      const Between row = between(topRow + (y + 0.5) / to.height() * (bottomRow - topRow) - 0.5, tile.height());
      const uchar *upper = tile.constScanLine(row.first), *lower = tile.constScanLine(row.second);
      for (std::size_t c = 0; c < line.size(); ++c) line[c] = upper[c] * (256 - row.share) + lower[c] * row.share;
      auto* out = reinterpret_cast<QRgb*>(to.scanLine(y)) + from;
      for (const Between& c : columns)
        *out++ = colour[(line[static_cast<std::size_t>(c.first)] * (256 - c.share) +
                         line[static_cast<std::size_t>(c.second)] * c.share) >>
                        16];
    }
  }

 private:
  struct Between {
    int first, second;
    std::uint32_t share;  // of 256, of the second
  };
  static Between between(double at, int count) {
    const double within = std::clamp(at, 0.0, count - 1.0);
    const int first = static_cast<int>(within);
    return {first, std::min(first + 1, count - 1), static_cast<std::uint32_t>((within - first) * 256)};
  }
};

}  // namespace

QVector<QRgb> pitchColours() {
  const Theme& t = Theme::current();
  QVector<QRgb> table;
  for (int i = 0; i < 256; ++i) {
    const double share = std::pow(i / 255.0, 1.6);
    // Over the middle the accent gives way to ink, so that the strongest stand out in light and shade.
    const QColor& from = share < 0.6 ? t.ground : t.accent;
    const QColor& to = share < 0.6 ? t.accent : t.ink;
    const double s = share < 0.6 ? share / 0.6 : (share - 0.6) / 0.4;
    const auto mix = [s](int a, int b) { return static_cast<int>(std::lround(a + s * (b - a))); };
    table.append(qRgb(mix(from.red(), to.red()), mix(from.green(), to.green()), mix(from.blue(), to.blue())));
  }
  return table;
}

PitchPicture::PitchPicture(Workbench& bench) : bench_(bench) {
  connect(&tiles_, &PitchTiles::arrived, this, [this] {
    forget();
    emit changed();
  });
  connect(&bench.analysis(), &Analysis::soundChanged, this, &PitchPicture::refresh);
  bench.session().whenChanged(kOfBrief, this, &PitchPicture::refresh);
  connect(&bench.transport(), &Transport::changed, this, &PitchPicture::refresh);
}

void PitchPicture::refresh() {
  const Cents offset = bench_.document().offset();
  const auto recording = bench_.transport().player().shared();
  const auto channel =
      bench_.transport().isolating() ? bench_.transport().isolation().channel : Isolation::Channel::both;
  if (recording == recording_ && std::abs((offset - offset_).value) < 0.5 && channel == channel_) return;
  recording_ = recording;
  offset_ = offset;
  channel_ = channel;
  forget();
  tiles_.setSound(recording, offset, mixOf(channel));
  emit changed();
}

QImage PitchPicture::drawTiles(QSize size, TimeSpan window, const PitchAxis& axis) {
  const double rate = recording_->sampleRate, framesPerPixel = window.length().value * rate / size.width();
  // One column for each pixel or finer, so that what is drawn is hardly stretched while a finer tile can be had.
  const int level = std::clamp(static_cast<int>(std::floor(std::log2(framesPerPixel / PitchTiles::kHop * 1.4))), 0,
                               PitchTiles::kLevels - 1);
  const auto framesOf = [](int l) {
    return static_cast<double>((std::int64_t{PitchTiles::kHop} << l) * PitchTiles::kColumns);
  };
  const double tileFrames = framesOf(level), start = window.start.value * rate;
  const auto first = static_cast<std::int64_t>(std::floor(start / tileFrames));
  const auto last = static_cast<std::int64_t>(std::floor(window.end.value * rate / tileFrames));
  // What is in the middle of the look is worked on first.
  std::vector<std::int64_t> order;
  for (std::int64_t i = first; i <= last; ++i) order.push_back(i);
  std::sort(order.begin(), order.end(),
            [&](auto a, auto b) { return std::abs(2 * a - first - last) < std::abs(2 * b - first - last); });

  QImage image(size, QImage::Format_RGB32);
  image.fill(Theme::current().ground);
  const PitchStretch stretch{pitchColours(), PitchMap::kRows - PitchMap::rowOf(axis.high) - 0.5,
                             PitchMap::kRows - PitchMap::rowOf(axis.low) - 0.5};
  for (const std::int64_t index : order) {
    const double from = static_cast<double>(index) * tileFrames;
    const QImage* tile = tiles_.tile({level, index});
    double firstColumn = 0, columns = PitchTiles::kColumns;
    // A coarser one stands in until the right one is there.
    for (int coarser = level + 1; tile == nullptr && coarser < PitchTiles::kLevels; ++coarser) {
      const std::int64_t parent = index >> (coarser - level);
      tile = tiles_.present({coarser, parent});
      columns = PitchTiles::kColumns / std::exp2(coarser - level);
      firstColumn = (from - static_cast<double>(parent) * framesOf(coarser)) / framesOf(coarser) * PitchTiles::kColumns;
    }
    if (tile == nullptr) continue;
    const double left = (from - start) / framesPerPixel, width = tileFrames / framesPerPixel;
    stretch.draw(*tile, firstColumn, columns / width, image, left, left + width);
  }
  tiles_.endOfLook();
  return image;
}

void PitchPicture::paint(QPainter& p, const LaneView& view, const PitchAxis& axis) {
  if (recording_ == nullptr || view.area.height() < 8 || view.window.length() <= Seconds(0)) return;
  const bool same = size_ == view.area.size() && window_ == view.window && axis_ == axis;
  if (picture_.isNull() || !same) draw(view, axis, p.device()->devicePixelRatioF());
  p.drawPixmap(view.area.topLeft(), picture_);
}

void PitchPicture::draw(const LaneView& view, const PitchAxis& axis, double ratio) {
  size_ = view.area.size();
  window_ = view.window;
  axis_ = axis;
  picture_ = QPixmap((size_ * ratio).toSize());
  picture_.setDevicePixelRatio(ratio);
  QPainter p(&picture_);
  const QRectF all(QPointF(0, 0), size_);
  QImage tiles = drawTiles((size_ * ratio).toSize(), window_, axis);
  tiles.setDevicePixelRatio(ratio);
  p.drawImage(0, 0, tiles);
  // Lines between the notes of the scale's ends, light enough to see the sound through them.
  const Theme& t = Theme::current();
  const auto key = settled(bench_.brief().key);
  const int tonic = key ? key->tonic.value : 0;
  for (int midi = static_cast<int>(std::ceil(axis.low)); midi <= axis.high; ++midi) {
    const bool isTonic = PitchClass(midi - tonic).value == 0;
    if (!isTonic && axis.room(all) < kPitchNameRoom) continue;
    QColor line = t.softInk;
    line.setAlpha(isTonic ? 110 : 45);
    p.setPen(QPen(line, 1));
    const double y = std::round(axis.yOf(midi, all)) + 0.5;
    p.drawLine(QPointF(0, y), QPointF(all.width(), y));
  }
}

}  // namespace ear
