// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/ears/ears_window.h"

#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"

namespace ear {
namespace {

QString duration(Seconds t) {
  const auto minutes = std::lround(t.value / 60);
  return minutes < 60 ? QObject::tr("%1 min").arg(minutes)
                      : QObject::tr("%1 h %2 min").arg(minutes / 60).arg(minutes % 60);
}

}  // namespace

EarsWindow::EarsWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Ears"));
  setObjectName("ears");
  resize(480, 470);
  auto* column = windowColumn(this);
  const auto label = [&](const char* name, Theme::Face face) {
    auto* l = wrappingLabel(this, name, face);
    column->addWidget(l);
    return l;
  };
  now_ = label("ears-now", Theme::Face::sentence);
  today_ = label("ears-today", Theme::Face::text);
  week_ = label("ears-week", Theme::Face::text);
  bar_ = new QProgressBar(this);
  bar_->setObjectName("ears-bar");
  bar_->setRange(0, 1000);
  bar_->setTextVisible(false);
  bar_->setAccessibleName(tr("Share of the week's allowance"));
  column->addWidget(bar_);
  auto* source = label("soft", Theme::Face::small);
  source->setText(tr(
      "Allowance: 80 dB(A) for 40 hours in a week, half the time for each 3 dB more (WHO-ITU H.870, for adults). Only "
      "what Inner Ear plays is counted."));
  column->addSpacing(8);
  column->addWidget(caption(tr("How loud is it?"), this));
  mark_ = label("ears-mark", Theme::Face::text);
  talk_ = plainButton(
      this, "ears-talk", tr("It is as loud as talk now"),
      tr("Play a passage and set the loudness of the headphones so that it is as loud as someone talking to you at a "
         "metre, then press this"));
  forget_ = plainButton(this, "ears-forget", tr("Forget it"), tr("The loudness is not known any more"));
  column->addLayout(rowOf({talk_, forget_}));
  auto* form = new QFormLayout;
  reminder_ = new QSpinBox(this);
  reminder_->setObjectName("ears-reminder");
  reminder_->setRange(0, 240);
  reminder_->setSingleStep(5);
  reminder_->setSpecialValueText(tr("never"));
  reminder_->setSuffix(tr(" min"));
  form->addRow(tr("Propose a rest after"), reminder_);
  column->addLayout(form);
  column->addStretch();
  auto* deferring = label("soft", Theme::Face::small);
  deferring->setText(
      tr("These are estimates, not a measurement at your ear. Rules for work with sound differ from place to place and "
         "come first. Ringing or dull hearing belongs before a hearing professional."));
  connect(talk_, &QPushButton::clicked, this, [this] {
    if (!bench_.guard().calibrateToTalk()) bench_.say(tr("Play something first: nothing sounds now."));
  });
  connect(forget_, &QPushButton::clicked, this, [this] { bench_.guard().forgetCalibration(); });
  connect(reminder_, &QSpinBox::valueChanged, this, [this](int m) { bench_.guard().setReminderMinutes(m); });
  connect(&bench.guard(), &ListeningGuard::changed, this, &EarsWindow::refresh);
  refresh();
}

void EarsWindow::refresh() {
  const ListeningGuard& guard = bench_.guard();
  const bool known = guard.calibration().has_value();
  const auto level = guard.level();
  now_->setText(!guard.digitalLevel() ? tr("Nothing sounds now")
                : level               ? tr("About %1 dB(A) now").arg(std::lround(level->value))
                                      : tr("Something sounds; how loud is not known yet"));
  const auto today = guard.today(), week = guard.week();
  today_->setText(known ? tr("Today: %1, %2 of a week's allowance").arg(duration(today.time), percent(today.dose))
                        : tr("Today: %1").arg(duration(today.time)));
  week_->setText(known ? tr("Last seven days: %1, %2 of the allowance").arg(duration(week.time), percent(week.dose))
                       : tr("Last seven days: %1").arg(duration(week.time)));
  bar_->setVisible(known);
  bar_->setValue(static_cast<int>(std::lround(1000 * std::clamp(week.dose, 0.0, 1.0))));
  mark_->setText(known
                     ? tr("Set: the level you marked counts as talk at a metre, about 60 dB(A). Mark it again after "
                          "changing headphones, or the loudness outside of Inner Ear.")
                     : tr("Not set: Inner Ear cannot know how loud your headphones are. Play a passage, turn it until "
                          "it is as loud as someone talking to you at a metre, and say so once."));
  talk_->setEnabled(guard.digitalLevel().has_value());
  forget_->setEnabled(known);
  const QSignalBlocker quiet(reminder_);
  reminder_->setValue(guard.reminderMinutes());
}

}  // namespace ear
