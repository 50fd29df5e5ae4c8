// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/lesson/lesson_stage.h"

#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"

namespace ear {
namespace {

using Kind = LessonStep::Kind;

constexpr double kMargin = 28.0, kHead = 12.0;  // pixels
constexpr double kUnitsHigh = 2350.0;           // of a stage: sets how large all of it is
constexpr double kLeast = 0.17, kMost = 0.5;
constexpr double kScrolled = 0.88;

SheetStyle onScreen() {
  SheetStyle style;
  style.theme = Theme::current();
  return style;
}

}  // namespace

LessonStage::LessonStage(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("lesson-stage");
  setAccessibleName(tr("What the step is about, in large type"));
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(420, 260);
  connect(&bench.lesson(), &LessonKeeper::changed, this, &LessonStage::refresh);
  connect(&bench.transport(), &Transport::positionChanged, this, &LessonStage::follow);
}

double LessonStage::unit() const {
  return std::clamp(height() / kUnitsHigh, kLeast, kMost) * shrunk_;
}

double LessonStage::widthInUnits() const {
  return std::max(100.0, (width() - 2 * kMargin) / unit());
}

double LessonStage::totalHeight() const {
  return strips_.empty() ? 0.0 : strips_.back().top + strips_.back().item.height;
}

void LessonStage::add(std::vector<SheetItem> items) {
  for (SheetItem& item : items) {
    const double top = strips_.empty() ? 0.0 : totalHeight() + item.before;
    strips_.push_back({std::move(item), top});
  }
}

void LessonStage::addWords(const QString& words, bool soft) {
  const SheetStyle style = onScreen();
  SheetItem item = wordsItem(words, soft ? style.body() : style.font(4.4), soft ? style.theme.softInk : style.theme.ink,
                             widthInUnits());
  item.before = style.of(2);
  add({std::move(item)});
}

void LessonStage::addTab(const SheetPhrase& phrase) {
  const SheetStyle style = onScreen();
  about_ = text(phrase.about.front());
  for (std::size_t i = 1; i < phrase.about.size(); ++i) addWords(text(phrase.about[i]), true);
  const double gap = style.gap();
  for (auto& line : tabLinesOf(phrase, widthInUnits() / gap, style.theme)) {
    add({{line->height() * gap, [gap, line](QPainter& p, double top) { line->paint(p, gap, top); }, style.of(3)}});
    strips_.back().line = line;
  }
  if (!phrase.remark.empty()) addWords(text(phrase.remark));
}

/// While several are joined: the phrase that sounds.
std::string LessonStage::wantedPhrase() const {
  const LessonStep* step = bench_.lesson().step();
  if (step == nullptr || step->kind == Kind::tuning || step->kind == Kind::chords) return {};
  if (step->kind != Kind::chain) return step->about;
  const auto items = bench_.lesson().items();
  const Seconds now = bench_.transport().position() + Transport::kBlink;
  std::string wanted = step->about;
  for (const LessonItem& item : chainedBy(*step, items))
    if (item.span.contains(now)) wanted = item.id;
  return wanted;
}

void LessonStage::refresh() {
  if (!isVisible()) return;
  const std::string was = phrase_;
  // What is a little too much for the room is set a little smaller; more than that scrolls.
  for (const double size : {1.0, 0.9, 0.8, kScrolled}) {
    shrunk_ = size;
    fill();
    if (totalHeight() <= room()) break;
  }
  if (was != phrase_ || phrase_.empty()) scroll_ = 0.0;
  follow();
  update();
  emit shown();
}

void LessonStage::fill() {
  strips_.clear();
  phrase_.clear();
  about_.clear();
  song_ = false;
  if (bench_.take() == nullptr) return;
  const auto* step = bench_.lesson().step();
  if (step == nullptr) {
    addWords(tr("No plan is made yet."));
    addWords(bench_.lesson().items().empty()
                 ? tr("Nothing is written down or kept of this take: with phrases or passages a plan has more to say.")
                 : tr("Choose an order on the left: the steps come from what is written down, and can be changed."),
             true);
    return;
  }
  if (!step->words.empty() && step->kind != Kind::own) addWords(text(step->words));
  LessonStep shown = *step;
  if (const std::string phrase = wantedPhrase(); !phrase.empty()) shown.about = phrase;
  const Take& take = *bench_.take();
  const SheetSource source{bench_.document().study(), take, bench_.document().findings(take.id),
                           bench_.session().notation(), bench_.document().part().id};
  const auto blocks = stepBlocks(source, shown, bench_.lesson().plan()->level);
  for (const SheetBlock& block : blocks) {
    if (const auto* tab = std::get_if<SheetPhrase>(&block)) {
      phrase_ = tab->id;
      addTab(*tab);
    } else {
      add(itemsOf(block, onScreen(), widthInUnits()));
    }
  }
  song_ = step->kind == Kind::playThrough || step->kind == Kind::whole;
  if (step->kind == Kind::left) {
    const auto left = bench_.lesson().left();
    if (left.empty()) addWords(tr("Nothing: all of it was done."));
    for (const std::string& words : left) addWords(text(words));
    if (bench_.lesson().begun()) addWords(tr("It is written down in the study when the lesson is left."), true);
  }
  if (blocks.empty() && step->kind == Kind::chords)
    addWords(
        tr("No chords are known of this section: they need beats, and are written by hand where nothing is heard."),
        true);
}

std::optional<LessonStage::Place> LessonStage::playhead() const {
  const Phrase* phrase = bench_.document().study().phrase(phrase_);
  if (phrase == nullptr || !phrase->span.contains(bench_.transport().position())) return std::nullopt;
  const double place = bench_.phrases().placeOf(*phrase, bench_.transport().position());
  for (const Strip& s : strips_) {
    if (s.line == nullptr) continue;
    const TabScore& score = s.line->score();
    const bool first = &s == &*std::find_if(strips_.begin(), strips_.end(), [](const Strip& x) { return x.line; });
    if ((place >= score.from.value() || first) && place < score.to.value()) {
      constexpr int kParts = 960;
      const Beats at(std::llround(std::max(place, score.from.value()) * kParts), kParts);
      return Place{&s, s.line->xOf(at) * onScreen().gap()};
    }
  }
  return std::nullopt;
}

std::optional<QRectF> LessonStage::playheadLine() const {
  const auto at = playhead();
  if (!at) return std::nullopt;
  const double u = unit();
  return QRectF(kMargin + at->x * u, kHead + (at->strip->top - scroll_) * u, 2.0, at->strip->item.height * u);
}

double LessonStage::room() const {
  return (height() - 2 * kHead) / unit();
}

/// The line that sounds, and what of the next one fits, stay in sight.
void LessonStage::follow() {
  if (!isVisible()) return;
  if (!phrase_.empty() && wantedPhrase() != phrase_) return refresh();
  const double most = std::max(0.0, totalHeight() - room());
  if (const auto at = playhead(); at && most > 0.0) {
    const double top = at->strip->top, bottom = top + at->strip->item.height;
    if (top < scroll_ || bottom > scroll_ + room()) scroll_ = top - onScreen().of(2);
  }
  scroll_ = std::clamp(scroll_, 0.0, most);
  update();
}

void LessonStage::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  refresh();
}

