// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/hear/compare_window.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/closeup/pitch_picture.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/practice/repeats.h"

namespace ear {
namespace {

constexpr int kPause = 400;  // ms until the passage in hand counts as chosen
constexpr Seconds kLongest{36.0};
constexpr int kBand = 26, kFirstRow = 12, kRowsShown = 138;  // pixels between the two; rows of the map that are shown

QImage pictureOf(const std::vector<float>& map, std::size_t columns) {
  QImage picture(static_cast<int>(columns), kRowsShown, QImage::Format_Indexed8);
  picture.setColorTable(pitchColours());
  for (int row = 0; row < kRowsShown; ++row)
    for (std::size_t c = 0; c < columns; ++c)
      picture.scanLine(kRowsShown - 1 - row)[c] =
          static_cast<uchar>(std::lround(255 * map[c * PitchMap::kRows + static_cast<std::size_t>(row + kFirstRow)]));
  return picture;
}

QString spanWords(TimeSpan s) {
  return QObject::tr("%1 to %2").arg(text(clockTenths(s.start)), text(clockTenths(s.end)));
}

}  // namespace

RepeatChart::RepeatChart(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("compare-chart");
  setMinimumHeight(320);
  setAccessibleName(tr("Both times one above the other"));
  setToolTip(
      tr("Above the passage, below the other time; marked where they differ. Click either to hear it from there"));
}

void RepeatChart::show(std::shared_ptr<const RepeatDifference> difference) {
  difference_ = std::move(difference);
  if (difference_ && difference_->columns > 0) {
    first_ = pictureOf(difference_->first, difference_->columns);
    second_ = pictureOf(difference_->second, difference_->columns);
  }
  update();
}

void RepeatChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.fillRect(rect(), t.panel);
  if (!difference_ || difference_->columns == 0) return;
  p.setRenderHint(QPainter::SmoothPixmapTransform);
  const int half = (height() - kBand) / 2;
  const QRect above(0, 0, width(), half), below(0, half + kBand, width(), half);
  p.drawImage(above, first_);
  p.drawImage(below, second_);
  const double column = static_cast<double>(width()) / static_cast<double>(difference_->columns);
  const auto xOf = [&](Seconds at) {
    const auto next = std::lower_bound(difference_->firstTime.begin(), difference_->firstTime.end(), at);
    return static_cast<double>(next - difference_->firstTime.begin()) * column;
  };
  // How much they differ, between the two; and the stretches where it matters.
  p.setPen(Qt::NoPen);
  for (std::size_t c = 0; c < difference_->columns; ++c) {
    const double share = std::clamp(static_cast<double>(difference_->difference[c]), 0.0, 1.0);
    p.setBrush(difference_->difference[c] > RepeatDifference::kDiffers ? t.warning : t.softInk);
    p.drawRect(QRectF(static_cast<double>(c) * column, half + kBand - 3 - share * (kBand - 6), column + 0.5,
                      share * (kBand - 6)));
  }
  for (const TimeSpan& span : difference_->differs) {
    const double from = xOf(span.start), to = xOf(span.end);
    p.setPen(QPen(t.warning, 2));
    p.setBrush(Qt::NoBrush);
    p.drawRect(QRectF(from, 1, to - from, half - 2));
    p.drawRect(QRectF(from, half + kBand + 1, to - from, half - 2));
  }
  p.setFont(Theme::font(Theme::Face::small));
  const auto plate = [&](const QRect& area, const QString& words) {
    const QRectF box(area.left() + 6, area.top() + 6, QFontMetrics(p.font()).horizontalAdvance(words) + 10, 18);
    p.setPen(Qt::NoPen);
    p.setBrush(t.ground);
    p.drawRoundedRect(box, 3, 3);
    p.setPen(t.ink);
    p.drawText(box, Qt::AlignCenter, words);
  };
  plate(above, tr("the passage, from %1").arg(text(clockTenths(difference_->firstTime.front()))));
  plate(below, tr("the other time, from %1").arg(text(clockTenths(difference_->secondTime.front()))));
}

void RepeatChart::mousePressEvent(QMouseEvent* event) {
  if (!difference_ || difference_->columns == 0) return;
  const double share = std::clamp(event->position().x() / std::max(1, width()), 0.0, 0.999);
  emit chosen(static_cast<std::size_t>(share * static_cast<double>(difference_->columns)),
              event->position().y() > height() / 2.0);
}

