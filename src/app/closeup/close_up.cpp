#include "app/closeup/close_up.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QInputDialog>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/practice/snap.h"
#include "core/text.h"

namespace ear {
namespace {

constexpr int kRuler = GridLane::kTop, kBars = GridLane::kHeight, kChords = 24, kTop = CloseUp::kSoundTop;
static_assert(kTop == kRuler + kBars + kChords);
constexpr double kNearest = 0.05;  // seconds: the shortest window
constexpr double kFirstWindow = 24.0;
constexpr int kGripReach = 7;  // pixels
constexpr int kDragStart = 4;
constexpr int kLeastSound = 44, kMostSound = 84;  // pixels of the sound over the pitch map
constexpr int kSnapReach = 9;                     // pixels
constexpr int kLeastChord = 3;                    // pixels: narrower ones would be a wall of lines

/// A step of the ruler that leaves room for its label.
double rulerStep(double secondsPerPixel) {
  const double least = secondsPerPixel * 90;
  for (const double step :
       {0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 15.0, 30.0, 60.0, 120.0, 300.0, 600.0})
    if (step >= least) return step;
  return 1800.0;
}

}  // namespace

CloseUp::CloseUp(Workbench& bench, QWidget* parent)
    : QWidget(parent), bench_(bench), sound_(bench), attacks_(bench, this), pitch_(bench, this), lane_(bench, *this) {
  setObjectName("close-up");
  setAccessibleName(tr("Close-up of the sound"));
  setMinimumHeight(Theme::kCloseUpLeast);
  setMouseTracking(true);
  setFocusPolicy(Qt::ClickFocus);
  connect(&bench, &Workbench::documentChanged, this, qOverload<>(&QWidget::update));
  connect(&bench, &Workbench::settingsChanged, this, qOverload<>(&QWidget::update));
  connect(&bench, &Workbench::positionChanged, this, [this] {
    followPlayhead();
    update();
  });
  connect(&attacks_, &AttackMarks::changed, this, qOverload<>(&QWidget::update));
  connect(&pitch_, &PitchLayer::changed, this, qOverload<>(&QWidget::update));
  connect(&bench, &Workbench::passageOpened, this, [this] {
    const auto& p = bench_.passage();
    const bool clear = p && p->length() > window_.length() * 0.15 && window_.start <= p->start && p->end <= window_.end;
    if (p && !clear) setWindow({p->start - p->length() * 0.5, p->end + p->length() * 0.5});
  });
  connect(&bench, &Workbench::soundChanged, this, [this] {
    sound_.forget();
    const auto before = bench_.hasSound() ? windows_.find(bench_.take()->file) : windows_.end();
    setWindow(before != windows_.end() ? before->second
                                       : TimeSpan{Seconds(0), std::min(Seconds(kFirstWindow), bench_.duration())});
  });
}

double CloseUp::xOf(Seconds t) const {
  const double length = window_.length().value;
  return length > 0 ? (t - window_.start).value / length * width() : 0;
}

Seconds CloseUp::timeAt(double x) const {
  return window_.start + window_.length() * (x / std::max(1, width()));
}

void CloseUp::setWindow(TimeSpan window) {
  const Seconds all = bench_.duration();
  const Seconds length = std::clamp(window.length(), std::min(Seconds(kNearest), all), all);
  const Seconds start = std::clamp(window.start, Seconds(0), all - length);
  window_ = {start, start + length};
  if (bench_.hasSound() && bench_.take() != nullptr) windows_[bench_.take()->file] = window_;
  update();
  emit windowChanged(window_);
}

void CloseUp::zoom(double factor, Seconds around) {
  const Seconds length =
      std::clamp(window_.length() * factor, Seconds(kNearest), std::max(Seconds(kNearest), bench_.duration()));
  const double share = window_.length() > Seconds(0) ? (around - window_.start) / window_.length() : 0.5;
  const Seconds start = around - length * share;
  setWindow({start, start + length});
}

void CloseUp::zoomToPassage() {
  if (const auto& p = bench_.passage()) setWindow({p->start - p->length() * 0.08, p->end + p->length() * 0.08});
}

void CloseUp::zoomOut() {
  setWindow({Seconds(0), bench_.duration()});
}

void CloseUp::followPlayhead() {
  if (grip_ != Grip::none || window_.contains(bench_.position())) return;
  const Seconds length = window_.length();
  const Seconds start = bench_.position() - length * (bench_.playing() ? 0.1 : 0.4);
  setWindow({start, start + length});
}

void CloseUp::resizeEvent(QResizeEvent*) {
  sound_.forget();
}

QRectF CloseUp::soundArea() const {
  const int room = height() - kTop;
  return QRectF(0, kTop, width(), pitchShown_ ? std::clamp(room / 4, kLeastSound, kMostSound) : room);
}

QRectF CloseUp::pitchArea() const {
  const QRectF sound = soundArea();
  return pitchShown_ ? QRectF(0, sound.bottom(), width(), height() - sound.bottom()) : QRectF();
}

void CloseUp::showPitchMap(bool on) {
  pitchShown_ = on;
  sound_.forget();
  update();
}

void CloseUp::paintRuler(QPainter& p) const {
  const Theme& t = Theme::current();
  p.fillRect(0, 0, width(), kRuler, t.panel);
  p.setFont(Theme::font(Theme::Face::small));
  const double step = rulerStep(window_.length().value / std::max(1, width()));
  for (double s = std::floor(window_.start.value / step) * step; s < window_.end.value; s += step) {
    const double x = xOf(Seconds(s));
    p.setPen(t.hairline);
    p.drawLine(QPointF(x, 0), QPointF(x, kRuler));
    p.setPen(t.softInk);
    QString label = text(step < 1 ? clockTenths(Seconds(s + 1e-9)) : clockTime(Seconds(s + 1e-9)));
    if (step < 0.1) label = text(clockTime(Seconds(s + 1e-9))) + text(fixed(std::fmod(s + 1e-9, 1.0), 2)).mid(1);
    p.drawText(QRectF(x + 4, 0, 80, kRuler), Qt::AlignLeft | Qt::AlignVCenter, label);
  }
}

bool CloseUp::inChordLane(double y) const {
  return y >= kRuler + kBars && y < kTop;
}

/// Sounding chords, with the shape of the guitar in hand where it differs. What is measured and not sure is drawn
/// light, what was set medium, what was confirmed strong.
void CloseUp::paintChords(QPainter& p) const {
  const Theme& t = Theme::current();
  const int top = kRuler + kBars;
  p.fillRect(0, top, width(), kChords, t.ground);
  p.setPen(t.hairline);
  p.drawLine(0, top + kChords - 1, width(), top + kChords - 1);
  if (bench_.take() == nullptr) return;
  double free = 0;  // where the name before ends
  for (const auto& c : bench_.document().chords()) {
    if (c.span.end < window_.start || c.span.start > window_.end) continue;
    const double from = std::max(0.0, xOf(c.span.start)), to = std::min<double>(width(), xOf(c.span.end));
    if (to - from < kLeastChord) continue;
    p.setPen(t.hairline);
    if (xOf(c.span.start) >= 0) p.drawLine(QPointF(from, top), QPointF(from, top + kChords));
    if (!c.chord || from + 4 < free || to - from < 14) continue;
    QFont font = Theme::font(Theme::Face::text);
    font.setWeight(c.origin == Origin::confirmed ? QFont::Bold
                   : c.origin == Origin::set     ? QFont::Medium
                                                 : QFont::Normal);
    p.setFont(font);
    p.setPen(c.certainty > 0.6 ? t.ink : t.softInk);
    const QString name = text(bench_.chordWords(*c.chord).sounding), shape = text(bench_.chordWords(*c.chord).shape);
    const int needed = QFontMetrics(font).horizontalAdvance(name);
    p.drawText(QRectF(from + 5, top, std::max<double>(needed, to - from), kChords), Qt::AlignLeft | Qt::AlignVCenter,
               name);
    free = from + 5 + needed;
    if (shape.isEmpty() || free + 8 + QFontMetrics(Theme::font(Theme::Face::small)).horizontalAdvance(shape) > to)
      continue;
    p.setFont(Theme::font(Theme::Face::small));
    p.setPen(t.softInk);
    p.drawText(QRectF(free + 6, top, to - free, kChords), Qt::AlignLeft | Qt::AlignVCenter, shape);
  }
}

void CloseUp::paintEmpty(QPainter& p) const {
  const Theme& t = Theme::current();
  const QRectF box = QRectF(rect()).adjusted(24, 24, -24, -24);
  p.setPen(QPen(t.hairline, 2, Qt::DashLine));
  p.drawRoundedRect(box, 10, 10);
  p.setPen(t.ink);
  p.setFont(Theme::font(Theme::Face::sentence));
  const bool working = bench_.listening();
  const QString sentence = !bench_.problem().isEmpty() ? bench_.problem()
                           : working                   ? bench_.listeningTo() + " …"
                                                       : tr("Drop a recording here");
  p.drawText(box.adjusted(30, 0, -30, -16), Qt::AlignCenter | Qt::TextWordWrap, sentence);
  if (bench_.problem().isEmpty() && !working) {
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
  if (bench_.envelope().empty()) {
    paintEmpty(p);
    return;
  }
  paintRuler(p);
  sound_.paint(p, soundArea(), window_);
  attacks_.paint(p, soundArea(), window_);
  if (pitchShown_) pitch_.paint(p, pitchArea(), window_);
  lane_.paint(p);
  paintChords(p);
  if (const auto& passage = bench_.passage()) {
    const double from = xOf(passage->start), to = xOf(passage->end);
    QColor wash = t.accent;
    wash.setAlpha(34);
    p.fillRect(QRectF(from, 0, to - from, height()), wash);
    p.setPen(QPen(t.accent, 2));
    for (const double x : {from, to}) p.drawLine(QPointF(x, 0), QPointF(x, height()));
    p.setBrush(t.accent);
    p.setPen(Qt::NoPen);
    // In the ruler, where no name of a bar or chord is covered.
    p.drawRoundedRect(QRectF(from - 1, 3, 7, kRuler - 6), 2, 2);
    p.drawRoundedRect(QRectF(to - 6, 3, 7, kRuler - 6), 2, 2);
  }
  if (pitchShown_) {
    pitch_.paintHeard(p, pitchArea(), window_);
    pitch_.paintNames(p, pitchArea());
  }
  const double x = xOf(bench_.position());
  p.setPen(QPen(t.ink, 2));
  p.drawLine(QPointF(x, 0), QPointF(x, height()));
  if (bench_.listening()) {
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::small));
    p.drawText(rect().adjusted(8, 8, -8, -8), Qt::AlignRight | Qt::AlignBottom, bench_.listeningTo() + " …");
  }
}

