// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/form/strokes_window.h"

#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QTableWidget>
#include <QVBoxLayout>
#include <cmath>

#include "app/isolate/isolate_page.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/quantities.h"
#include "core/base/text.h"
#include "core/playback/isolator.h"

namespace ear {
namespace {

constexpr int kPause = 400;  // ms
constexpr Seconds kLongest{30.0};

QString milliseconds(Seconds t) {
  return text(signedMilliseconds(t));
}

}  // namespace

StrokesChart::StrokesChart(QWidget* parent) : QWidget(parent) {
  setFixedHeight(110);
  setAccessibleName(tr("Loudness and attacks"));
  setToolTip(tr("Loudness over the passage; a stroke above it for each attack, the longer the stronger"));
}

void StrokesChart::show(const PassageStrokes& strokes, Seconds length) {
  strokes_ = strokes;
  length_ = length;
  update();
}

void StrokesChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const double floor = height() - 2, top = 26;
  p.setPen(t.hairline);
  p.drawLine(QPointF(0, floor), QPointF(width(), floor));
  if (strokes_.loudness.empty() || length_ <= Seconds(0)) return;
  QPainterPath hill(QPointF(0, floor));
  const auto n = static_cast<double>(strokes_.loudness.size());
  for (std::size_t i = 0; i < strokes_.loudness.size(); ++i)
    hill.lineTo(static_cast<double>(i) / n * width(),
                floor - static_cast<double>(strokes_.loudness[i]) * (floor - top));
  hill.lineTo(width(), floor);
  QColor wash = t.softInk;
  wash.setAlpha(90);
  p.setPen(QPen(t.softInk, 1));
  p.setBrush(wash);
  p.drawPath(hill);
  p.setPen(QPen(t.accent, 2));
  for (const auto& a : strokes_.attacks) {
    const double x = a.time / length_ * width();
    p.drawLine(QPointF(x, 2), QPointF(x, 2 + 20 * static_cast<double>(a.strength)));
  }
}

StrokesWindow::StrokesWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench), job_(this) {
  setWindowTitle(tr("Strokes of the passage"));
  setObjectName("strokes");
  resize(560, 560);
  auto* column = windowColumn(this);
  verdict_ = new QLabel(this);
  verdict_->setObjectName("strokes-verdict");
  verdict_->setFont(Theme::font(Theme::Face::sentence));
  evidence_ = new QLabel(this);
  evidence_->setObjectName("soft");
  timing_ = new QLabel(this);
  timing_->setObjectName("strokes-timing");
  for (auto* label : {verdict_, evidence_, timing_}) label->setWordWrap(true);
  chart_ = new StrokesChart(this);
  table_ = new QTableWidget(0, 4, this);
  table_->setObjectName("strokes-table");
  table_->setHorizontalHeaderLabels({tr("Time"), tr("Bar"), tr("Counted"), tr("Off the grid")});
  table_->verticalHeader()->hide();
  table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setShowGrid(false);
  table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
  table_->setToolTip(tr("Click an attack to go there"));
  column->addWidget(verdict_);
  column->addWidget(evidence_);
  column->addWidget(chart_);
  column->addWidget(timing_);
  column->addWidget(table_, 1);
  pause_.setSingleShot(true);
  pause_.setInterval(kPause);
  connect(&pause_, &QTimer::timeout, this, &StrokesWindow::measure);
  connect(&job_, &BackgroundJob::failed, verdict_, &QLabel::setText);
  const auto look = [this] {
    if (bench_.selection().passage() != measured_ || !(bench_.transport().sounding().isolation == heard_))
      pause_.start();
  };
  connect(&bench_.selection(), &Selection::changed, this, look);
  connect(&bench_.transport(), &Transport::changed, this, look);
  connect(table_, &QTableWidget::cellClicked, this, [this](int r, int) {
    if (static_cast<std::size_t>(r) < placed_.size())
      bench_.transport().seek(placed_[static_cast<std::size_t>(r)].time);
  });
  measure();
}

