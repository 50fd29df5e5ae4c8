// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/tab/tab_painter.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "app/tab/music_glyphs.h"
#include "app/theme/words.h"

namespace ear {
namespace {

// In gaps of the strings.
constexpr double kAbove = 3.8;     // bar numbers, words and bends
constexpr double kNothing = 2.3;   // bar numbers alone
constexpr double kScales = 1.0;    // a row of names of scales
constexpr double kEnding = 1.3;    // a row of brackets over endings
constexpr double kRhythm = 2.8;    // one row of rhythm
constexpr double kFirstRow = 0.7;  // below the strings
constexpr double kStem = 1.8;
constexpr double kFoot = 1.3;  // a row of picking, fingers or counts
constexpr double kBendLeast = 0.7, kBendMost = 1.35;
constexpr double kHalfHead = 0.62;
constexpr double kBeforeBar = 1.45;  // from a moment back to where what lasts until it ends: before the bar line

QFont faceOf(double pixels, QFont::Weight weight = QFont::Normal) {
  QFont font = Theme::font(Theme::Face::figure);
  font.setPixelSize(std::max(7, static_cast<int>(std::lround(pixels))));
  font.setWeight(weight);
  return font;
}

void centred(QPainter& p, QPointF at, const QString& words) {
  p.drawText(QRectF(at.x() - 100, at.y() - 50, 200, 100), Qt::AlignCenter, words);
}

bool any(const std::vector<TabHead>& heads, std::string TabHead::*member) {
  return std::any_of(heads.begin(), heads.end(), [&](const TabHead& h) { return !(h.*member).empty(); });
}

/// Bends, and words over the strings.
bool isEnding(const TabStretch& s) {
  return s.kind == TabStretch::Kind::ending;
}

bool reachesUp(const TabMark& mark) {
  using K = TabMark::Kind;
  return mark.kind == K::bend || mark.kind == K::heldBend || mark.kind == K::again || mark.kind == K::word;
}

}  // namespace

TabPainter::TabPainter(const TabScore& score, std::function<double(Beats)> xOf, TabLook look)
    : score_(score),
      xOf_(std::move(xOf)),
      look_(std::move(look)),
      g_(look_.gap),
      above_(std::any_of(score.marks.begin(), score.marks.end(), reachesUp) ||
                     !std::all_of(score.stretches.begin(), score.stretches.end(), isEnding)
                 ? kAbove
                 : kNothing) {
  if (!look_.scales.empty()) above_ += kScales;
  if (std::any_of(score.stretches.begin(), score.stretches.end(), isEnding)) above_ += kEnding;
}

double TabPainter::heightFor(const TabScore& score, const TabLook& look) {
  return TabPainter(
             score, [](Beats) { return 0.0; }, look)
      .height();
}

double TabPainter::yOf(int string) const {
  return g_ * (above_ + (score_.strings - 1 - string));
}

double TabPainter::height() const {
  double high = above_ + score_.strings - 1 + 0.8;
  if (look_.rhythm) {
    high += kFirstRow + kRhythm * static_cast<double>(std::max<std::size_t>(1, score_.voices.size()));
    if (any(score_.heads, &TabHead::finger)) high += kFoot;
    if (!score_.strokes.empty()) high += kFoot;
    if (!score_.counts.empty()) high += kFoot;
  }
  return high * g_;
}

QRectF TabPainter::rectOf(const TabHead& head) const {
  const double wide = std::max(1.0, 0.62 * static_cast<double>(text(head.text).size()) + 0.35) * g_;
  return {xOf_(head.at) - wide / 2, yOf(head.string) - kHalfHead * g_, wide, 2 * kHalfHead * g_};
}

void TabPainter::paint(QPainter& p, double left, double right, double top) const {
  p.save();
  p.translate(0, top);
  paintStretches(p);
  paintStrings(p, left, right);
  for (const TabMark& mark : score_.marks) paintMark(p, mark);
  for (const TabHead& head : score_.heads) paintHead(p, head);
  if (look_.rhythm) {
    double row = bottomOfStrings() + kFirstRow * g_;
    for (const RhythmRow& voice : score_.voices) {
      paintRhythm(p, voice, row);
      row += kRhythm * g_;
    }
    paintFeet(p);
  }
  p.restore();
}

/// A bracket over the bars that end it so this time.
void TabPainter::paintEnding(QPainter& p, const TabStretch& s) const {
  const double top = (1.15 + (look_.scales.empty() ? 0.0 : kScales)) * g_;
  const double from = xOf_(s.from) - 1.25 * g_, to = xOf_(s.to) - 1.5 * g_;
  p.setPen(QPen(look_.theme.ink, 0.12 * g_));
  p.drawLine(QPointF(from, top), QPointF(to, top));
  if (s.text.empty()) return;  // it goes on from the line before
  p.drawLine(QPointF(from, top), QPointF(from, top + 0.9 * g_));
  p.setFont(faceOf(0.85 * g_, QFont::DemiBold));
  p.drawText(QRectF(from + 0.4 * g_, top, 200, 1.1 * g_), Qt::AlignLeft | Qt::AlignVCenter, text(s.text));
}

void TabPainter::paintStretches(QPainter& p) const {
  const Theme& t = look_.theme;
  for (const TabStretch& s : score_.stretches) {
    const double from = xOf_(s.from) - 0.8 * g_, to = xOf_(s.to) - 0.6 * g_;
    const QRectF box(from, yOf(score_.strings - 1) - 0.5 * g_, std::max(g_, to - from), g_ * score_.strings);
    const bool open = s.kind == TabStretch::Kind::unclear;
    if (s.kind == TabStretch::Kind::ending) {
      paintEnding(p, s);
      continue;
    }
    if (s.kind == TabStretch::Kind::hardest) {  // a line under the strings, so that it hides nothing
      const double y = yOf(0) + 0.75 * g_;
      p.setPen(QPen(t.warning, 2));
      p.drawLine(QPointF(from, y), QPointF(to, y));
      p.setFont(faceOf(0.8 * g_));
      p.drawText(QRectF(from, y - 0.1 * g_, 200, 0.9 * g_), Qt::AlignLeft | Qt::AlignTop, text(s.text));
      continue;
    }
    QColor wash = open ? t.warning : s.kind == TabStretch::Kind::palmMute ? t.softInk : t.accent;
    p.setPen(Qt::NoPen);
    p.setBrush(QBrush(wash, open ? Qt::BDiagPattern : Qt::SolidPattern));
    p.setOpacity(open ? 0.45 : 0.13);
    p.drawRect(box);
    p.setOpacity(1.0);
    p.setFont(faceOf(0.85 * g_));
    p.setPen(open ? t.warning : t.softInk);
    if (s.kind == TabStretch::Kind::palmMute)
      p.drawText(QRectF(from, box.bottom(), 200, 0.9 * g_), Qt::AlignLeft | Qt::AlignTop, text(s.text));
    else
      p.drawText(box.adjusted(4, -1.2 * g_, 400, -g_ * score_.strings), Qt::AlignLeft | Qt::AlignBottom, text(s.text));
  }
}

void TabPainter::paintStrings(QPainter& p, double left, double right) const {
  const Theme& t = look_.theme;
  p.setPen(QPen(t.hairline, 1));
  for (int s = 0; s < score_.strings; ++s) p.drawLine(QPointF(left, yOf(s)), QPointF(right, yOf(s)));
  const double high = yOf(score_.strings - 1), low = yOf(0);
  for (std::size_t i = 0; i < score_.barLines.size(); ++i) {
    const double x = xOf_(score_.barLines[i]) - 1.25 * g_;
    if (x < left - 1 || x > right + 1) continue;
    p.setPen(QPen(t.softInk, 1));
    p.drawLine(QPointF(x, high), QPointF(x, low));
    if (static_cast<qsizetype>(i) >= look_.barNames.size()) continue;
    p.setFont(faceOf(0.85 * g_));
    p.drawText(QRectF(x + 2, -0.1 * g_, 300, 0.9 * g_), Qt::AlignLeft | Qt::AlignVCenter | Qt::TextDontClip,
               look_.barNames[static_cast<int>(i)]);
  }
  p.setFont(faceOf(0.95 * g_, QFont::Medium));
  p.setPen(t.ink);
  for (const auto& [at, name] : look_.chords) {
    double x = std::max(left, xOf_(at) - 1.25 * g_);
    const auto bar = std::find(score_.barLines.begin(), score_.barLines.end(), at) - score_.barLines.begin();
    if (bar < look_.barNames.size())  // behind the bar's number and time
      x += QFontMetricsF(faceOf(0.85 * g_)).horizontalAdvance(look_.barNames[static_cast<int>(bar)]) + 1.2 * g_;
    if (x < right) p.drawText(QRectF(x, -0.15 * g_, 200, 1.0 * g_), Qt::AlignLeft | Qt::AlignVCenter, name);
  }
  p.setFont(faceOf(0.85 * g_));
  p.setPen(t.accent);
  for (const auto& [at, name] : look_.scales) {
    const double x = std::max(left, xOf_(at) - 1.25 * g_);
    if (x >= right) continue;
    p.drawLine(QPointF(x, 1.1 * g_), QPointF(x, 1.7 * g_));
    p.drawText(QRectF(x + 0.4 * g_, 0.9 * g_, 400, 1.0 * g_), Qt::AlignLeft | Qt::AlignVCenter, name);
  }
  p.setPen(t.softInk);
  for (qsizetype s = 0; s < look_.stringNames.size() && s < score_.strings; ++s) {
    const QRectF box(left - 2.2 * g_, yOf(static_cast<int>(s)) - g_, 1.9 * g_, 2 * g_);
    p.drawText(box, Qt::AlignRight | Qt::AlignVCenter, look_.stringNames[s]);
  }
}

double TabPainter::bendTop(double cents) const {
  return yOf(score_.strings - 1) - g_ * (kBendLeast + kBendMost * std::clamp(cents / 300.0, 0.1, 1.0));
}

/// A rise from the number to a short line as high over the strings as the bend is wide, its size on top.
void TabPainter::paintBend(QPainter& p, const TabMark& mark) const {
  const Theme& t = look_.theme;
  const double x = xOf_(mark.from), y = yOf(mark.string), top = bendTop(mark.cents);
  const double end = std::max(x + 1.6 * g_, xOf_(mark.to) - 1.0 * g_);
  const double peak = std::min(x + 1.7 * g_, end);
  p.setPen(QPen(t.accent, 1.3));
  p.setBrush(Qt::NoBrush);
  QPainterPath path;
  if (mark.kind == TabMark::Kind::release) {
    const double from = std::max(peak + 0.3 * g_, end - 1.6 * g_);
    path.moveTo(peak, top);
    path.lineTo(from, top);
    path.quadTo(from + 1.2 * g_, top, from + 1.4 * g_, y - kHalfHead * g_);
  } else if (mark.kind == TabMark::Kind::heldBend) {
    path.moveTo(x, y - 0.7 * g_);
    path.lineTo(x, top);
    path.moveTo(x - 0.45 * g_, top);
    path.lineTo(x + 0.45 * g_, top);
  } else {
    path.moveTo(x + 0.7 * g_, y - 0.2 * g_);
    path.quadTo(peak, y - 0.3 * g_, peak, top);
    path.moveTo(peak - 0.45 * g_, top);
    path.lineTo(peak + 0.45 * g_, top);
  }
  p.drawPath(path);
  if (mark.text.empty() || mark.kind == TabMark::Kind::release) return;
  p.setFont(faceOf(0.92 * g_, QFont::Medium));
  p.setPen(mark.text == "?" ? t.warning : t.accent);
  const double at = mark.kind == TabMark::Kind::heldBend ? x : peak;
  centred(p, {at, top - 0.6 * g_}, mark.kind == TabMark::Kind::again ? text("×" + mark.text) : text(mark.text));
}

void TabPainter::wave(QPainter& p, double from, double to, double y, double high) const {
  QPainterPath path(QPointF(from, y));
  const double step = 0.42 * g_;
  bool up = true;
  for (double x = from; x + step <= to; x += step, up = !up)
    path.quadTo(x + step / 2, y + (up ? -high : high), x + step, y);
  p.setBrush(Qt::NoBrush);
  p.drawPath(path);
}

void TabPainter::paintMark(QPainter& p, const TabMark& mark) const {
  using K = TabMark::Kind;
  const Theme& t = look_.theme;
  const double from = xOf_(mark.from), to = xOf_(mark.to), y = yOf(mark.string);
  p.setPen(QPen(t.ink, 1.1));
  p.setBrush(Qt::NoBrush);
  const auto line = [&](double x1, double y1, double x2, double y2) { p.drawLine(QPointF(x1, y1), QPointF(x2, y2)); };
  switch (mark.kind) {
    case K::bend:
    case K::heldBend:
    case K::release:
      paintBend(p, mark);
      break;
    case K::again: {
      p.setFont(faceOf(0.85 * g_));
      p.setPen(t.accent);
      p.drawText(QPointF(from + 2.4 * g_, bendTop(mark.cents) + 0.9 * g_), text("struck again ×" + mark.text));
      break;
    }
    case K::hammer:
    case K::pull: {
      QPainterPath arc(QPointF(from + 0.2 * g_, y - 0.65 * g_));
      arc.quadTo((from + to) / 2, y - 1.35 * g_, to - 0.2 * g_, y - 0.65 * g_);
      p.drawPath(arc);
      p.setFont(faceOf(0.78 * g_));
      p.setPen(t.softInk);
      centred(p, {(from + to) / 2, y - 1.35 * g_}, text(mark.text));
      break;
    }
    case K::slide: {
      const double rise = mark.cents > 0 ? 0.32 * g_ : -0.32 * g_;
      line(from + 0.75 * g_, y + rise, to - 0.75 * g_, y - rise);
      break;
    }
    case K::slideIn: {
      const double drop = mark.cents > 0 ? -0.5 * g_ : 0.5 * g_;
      line(from - 1.5 * g_, y + drop, from - 0.65 * g_, y);
      p.setFont(faceOf(0.7 * g_));
      p.setPen(t.softInk);
      if (!mark.text.empty()) centred(p, {from - 1.75 * g_, y + drop}, text(mark.text));
      break;
    }
    case K::slideOut: {
      const double drop = mark.cents > 0 ? -0.5 * g_ : 0.5 * g_;
      line(from + 0.75 * g_, y, from + 1.7 * g_, y + drop);
      break;
    }
    case K::vibrato:
    case K::wideVibrato:
      p.setPen(QPen(t.ink, 1.2));
      wave(p, from + 0.75 * g_, std::max(from + 2.2 * g_, to - kBeforeBar * g_), y - 0.28 * g_,
           (mark.kind == K::vibrato ? 0.32 : 0.55) * g_);
      break;
    case K::dive: {
      QPainterPath path(QPointF(from + 0.7 * g_, y));
      path.quadTo(to - g_, y, std::max(from + 1.6 * g_, to - 0.9 * g_), y + 1.1 * g_);
      p.drawPath(path);
      break;
    }
    case K::word:
      p.setFont(faceOf(0.82 * g_));
      p.setPen(t.softInk);
      centred(p, {from, yOf(score_.strings - 1) - 1.0 * g_}, text(mark.text));
      break;
  }
}

void TabPainter::paintHead(QPainter& p, const TabHead& head) const {
  const Theme& t = look_.theme;
  const QRectF box = rectOf(head);
  const bool selected = look_.selected.contains(head.note);
  if (head.rings) {
    const double to = xOf_(head.end) - kBeforeBar * g_;
    p.setPen(QPen(t.softInk, 2));
    if (to > box.right()) p.drawLine(QPointF(box.right(), yOf(head.string)), QPointF(to, yOf(head.string)));
  }
  if (head.keptTo) {  // dots along the string, with a foot where the finger may go
    const double y = yOf(head.string), from = std::max(box.right(), xOf_(head.end) - 0.9 * g_);
    const double to = std::max(from + 1.2 * g_, xOf_(*head.keptTo) - 1.1 * g_);
    p.setPen(QPen(t.ink, 1.8, Qt::DotLine));
    p.drawLine(QPointF(from, y), QPointF(to, y));
    p.setPen(QPen(t.ink, 1.4));
    p.drawLine(QPointF(to, y), QPointF(to, y + 0.45 * g_));
  }
  p.setPen(selected                            ? QPen(t.accent, 1.4)
           : look_.offered.contains(head.note) ? QPen(t.softInk, 1, Qt::DotLine)
                                               : QPen(Qt::NoPen));
  p.setBrush(selected ? t.accentWash : t.ground);
  p.drawRoundedRect(box.adjusted(0, 0.12 * g_, 0, -0.12 * g_), 3, 3);
  // Measured light, set plain, confirmed strong.
  p.setPen(head.origin == Origin::measured ? t.softInk : t.ink);
  p.setFont(faceOf(1.12 * g_, head.origin == Origin::confirmed ? QFont::Bold
                              : head.origin == Origin::set     ? QFont::Medium
                                                               : QFont::Normal));
  p.drawText(box, Qt::AlignCenter, text(head.text));
  p.setFont(faceOf(0.85 * g_, QFont::Bold));
  const QPointF corner(box.right() + 0.15 * g_, box.top() + 0.35 * g_);
  if (head.differs) {
    p.setPen(t.accent);
    centred(p, corner, "*");
  } else if (head.doubtful) {
    p.setPen(t.warning);
    centred(p, corner, "?");
  }
  if (head.staccato) {
    p.setPen(Qt::NoPen);
    p.setBrush(t.ink);
    p.drawEllipse(QPointF(box.center().x(), box.top() - 0.05 * g_), 0.13 * g_, 0.13 * g_);
  }
  if (const auto check = look_.checks.find(head.note); check != look_.checks.end()) paintCheck(p, box, check->second);
}

void TabPainter::paintCheck(QPainter& p, QRectF box, HeadCheck check) const {
  const Theme& t = look_.theme;
  p.setBrush(Qt::NoBrush);
  switch (check) {
    case HeadCheck::none:
      break;
    case HeadCheck::heard:
      p.setPen(Qt::NoPen);
      p.setBrush(t.accent);
      p.drawEllipse(QPointF(box.center().x(), box.bottom()), 0.16 * g_, 0.16 * g_);
      break;
    case HeadCheck::notHeard:
      p.setPen(QPen(t.warning, 1.6, Qt::DotLine));
      p.drawEllipse(box.adjusted(-2, 0, 2, 0));
      break;
    case HeadCheck::other:
      p.setPen(QPen(t.warning, 1.8));
      p.drawEllipse(box.adjusted(-2, 0, 2, 0));
      break;
    case HeadCheck::impossible:
      p.setPen(QPen(t.error, 1.5));
      wave(p, box.left() - 2, box.right() + 4, box.bottom(), 0.3 * g_);
      break;
  }
}

void TabPainter::paintPiece(QPainter& p, const RhythmRow& row, std::size_t i, double top, bool beamed) const {
  const Theme& t = look_.theme;
  const RhythmPiece& piece = row.pieces[i];
  const double x = xOf_(piece.at);
  if (!piece.value) {  // no value is so long: it stays, and is marked
    p.setPen(t.warning);
    p.setFont(faceOf(0.9 * g_));
    centred(p, {x, top + g_}, text(piece.length.text()));
    return;
  }
  const NoteValue& value = *piece.value;
  p.setPen(piece.rest ? t.softInk : t.ink);
  if (piece.rest) {
    MusicGlyphs::draw(p, {x, top + g_}, MusicGlyphs::rest(value.part), g_ * 0.62);
  } else {
    const double foot = top + (value.part == 2 ? 0.6 : 1.0) * kStem * g_;
    p.setPen(QPen(t.ink, 1.1));
    if (value.part > 1) p.drawLine(QPointF(x, top), QPointF(x, foot));
    if (value.part <= 2) {  // a hollow foot for the long ones
      p.setBrush(Qt::NoBrush);
      p.drawEllipse(QPointF(x, foot + 0.3 * g_ - (value.part == 1 ? g_ : 0.0)), 0.34 * g_, 0.26 * g_);
    }
    if (value.part >= 8 && !beamed)
      MusicGlyphs::draw(p, {x, foot}, MusicGlyphs::flagDown(value.part), g_ * 0.62, MusicGlyphs::Anchor::left);
    for (int k = 0; k < piece.tremolo; ++k)
      p.drawLine(QPointF(x - 0.4 * g_, top + (0.6 + 0.3 * k) * g_), QPointF(x + 0.4 * g_, top + (0.4 + 0.3 * k) * g_));
    if (piece.tied && i > 0) {
      const double before = xOf_(row.pieces[i - 1].at);
      QPainterPath arc(QPointF(before + 0.25 * g_, top));
      arc.quadTo((before + x) / 2, top + 0.75 * g_, x - 0.25 * g_, top);
      p.setBrush(Qt::NoBrush);
      p.drawPath(arc);
    }
  }
  p.setPen(Qt::NoPen);
  p.setBrush(piece.rest ? t.softInk : t.ink);
  for (int d = 0; d < value.dots; ++d)
    p.drawEllipse(QPointF(x + (0.5 + 0.4 * d) * g_, top + g_ * 0.9), 0.14 * g_, 0.14 * g_);
}

void TabPainter::paintRhythm(QPainter& p, const RhythmRow& row, double top) const {
  const Theme& t = look_.theme;
  std::vector<bool> beamed(row.pieces.size(), false);
  for (const Beam& b : row.beams)
    for (std::size_t i = b.first; i <= b.last; ++i) beamed[i] = true;
  for (std::size_t i = 0; i < row.pieces.size(); ++i) paintPiece(p, row, i, top, beamed[i]);
  const double thick = 0.3 * g_;
  p.setPen(Qt::NoPen);
  p.setBrush(t.ink);
  for (const Beam& b : row.beams) {
    double from = xOf_(row.pieces[b.first].at), to = xOf_(row.pieces[b.last].at);
    if (b.first == b.last) (b.backward ? from : to) += (b.backward ? -0.9 : 0.9) * g_;
    const double y = top + kStem * g_ - (b.level - 1) * 0.52 * g_;
    p.drawRect(QRectF(from - 0.5, y - thick, to - from + 1, thick));
  }
  paintTuplets(p, row, top);
}

void TabPainter::paintTuplets(QPainter& p, const RhythmRow& row, double top) const {
  const Theme& t = look_.theme;
  for (const Tuplet& tuplet : row.tuplets) {
    const double from = xOf_(row.pieces[tuplet.first].at), to = xOf_(row.pieces[tuplet.last].at);
    const double y = top + kStem * g_ + 0.55 * g_;
    p.setPen(QPen(tuplet.complete ? t.ink : t.warning, 1));
    p.setFont(faceOf(0.85 * g_, QFont::Medium));
    centred(p, {(from + to) / 2, y}, QString::number(tuplet.number) + (tuplet.complete ? "" : "?"));
    if (to - from < 2 * g_) continue;
    const double room = 0.6 * g_;
    for (const auto& [a, b] :
         {std::pair{from - 0.3 * g_, (from + to) / 2 - room}, {(from + to) / 2 + room, to + 0.3 * g_}})
      p.drawLine(QPointF(a, y), QPointF(b, y));
  }
}

/// Fingers, the other hand and counts, a row each.
void TabPainter::paintFeet(QPainter& p) const {
  const Theme& t = look_.theme;
  double y =
      bottomOfStrings() +
      (kFirstRow + kRhythm * static_cast<double>(std::max<std::size_t>(1, score_.voices.size())) + kFoot / 2) * g_;
  if (any(score_.heads, &TabHead::finger)) {
    p.setFont(faceOf(0.85 * g_));
    p.setPen(t.softInk);
    std::map<Beats, QString> fingers;
    for (const TabHead& h : score_.heads)
      if (!h.finger.empty())
        fingers[h.at] = fingers[h.at].isEmpty() ? text(h.finger) : text(h.finger) + "·" + fingers[h.at];
    for (const auto& [at, words] : fingers) {
      p.setBrush(Qt::NoBrush);
      if (words.size() == 1) p.drawEllipse(QPointF(xOf_(at), y), 0.58 * g_, 0.58 * g_);
      centred(p, {xOf_(at), y}, words);
    }
    y += kFoot * g_;
  }
  if (!score_.strokes.empty()) {
    for (const TabStroke& s : score_.strokes) {
      p.setPen(t.ink);
      if (s.picking == Picking::down || s.picking == Picking::up) {
        MusicGlyphs::draw(p, {xOf_(s.at), y}, MusicGlyphs::stroke(s.picking == Picking::down), g_ * 0.6);
      } else {
        static constexpr std::array kWords = {"", "", "", "p", "i", "m", "a", "+", ""};
        p.setFont(faceOf(0.95 * g_));
        centred(p, {xOf_(s.at), y}, QLatin1String(kWords[static_cast<std::size_t>(s.picking)]));
      }
    }
    y += kFoot * g_;
  }
  for (const TabCount& c : score_.counts) {
    p.setFont(faceOf(0.88 * g_, c.onBeat ? QFont::DemiBold : QFont::Normal));
    p.setPen(c.onBeat ? t.ink : t.softInk);
    centred(p, {xOf_(c.at), y}, text(c.text));
  }
}

}  // namespace ear