CloseUp::Grip CloseUp::gripAt(double x) const {
  const auto& p = bench_.passage();
  if (!p) return Grip::none;
  const double toStart = std::abs(x - xOf(p->start)), toEnd = std::abs(x - xOf(p->end));
  if (std::min(toStart, toEnd) > kGripReach) return Grip::none;
  return toStart < toEnd ? Grip::start : Grip::end;
}

void CloseUp::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || bench_.envelope().empty()) return;
  pressedAt_ = event->position().x();
  moved_ = false;
  if (pitchArea().contains(event->position()) && event->modifiers().testFlag(Qt::ControlModifier)) {
    const auto midi = static_cast<int>(std::lround(pitch_.pitchAt(event->position().y(), pitchArea())));
    bench_.voice().tone(midi);
    return;
  }
  if (pitchArea().contains(event->position()) && event->modifiers().testFlag(Qt::AltModifier) &&
      gripAt(pressedAt_) == Grip::none) {
    grip_ = Grip::focus;
    setFocusOctave(event->position().y());
    return;
  }
  line_ = lane_.lineAt(event->position());
  grip_ = line_ ? Grip::barLine : gripAt(pressedAt_);
  if (grip_ == Grip::none) grip_ = Grip::fresh;
}

void CloseUp::mouseMoveEvent(QMouseEvent* event) {
  const double x = event->position().x();
  if (grip_ == Grip::none) {
    const bool held = lane_.lineAt(event->position()) || gripAt(x) != Grip::none;
    setCursor(held ? Qt::SplitHCursor : Qt::ArrowCursor);
    return;
  }
  if (!moved_ && std::abs(x - pressedAt_) < kDragStart) return;
  if (grip_ == Grip::focus) return setFocusOctave(event->position().y());
  const Seconds at = grip_ == Grip::barLine ? timeAt(x) : snapped(timeAt(x), event->modifiers());
  if (grip_ == Grip::barLine) {
    lane_.drag(*line_, at, event->modifiers().testFlag(Qt::ShiftModifier));
  } else if (grip_ == Grip::fresh) {
    if (!moved_) bench_.setPassage(std::nullopt);
    bench_.setPassage(TimeSpan{snapped(timeAt(pressedAt_), event->modifiers()), at});
  } else if (const auto p = bench_.passage()) {
    const Seconds least(Player::kShortestLoop);
    if (grip_ == Grip::start)
      bench_.setPassage(TimeSpan{std::min(at, p->end - least), p->end});
    else
      bench_.setPassage(TimeSpan{p->start, std::max(at, p->start + least)});
  }
  moved_ = true;
}

