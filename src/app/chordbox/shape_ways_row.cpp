// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/chordbox/shape_ways_row.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>

#include "app/theme/pieces.h"
#include "app/theme/words.h"

namespace ear {

ShapeWaysRow::ShapeWaysRow(QWidget* parent) : QWidget(parent) {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  const auto notes = [this](const char* name, const QString& words, int first) {
    auto* box = new QComboBox(this);
    box->setObjectName(name);
    box->setAccessibleName(words);
    for (int pc = 0; pc < 12; ++pc) box->addItem(QString());
    box->setCurrentIndex(first);
    connect(box, &QComboBox::activated, this, &ShapeWaysRow::refresh);
    return box;
  };
  shapes_ = notes("ways-shapes", tr("Shapes of this chord"), 4);
  sounding_ = notes("ways-sounding", tr("What they are to sound"), 7);
  ways_ = new QComboBox(this);
  ways_->setObjectName("ways-list");
  ways_->setAccessibleName(tr("With this capo"));
  auto* put = plainButton(this, "ways-try", tr("Put it on"), tr("Tuning and capo above become these, to try shapes"));
  row->addWidget(new QLabel(tr("Shapes of"), this));
  row->addWidget(shapes_);
  row->addWidget(new QLabel(tr("sound"), this));
  row->addWidget(sounding_);
  row->addWidget(new QLabel(tr("with"), this));
  row->addWidget(ways_, 1);
  row->addWidget(put);
  connect(put, &QPushButton::clicked, this,
          [this] { emit tried(found_[static_cast<std::size_t>(std::max(0, ways_->currentIndex()))]); });
  setSpelling(Spelling::sharps);
}

void ShapeWaysRow::setSpelling(Spelling spelling) {
  for (auto* box : {shapes_, sounding_})
    for (int pc = 0; pc < 12; ++pc) box->setItemText(pc, text(pitchClassName(PitchClass(pc), spelling)));
  refresh();
}

void ShapeWaysRow::refresh() {
  found_ = waysToSound(PitchClass(shapes_->currentIndex()), PitchClass(sounding_->currentIndex()));
  ways_->clear();
  for (const auto& way : found_) ways_->addItem(text(sentenceOf(way)));
}

}  // namespace ear
