// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/hear/freeze_window.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/text.h"
#include "core/theory/fretboard.h"

namespace ear {
namespace {

constexpr double kFloor = -80, kTop = -6;  // dB that are drawn
constexpr int kFoot = 18;                  // pixels of the names

}  // namespace

SpectrumChart::SpectrumChart(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("freeze-chart");
  setMinimumHeight(210);
  setAccessibleName(tr("Spectrum of the held moment"));
  setToolTip(tr("Loudness over pitch; what may be a note stands out. Click to hear a note"));
}

void SpectrumChart::show(MomentSpectrum spectrum, std::vector<NoteHint> notes) {
  spectrum_ = std::move(spectrum);
  notes_ = std::move(notes);
  update();
}

double SpectrumChart::xOf(double midi) const {
  return (midi - MomentSpectrum::kLowest) / (MomentSpectrum::kHighest - MomentSpectrum::kLowest) * width();
}

void SpectrumChart::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::current();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const double floor = height() - kFoot;
  const auto yOf = [&](double decibels) {
    return floor - std::max(0.0, (decibels - kFloor) / (kTop - kFloor)) * (floor - 16);
  };
  p.setFont(Theme::font(Theme::Face::small));
  for (int midi = MomentSpectrum::kLowest; midi <= MomentSpectrum::kHighest; midi += 12) {
    p.setPen(t.hairline);
    p.drawLine(QPointF(xOf(midi), 0), QPointF(xOf(midi), floor));
    p.setPen(t.softInk);
    p.drawText(QRectF(xOf(midi) + 3, floor, 40, kFoot), Qt::AlignLeft | Qt::AlignVCenter,
               text(noteName(midi, bench_.session().spelling())));
  }
  if (spectrum_.decibels.empty()) return;
  QPainterPath hill(QPointF(0, floor));
  for (std::size_t i = 0; i < spectrum_.decibels.size(); ++i)
    hill.lineTo(xOf(MomentSpectrum::midiOf(i)), yOf(static_cast<double>(spectrum_.decibels[i])));
  hill.lineTo(width(), floor);
  QColor wash = t.softInk;
  wash.setAlpha(70);
  p.setPen(QPen(t.softInk, 1));
  p.setBrush(wash);
  p.drawPath(hill);
  for (const auto& note : notes_) {
    const double x = xOf(note.midi);
    p.setPen(QPen(t.accent, 2));
    p.drawLine(QPointF(x, 16), QPointF(x, floor));
    p.setPen(t.ink);
    p.drawText(QRectF(x - 24, 0, 48, 15), Qt::AlignCenter, text(noteName(note.midi, bench_.session().spelling())));
  }
}

void SpectrumChart::mousePressEvent(QMouseEvent* event) {
  const double midi = MomentSpectrum::kLowest + event->position().x() / std::max(1, width()) *
                                                    (MomentSpectrum::kHighest - MomentSpectrum::kLowest);
  bench_.voice().tone(static_cast<int>(std::lround(midi)));
}

FreezeWindow::FreezeWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Held moment"));
  setObjectName("freeze");
  resize(640, 470);
  auto* column = windowColumn(this);
  sentence_ = wrappingLabel(this, "freeze-sentence", Theme::Face::sentence);
  chart_ = new SpectrumChart(bench, this);
  list_ = new QListWidget(this);
  list_->setObjectName("freeze-notes");
  list_->setAccessibleName(tr("Notes that may sound"));
  list_->setToolTip(tr("Choose one to hear it beside the held moment"));
  hold_ = plainButton(this, "freeze-hold", {}, tr("Let the moment go on sounding, or be quiet"));
  auto* again = plainButton(this, "freeze-again", tr("Take the moment at the playhead"),
                            tr("Another moment: move the playhead, then press this"));
  column->addWidget(sentence_);
  column->addWidget(chart_, 2);
  column->addWidget(new QLabel(tr("May sound, the strongest first. Check by ear: choose one to hear it."), this));
  column->addWidget(list_, 1);
  column->addLayout(rowOf({hold_, again}));
  connect(again, &QPushButton::clicked, this, &FreezeWindow::take);
  connect(hold_, &QPushButton::clicked, this, [this] {
    bench_.voice().held().holding() ? bench_.voice().held().release() : take();
    refresh();
  });
  connect(list_, &QListWidget::itemClicked, this,
          [this](QListWidgetItem* item) { bench_.voice().tone(item->data(Qt::UserRole).toInt()); });
  take();
}

FreezeWindow::~FreezeWindow() {
  bench_.voice().held().release();
}

void FreezeWindow::take() {
  list_->clear();
  if (!bench_.transport().hasSound() || !bench_.transport().openOutput()) {
    sentence_->setText(tr("Open a recording first"));
    return;
  }
  if (bench_.transport().playing()) bench_.transport().togglePlay();
  const Recording& recording = *bench_.transport().player().recording();
  const Seconds at = bench_.transport().position();
  const Cents offset = bench_.document().offset();
  auto notes = noteHintsAt(recording, at, offset);
  const Guitar guitar = bench_.document().guitar();
  const bool fromNut = bench_.document().fretsFromNut();
  for (const auto& note : notes) {
    QStringList places;
    for (const FretPosition& place : placesOf(guitar, note.midi))
      places << text(placeName(bench_.session().notation(), guitar, place, fromNut, bench_.session().spelling()));
    auto* item = new QListWidgetItem(
        tr("%1   %2   %3")
            .arg(text(noteName(note.midi, bench_.session().spelling())), percent(note.likely), places.join("; ")),
        list_);
    item->setData(Qt::UserRole, note.midi);
  }
  chart_->show(spectrumAt(recording, at, offset), std::move(notes));
  bench_.voice().held().hold(holdMoment(recording, at));
  sentence_->setText(tr("Held at %1").arg(text(clockTenths(at))));
  refresh();
}

void FreezeWindow::refresh() {
  hold_->setText(bench_.voice().held().holding() ? tr("Quiet") : tr("Hold it again"));
}

}  // namespace ear