Seconds CloseUp::snapped(Seconds to, Qt::KeyboardModifiers modifiers) const {
  if (modifiers.testFlag(Qt::AltModifier) || bench_.player().recording() == nullptr) return to;
  const Seconds reach = window_.length() * (static_cast<double>(kSnapReach) / std::max(1, width()));
  return snapEdge(*bench_.player().recording(), bench_.time().grid(), to, reach);
}

/// The octave around the pitch under the pointer is what is heard.
void CloseUp::setFocusOctave(double y) {
  Isolation i = bench_.isolation();
  if (!bench_.isolating()) i = {};
  i.focus = frequencyOf(MidiPitch(std::round(pitch_.pitchAt(y, pitchArea()))), a4At(bench_.recordingPitch()));
  bench_.setIsolation(i);
}

void CloseUp::mouseReleaseEvent(QMouseEvent* event) {
  const Grip was = grip_;
  grip_ = Grip::none;
  bench_.document().endMerge();
  if (was == Grip::none) return;
  if (was == Grip::focus) return;
  if (!moved_) {
    if (was != Grip::fresh && was != Grip::barLine) return;
    const Seconds to = timeAt(event->position().x());
    if (bench_.passage() && !bench_.passage()->contains(to)) bench_.setPassage(std::nullopt);
    bench_.seek(to);
    const auto chord = bench_.chords().at(to);
    if (inChordLane(event->position().y()) && chord && chord->chord && !bench_.playing())
      bench_.voice().chord(*chord->chord);
  } else if (was == Grip::fresh && bench_.passage()) {
    bench_.seek(bench_.passage()->start);
  }
}

