// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/guitar_details.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QSignalBlocker>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/theory/pitch.h"

namespace ear {

GuitarDetails::GuitarDetails(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* rows = new QFormLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(6);
  instrument_ = new QComboBox(this);
  instrument_->setObjectName("guitar-instrument");
  for (int i = 0; i < kInstruments; ++i) instrument_->addItem(text(instrumentWord(static_cast<Instrument>(i))));
  instrument_->setToolTip(tr("What it is played on; the sheet says so"));
  sound_ = new QLineEdit(this);
  sound_->setObjectName("guitar-sound");
  sound_->setPlaceholderText(tr("neck pickup, a little gain"));
  sound_->setToolTip(tr("How it sounds, in your own words: pickup, gain, effects, slide or fingers"));
  range_ = new QLineEdit(this);
  range_->setObjectName("guitar-range");
  range_->setPlaceholderText(tr("E2 to B4"));
  range_->setToolTip(tr("Its lowest and its highest note as they sound"));
  doubled_ = new QComboBox(this);
  doubled_->setObjectName("guitar-doubled");
  doubled_->setToolTip(tr("Another guitar of the recording that plays the same"));
  rows->addRow(tr("Played on"), instrument_);
  rows->addRow(tr("Sound"), sound_);
  rows->addRow(tr("Range"), range_);
  rows->addRow(tr("Doubled by"), doubled_);

  connect(instrument_, &QComboBox::activated, this, [this](int i) {
    change(tr("Say what is played"), [i](GuitarPart& p) { p.instrument = static_cast<Instrument>(i); });
  });
  connect(sound_, &QLineEdit::editingFinished, this, [this] {
    const std::string words = sound_->text().trimmed().toStdString();
    if (words != bench_.document().part().sound)
      change(tr("Describe the sound"), [&](GuitarPart& p) { p.sound = words; });
  });
  connect(range_, &QLineEdit::editingFinished, this, &GuitarDetails::takeRange);
  connect(doubled_, &QComboBox::activated, this, [this](int i) {
    change(tr("Say what doubles it"),
           [id = doubled_->itemData(i).toString().toStdString()](GuitarPart& p) { p.doubledBy = id; });
  });
}

void GuitarDetails::change(const QString& label, const std::function<void(GuitarPart&)>& change) {
  bench_.document().editPart(label.toStdString(), bench_.document().part().id, change);
}

void GuitarDetails::takeRange() {
  const QString typed = range_->text().trimmed();
  const auto now = bench_.document().part().range;
  if (typed == text(rangeWords(now))) return;
  const auto read = parseRange(typed.toStdString());
  if (!typed.isEmpty() && !read) {
    bench_.say(tr("“%1” is no range. Write its lowest and its highest note, such as “E2 to B4”.").arg(typed));
    range_->setText(text(rangeWords(now)));
    return;
  }
  range_->setText(text(rangeWords(read)));
  change(tr("Set the range"), [&](GuitarPart& p) { p.range = read; });
}

void GuitarDetails::refresh() {
  const GuitarPart part = bench_.document().part();
  const QSignalBlocker a(instrument_), b(doubled_);
  instrument_->setCurrentIndex(static_cast<int>(part.instrument));
  // What is being typed stays, but not for another guitar: it would be written down as that one's.
  const bool another = part.id != shown_;
  shown_ = part.id;
  if (another || !sound_->hasFocus()) sound_->setText(text(part.sound));
  if (another || !range_->hasFocus()) range_->setText(text(rangeWords(part.range)));
  doubled_->clear();
  doubled_->addItem(tr("no other guitar"), QString());
  for (const auto& other : bench_.document().parts())
    if (other.id != part.id) doubled_->addItem(text(other.name), text(other.id));
  doubled_->setCurrentIndex(std::max(0, doubled_->findData(text(part.doubledBy))));
  doubled_->setEnabled(doubled_->count() > 1);
}

}  // namespace ear
