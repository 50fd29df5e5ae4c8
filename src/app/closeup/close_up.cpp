// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/close_up.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <utility>

#include "app/theme/theme.h"
#include "app/workbench/workbench.h"

namespace ear {
namespace {

constexpr double kNearest = 0.05;  // seconds: the shortest window
constexpr double kFirstWindow = 24.0;
constexpr int kDragStart = 4;  // pixels

}  // namespace

CloseUp::CloseUp(Workbench& bench, QWidget* parent)
    : QWidget(parent),
      bench_(bench),
      ruler_(new RulerLane(bench, this)),
      bars_(new BarLane(bench, this)),
      chords_(new ChordLane(bench, this)),
      tab_(new TabLane(bench, this)),
      sound_(new SoundLane(bench, this)),
      pitch_(new PitchLane(bench, this)),
      lanes_{ruler_, bars_, chords_, sound_, pitch_, tab_},
      passage_(bench) {
  setObjectName("close-up");
  setAccessibleName(tr("Close-up of the sound"));
  setMinimumHeight(Theme::kCloseUpLeast);
  setMouseTracking(true);
  setFocusPolicy(Qt::ClickFocus);
  for (Lane* lane : lanes_) connect(lane, &Lane::changed, this, qOverload<>(&QWidget::update));
  connect(&bench.session(), &Session::documentChanged, this, qOverload<>(&QWidget::update));
  connect(&bench.transport(), &Transport::changed, this, qOverload<>(&QWidget::update));
  connect(&bench.selection(), &Selection::changed, this, qOverload<>(&QWidget::update));
  connect(&bench.transport(), &Transport::positionChanged, this, [this] {
    followPlayhead();
    update();
  });
  connect(&bench.selection(), &Selection::opened, this, &CloseUp::seePassage);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &CloseUp::seeSound);
}

void CloseUp::seePassage() {
  const auto& p = bench_.selection().passage();
  const bool clear = p && p->length() > window_.length() * 0.15 && window_.start <= p->start && p->end <= window_.end;
  if (p && !clear) setWindow({p->start - p->length() * 0.5, p->end + p->length() * 0.5});
}

void CloseUp::seeSound() {
  forget();
  const auto before = bench_.transport().hasSound() ? windows_.find(bench_.take()->file) : windows_.end();
  setWindow(before != windows_.end()
                ? before->second
                : TimeSpan{Seconds(0), std::min(Seconds(kFirstWindow), bench_.analysis().duration())});
}

void CloseUp::forget() {
  for (Lane* lane : lanes_) lane->forget();
  update();
}

QRectF CloseUp::areaOf(const Lane& lane) const {
  // The tab lies beneath the others, so that what takes all the room leaves it its own.
  const int beneath = tab_->height(height());
  int top = 0;
  for (const Lane* l : lanes_) {
    const int high = l->height(height() - top - (l == tab_ ? 0 : beneath));
    if (l == &lane) return high > 0 ? QRectF(0, top, width(), high) : QRectF();
    top += high;
  }
  return {};
}

Lane* CloseUp::laneAt(QPointF at) const {
  for (Lane* lane : lanes_)
    if (areaOf(*lane).contains(at)) return lane;
  return nullptr;
}

void CloseUp::setWindow(TimeSpan window) {
  const Seconds all = bench_.analysis().duration();
  const Seconds length = std::clamp(window.length(), std::min(Seconds(kNearest), all), all);
  const Seconds start = std::clamp(window.start, Seconds(0), all - length);
  window_ = {start, start + length};
  if (bench_.transport().hasSound() && bench_.take() != nullptr) windows_[bench_.take()->file] = window_;
  update();
  emit windowChanged(window_);
}

void CloseUp::zoom(double factor, Seconds around) {
  const Seconds length = std::clamp(window_.length() * factor, Seconds(kNearest),
                                    std::max(Seconds(kNearest), bench_.analysis().duration()));
  const double share = window_.length() > Seconds(0) ? (around - window_.start) / window_.length() : 0.5;
  const Seconds start = around - length * share;
  setWindow({start, start + length});
}

void CloseUp::zoomToPassage() {
  if (const auto& p = bench_.selection().passage())
    setWindow({p->start - p->length() * 0.08, p->end + p->length() * 0.08});
}

void CloseUp::zoomOut() {
  setWindow({Seconds(0), bench_.analysis().duration()});
}

void CloseUp::followPlayhead() {
  if (hold_ != Hold::none || window_.contains(bench_.transport().position())) return;
  const Seconds length = window_.length();
  const Seconds start = bench_.transport().position() - length * (bench_.transport().playing() ? 0.1 : 0.4);
  setWindow({start, start + length});
}

void CloseUp::showPitchMap(bool on) {
  sound_->setAlone(!on);
  pitch_->setShown(on);
}

void CloseUp::resizeEvent(QResizeEvent*) {
  forget();
}

void CloseUp::paintEmpty(QPainter& p) const {
  const Theme& t = Theme::current();
  const QRectF box = QRectF(rect()).adjusted(24, 24, -24, -24);
  p.setPen(QPen(t.hairline, 2, Qt::DashLine));
  p.drawRoundedRect(box, 10, 10);
  p.setPen(t.ink);
  p.setFont(Theme::font(Theme::Face::sentence));
  const bool working = bench_.analysis().running();
  const QString sentence = !bench_.analysis().problem().isEmpty() ? bench_.analysis().problem()
                           : working                              ? bench_.analysis().doing() + " …"
                                                                  : tr("Drop a recording here");
  p.drawText(box.adjusted(30, 0, -30, -16), Qt::AlignCenter | Qt::TextWordWrap, sentence);
  if (bench_.analysis().problem().isEmpty() && !working) {
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::text));
    p.drawText(box.adjusted(30, 44, -30, 44), Qt::AlignCenter,
               tr("or open one with Ctrl+N. Any sound or video file will do. The Help menu has a demo study to try "
                  "things on."));
  }
}

