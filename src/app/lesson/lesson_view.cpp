// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/lesson/lesson_view.h"

#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/lesson/lesson_plan_box.h"
#include "app/lesson/lesson_stage.h"
#include "app/practise/practise_page.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/theory/notation_preferences.h"

namespace ear {
namespace {

constexpr double kDesignHigh = 800.0, kDesignWide = 1280.0;  // pixels for which the sizes are given
constexpr Seconds kInTime{45.0};                             // off by less is in time

/// A label's type, which a sheet of styles of its own would take from it.
void setSize(QLabel* label, double pixels, QFont::Weight weight = QFont::Normal) {
  label->setProperty("type", QStringLiteral("font-size: %1px; font-weight: %2;")
                                 .arg(std::max(9, static_cast<int>(pixels)))
                                 .arg(static_cast<int>(weight)));
}

void paint(QLabel* label, const QColor& ink) {
  const QString style = label->property("type").toString() + " color: " + ink.name();
  if (label->styleSheet() != style) label->setStyleSheet(style);
}

QString minutes(Seconds t) {
  const auto seconds = static_cast<int>(std::max(0.0, t.value));
  return QStringLiteral("%1:%2").arg(seconds / 60).arg(seconds % 60, 2, 10, QLatin1Char('0'));
}

}  // namespace

LessonView::LessonView(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("ground");
  setAttribute(Qt::WA_StyledBackground);
  setAccessibleName(tr("Lesson"));
  const auto label = [this](const char* name) {
    auto* l = new QLabel(this);
    l->setObjectName(name);
    return l;
  };
  title_ = label("lesson-title"), about_ = label("soft");
  clock_ = label("lesson-clock"), pace_ = label("lesson-pace");
  count_ = label("lesson-count"), sound_ = label("lesson-sound"), next_ = label("lesson-next");
  for (QLabel* l : {clock_, pace_}) l->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  for (QLabel* l : {title_, about_, sound_, next_}) l->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  plan_ = new LessonPlanBox(bench, this);
  stage_ = new LessonStage(bench, this);
  back_ = plainButton(this, "lesson-back", tr("Back"), tr("The step before  (PgUp)"));
  go_ = plainButton(this, "primary", tr("Play"),
                    tr("What this step is about: loop, climb or join it; once more stops  (Return)"));
  on_ = plainButton(this, "lesson-on", tr("Done, and on"), tr("This step is done; the next one  (PgDown)"));
  leave_ = plainButton(this, "lesson-leave", tr("Leave"), tr("Back to the desk; what is left is written down  (F9)"));
  auto* words = new QVBoxLayout;
  words->setSpacing(2);
  words->addWidget(title_);
  words->addWidget(about_);
  auto* time = new QVBoxLayout;
  time->setSpacing(2);
  time->addWidget(clock_);
  time->addWidget(pace_);
  auto* head = new QHBoxLayout;
  head->setContentsMargins(28, 10, 24, 6);
  head->addLayout(words, 1);
  head->addLayout(time);
  auto* foot = new QHBoxLayout;
  foot->setContentsMargins(28, 4, 24, 8);
  foot->setSpacing(18);
  auto* lines = new QVBoxLayout;
  lines->setSpacing(2);
  lines->addWidget(sound_);
  lines->addWidget(next_);
  foot->addLayout(lines, 1);
  foot->addWidget(count_);
  auto* right = new QVBoxLayout;
  right->setSpacing(0);
  right->addLayout(head);
  right->addWidget(stage_, 1);
  right->addLayout(foot);
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(0);
  auto* keys = new QVBoxLayout;
  keys->setContentsMargins(12, 0, 12, 12);
  keys->setSpacing(8);
  auto* steps = rowOf({back_, go_, on_});
  steps->setSpacing(8);
  steps->setStretch(0, 1), steps->setStretch(1, 1), steps->setStretch(2, 2);
  keys->addLayout(steps);
  keys->addWidget(leave_);
  side_ = new QWidget(this);
  side_->setObjectName("panel");
  side_->setAttribute(Qt::WA_StyledBackground);
  auto* left = new QVBoxLayout(side_);
  left->setContentsMargins(0, 0, 0, 0);
  left->setSpacing(0);
  left->addWidget(plan_, 1);
  left->addLayout(keys);
  row->addWidget(side_);
  row->addLayout(right, 1);
  LessonKeeper& lesson = bench.lesson();
  connect(back_, &QPushButton::clicked, this, [&lesson] { lesson.stepBy(-1); });
  connect(go_, &QPushButton::clicked, &lesson, &LessonKeeper::go);
  connect(on_, &QPushButton::clicked, this, [&lesson] { lesson.stepBy(1); });
  connect(leave_, &QPushButton::clicked, this, &LessonView::leaveWanted);
  // The stage shows what has changed first: its words stand in the head.
  connect(stage_, &LessonStage::shown, this, [this] { said_.clear(), refresh(); });
  connect(&bench.session(), &Session::said, this, [this](const QString& sentence) { said_ = sentence, showSound(); });
  connect(&bench.transport(), &Transport::positionChanged, this, &LessonView::showSound);
  connect(&second_, &QTimer::timeout, this, &LessonView::showTime);
  second_.setInterval(500);
  refresh();
}

void LessonView::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  plan_->showTools(bench_.lesson().plan() == nullptr || bench_.lesson().plan()->steps.empty());
  second_.start();
  bench_.lesson().enter();
  refresh();
  stage_->setFocus();
}

