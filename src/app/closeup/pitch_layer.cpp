#include "app/closeup/pitch_layer.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/text.h"
#include "core/theory/fretboard.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr double kLowestEdge = PitchMap::kLowest - 0.5, kHighestEdge = PitchMap::kLowest + PitchMap::kSemitones - 0.5;
constexpr double kLeastRange = 7;    // semitones
constexpr double kNameRoom = 12;     // pixels of a semitone from which on each has its name
constexpr double kFewNamesRoom = 3;  // and the tonic and its fifth

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

PitchLayer::PitchLayer(Workbench& bench, QObject* parent) : QObject(parent), bench_(bench) {
  connect(&tiles_, &PitchTiles::arrived, this, [this] {
    picture_ = {};
    emit changed();
  });
  connect(&bench.ear(), &EarKeeper::changed, this, &PitchLayer::changed);
  connect(&bench, &Workbench::soundChanged, this, &PitchLayer::refresh);
  connect(&bench, &Workbench::documentChanged, this, &PitchLayer::refresh);
  connect(&bench, &Workbench::settingsChanged, this, &PitchLayer::refresh);
}

void PitchLayer::changeColours() {
  picture_ = {};
  emit changed();
}

void PitchLayer::refresh() {
  const Cents offset = bench_.recordingPitch();
  const auto recording = bench_.player().shared();
  const auto channel = bench_.isolating() ? bench_.isolation().channel : Isolation::Channel::both;
  if (recording == recording_ && std::abs((offset - offset_).value) < 0.5 && channel == channel_) return;
  recording_ = recording;
  offset_ = offset;
  channel_ = channel;
  picture_ = {};
  tiles_.setSound(recording, offset, mixOf(channel));
  emit changed();
}

double PitchLayer::yOf(double midi, QRectF area) const {
  return area.bottom() - (midi - low_) / (high_ - low_) * area.height();
}

double PitchLayer::pitchAt(double y, QRectF area) const {
  return low_ + (area.bottom() - y) / area.height() * (high_ - low_);
}

void PitchLayer::zoom(double factor, double around) {
  const double range = std::clamp((high_ - low_) * factor, kLeastRange, kHighestEdge - kLowestEdge);
  const double share = (around - low_) / (high_ - low_);
  low_ = std::clamp(around - share * range, kLowestEdge, kHighestEdge - range);
  high_ = low_ + range;
  picture_ = {};
  emit changed();
}

void PitchLayer::scroll(double semitones) {
  const double range = high_ - low_;
  low_ = std::clamp(low_ + semitones, kLowestEdge, kHighestEdge - range);
  high_ = low_ + range;
  picture_ = {};
  emit changed();
}

