// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/entry_echo.h"

#include <QPainter>
#include <algorithm>

#include "app/phrasebench/note_words.h"
#include "app/tab/tab_painter.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/engraving/spacing.h"

namespace ear {
namespace {

constexpr double kGap = 6.0;
constexpr int kSpot = 110;  // pixels of the stretch of neck
constexpr int kFrets = 5;

}  // namespace

EntryEcho::EntryEcho(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("entry-echo");
  setAccessibleName(tr("What was understood"));
  setFixedHeight(58);
  setMinimumWidth(320);
}

std::vector<Note> EntryEcho::lastNotes() const {
  for (auto step = entry_.steps.rbegin(); step != entry_.steps.rend(); ++step)
    if (!step->notes.empty()) return step->notes;
  return {};
}

void EntryEcho::show(const Entry& entry) {
  entry_ = entry;
  QStringList names;
  const Guitar guitar = bench_.phrases().entryContext().guitar;
  const auto last = lastNotes();
  for (const Note& n : last) names << noteSentence(bench_, guitar, n);
  if (names.size() > 2) {  // of a chord the pitches alone
    names.clear();
    for (const Note& n : last) names << text(noteName(guitar.pitch(n.place), bench_.session().spelling()));
    words_ = names.join(" ");
  } else {
    words_ = names.join("\n");
  }
  setAccessibleDescription(words_);
  update();
}

/// Some frets of the neck with the places of the last notes.
void EntryEcho::paintSpot(QPainter& p, const QRectF& box) const {
  const Theme& t = Theme::current();
  const Guitar guitar = bench_.phrases().entryContext().guitar;
  const auto last = lastNotes();
  int low = 99;
  for (const Note& n : last)
    if (n.place.fret > 0) low = std::min(low, n.place.fret);
  const int first = low == 99 ? 1 : std::max(1, low - 1);
  const double row = box.height() / guitar.strings(), column = box.width() / kFrets;
  p.setPen(t.hairline);
  for (int s = 0; s < guitar.strings(); ++s) {
    const double y = box.bottom() - (s + 0.5) * row;
    p.drawLine(QPointF(box.left(), y), QPointF(box.right(), y));
  }
  QFont small = Theme::font(Theme::Face::small);
  small.setPixelSize(9);
  p.setFont(small);
  for (int f = 0; f <= kFrets; ++f) {
    p.setPen(f == 0 && first == 1 ? QPen(t.softInk, 3) : QPen(t.hairline, 1));
    const double x = box.left() + f * column;
    p.drawLine(QPointF(x, box.top() + row / 2), QPointF(x, box.bottom() - row / 2));
    if (f == kFrets) continue;
    p.setPen(t.softInk);
    p.drawText(QRectF(x, box.bottom() - 2, column, 11), Qt::AlignCenter, QString::number(first + f));
  }
  p.setPen(Qt::NoPen);
  p.setBrush(t.accent);
  for (const Note& n : last) {
    const double y = box.bottom() - (n.place.string + 0.5) * row;
    const double x = n.place.fret == 0 ? box.left() - 5 : box.left() + (n.place.fret - first + 0.5) * column;
    if (n.place.fret < first + kFrets) p.drawEllipse(QPointF(x, y), 3.5, 3.5);
  }
}

void EntryEcho::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const auto last = lastNotes();
  if (last.empty()) {
    p.setPen(t.softInk);
    p.setFont(Theme::font(Theme::Face::small));
    p.drawText(rect(), Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap,
               tr("What was understood is shown here: its tab, its pitches, its place on the neck."));
    return;
  }
  ShownPhrase shown;
  for (const EnteredStep& step : entry_.steps)
    for (const Note& n : step.notes) {
      shown.notes.push_back({n, false});
      shown.notes.back().note.id = static_cast<int>(shown.notes.size());
    }
  const EntryContext context = bench_.phrases().entryContext();
  const TabScore score = engrave(shown, {context.guitar, context.schools, context.fretsFromNut});
  const Spacing spacing(score);
  const double room = width() - kSpot - 190;
  const double tight = std::min(1.0, room / (spacing.width() * kGap));
  TabLook look;
  look.gap = kGap;
  look.rhythm = false;
  const TabPainter painter(
      score, [&](Beats at) { return spacing.xOf(at) * kGap * tight; }, look);
  painter.paint(p, 0, spacing.width() * kGap * tight, 0);
  const double x = std::min(room, spacing.width() * kGap * tight) + 14;
  paintSpot(p, QRectF(x, 2, kSpot - 20, height() - 14));
  p.setPen(t.ink);
  p.setFont(Theme::font(Theme::Face::small));
  p.drawText(QRectF(x + kSpot, 0, width() - x - kSpot, height()), Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap,
             words_);
}

}  // namespace ear