CompareWindow::CompareWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench), job_(this) {
  setWindowTitle(tr("Compare with another time"));
  setObjectName("compare");
  resize(860, 520);
  auto* column = windowColumn(this);
  sentence_ = wrappingLabel(this, "compare-sentence", Theme::Face::sentence);
  state_ = wrappingLabel(this, "soft", Theme::Face::text);
  other_ = new QComboBox(this);
  other_->setObjectName("compare-other");
  other_->setAccessibleName(tr("The other time"));
  chart_ = new RepeatChart(bench, this);
  hearFirst_ = plainButton(this, "compare-first", tr("Loop the passage"), tr("The upper one"));
  hearSecond_ = plainButton(this, "compare-second", tr("Loop the other time"), tr("The lower one"));
  column->addWidget(sentence_);
  column->addWidget(state_);
  column->addLayout(rowOf({other_, hearFirst_, hearSecond_}));
  column->addWidget(chart_, 1);
  connect(other_, &QComboBox::currentIndexChanged, this, &CompareWindow::compare);
  pause_.setSingleShot(true);
  pause_.setInterval(kPause);
  connect(&pause_, &QTimer::timeout, this, &CompareWindow::find);
  connect(&bench.selection(), &Selection::changed, this, [this] {
    // Not to one that this window itself has put in hand to be heard.
    const auto& now = bench_.selection().passage();
    if (now && *now != passage_ && std::find(repeats_.begin(), repeats_.end(), *now) == repeats_.end()) pause_.start();
  });
  connect(&job_, &BackgroundJob::failed, state_, &QLabel::setText);
  connect(hearFirst_, &QPushButton::clicked, this, [this] { bench_.selection().playSpot(passage_); });
  connect(hearSecond_, &QPushButton::clicked, this, [this] {
    if (other_->currentIndex() >= 0)
      bench_.selection().playSpot(repeats_[static_cast<std::size_t>(other_->currentIndex())]);
  });
  connect(chart_, &RepeatChart::chosen, this, [this](std::size_t c, bool second) {
    bench_.selection().playSpot(second ? repeats_[static_cast<std::size_t>(other_->currentIndex())] : passage_);
    bench_.transport().seek(second ? difference_->secondTime[c] : difference_->firstTime[c]);
  });
  find();
}

CompareWindow::~CompareWindow() {
  job_.cancel();
}

void CompareWindow::find() {
  repeats_.clear();
  const auto passage = bench_.selection().passage();
  if (bench_.transport().hasSound() && passage && passage->length() <= kLongest) {
    passage_ = *passage;
    repeats_ = repeatsOf(bench_.time().grid(), bench_.form().form(), passage_);
  }
  {
    const QSignalBlocker quiet(other_);
    other_->clear();
    for (const TimeSpan& r : repeats_) other_->addItem(spanWords(r));
  }
  for (QWidget* w : std::initializer_list<QWidget*>{other_, hearFirst_, hearSecond_}) w->setEnabled(!repeats_.empty());
  if (repeats_.empty()) {
    sentence_->setText(tr("Nothing to compare with"));
    state_->setText(!passage ? tr("Take a passage first: drag one, or press O for the bar at the playhead.")
                    : passage->length() > kLongest
                        ? tr("The passage is too long: take one of up to %1 seconds.").arg(std::lround(kLongest.value))
                        : tr("The section of this passage does not come again. Give sections that are the same music "
                             "the same letter on the map."));
    chart_->show(nullptr);
    return;
  }
  compare();
}

void CompareWindow::compare() {
  if (other_->currentIndex() < 0) return;
  sentence_->setText(tr("Comparing …"));
  state_->setText(spanWords(passage_));
  job_.run([this, recording = bench_.transport().player().shared(), first = passage_,
            second = repeats_[static_cast<std::size_t>(other_->currentIndex())],
            offset = bench_.document().offset()](const Progress& progress, const BackgroundJob::Post& post) {
    auto difference =
        std::make_shared<const RepeatDifference>(compareRepeats(*recording, first, second, offset, progress));
    if (progress.cancelled()) return;
    post([this, difference] {
      difference_ = difference;
      chart_->show(difference);
      const auto count = static_cast<int>(difference->differs.size());
      sentence_->setText(count == 0 ? tr("The same notes, as far as can be told")
                                    : tr("Differs in %1").arg(counted(count, tr("place"), tr("places"))));
      QStringList places;
      for (const TimeSpan& span : difference->differs) places << spanWords(span);
      state_->setText(count == 0 ? tr("Measured on the notes that stand out. Check by ear.")
                                 : tr("%1. Measured: check by ear, click to hear.").arg(places.join("; ")));
    });
  });
}

}  // namespace ear