QImage PitchLayer::drawTiles(QSize size, TimeSpan window) {
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
  const PitchStretch stretch{pitchColours(), PitchMap::kRows - PitchMap::rowOf(high_) - 0.5,
                             PitchMap::kRows - PitchMap::rowOf(low_) - 0.5};
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

void PitchLayer::paint(QPainter& p, QRectF area, TimeSpan window) {
  if (recording_ == nullptr || area.height() < 8 || window.length() <= Seconds(0)) return;
  const double ratio = p.device()->devicePixelRatioF();
  if (picture_.isNull() || size_ != area.size() || window_ != window) {
    picture_ = QPixmap((area.size() * ratio).toSize());
    picture_.setDevicePixelRatio(ratio);
    size_ = area.size();
    window_ = window;
    QPainter inner(&picture_);
    const QRectF all(QPointF(0, 0), area.size());
    QImage tiles = drawTiles((area.size() * ratio).toSize(), window);
    tiles.setDevicePixelRatio(ratio);
    inner.drawImage(0, 0, tiles);
    // Lines between the notes of the scale's ends, light enough to see the sound through them.
    const Theme& t = Theme::current();
    const double room = area.height() / (high_ - low_);
    const auto key = settled(bench_.brief().key);
    const int tonic = key ? key->tonic.value : 0;
    for (int midi = static_cast<int>(std::ceil(low_)); midi <= high_; ++midi) {
      const bool isTonic = PitchClass(midi - tonic).value == 0;
      if (!isTonic && room < kNameRoom) continue;
      QColor line = t.softInk;
      line.setAlpha(isTonic ? 110 : 45);
      inner.setPen(QPen(line, 1));
      const double y = std::round(yOf(midi, all)) + 0.5;
      inner.drawLine(QPointF(0, y), QPointF(all.width(), y));
    }
  }
  p.drawPixmap(area.topLeft(), picture_);
}

void PitchLayer::paintNames(QPainter& p, QRectF area) const {
  const Theme& t = Theme::current();
  const double room = area.height() / (high_ - low_);
  const auto key = settled(bench_.brief().key);
  const int tonic = key ? key->tonic.value : 0;
  p.setFont(Theme::font(Theme::Face::small));
  const QFontMetrics metrics(p.font());
  double free = area.bottom();
  for (int midi = static_cast<int>(std::ceil(low_)); midi <= high_; ++midi) {
    const int degree = PitchClass(midi - tonic).value;
    if (room < kNameRoom && !(degree == 0 || (degree == 7 && room >= kFewNamesRoom))) continue;
    const double y = yOf(midi, area);
    if (y + 7 > free || y - 7 < area.top()) continue;
    free = y - 7;
    const QString name = text(noteName(midi, bench_.spelling()));
    const QRectF plate(area.left() + 3, y - 7, metrics.horizontalAdvance(name) + 6, 14);
    QColor ground = t.ground;
    ground.setAlpha(205);
    p.setPen(Qt::NoPen);
    p.setBrush(ground);
    p.drawRoundedRect(plate, 3, 3);
    p.setPen(degree == 0 ? t.ink : t.softInk);
    p.drawText(plate, Qt::AlignCenter, name);
  }
}

void PitchLayer::paintVoice(QPainter& p, QRectF area, TimeSpan window) const {
  const EarKeeper::Followed* followed = bench_.ear().voice();
  if (followed == nullptr) return;
  const HeardVoice* voice = followed->voice.get();
  const Theme& t = Theme::current();
  const Seconds start = followed->span.start;
  const auto xOf = [&](Seconds at) { return area.left() + (at - window.start) / window.length() * area.width(); };
  const auto heightOf = [&](MidiPitch pitch) { return yOf(pitch.value - offset_.value / 100, area); };
  const auto& points = voice->line.points;
  const auto frame = [&](Seconds at) {
    return static_cast<std::size_t>(
        std::clamp((at - start).value * voice->line.rate, 0.0, static_cast<double>(points.size())));
  };
  const std::size_t from = frame(window.start), to = std::min(points.size(), frame(window.end) + 2);
  QPainterPath line;
  bool drawing = false;
  for (std::size_t k = from; k < to; ++k) {
    const auto& pitch = points[k].pitch;
    if (!pitch) {
      drawing = false;
      continue;
    }
    const QPointF at(xOf(start + Seconds(static_cast<double>(k) / voice->line.rate)), heightOf(*pitch));
    // A leap to another note is no line.
    if (drawing && points[k - 1].pitch && std::abs((*pitch - *points[k - 1].pitch).value) < 1.2)
      line.lineTo(at);
    else
      line.moveTo(at);
    drawing = true;
  }
  p.setBrush(Qt::NoBrush);
  QColor halo = t.ground;
  halo.setAlpha(220);
  p.setPen(QPen(halo, 5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  p.drawPath(line);
  p.setPen(QPen(t.warning, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  p.drawPath(line);
  // Names where there is room: the note, and how far it is bent.
  p.setFont(Theme::font(Theme::Face::small));
  const QFontMetrics metrics(p.font());
  double free = area.left();
  for (const auto& played : voice->notes) {
    const double x = xOf(start + played.note.span.start), end = xOf(start + played.note.span.end);
    if (end < area.left() || x > area.right()) continue;
    const int midi = static_cast<int>(std::lround(frettedPitch(played).value - offset_.value / 100));
    QString name = text(noteName(midi, bench_.spelling()));
    if (played.bend && played.bend->again)
      name = tr("%1 again, or still bent")
                 .arg(text(noteName(static_cast<int>(std::lround(played.bend->to.value - offset_.value / 100)),
                                    bench_.spelling())));
    else if (played.bend)
      name +=
          (played.bend->before ? tr(" bent %1 ct") : tr(" %1 ct")).arg(text(withSign(played.bend->size().value, 0)));
    if (played.vibrato) name += tr(" ~%1").arg(text(fixed(played.vibrato->rate.value, 1)));
    const double room = metrics.horizontalAdvance(name) + 8;
    if (x < free || (end - x < room && !played.bend)) continue;
    const double y = std::clamp(heightOf(played.bend ? played.bend->to : played.note.pitch) - 22, area.top() + 1,
                                area.bottom() - 17);
    const QRectF plate(x, y, room, 16);
    p.setPen(Qt::NoPen);
    p.setBrush(halo);
    p.drawRoundedRect(plate, 3, 3);
    p.setPen(t.ink);
    p.drawText(plate, Qt::AlignCenter, name);
    free = plate.right() + 2;
  }
}

void PitchLayer::paintHeard(QPainter& p, QRectF area, TimeSpan window) const {
  if (area.height() < 8 || window.length() <= Seconds(0)) return;
  p.save();
  p.setClipRect(area);
  paintVoice(p, area, window);
  const Theme& t = Theme::current();
  p.setFont(Theme::font(Theme::Face::strong));
  const QFontMetrics metrics(p.font());
  const double x = area.left() + (bench_.ear().moment() - window.start) / window.length() * area.width();
  for (const auto& hint : bench_.ear().hints()) {
    const QString name = text(noteName(hint.midi, bench_.spelling()));
    const QRectF plate(std::min(x + 6, area.right() - metrics.horizontalAdvance(name) - 14), yOf(hint.midi, area) - 10,
                       metrics.horizontalAdvance(name) + 12, 20);
    p.setPen(QPen(t.accent, 1.5));
    p.setBrush(t.ground);
    p.drawRoundedRect(plate, 4, 4);
    p.setPen(t.ink);
    p.drawText(plate, Qt::AlignCenter, name);
  }
  p.restore();
}

QString PitchLayer::placesOf(double midi) const {
  const int note = static_cast<int>(std::lround(midi));
  const Guitar guitar = bench_.document().guitar();
  QStringList places;
  const bool fromNut = bench_.document().fretsFromNut();
  for (const auto& place : ear::placesOf(guitar, note))
    places << text(placeName(bench_.schools(), guitar, place, fromNut, bench_.spelling()));
  const auto cents = std::lround(100 * (midi - note));
  return tr("%1%2%3").arg(
      text(noteName(note, bench_.spelling())),
      std::abs(cents) > 8 ? tr(" %1 cents").arg(text(withSign(static_cast<double>(cents), 0))) : QString(),
      places.isEmpty() ? tr(": not on this guitar") : ": " + places.join("; "));
}

}  // namespace ear
