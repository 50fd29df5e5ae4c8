// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/tuneup/tuner_panel.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/base/quantities.h"
#include "core/base/text.h"
#include "devices/simulated_guitar.h"

namespace ear {
namespace {

constexpr int kLook = 60;  // ms between two looks at the tuner

}  // namespace

TunerPanel::TunerPanel(Workbench& bench, std::unique_ptr<AudioInput> input, std::function<Guitar()> target,
                       QWidget* parent)
    : QWidget(parent), bench_(bench), input_(std::move(input)), target_(std::move(target)) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  dial_ = new TunerDial(this);
  dial_->setObjectName("tuner-dial");
  column->addWidget(dial_);
  says_ = new QLabel(this);
  says_->setObjectName("tuner-says");
  says_->setFont(Theme::font(Theme::Face::strong));
  says_->setWordWrap(true);
  says_->setMinimumHeight(2 * QFontMetrics(says_->font()).lineSpacing());  // so that the dial keeps its room
  column->addWidget(says_);
  only_ = new QComboBox(this);
  only_->setObjectName("tuner-string");
  only_->setAccessibleName(tr("String to tune"));
  only_->setToolTip(tr("Which string is meant; by itself the tuner takes the nearest one"));
  connect(only_, &QComboBox::activated, this, [this] {
    const std::lock_guard lock(mutex_);
    if (tuner_) tuner_->setGuitar(target_(), only_->currentData().toInt());
  });
  column->addWidget(only_);
  inputName_ = new QLabel(this);
  inputName_->setObjectName("soft");
  inputName_->setWordWrap(true);
  column->addWidget(inputName_);
  if (input_->simulated()) makeSimulated(column);
  timer_.setInterval(kLook);
  connect(&timer_, &QTimer::timeout, this, &TunerPanel::look);
}

TunerPanel::~TunerPanel() {
  input_->stop();
}

void TunerPanel::makeSimulated(QVBoxLayout* column) {
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  plucked_ = new QComboBox(this);
  plucked_->setObjectName("simulated-string");
  plucked_->setAccessibleName(tr("String of the simulated guitar"));
  detuned_ = new QDoubleSpinBox(this);
  detuned_->setObjectName("simulated-cents");
  detuned_->setAccessibleName(tr("How far it is out of tune"));
  detuned_->setRange(-100, 100);
  detuned_->setDecimals(0);
  detuned_->setSuffix(tr(" cents"));
  detuned_->setValue(-12);
  auto* pluck = new QPushButton(tr("Pluck"), this);
  pluck->setObjectName("simulated-pluck");
  pluck->setToolTip(tr("Plucks this string of the simulated guitar, out of tune by so much"));
  connect(pluck, &QPushButton::clicked, this, [this] {
    if (auto* guitar = dynamic_cast<SimulatedGuitar*>(input_.get()))
      guitar->pluck(target_(), plucked_->currentData().toInt(), Cents(detuned_->value()));
  });
  row->addWidget(plucked_, 1);
  row->addWidget(detuned_);
  row->addWidget(pluck);
  column->addLayout(row);
}

QString TunerPanel::nameOf(const Guitar& guitar, int string) const {
  const auto spelling = spellingOf(guitar.tuning, bench_.session().notation());
  return tr("string %1, %2")
      .arg(text(stringName(bench_.session().notation(), guitar, string, spelling)),
           text(noteName(guitar.open(string), spelling)));
}

void TunerPanel::refresh() {
  const Guitar guitar = target_();
  for (QComboBox* box : {only_, plucked_}) {
    if (box == nullptr) continue;  // a real input has nothing to pluck
    const int was = box->currentIndex();
    box->clear();
    if (box == only_) box->addItem(tr("the nearest string"), -1);
    for (int s = 0; s < guitar.strings(); ++s) box->addItem(nameOf(guitar, s), s);
    box->setCurrentIndex(std::clamp(was, 0, box->count() - 1));
  }
  const std::lock_guard lock(mutex_);
  if (tuner_) tuner_->setGuitar(guitar, only_->currentData().toInt());
}

void TunerPanel::listen(bool on) {
  input_->stop();
  timer_.stop();
  if (!on) return;
  const int rate = input_->start([this](std::span<const float> block) { take(block); });
  {
    const std::lock_guard lock(mutex_);
    tuner_ = rate > 0 ? std::make_unique<Tuner>(rate) : nullptr;
    if (tuner_) tuner_->setGuitar(target_(), only_->currentData().toInt());
  }
  inputName_->setText(rate > 0
                          ? tr("Listening to: %1").arg(text(input_->name()))
                          : tr("“%1” cannot be listened to. Choose another input in the system's settings and open "
                               "this window again.")
                                .arg(text(input_->name())));
  if (rate > 0) timer_.start();
}

void TunerPanel::take(std::span<const float> block) {
  const std::lock_guard lock(mutex_);
  if (tuner_) tuner_->feed(block);
}

void TunerPanel::look() {
  std::optional<TunerReading> reading;
  {
    const std::lock_guard lock(mutex_);
    if (tuner_) reading = tuner_->reading();
  }
  if (!reading) {
    dial_->show(std::nullopt);
    says_->setText(tr("Play one string at a time."));
    return;
  }
  dial_->show(reading->off);
  const Guitar guitar = target_();
  const QString string = nameOf(guitar, reading->string);
  const double off = reading->off.value;
  says_->setText(
      capitalised(std::abs(off) <= TunerDial::kInTune
                      ? tr("%1: in tune with the recording (%2)").arg(string, text(hertzWords(reading->pitch)))
                      : tr("%1: %2 cents too %3, %4 it (%5)")
                            .arg(string, text(fixed(std::abs(off), 1)), off > 0 ? tr("high") : tr("low"),
                                 off > 0 ? tr("slacken") : tr("tighten"), text(hertzWords(reading->pitch)))));
}

}  // namespace ear
