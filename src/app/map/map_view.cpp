#include "app/map/map_view.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/text.h"

namespace ear {
namespace {

constexpr int kSide = 16, kFormTop = 4, kFormHeight = 38, kChordTop = 44, kChordHeight = 16;
constexpr int kSoundTop = 64, kSoundHeight = 30;
constexpr int kDragStart = 4;  // pixels that make a click a drag

}  // namespace

MapView::MapView(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setFixedHeight(Theme::kMap);
  setObjectName("map");
  setAccessibleName(tr("Map of the recording"));
  setMouseTracking(true);
  for (const auto signal : {&Workbench::documentChanged, &Workbench::settingsChanged, &Workbench::positionChanged})
    connect(&bench, signal, this, qOverload<>(&QWidget::update));
  connect(&bench, &Workbench::soundChanged, this, [this] {
    sound_ = {};
    update();
  });
}

double MapView::xOf(Seconds t) const {
  const double all = bench_.duration().value;
  return all > 0 ? kSide + (width() - 2 * kSide) * t.value / all : kSide;
}

Seconds MapView::timeAt(double x) const {
  const double share = std::clamp((x - kSide) / std::max(1, width() - 2 * kSide), 0.0, 1.0);
  return bench_.duration() * share;
}

void MapView::setWindow(TimeSpan window) {
  window_ = window;
  update();
}

void MapView::resizeEvent(QResizeEvent*) {
  sound_ = {};
}

const Section* MapView::sectionAt(Seconds t, const Form& form) const {
  for (const auto& s : form)
    if (s.span.contains(t)) return &s;
  return nullptr;
}

void MapView::paintForm(QPainter& p) const {
  const Theme& t = Theme::current();
  const auto form = bench_.brief().form;
  if (!form) {
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::text));
    p.drawText(QRect(kSide, kFormTop, width() - 2 * kSide, kFormHeight), Qt::AlignCenter,
               bench_.take() == nullptr ? QString()
               : bench_.listening()     ? tr("The form appears here when it has been heard.")
                                        : tr("No form known. Open the Form tile to set one."));
    return;
  }
  for (const auto& s : form->value) {
    const QRectF block(xOf(s.span.start) + 1, kFormTop, xOf(s.span.end) - xOf(s.span.start) - 2, kFormHeight);
    p.setPen(Qt::NoPen);
    p.setBrush(t.block(text(s.letter)));
    p.drawRoundedRect(block, 3, 3);
    p.setPen(t.ink);
    p.setFont(Theme::font(Theme::Face::strong));
    const QRectF inside = block.adjusted(7, 2, -4, -2);
    p.drawText(inside, Qt::AlignLeft | Qt::AlignTop, text(s.letter));
    p.setFont(Theme::font(Theme::Face::small));
    const QFontMetrics metrics(p.font());
    const QString under = s.name.empty() ? text(clockTime(s.span.start)) : text(s.name);
    if (inside.width() > 22)
      p.drawText(inside, Qt::AlignLeft | Qt::AlignBottom,
                 metrics.elidedText(under, Qt::ElideRight, static_cast<int>(inside.width())));
  }
}

/// Chords as small steps: the higher, the farther from the tonic on the circle of fifths, the tonic itself filled;
/// names where there is room.
void MapView::paintChords(QPainter& p) const {
  if (bench_.take() == nullptr) return;
  const Theme& t = Theme::current();
  const auto key = bench_.brief().key;
  double free = 0;
  for (const auto& c : chordsOf(*bench_.take(), bench_.findings())) {
    if (!c.chord) continue;
    const double from = xOf(c.span.start), to = xOf(c.span.end);
    const bool home = key && c.chord->root == key->value.tonic;
    const bool strange = key && !scaleOf(key->value).contains(c.chord->root);
    p.setPen(Qt::NoPen);
    p.setBrush(home ? t.accent : strange ? t.warning : t.hairline);
    const double height = home ? 3 : strange ? 5 : 2;
    p.drawRect(QRectF(from + 0.5, kChordTop + kChordHeight - height, std::max(1.0, to - from - 1), height));
    const QString name = text(bench_.chordWords(*c.chord).sounding);
    p.setFont(Theme::font(Theme::Face::small));
    const int needed = QFontMetrics(p.font()).horizontalAdvance(name);
    if (from < free || needed + 2 > to - from) continue;
    p.setPen(c.certainty > 0.6 ? t.ink : t.softInk);
    p.drawText(QRectF(from + 1, kChordTop - 2, needed + 2, kChordHeight - 2), Qt::AlignLeft | Qt::AlignVCenter, name);
    free = from + needed + 2;
  }
}

