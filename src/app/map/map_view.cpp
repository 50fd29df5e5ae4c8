// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/map/map_view.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <map>

#include "app/form/section_menu.h"
#include "app/map/section_block.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/study/form_edit.h"

namespace ear {
namespace {

constexpr int kSide = 16, kFormTop = 4, kFormHeight = 38, kChordTop = 44, kChordHeight = 16;
constexpr int kSoundTop = 64, kSoundHeight = 30;
constexpr int kDragStart = 4;  // pixels that make a click a drag
constexpr double kBorderReach = 5, kArrowRoom = 12;
constexpr Seconds kSnap{3.0};

}  // namespace

MapView::MapView(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setFixedHeight(Theme::kMap);
  setObjectName("map");
  setAccessibleName(tr("Map of the recording"));
  setMouseTracking(true);
  connect(&bench.selection(), &Selection::changed, this, qOverload<>(&QWidget::update));
  connect(&bench.transport(), &Transport::positionChanged, this, qOverload<>(&QWidget::update));
  bench.session().whenChanged(kOfBrief | Changed::cues | Changed::chords | Changed::passages, this, &MapView::redraw);
  for (const auto signal : {&Analysis::soundChanged, &Analysis::changed})
    connect(&bench.analysis(), signal, this, &MapView::redraw);
}

double MapView::xOf(Seconds t) const {
  const double all = bench_.analysis().duration().value;
  return all > 0 ? kSide + (width() - 2 * kSide) * t.value / all : kSide;
}

Seconds MapView::timeAt(double x) const {
  const double share = std::clamp((x - kSide) / std::max(1, width() - 2 * kSide), 0.0, 1.0);
  return bench_.analysis().duration() * share;
}

void MapView::setWindow(TimeSpan window) {
  window_ = window;
  update();
}

void MapView::redraw() {
  picture_ = {};
  update();
}

const Section* MapView::sectionAt(Seconds t, const Form& form) const {
  for (const auto& s : form)
    if (s.span.contains(t)) return &s;
  return nullptr;
}

void MapView::paintForm(QPainter& p) const {
  const Theme& t = Theme::current();
  const auto& form = bench_.brief().form;
  if (!form) {
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::text));
    p.drawText(QRect(kSide, kFormTop, width() - 2 * kSide, kFormHeight), Qt::AlignCenter,
               bench_.take() == nullptr      ? QString()
               : bench_.analysis().running() ? tr("The form appears here when it has been heard.")
                                             : tr("No form known. Open the Form tile to set one."));
    return;
  }
  const Grid& grid = bench_.time().grid();
  for (const auto& s : form->value) {
    const double from = xOf(s.span.start), width = xOf(s.span.end) - from, gap = std::min(1.0, 0.1 * width);
    paintSection(p, QRectF(from + gap, kFormTop, width - 2 * gap, kFormHeight), s,
                 grid.empty() ? 0 : barsIn(grid, s.span));
  }
}

/// Pennants of one's own words above, arrows where a side comes in.
void MapView::paintMarks(QPainter& p) const {
  const Theme& t = Theme::current();
  if (bench_.take() == nullptr) return;
  for (const auto& cue : bench_.take()->cues) {
    const double x = xOf(cue.time);
    p.setPen(QPen(t.warning, 1.5));
    p.drawLine(QPointF(x, 1), QPointF(x, kFormTop + kFormHeight));
    p.setPen(Qt::NoPen);
    p.setBrush(t.warning);
    p.drawPolygon(QPolygonF({{x, 1}, {x + 8, 4.5}, {x, 8}}));
  }
  p.setPen(Qt::NoPen);
  p.setBrush(t.ink);
  std::map<Side, double> last;
  for (const auto& entry : bench_.document().entries()) {
    const double x = xOf(entry.time);
    if (last.contains(entry.side) && x - last[entry.side] < kArrowRoom) continue;
    last[entry.side] = x;
    const double y = kFormTop + kFormHeight - 1, way = entry.side == Side::left ? -7 : 7;
    p.drawPolygon(QPolygonF({{x, y}, {x, y - 8}, {x + way, y - 4}}));
  }
}

