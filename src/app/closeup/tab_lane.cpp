// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/closeup/tab_lane.h"

#include <QPainter>

#include "app/phrasebench/note_words.h"
#include "app/tab/tab_painter.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr double kGap = 8.0;
constexpr int kRow = 18;                // pixels of a row of blocks
constexpr int kRoomForAll = 340;        // of the close-up
constexpr int kName = 13;               // pixels of the row with the phrases' names
constexpr double kLeastForNote = 12.0;  // pixels from note to note; where they are closer it is a block

TabLook lookOf(const Workbench& bench, const Phrase& phrase) {
  TabLook look;
  look.gap = kGap;
  look.rhythm = false;
  if (&phrase != bench.phrases().phrase()) return look;
  look.selected = bench.phrases().chosen();
  look.checks = checksOf(bench);
  return look;
}

}  // namespace

TabLane::TabLane(Workbench& bench, QObject* parent) : Lane(parent), bench_(bench) {
  connect(&bench.phrases(), &PhraseKeeper::changed, this, &Lane::changed);
  connect(&bench.phraseEar(), &PhraseEar::changed, this, &Lane::changed);
}

void TabLane::setWriting(bool on) {
  writing_ = on;
  emit changed();
}

int TabLane::height(int room) const {
  const auto phrases = bench_.phrases().ofTake();
  if (phrases.empty()) return 0;
  if (!writing_ && room < kRoomForAll) return kRow;
  const TabScore& score = bench_.phrases().viewOf(*phrases.front()).score;
  TabLook look;
  look.gap = kGap;
  look.rhythm = false;
  return static_cast<int>(TabPainter::heightFor(score, look)) + kName;
}

bool TabLane::readable(const Phrase& phrase, const LaneView& view) const {
  const auto& heads = bench_.phrases().viewOf(phrase).score.heads;
  if (view.area.height() <= kRow) return false;
  std::optional<double> before;
  std::set<Beats> moments;
  for (const TabHead& h : heads) moments.insert(h.at);
  for (const Beats at : moments) {
    const double x = view.xOf(bench_.phrases().timeOf(phrase, at));
    if (before && x - *before < kLeastForNote) return false;
    before = x;
  }
  return true;
}

void TabLane::paint(QPainter& p, const LaneView& view) {
  const Theme& t = Theme::current();
  p.fillRect(view.area, t.ground);
  p.setPen(t.hairline);
  p.drawLine(view.area.bottomLeft(), view.area.bottomRight());
  const std::string part = bench_.document().part().id;
  const Phrase* inHand = bench_.phrases().phrase();
  for (const Phrase* phrase : bench_.phrases().ofTake()) {
    if (phrase->part != part && phrase != inHand) continue;
    if (phrase->span.end < view.window.start || phrase->span.start > view.window.end) continue;
    const double from = view.xOf(phrase->span.start), to = view.xOf(phrase->span.end);
    p.save();
    p.setClipRect(view.area);
    if (readable(*phrase, view)) {
      const TabScore& score = bench_.phrases().viewOf(*phrase).score;
      const TabPainter painter(
          score, [&](Beats at) { return view.xOf(bench_.phrases().timeOf(*phrase, at)); }, lookOf(bench_, *phrase));
      painter.paint(p, from, to, view.area.top() + kName);
    }
    const QRectF block(from, view.area.top() + 2, to - from, readable(*phrase, view) ? 15 : view.area.height() - 4);
    if (!readable(*phrase, view)) {
      p.setPen(Qt::NoPen);
      p.setBrush(phrase == inHand ? t.accentWash : t.panel);
      p.drawRoundedRect(block, 4, 4);
    }
    p.setPen(phrase == inHand ? t.accent : t.softInk);
    QFont small = Theme::font(Theme::Face::small);
    p.setFont(small);
    QString name = phrase->name.empty() ? tr("phrase") : text(phrase->name);
    if (phrase->number > 0) name = QString("%1 · %2").arg(phrase->number).arg(name);
    if (phrase->link) name += tr(", again");
    const QRectF room = block.adjusted(4, 0, -2, 0).intersected(view.area.adjusted(4, 0, 0, 0));
    p.drawText(room, Qt::AlignLeft | (readable(*phrase, view) ? Qt::AlignTop : Qt::AlignVCenter),
               QFontMetrics(small).elidedText(name, Qt::ElideRight, static_cast<int>(room.width())));
    p.restore();
  }
}

TabLane::Found TabLane::at(QPointF at, const LaneView& view) const {
  const Seconds time = view.timeAt(at.x());
  const std::string part = bench_.document().part().id;
  Found found;
  for (const Phrase* phrase : bench_.phrases().ofTake()) {
    if (phrase->part != part || time < phrase->span.start - Seconds(0.1) || time > phrase->span.end) continue;
    found.phrase = phrase;
    if (!readable(*phrase, view)) continue;
    const TabScore& score = bench_.phrases().viewOf(*phrase).score;
    const TabPainter painter(
        score, [&](Beats b) { return view.xOf(bench_.phrases().timeOf(*phrase, b)); }, lookOf(bench_, *phrase));
    for (const TabHead& head : score.heads)
      if (painter.rectOf(head).translated(0, view.area.top() + kName).contains(at)) found.note = head.note;
  }
  return found;
}

void TabLane::clicked(QPointF at, const LaneView& view) {
  const Found found = this->at(at, view);
  if (found.note == 0 || found.phrase != bench_.phrases().phrase()) return;
  bench_.phrases().choose({found.note});
  if (!bench_.transport().playing()) playWritten(bench_);
}

void TabLane::doubleClicked(QPointF at, const LaneView& view) {
  if (const Found found = this->at(at, view); found.phrase != nullptr) bench_.phrases().open(found.phrase->id);
}

QString TabLane::tip(QPointF at, const LaneView& view) const {
  const Found found = this->at(at, view);
  if (found.phrase == nullptr) return {};
  if (found.note > 0 && found.phrase == bench_.phrases().phrase()) return noteTip(bench_, found.note);
  return tr("%1, %2 to %3. Double-click to open the phrase.")
      .arg(found.phrase->name.empty() ? tr("A phrase") : text(found.phrase->name),
           text(clockTenths(found.phrase->span.start)), text(clockTenths(found.phrase->span.end)));
}

}  // namespace ear