/// A double click in the chord lane makes the chord the passage, so that it loops.
void CloseUp::mouseDoubleClickEvent(QMouseEvent* event) {
  const auto chord = bench_.chords().at(timeAt(event->position().x()));
  if (!inChordLane(event->position().y()) || !chord || !chord->chord) return;
  bench_.setPassage(std::nullopt);
  bench_.setPassage(chord->span);
  bench_.seek(chord->span.start);
}

void CloseUp::contextMenuEvent(QContextMenuEvent* event) {
  if (inChordLane(event->pos().y())) chordMenu(timeAt(event->pos().x()), event->globalPos());
}

void CloseUp::chordMenu(Seconds at, QPoint globalPos) {
  const auto chord = bench_.chords().at(at);
  if (!chord) return;
  auto* menu = new QMenu(this);
  menu->setObjectName("chord-menu");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  if (chord->chord) {
    menu->addAction(tr("Hear %1").arg(text(bench_.chordWords(*chord->chord).sounding)), this,
                    [this, c = *chord->chord] { bench_.voice().chord(c); });
    menu->addAction(tr("Loop it"), this, [this, span = chord->span] { bench_.playSpot(span); });
    menu->addSeparator();
    menu->addAction(tr("Confirm by ear"), this, [this, c = *chord] {
      bench_.chords().decide(tr("Confirm chord"), c.span, c.chord, Origin::confirmed);
    });
  }
  menu->addAction(tr("It is another chord …"), this, [this, c = *chord] {
    bool fine = false;
    const QString typed = QInputDialog::getText(
        this, tr("Chord"), tr("What sounds here, such as F#m7 or D/F# (empty: no chord):"), QLineEdit::Normal,
        c.chord ? text(chordName(*c.chord, bench_.spelling())) : QString(), &fine);
    if (fine) bench_.chords().decideTyped(c.span, typed);
  });
  if (chord->origin != Origin::measured)
    menu->addAction(tr("Back to measured"), this, [this, span = chord->span] { bench_.chords().backToMeasured(span); });
  menu->popup(globalPos);
}