void CloseUp::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.fillRect(rect(), t.ground);
  if (bench_.analysis().envelope().empty()) {
    paintEmpty(p);
    return;
  }
  paintLanes(p);
  const double x = xOf(bench_.transport().position());
  p.setPen(QPen(t.ink, 2));
  p.drawLine(QPointF(x, 0), QPointF(x, height()));
  if (bench_.analysis().running()) {
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::small));
    p.drawText(rect().adjusted(8, 8, -8, -8), Qt::AlignRight | Qt::AlignBottom, bench_.analysis().doing() + " …");
  }
}

void CloseUp::paintLanes(QPainter& p) {
  QRectF crossed;
  for (Lane* lane : lanes_) {
    const LaneView view = viewOf(*lane);
    if (view.area.isEmpty()) continue;
    lane->paint(p, view);
    if (lane->crossed()) crossed |= view.area;
  }
  for (Lane* lane : lanes_) lane->paintThrough(p, {crossed, window_});
  passage_.paint(p, areaOf(*ruler_), all());
  for (Lane* lane : lanes_)
    if (const LaneView view = viewOf(*lane); !view.area.isEmpty()) lane->paintOver(p, view);
}

CloseUp::Hold CloseUp::holdAt(QPointF at, Qt::KeyboardModifiers modifiers) const {
  const Lane* lane = laneAt(at);
  const Lane::Hold ofLane = lane != nullptr ? lane->holdAt(at, modifiers, viewOf(*lane)) : Lane::Hold::none;
  if (ofLane == Lane::Hold::firm) return Hold::lane;
  if (passage_.heldAt(at.x(), all())) return Hold::passage;
  return ofLane == Lane::Hold::loose ? Hold::lane : Hold::none;
}

void CloseUp::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || bench_.analysis().envelope().empty()) return;
  const QPointF at = event->position();
  pressedAt_ = at;
  moved_ = false;
  hold_ = holdAt(at, event->modifiers());
  held_ = laneAt(at);
  if (hold_ == Hold::lane) {
    held_->grab(at, event->modifiers(), viewOf(*held_));
  } else {
    hold_ = Hold::passage;
    passage_.grab(at.x(), all());
  }
}

void CloseUp::mouseMoveEvent(QMouseEvent* event) {
  const QPointF at = event->position();
  if (hold_ == Hold::none) {
    setCursor(holdAt(at, Qt::NoModifier) != Hold::none ? Qt::SplitHCursor : Qt::ArrowCursor);
    return;
  }
  if (!moved_ && (at - pressedAt_).manhattanLength() < kDragStart) return;
  if (hold_ == Hold::lane)
    held_->drag(at, event->modifiers(), viewOf(*held_));
  else
    passage_.drag(at.x(), event->modifiers(), all());
  moved_ = true;
}

void CloseUp::mouseReleaseEvent(QMouseEvent* event) {
  const Hold was = std::exchange(hold_, Hold::none);
  const QPointF at = event->position();
  bench_.document().endMerge();
  if (was == Hold::lane) held_->letGo(at, moved_, viewOf(*held_));
  if (was != Hold::passage) return;
  const bool edge = passage_.letGo();
  if (moved_ || edge) return;
  bench_.selection().goTo(timeAt(at.x()));
  if (held_ != nullptr) held_->clicked(at, viewOf(*held_));
}

void CloseUp::mouseDoubleClickEvent(QMouseEvent* event) {
  if (Lane* lane = laneAt(event->position())) lane->doubleClicked(event->position(), viewOf(*lane));
}

void CloseUp::contextMenuEvent(QContextMenuEvent* event) {
  if (Lane* lane = laneAt(event->pos())) lane->menu(event->pos(), event->globalPos(), viewOf(*lane));
}

bool CloseUp::event(QEvent* event) {
  if (event->type() == QEvent::PaletteChange) forget();
  if (event->type() != QEvent::ToolTip) return QWidget::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  const Lane* lane = laneAt(help->pos());
  QToolTip::showText(help->globalPos(), lane != nullptr ? lane->tip(help->pos(), viewOf(*lane)) : QString(), this);
  return true;
}

void CloseUp::wheelEvent(QWheelEvent* event) {
  if (bench_.analysis().envelope().empty()) return;
  const QPoint turn = event->angleDelta();
  Lane* lane = laneAt(event->position());
  if (lane != nullptr && lane->wheel(*event, viewOf(*lane))) {
    // It was for the lane.
  } else if (event->modifiers() & Qt::ShiftModifier || turn.x() != 0) {
    const double share = -(turn.x() != 0 ? turn.x() : turn.y()) / 1200.0;
    const Seconds by = window_.length() * share;
    setWindow({window_.start + by, window_.end + by});
  } else {
    zoom(std::pow(0.8, turn.y() / 120.0), timeAt(event->position().x()));
  }
  event->accept();
}

}  // namespace ear