void StrokesWindow::showNothing(const QString& verdict, const QString& evidence) {
  table_->setRowCount(0);
  placed_.clear();
  verdict_->setText(verdict);
  evidence_->setText(evidence);
  timing_->clear();
  chart_->show({}, {});
}

void StrokesWindow::measure() {
  job_.cancel();
  const auto passage = bench_.selection().passage();
  measured_ = passage;
  heard_ = bench_.transport().sounding().isolation;
  if (!bench_.transport().hasSound() || !passage || passage->length() > kLongest) {
    showNothing(!passage ? tr("No passage in hand") : tr("The passage is too long"),
                tr("Drag one of up to half a minute on the map or the close-up, then measure it."));
    return;
  }
  showNothing(tr("Listening …"), {});
  job_.run([this, recording = bench_.transport().player().shared(), span = *passage, heard = heard_](
               const Progress& progress, const BackgroundJob::Post& post) {
    const auto strokes = std::make_shared<const PassageStrokes>(measureStrokes(isolatedPart(recording, span, heard)));
    if (!progress.cancelled()) post([this, strokes] { showStrokes(*strokes); });
  });
}

void StrokesWindow::showStrokes(const PassageStrokes& strokes) {
  chart_->show(strokes, measured_->length());
  const auto time = bench_.brief().time;
  const QString value = time ? text(noteValueOf(strokes.rate, time->value.tempo)) : QString();
  const QString rate =
      tr("%1 a second").arg(text(fixed(strokes.rate.value, 1))) + (value.isEmpty() ? QString() : ", " + value);
  const auto count = static_cast<int>(strokes.attacks.size());
  switch (strokes.repeats) {
    case Repeats::picked:
      verdict_->setText(tr("Picked: %1, ").arg(counted(count, tr("stroke"), tr("strokes"))) + rate);
      break;
    case Repeats::tremolo:
      verdict_->setText(tr("A tremolo effect: ") + rate + tr(", %1 deep").arg(percent(strokes.depth)));
      break;
    case Repeats::none:
      verdict_->setText(counted(count, tr("stroke"), tr("strokes")));
  }
  evidence_->setText(
      tr("Heard: %1. ").arg(lowered(isolationWords(heard_))) + text(strokes.evidence) +
      (strokes.repeats == Repeats::none ? QString() : " " + capitalised(text(certaintyWord(strokes.certainty))) + "."));
  place(strokes);
}

/// Where each attack lies in its beat.
void StrokesWindow::place(const PassageStrokes& strokes) {
  std::vector<Seconds> attacks;
  for (const auto& a : strokes.attacks) attacks.push_back(measured_->start + a.time);
  const Grid& grid = bench_.time().grid();
  placed_ = placeAttacks(attacks, beatTimes(grid), barLines(grid));
  if (placed_.empty()) {
    timing_->setText(tr("No beats are known here, so that nothing can be said of the timing."));
    return;
  }
  const Seconds late = meanLateness(placed_);
  const QString feel = std::abs(late.value) < 0.006 ? tr("on the grid as a whole")
                       : late > Seconds(0)
                           ? tr("behind it as a whole, by %1 ms").arg(std::lround(1000 * late.value))
                           : tr("ahead of it as a whole, by %1 ms").arg(std::lround(-1000 * late.value));
  timing_->setText(
      tr("Laid on %1 of the beat: %2.").arg(placed_.front().parts == 3 ? tr("thirds") : tr("fourths"), feel));
  table_->setRowCount(static_cast<int>(placed_.size()));
  for (std::size_t i = 0; i < placed_.size(); ++i) {
    const auto& a = placed_[i];
    const QString cells[] = {
        text(clockTime(a.time)) + text(fixed(std::fmod(a.time.value, 1.0), 2)).mid(1), QString::number(a.bar),
        text(countName(bench_.session().notation(), a.beat, a.part, a.parts)), milliseconds(a.late)};
    for (int c = 0; c < 4; ++c) table_->setItem(static_cast<int>(i), c, new QTableWidgetItem(cells[c]));
  }
}

}  // namespace ear
