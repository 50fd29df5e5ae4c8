// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/bigdeck/big_deck.h"

#include <QPainter>
#include <cmath>

#include "app/practise/practise_page.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"

namespace ear {
namespace {

/// A face whose capitals stand so many pixels high.
QFont tall(double pixels, QFont::Weight weight) {
  QFont font = Theme::font(Theme::Face::text);
  font.setPixelSize(static_cast<int>(pixels));
  font.setWeight(weight);
  return font;
}

}  // namespace

BigDeck::BigDeck(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("big-deck");
  setAccessibleName(tr("Passage, speed, count and what comes next, in large type"));
  for (const auto signal : {&Transport::positionChanged, &Transport::changed})
    connect(&bench.transport(), signal, this, qOverload<>(&QWidget::update));
  connect(&bench.selection(), &Selection::changed, this, qOverload<>(&QWidget::update));
  connect(&bench.session(), &Session::documentChanged, this, qOverload<>(&QWidget::update));
  connect(&bench.practice(), &PracticeKeeper::changed, this, qOverload<>(&QWidget::update));
}

QString BigDeck::nextWords() const {
  const PracticeKeeper& practice = bench_.practice();
  if (practice.running()) return practiceWords(practice);
  const auto& passage = bench_.selection().passage();
  // The kept passage behind this one.
  const Passage* next = nullptr;
  for (const auto& p : bench_.document().study().passages)
    if (bench_.take() != nullptr && p.take == bench_.take()->id &&
        p.span.start > (passage ? passage->start : bench_.transport().position()) &&
        (next == nullptr || p.span.start < next->span.start))
      next = &p;
  return next == nullptr
             ? QString()
             : tr("Next: %1 at %2")
                   .arg(next->name.empty() ? tr("(no name)") : text(next->name), text(clockTime(next->span.start)));
}

void BigDeck::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.fillRect(rect(), t.ground);
  const double unit = std::min(height() / 10.0, width() / 16.0);
  const double left = unit * 0.8;
  const auto line = [&](double y, double size, QFont::Weight weight, const QColor& colour, QString words) {
    p.setFont(tall(size * unit, weight));
    p.setPen(colour);
    words = QFontMetrics(p.font()).elidedText(words, Qt::ElideRight, static_cast<int>(width() - 2 * left));
    p.drawText(QRectF(left, y * unit, width() - 2 * left, size * unit * 1.35), Qt::AlignLeft | Qt::AlignVCenter, words);
  };
  const Passage* kept = bench_.document().study().passage(bench_.selection().keptId());
  const auto& passage = bench_.selection().passage();
  line(0.4, 0.8, QFont::DemiBold, t.ink,
       kept != nullptr && !kept->name.empty() ? text(kept->name)
       : passage ? tr("%1 to %2").arg(text(clockTenths(passage->start)), text(clockTenths(passage->end)))
                 : QString::fromStdString(bench_.document().study().title));
  const Player& player = bench_.transport().player();
  const bool rests = player.place().resting;
  const QString count = bench_.transport().hasSound()
                            ? bench_.time().counted(bench_.transport().position() + Transport::kBlink)
                            : QString();
  line(2.0, 2.6, QFont::Bold, rests ? t.warning : t.ink,
       player.counting() ? tr("Count")
       : rests           ? tr("Breath")
       : count.isEmpty() ? text(clockTenths(bench_.transport().position()))
                         : count);
  line(5.6, 1.5, QFont::Medium, t.accent, tr("%1 speed").arg(percent(player.sounding().speed)));
  line(7.5, 0.75, QFont::Normal, t.ink, nextWords());
  // How far the passage has come, along the lower edge.
  if (passage && passage->length() > Seconds(0)) {
    const double share = std::clamp((bench_.transport().position() - passage->start) / passage->length(), 0.0, 1.0);
    const QRectF bar(left, 9.1 * unit, width() - 2 * left, 0.28 * unit);
    p.setPen(Qt::NoPen);
    p.setBrush(t.hairline);
    p.drawRect(bar);
    p.setBrush(t.accent);
    p.drawRect(QRectF(bar.left(), bar.top(), bar.width() * share, bar.height()));
  }
  p.setFont(Theme::font(Theme::Face::small));
  p.setPen(t.softInk);
  p.drawText(rect().adjusted(8, 8, -12, -8), Qt::AlignRight | Qt::AlignTop, tr("F11: back to the desk"));
}

}  // namespace ear