/// Chords as small steps: the higher, the farther from the tonic on the circle of fifths, the tonic itself filled;
/// names where there is room.
void MapView::paintChords(QPainter& p) const {
  if (bench_.take() == nullptr) return;
  const Theme& t = Theme::current();
  const auto key = settled(bench_.brief().key);
  double free = 0;
  for (const auto& c : bench_.document().chords()) {
    if (!c.chord) continue;
    const double from = xOf(c.span.start), to = xOf(c.span.end);
    const bool home = key && c.chord->root == key->tonic;
    const bool strange = key && !scaleOf(*key).contains(c.chord->root);
    p.setPen(Qt::NoPen);
    p.setBrush(home ? t.accent : strange ? t.warning : t.hairline);
    const double height = home ? 3 : strange ? 5 : 2;
    p.drawRect(QRectF(from + 0.5, kChordTop + kChordHeight - height, std::max(1.0, to - from - 1), height));
    const QString name = text(bench_.session().chordWords(*c.chord).sounding);
    p.setFont(Theme::font(Theme::Face::small));
    const int needed = QFontMetrics(p.font()).horizontalAdvance(name);
    if (from < free || needed + 2 > to - from) continue;
    p.setPen(c.certainty > 0.6 ? t.ink : t.softInk);
    p.drawText(QRectF(from + 1, kChordTop - 2, needed + 2, kChordHeight - 2), Qt::AlignLeft | Qt::AlignVCenter, name);
    free = from + needed + 2;
  }
}

void MapView::paintSound(QPainter& p) const {
  const WaveformPyramid& envelope = bench_.analysis().overview();
  if (envelope.empty()) return;
  p.setPen(Theme::current().softInk);
  constexpr double kMiddle = kSoundTop + kSoundHeight / 2.0;
  for (int x = kSide; x < width() - kSide; ++x) {
    const TimeSpan stretch{timeAt(x), timeAt(x + 1)};
    const Extent l = envelope.extent(0, stretch), r = envelope.extent(1, stretch);
    const double peak = std::max({-l.low, l.high, -r.low, r.high});
    const double half = std::max(0.5, std::min(1.0, peak) * (kSoundHeight / 2.0 - 1));
    p.drawLine(QPointF(x + 0.5, kMiddle - half), QPointF(x + 0.5, kMiddle + half));
  }
}

/// Everything that only changes with the study or the sound.
void MapView::drawPicture() {
  const double ratio = devicePixelRatioF();
  picture_ = QPixmap(size() * ratio);
  picture_.setDevicePixelRatio(ratio);
  picture_.fill(Qt::transparent);
  QPainter p(&picture_);
  paintSound(p);
  p.setRenderHint(QPainter::Antialiasing);
  paintForm(p);
  paintMarks(p);
  paintChords(p);
}

void MapView::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  if (bench_.analysis().duration() <= Seconds(0)) {
    p.setPen(t.hairline);
    p.drawRoundedRect(QRectF(kSide, kFormTop, width() - 2 * kSide, height() - 10), 4, 4);
    return;
  }
  if (picture_.isNull()) drawPicture();
  p.drawPixmap(0, 0, picture_);
  if (window_.length() > Seconds(0)) {
    p.setPen(QPen(t.softInk, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(
        QRectF(xOf(window_.start), kSoundTop - 1.5, xOf(window_.end) - xOf(window_.start), kSoundHeight + 3), 3, 3);
  }
  for (const auto& kept : bench_.document().study().passages) {
    if (bench_.take() == nullptr || kept.take != bench_.take()->id) continue;
    p.setPen(Qt::NoPen);
    p.setBrush(t.softInk);
    p.drawRect(QRectF(xOf(kept.span.start), height() - 5, std::max(3.0, xOf(kept.span.end) - xOf(kept.span.start)), 3));
  }
  if (const auto& passage = bench_.selection().passage()) {
    QColor wash = t.accent;
    wash.setAlpha(56);
    const QRectF box(xOf(passage->start), 1, std::max(2.0, xOf(passage->end) - xOf(passage->start)), height() - 3);
    p.setBrush(wash);
    p.setPen(QPen(t.accent, 1.5));
    p.drawRoundedRect(box, 2, 2);
  }
  const double x = xOf(bench_.transport().position());
  p.setPen(QPen(t.ink, 2));
  p.drawLine(QPointF(x, 0), QPointF(x, height() - 1));
}

/// The section whose start is under the pointer.
std::optional<std::size_t> MapView::borderAt(QPointF at) const {
  const auto& form = bench_.brief().form;
  if (!form || at.y() > kFormTop + kFormHeight) return std::nullopt;
  for (std::size_t i = 1; i < form->value.size(); ++i)
    if (std::abs(xOf(form->value[i].span.start) - at.x()) <= kBorderReach) return i;
  return std::nullopt;
}

void MapView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || bench_.analysis().duration() <= Seconds(0)) return;
  pressedAt_ = event->position().x();
  dragging_ = false;
  border_ = borderAt(event->position());
}