bool CloseUp::event(QEvent* event) {
  if (event->type() == QEvent::PaletteChange) {
    sound_.forget();
    pitch_.changeColours();
  }
  if (event->type() == QEvent::ToolTip) {
    const auto* help = static_cast<QHelpEvent*>(event);
    const auto chord = bench_.chords().at(timeAt(help->pos().x()));
    if (inChordLane(help->pos().y()) && chord && chord->chord) {
      QString notes;
      for (const PitchClass pc : notesOf(*chord->chord))
        notes += (notes.isEmpty() ? "" : " ") + text(pitchClassName(pc, bench_.spelling()));
      const auto [sounding, shape] = bench_.chordWords(*chord->chord);
      QString known = text(originWord(chord->origin));
      if (chord->origin == Origin::measured) known += ", " + text(certaintyWord(chord->certainty));
      QToolTip::showText(
          help->globalPos(),
          tr("%1%2: %3\n%4 to %5, %6. Click to hear it, double-click to loop it, right-click to confirm or "
             "change it (J at the playhead).")
              .arg(text(sounding), shape.empty() ? QString() : tr(", %1 shape").arg(text(shape)), notes,
                   text(clockTenths(chord->span.start)), text(clockTenths(chord->span.end)), known),
          this);
    } else {
      if (const QString note = lane_.noteAt(help->pos()); !note.isEmpty())
        QToolTip::showText(help->globalPos(), note, this);
      else if (pitchArea().contains(help->pos()))
        QToolTip::showText(help->globalPos(),
                           tr("%1\nCtrl and a click plays it, Alt and a drag hears only the octave around it, Ctrl "
                              "and the wheel stretches the map.")
                               .arg(pitch_.placesOf(pitch_.pitchAt(help->pos().y(), pitchArea()))),
                           this);
      else if (lane_.lineAt(help->pos()))
        QToolTip::showText(help->globalPos(),
                           tr("Drag the bar line: the beats on both sides spread along. With Shift only this line "
                              "moves. B starts a bar at the playhead."),
                           this);
      else
        QToolTip::hideText();
    }
    return true;
  }
  return QWidget::event(event);
}

void CloseUp::wheelEvent(QWheelEvent* event) {
  if (bench_.envelope().empty()) return;
  const QPoint turn = event->angleDelta();
  if (pitchArea().contains(event->position()) && event->modifiers() & Qt::ControlModifier) {
    pitch_.zoom(std::pow(0.85, turn.y() / 120.0), pitch_.pitchAt(event->position().y(), pitchArea()));
  } else if (pitchArea().contains(event->position()) && event->modifiers() & Qt::AltModifier) {
    pitch_.scroll((turn.x() + turn.y()) / 60.0);
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
