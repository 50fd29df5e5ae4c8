// SPDX-License-Identifier: GPL-3.0-or-later
// What the chord box shows, and where.
#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/chordbox/chord_box.h"
#include "app/neck/capo_choices.h"
#include "app/theme/pieces.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/study/tune_up.h"

namespace ear {
namespace {
constexpr int kHighestCapo = 9;
}

QWidget* ChordBox::makeGuitarRow() {
  auto* row = new QWidget(this);
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  tuning_ = new QComboBox(row);
  tuning_->setObjectName("chord-tuning");
  tuning_->setAccessibleName(tr("Tuning"));
  for (const auto& named : tuningCatalogue())
    if (named.tuning.count() == 6)
      tuning_->addItem(text(std::string(named.name)) + "   " +
                           text(tuningLetters(named.tuning, spellingOf(named.tuning, bench_.session().notation()))),
                       text(tuningLetters(named.tuning, Spelling::sharps, true)));
  tuning_->setCurrentIndex(-1);
  capo_ = new QSpinBox(row);
  capo_->setObjectName("chord-capo");
  capo_->setAccessibleName(tr("Capo"));
  capo_->setRange(0, kHighestCapo);
  capo_->setSpecialValueText(tr("no capo"));
  capo_->setPrefix(tr("capo at "));
  capoStrings_ = new QComboBox(row);
  capoStrings_->setObjectName("chord-capo-strings");
  fillCapoChoices(capoStrings_);
  line->addWidget(new QLabel(tr("Guitar"), row));
  line->addWidget(tuning_, 1);
  line->addWidget(capo_);
  line->addWidget(capoStrings_);
  return row;
}

QWidget* ChordBox::makeNeckSide() {
  auto* side = new QWidget(this);
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  neck_ = new NeckGrid(side);
  name_ = new QLabel(side);
  name_->setObjectName("chord-name");
  name_->setFont(Theme::font(Theme::Face::figure));
  sounding_ = new QLabel(side);
  notes_ = new QLabel(side);
  grip_ = new QLabel(side);
  for (auto* soft : {sounding_, notes_, grip_}) soft->setObjectName("soft");
  sounding_->setAccessibleName(tr("What it sounds"));
  others_ = new QListWidget(side);
  others_->setObjectName("chord-others");
  others_->setAccessibleName(tr("Other names"));
  others_->setFixedHeight(96);
  others_->setFocusPolicy(Qt::NoFocus);
  column->addWidget(caption(tr("Click frets, read the name"), side));
  column->addWidget(neck_);
  column->addWidget(name_);
  column->addWidget(sounding_);
  column->addWidget(notes_);
  column->addWidget(grip_);
  hear_ = plainButton(side, "chord-hear", tr("Hear it"), tr("Strum it at the pitch the recording sounds at now"));
  onNeck_ = plainButton(side, "chord-on-neck", tr("On the neck"), tr("Show it on the neck of the guitar in hand"));
  here_ = plainButton(side, "chord-put-here", tr("At the playhead"),
                      tr("It is the chord that sounds at the playhead; Ctrl+Z takes it back"));
  toPassage_ = plainButton(side, "chord-to-passage", tr("To the passage"),
                           tr("Write its name and frets into the notes of the passage on the desk"));
  connect(hear_, &QPushButton::clicked, this, [this] { bench_.voice().strum(pitchesOf(guitar_, neck_->places())); });
  connect(onNeck_, &QPushButton::clicked, this, [this] { emit neckWanted(neck_->places()); });
  connect(here_, &QPushButton::clicked, this, [this] { bench_.chords().putHere(*sounding()); });
  connect(toPassage_, &QPushButton::clicked, this, &ChordBox::writeToPassage);
  column->addLayout(rowOf({hear_, onNeck_}));
  picture_ = plainButton(side, "chord-picture", tr("Picture …"), tr("Its box as an SVG or PNG file, to put elsewhere"));
  connect(picture_, &QPushButton::clicked, this, [this] {
    const QString file = QFileDialog::getSaveFileName(this, tr("Picture of the box"), name_->text() + ".svg",
                                                      tr("Pictures (*.svg *.png)"));
    if (!file.isEmpty()) writePicture(file);
  });
  column->addLayout(rowOf({here_, toPassage_, picture_}));
  column->addWidget(caption(tr("It can also be read as"), side));
  column->addWidget(others_);
  column->addStretch();
  return side;
}

QWidget* ChordBox::makeShapeSide() {
  auto* side = new QWidget(this);
  auto* column = new QVBoxLayout(side);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(6);
  typed_ = new QLineEdit(side);
  typed_->setObjectName("chord-typed");
  typed_->setAccessibleName(tr("Name of a chord shape, or its frets"));
  typed_->setPlaceholderText(tr("such as F#m7 or D/F#, or frets such as x02220"));
  typed_->setClearButtonEnabled(true);
  wrong_ = new QLabel(side);
  wrong_->setObjectName("warning");
  wrong_->setWordWrap(true);
  found_ = new QListWidget(side);
  found_->setObjectName("chord-shapes");
  found_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  found_->setAccessibleName(tr("Shapes, the usual ones first"));
  found_->setFont(Theme::font(Theme::Face::text));
  column->addWidget(caption(tr("Type a name, or frets"), side));
  column->addWidget(typed_);
  column->addWidget(wrong_);
  column->addWidget(found_, 1);
  side->setMinimumWidth(340);
  return side;
}

}  // namespace ear