void MapView::mouseMoveEvent(QMouseEvent* event) {
  if (pressedAt_ < 0) {
    setCursor(borderAt(event->position()) ? Qt::SplitHCursor : Qt::ArrowCursor);
    return;
  }
  const double x = event->position().x();
  if (std::abs(x - pressedAt_) >= kDragStart) dragging_ = true;
  if (!dragging_) return;
  if (border_) {
    // On bar lines, but free with Alt.
    const Seconds at = timeAt(x);
    const bool free = event->modifiers().testFlag(Qt::AltModifier);
    const Seconds to = free ? at : snapToBar(bench_.time().grid(), at, kSnap);
    bench_.form().edit(
        tr("Move border"), [&](Form& f) { moveBorder(f, *border_, to); }, "border-" + std::to_string(*border_));
    return;
  }
  if (!bench_.selection().keptId().empty()) bench_.selection().set(std::nullopt);  // a drag makes a new one
  bench_.selection().set(TimeSpan{timeAt(pressedAt_), timeAt(x)});
}

void MapView::mouseReleaseEvent(QMouseEvent* event) {
  if (pressedAt_ < 0) return;
  if (!dragging_) {
    bench_.selection().goTo(timeAt(event->position().x()));
  } else if (!border_ && bench_.selection().passage()) {
    bench_.transport().seek(bench_.selection().passage()->start);
  }
  bench_.document().endMerge();
  pressedAt_ = -1;
  border_.reset();
}

void MapView::contextMenuEvent(QContextMenuEvent* event) {
  const auto form = bench_.brief().form;
  if (!form || event->pos().y() > kFormTop + kFormHeight) return;
  const Seconds at = timeAt(event->pos().x());
  for (std::size_t i = 0; i < form->value.size(); ++i)
    if (form->value[i].span.contains(at)) openSectionMenu(bench_, i, at, this, event->globalPos());
}

bool MapView::event(QEvent* event) {
  if (event->type() == QEvent::PaletteChange) redraw();
  if (event->type() == QEvent::ToolTip && bench_.analysis().duration() > Seconds(0)) {
    const auto* help = static_cast<QHelpEvent*>(event);
    const Seconds at = timeAt(help->x());
    QString tip = text(clockTenths(at));
    if (const auto form = bench_.brief().form)
      if (const Section* s = sectionAt(at, form->value)) {
        tip +=
            QStringLiteral("  %1 %2 · %3 to %4")
                .arg(text(s->letter), text(s->name), text(clockTenths(s->span.start)), text(clockTenths(s->span.end)));
        if (!s->difference.empty()) tip += tr("\nas the first %1, but: %2").arg(text(s->letter), text(s->difference));
      }
    if (bench_.take() != nullptr)
      for (const auto& cue : bench_.take()->cues)
        if (std::abs(xOf(cue.time) - help->x()) < 9) tip += "\n" + text(cue.text);
    if (bench_.take() != nullptr)
      for (const auto& c : bench_.document().chords())
        if (c.chord && c.span.contains(at)) tip += "  " + text(bench_.session().chordWords(*c.chord).sounding);
    QToolTip::showText(help->globalPos(),
                       tip + tr("\nClick to go there, drag to make a passage; drag a border to move it (Alt: off the "
                                "bar lines), right-click "
                                "a section to name, cut or join it"),
                       this);
    return true;
  }
  return QWidget::event(event);
}

}  // namespace ear
