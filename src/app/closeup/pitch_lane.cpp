// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/pitch_lane.h"

#include <QPainter>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/closeup/voice_line.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/theory/fretboard.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr double kLowestEdge = PitchMap::kLowest - 0.5, kHighestEdge = PitchMap::kLowest + PitchMap::kSemitones - 0.5;
constexpr double kLeastRange = 7;    // semitones
constexpr double kFewNamesRoom = 3;  // pixels of a semitone from which tonic and fifth have their names

}  // namespace

PitchLane::PitchLane(Workbench& bench, QObject* parent) : Lane(parent), bench_(bench), picture_(bench) {
  connect(&picture_, &PitchPicture::changed, this, &Lane::changed);
  connect(&bench.ear(), &EarKeeper::changed, this, &Lane::changed);
}

void PitchLane::setShown(bool on) {
  shown_ = on;
  emit changed();
}

Lane::Hold PitchLane::holdAt(QPointF, Qt::KeyboardModifiers modifiers, const LaneView&) const {
  return modifiers.testFlag(Qt::ControlModifier) ? Hold::firm
         : modifiers.testFlag(Qt::AltModifier)   ? Hold::loose
                                                 : Hold::none;
}

void PitchLane::grab(QPointF at, Qt::KeyboardModifiers modifiers, const LaneView& view) {
  focusing_ = !modifiers.testFlag(Qt::ControlModifier);
  const double midi = axis_.pitchAt(at.y(), view.area);
  if (focusing_)
    focusOctave(midi);
  else
    bench_.voice().tone(static_cast<int>(std::lround(midi)));
}

void PitchLane::drag(QPointF to, Qt::KeyboardModifiers, const LaneView& view) {
  if (focusing_) focusOctave(axis_.pitchAt(to.y(), view.area));
}

/// The octave around the pitch under the pointer is what is heard.
void PitchLane::focusOctave(double midi) {
  Isolation i = bench_.transport().sounding().isolation;
  i.focus = frequencyOf(MidiPitch(std::round(midi)), a4At(bench_.document().offset()));
  bench_.transport().setIsolation(i);
}

void PitchLane::zoom(double factor, double around) {
  const double range = std::clamp(axis_.range() * factor, kLeastRange, kHighestEdge - kLowestEdge);
  const double share = (around - axis_.low) / axis_.range();
  axis_.low = std::clamp(around - share * range, kLowestEdge, kHighestEdge - range);
  axis_.high = axis_.low + range;
  emit changed();
}

void PitchLane::scroll(double semitones) {
  const double range = axis_.range();
  axis_.low = std::clamp(axis_.low + semitones, kLowestEdge, kHighestEdge - range);
  axis_.high = axis_.low + range;
  emit changed();
}

bool PitchLane::wheel(const QWheelEvent& event, const LaneView& view) {
  const QPoint turn = event.angleDelta();
  if (event.modifiers().testFlag(Qt::ControlModifier))
    zoom(std::pow(0.85, turn.y() / 120.0), axis_.pitchAt(event.position().y(), view.area));
  else if (event.modifiers().testFlag(Qt::AltModifier))
    scroll((turn.x() + turn.y()) / 60.0);
  else
    return false;
  return true;
}

void PitchLane::paint(QPainter& p, const LaneView& view) {
  picture_.paint(p, view, axis_);
}

/// The voice, what was asked for and the names, over whatever was drawn on the map.
void PitchLane::paintOver(QPainter& p, const LaneView& view) {
  if (view.area.height() >= 8 && view.window.length() > Seconds(0)) {
    p.save();
    p.setClipRect(view.area);
    if (const EarKeeper::Followed* followed = bench_.ear().voice())
      paintVoiceLine(p, view, axis_, *followed, bench_.document().offset(), bench_.session().spelling());
    paintHints(p, view);
    p.restore();
  }
  paintNames(p, view.area);
}

void PitchLane::paintHints(QPainter& p, const LaneView& view) const {
  const Theme& t = Theme::current();
  p.setFont(Theme::font(Theme::Face::strong));
  const QFontMetrics metrics(p.font());
  const double x = view.xOf(bench_.ear().moment());
  for (const auto& hint : bench_.ear().hints()) {
    const QString name = text(noteName(hint.midi, bench_.session().spelling()));
    const QRectF plate(std::min(x + 6, view.area.right() - metrics.horizontalAdvance(name) - 14),
                       axis_.yOf(hint.midi, view.area) - 10, metrics.horizontalAdvance(name) + 12, 20);
    p.setPen(QPen(t.accent, 1.5));
    p.setBrush(t.ground);
    p.drawRoundedRect(plate, 4, 4);
    p.setPen(t.ink);
    p.drawText(plate, Qt::AlignCenter, name);
  }
}

void PitchLane::paintNames(QPainter& p, QRectF area) const {
  const Theme& t = Theme::current();
  const double room = axis_.room(area);
  const auto key = settled(bench_.brief().key);
  const int tonic = key ? key->tonic.value : 0;
  p.setFont(Theme::font(Theme::Face::small));
  const QFontMetrics metrics(p.font());
  double free = area.bottom();
  for (int midi = static_cast<int>(std::ceil(axis_.low)); midi <= axis_.high; ++midi) {
    const int degree = PitchClass(midi - tonic).value;
    if (room < kPitchNameRoom && !(degree == 0 || (degree == 7 && room >= kFewNamesRoom))) continue;
    const double y = axis_.yOf(midi, area);
    if (y + 7 > free || y - 7 < area.top()) continue;
    free = y - 7;
    const QString name = text(noteName(midi, bench_.session().spelling()));
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

QString PitchLane::placesOf(double midi) const {
  const int note = static_cast<int>(std::lround(midi));
  const Guitar guitar = bench_.document().guitar();
  QStringList places;
  const bool fromNut = bench_.document().fretsFromNut();
  for (const auto& place : ear::placesOf(guitar, note))
    places << text(placeName(bench_.session().notation(), guitar, place, fromNut, bench_.session().spelling()));
  const Cents off(100 * (midi - note));
  return tr("%1%2%3").arg(text(noteName(note, bench_.session().spelling())),
                          std::abs(off.value) > 8 ? " " + text(signedCents(off)) : QString(),
                          places.isEmpty() ? tr(": not on this guitar") : ": " + places.join("; "));
}

QString PitchLane::tip(QPointF at, const LaneView& view) const {
  return tr("%1\nCtrl and a click plays it, Alt and a drag hears only the octave around it, Ctrl and the wheel "
            "stretches "
            "the map.")
      .arg(placesOf(axis_.pitchAt(at.y(), view.area)));
}

}  // namespace ear
