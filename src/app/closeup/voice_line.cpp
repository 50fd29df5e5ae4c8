// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/voice_line.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/text.h"

namespace ear {
namespace {

/// Where the voice lies on the map.
struct Placing {
  const LaneView& view;
  const PitchAxis& axis;
  Cents offset;

  double yOf(MidiPitch pitch) const { return axis.yOf(pitch.value - offset.value / 100, view.area); }
  /// The note of the recording's own tuning that is nearest.
  int noteOf(MidiPitch pitch) const { return static_cast<int>(std::lround(pitch.value - offset.value / 100)); }
};

QPainterPath pathOf(const EarKeeper::Followed& followed, const Placing& at) {
  const Seconds start = followed.span.start;
  const F0Contour& heard = followed.voice->line;
  const auto& points = heard.points;
  const auto frame = [&](Seconds moment) {
    return static_cast<std::size_t>(
        std::clamp(heard.clock.placeOf(moment - start), 0.0, static_cast<double>(points.size())));
  };
  const std::size_t from = frame(at.view.window.start), to = std::min(points.size(), frame(at.view.window.end) + 2);
  QPainterPath line;
  bool drawing = false;
  for (std::size_t k = from; k < to; ++k) {
    const auto& pitch = points[k].pitch;
    if (!pitch) {
      drawing = false;
      continue;
    }
    const QPointF point(at.view.xOf(start + heard.clock.timeOf(k)), at.yOf(*pitch));
    // A leap to another note is no line.
    if (drawing && points[k - 1].pitch && std::abs((*pitch - *points[k - 1].pitch).value) < 1.2)
      line.lineTo(point);
    else
      line.moveTo(point);
    drawing = true;
  }
  return line;
}

/// The note, how far it is bent, and how fast it shakes.
QString nameOf(const PlayedNote& played, const Placing& at, Spelling spelling) {
  if (played.bend && played.bend->again)
    return QObject::tr("%1 again, or still bent").arg(text(noteName(at.noteOf(played.bend->to), spelling)));
  QString name = text(noteName(at.noteOf(frettedPitch(played)), spelling));
  if (played.bend)
    name += (played.bend->before ? QObject::tr(" bent %1 ct") : QObject::tr(" %1 ct"))
                .arg(text(centsFigure(played.bend->size())));
  if (played.vibrato) name += QObject::tr(" ~%1").arg(text(fixed(played.vibrato->rate.value, 1)));
  return name;
}

}  // namespace

void paintVoiceLine(QPainter& p, const LaneView& view, const PitchAxis& axis, const EarKeeper::Followed& followed,
                    Cents offset, Spelling spelling) {
  const Theme& t = Theme::current();
  const Placing at{view, axis, offset};
  const QPainterPath line = pathOf(followed, at);
  p.setBrush(Qt::NoBrush);
  QColor halo = t.ground;
  halo.setAlpha(220);
  p.setPen(QPen(halo, 5, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  p.drawPath(line);
  p.setPen(QPen(t.warning, 2, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
  p.drawPath(line);
  // Names where there is room.
  p.setFont(Theme::font(Theme::Face::small));
  const QFontMetrics metrics(p.font());
  double free = view.area.left();
  for (const auto& played : followed.voice->notes) {
    const double x = view.xOf(followed.span.start + played.note.span.start),
                 end = view.xOf(followed.span.start + played.note.span.end);
    if (end < view.area.left() || x > view.area.right()) continue;
    const QString name = nameOf(played, at, spelling);
    const double room = metrics.horizontalAdvance(name) + 8;
    if (x < free || (end - x < room && !played.bend)) continue;
    const double y = std::clamp(at.yOf(played.bend ? played.bend->to : played.note.pitch) - 22, view.area.top() + 1,
                                view.area.bottom() - 17);
    const QRectF plate(x, y, room, 16);
    p.setPen(Qt::NoPen);
    p.setBrush(halo);
    p.drawRoundedRect(plate, 3, 3);
    p.setPen(t.ink);
    p.drawText(plate, Qt::AlignCenter, name);
    free = plate.right() + 2;
  }
}

}  // namespace ear