void MapView::paintSound(QPainter& p) {
  if (bench_.envelope().empty()) return;
  if (sound_.isNull()) {
    const double ratio = devicePixelRatioF();
    sound_ = QPixmap(QSize(width(), kSoundHeight) * ratio);
    sound_.setDevicePixelRatio(ratio);
    sound_.fill(Qt::transparent);
    QPainter q(&sound_);
    q.setPen(Theme::current().softInk);
    const double rate = bench_.player().recording()->sampleRate;
    for (int x = kSide; x < width() - kSide; ++x) {
      const Extent l = bench_.envelope().extent(0, timeAt(x).value * rate, timeAt(x + 1).value * rate);
      const Extent r = bench_.envelope().extent(1, timeAt(x).value * rate, timeAt(x + 1).value * rate);
      const double peak = std::max({-l.low, l.high, -r.low, r.high});
      const double half = std::max(0.5, std::min(1.0, peak) * (kSoundHeight / 2.0 - 1));
      q.drawLine(QPointF(x + 0.5, kSoundHeight / 2.0 - half), QPointF(x + 0.5, kSoundHeight / 2.0 + half));
    }
  }
  p.drawPixmap(0, kSoundTop, sound_);
}

void MapView::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  if (bench_.duration() <= Seconds(0)) {
    p.setPen(t.hairline);
    p.drawRoundedRect(QRectF(kSide, kFormTop, width() - 2 * kSide, height() - 10), 4, 4);
    return;
  }
  paintForm(p);
  paintChords(p);
  if (window_.length() > Seconds(0)) {
    p.setPen(QPen(t.softInk, 1));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(
        QRectF(xOf(window_.start), kSoundTop - 1.5, xOf(window_.end) - xOf(window_.start), kSoundHeight + 3), 3, 3);
  }
  p.setRenderHint(QPainter::Antialiasing, false);
  paintSound(p);
  p.setRenderHint(QPainter::Antialiasing);
  for (const auto& kept : bench_.document().study().passages) {
    if (bench_.take() == nullptr || kept.take != bench_.take()->id) continue;
    p.setPen(Qt::NoPen);
    p.setBrush(t.softInk);
    p.drawRect(QRectF(xOf(kept.span.start), height() - 5, std::max(3.0, xOf(kept.span.end) - xOf(kept.span.start)), 3));
  }
  if (const auto& passage = bench_.passage()) {
    QColor wash = t.accent;
    wash.setAlpha(56);
    const QRectF box(xOf(passage->start), 1, std::max(2.0, xOf(passage->end) - xOf(passage->start)), height() - 3);
    p.setBrush(wash);
    p.setPen(QPen(t.accent, 1.5));
    p.drawRoundedRect(box, 2, 2);
  }
  const double x = xOf(bench_.position());
  p.setPen(QPen(t.ink, 2));
  p.drawLine(QPointF(x, 0), QPointF(x, height() - 1));
}

void MapView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || bench_.duration() <= Seconds(0)) return;
  pressedAt_ = event->position().x();
  dragging_ = false;
}

void MapView::mouseMoveEvent(QMouseEvent* event) {
  if (pressedAt_ < 0) return;
  const double x = event->position().x();
  if (std::abs(x - pressedAt_) >= kDragStart) dragging_ = true;
  if (dragging_) {
    if (!bench_.passageId().empty()) bench_.setPassage(std::nullopt);  // a drag makes a new one
    bench_.setPassage(TimeSpan{timeAt(pressedAt_), timeAt(x)});
  }
}

void MapView::mouseReleaseEvent(QMouseEvent* event) {
  if (pressedAt_ < 0) return;
  if (!dragging_) {
    const Seconds to = timeAt(event->position().x());
    if (bench_.passage() && !bench_.passage()->contains(to)) bench_.setPassage(std::nullopt);
    bench_.seek(to);
  } else if (bench_.passage()) {
    bench_.seek(bench_.passage()->start);
  }
  pressedAt_ = -1;
}

bool MapView::event(QEvent* event) {
  if (event->type() == QEvent::ToolTip && bench_.duration() > Seconds(0)) {
    const auto* help = static_cast<QHelpEvent*>(event);
    const Seconds at = timeAt(help->x());
    QString tip = text(clockTenths(at));
    if (const auto form = bench_.brief().form)
      if (const Section* s = sectionAt(at, form->value))
        tip +=
            QStringLiteral("  %1 %2 · %3 to %4")
                .arg(text(s->letter), text(s->name), text(clockTenths(s->span.start)), text(clockTenths(s->span.end)));
    if (bench_.take() != nullptr)
      for (const auto& c : chordsOf(*bench_.take(), bench_.findings()))
        if (c.chord && c.span.contains(at)) tip += "  " + text(bench_.chordWords(*c.chord).sounding);
    QToolTip::showText(help->globalPos(), tip + tr("\nClick to go there, drag to make a passage"), this);
    return true;
  }
  return QWidget::event(event);
}

}  // namespace ear