void LessonStage::wheelEvent(QWheelEvent* event) {
  scroll_ = std::clamp(scroll_ - event->angleDelta().y() / unit() / 2.0, 0.0, std::max(0.0, totalHeight() - room()));
  update();
}

/// Section and chord that sound now, and what comes next.
void LessonStage::paintSong(QPainter& p) const {
  const Theme& t = Theme::current();
  const SheetStyle style = onScreen();
  const double width = widthInUnits(), left = totalHeight() > 0 ? totalHeight() + style.of(4) : 0.0;
  double y = left;
  const auto line = [&](const QString& words, double size, QFont::Weight weight, const QColor& ink) {
    if (words.isEmpty()) return;
    const QFont font = style.font(size, weight);
    p.setFont(font);
    p.setPen(ink);
    const double high = style.of(size * 1.35);
    p.drawText(QRectF(0, y, width, high), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetricsF(font).elidedText(words, Qt::ElideRight, width));
    y += high;
  };
  const Seconds now = bench_.transport().position() + Transport::kBlink;
  const auto& form = bench_.brief().form;
  const auto named = [&](const Section& s) {
    return s.name.empty() ? tr("Part %1").arg(text(s.letter)) : text(s.letter) + "  " + text(s.name);
  };
  if (form) {
    const Form& sections = form->value;
    const auto here =
        std::find_if(sections.begin(), sections.end(), [&](const Section& s) { return s.span.contains(now); });
    if (here != sections.end()) {
      line(named(*here), 8.0, QFont::DemiBold, t.ink);
      const int bars = barsIn(bench_.time().grid(), here->span),
                bar = barsIn(bench_.time().grid(), {here->span.start, now});
      if (bars > 0) line(tr("bar %1 of %2").arg(std::clamp(bar, 1, bars)).arg(bars), 4.4, QFont::Normal, t.softInk);
      const auto next = std::next(here);
      if (next != sections.end())
        line(tr("then %1 at %2").arg(named(*next), text(clockTime(next->span.start))), 4.4, QFont::Normal, t.softInk);
    }
  }
  y += style.of(5);
  const auto& chords = bench_.document().chords();
  const auto chordWords = [&](const ShownChord& c) {
    if (!c.chord) return tr("no chord");
    if (!isSettled(c)) return QStringLiteral("?");
    const auto words = bench_.session().chordWords(*c.chord);
    return text(words.sounding) + (words.shape.empty() ? QString() : " (" + text(words.shape) + ")");
  };
  const auto sounding =
      std::find_if(chords.begin(), chords.end(), [&](const ShownChord& c) { return c.span.contains(now); });
  if (sounding == chords.end()) return;
  line(chordWords(*sounding), 11.0, QFont::Bold, sounding->chord && isSettled(*sounding) ? t.accent : t.softInk);
  const QString same = chordWords(*sounding);
  const auto other = std::find_if(sounding, chords.end(), [&](const ShownChord& c) { return chordWords(c) != same; });
  if (other != chords.end()) line(tr("next: %1").arg(chordWords(*other)), 5.5, QFont::Normal, t.ink);
}

void LessonStage::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.fillRect(rect(), t.ground);
  p.setClipRect(rect());
  if (const auto line = playheadLine()) {
    p.fillRect(QRectF(kMargin / 2 - 3, line->top(), 6, line->height()), t.accent);
    p.fillRect(line->adjusted(-1, 0, 2, 0), t.accent);
  }
  p.translate(kMargin, kHead);
  p.scale(unit(), unit());
  p.translate(0, -scroll_);
  for (const Strip& s : strips_) {
    p.save();
    s.item.paint(p, s.top);
    p.restore();
  }
  if (song_) paintSong(p);
}

}  // namespace ear