void LessonView::hideEvent(QHideEvent* event) {
  second_.stop();
  QWidget::hideEvent(event);
}

void LessonView::resizeEvent(QResizeEvent* event) {
  QWidget::resizeEvent(event);
  const double size = std::min(height() / kDesignHigh, width() / kDesignWide);
  side_->setFixedWidth(static_cast<int>(std::clamp(300 * size, 280.0, 520.0)));
  plan_->setTypeSize(static_cast<int>(std::clamp(15 * size, 12.0, 26.0)));
  setSize(title_, 38 * size, QFont::DemiBold);
  setSize(about_, 19 * size);
  setSize(clock_, 34 * size, QFont::Medium);
  setSize(pace_, 19 * size);
  setSize(count_, 54 * size, QFont::Bold);
  setSize(sound_, 24 * size, QFont::Medium);
  setSize(next_, 20 * size);
  // As high as it ever gets, so that nothing moves while it counts.
  count_->setFixedHeight(static_cast<int>(66 * size));
  const Theme& t = Theme::current();
  for (QLabel* l : {title_, count_, sound_, clock_}) paint(l, t.ink);
  for (QLabel* l : {about_, next_, pace_}) paint(l, t.softInk);
  refresh();
}

void LessonView::refresh() {
  if (!isVisible()) return;
  const LessonKeeper& lesson = bench_.lesson();
  const LessonStep* step = lesson.step();
  const auto items = lesson.items();
  title_->setText(step == nullptr ? tr("Lesson") : text(stepTitle(*step, items)));
  QStringList about;
  if (step != nullptr) {
    if (!stage_->about().isEmpty())
      about << stage_->about();
    else if (const auto span = lesson.spanOf(*step))
      about << tr("%1 to %2").arg(text(clockTenths(span->start)), text(clockTenths(span->end)));
    if (step->hand) about << tr("close to the hand");
    if (step->beginners) about << tr("beginners jump to here");
  }
  about_->setText(about.join(tr(", ")));
  const LessonStep* next = lesson.next();
  next_->setText(next == nullptr ? QString() : tr("Next: %1").arg(text(stepTitle(*next, items))));
  go_->setText(lesson.sounding()                                           ? tr("Stop")
               : step != nullptr && step->kind == LessonStep::Kind::tuning ? tr("Next string")
                                                                           : tr("Play"));
  for (QPushButton* b : {go_, on_}) b->setEnabled(step != nullptr);
  back_->setEnabled(step != nullptr && step != lesson.plan()->steps.data());
  showTime();
  showSound();
}

void LessonView::showTime() {
  LessonKeeper& lesson = bench_.lesson();
  const LessonPlan* plan = lesson.plan();
  const LessonStep* step = lesson.step();
  if (plan == nullptr || step == nullptr) return clock_->clear(), pace_->clear();
  const Seconds elapsed = lesson.elapsed();
  const LessonPace pace = paceOf(*plan, step->id, elapsed);
  clock_->setText(tr("%1 of %2").arg(minutes(elapsed), minutes(plan->target)));
  const int off = std::max(1, static_cast<int>(std::lround(std::abs(pace.behind.value) / 60.0)));
  const bool late = pace.behind > kInTime;
  QString words = !lesson.begun()          ? tr("%1 min planned").arg(std::lround(pace.planned.value / 60.0))
                  : late                   ? tr("%1 min behind the plan").arg(off)
                  : -pace.behind > kInTime ? tr("%1 min ahead of the plan").arg(off)
                                           : tr("in time");
  const bool overfull = !lesson.begun() && pace.planned > plan->target + kInTime;
  if (overfull) words = tr("%1 min planned, more than there are").arg(std::lround(pace.planned.value / 60.0));
  pace_->setText(words);
  const bool warns = late || elapsed > plan->target || overfull;
  const Theme& t = Theme::current();
  paint(pace_, warns ? t.warning : t.softInk);
  paint(clock_, elapsed > plan->target ? t.warning : t.ink);
}

void LessonView::showSound() {
  if (!isVisible()) return;
  const Player& player = bench_.transport().player();
  const auto string = bench_.lesson().tunedString();
  const bool counts = bench_.transport().hasSound() && bench_.lesson().sounding();
  count_->setText(!counts                  ? QString()
                  : player.counting()      ? tr("Count")
                  : player.place().resting ? tr("Breath")
                                           : bench_.time().counted(bench_.transport().position() + Transport::kBlink));
  if (!said_.isEmpty() && !counts) return sound_->setText(said_);
  QStringList words;
  if (bench_.practice().running()) words << practiceWords(bench_.practice());
  if (string) {
    const auto& guitar = bench_.document().guitar();
    words << tr("String: %1")
                 .arg(text(stringName(bench_.session().notation(), guitar, *string, bench_.session().spelling())));
  }
  if (bench_.transport().hasSound()) words << tr("%1 speed").arg(percent(player.sounding().speed));
  sound_->setText(words.join(tr(", ")));
}

/// Escape leaves it, whatever else the desk does with that key.
bool LessonView::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride || event->type() == QEvent::KeyPress)
    if (static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
      event->accept();
      if (event->type() == QEvent::KeyPress) emit leaveWanted();
      return true;
    }
  return QWidget::event(event);
}

}  // namespace ear
