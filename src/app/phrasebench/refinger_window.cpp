// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/phrasebench/refinger_window.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>

#include "app/neck/string_choice.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"

namespace ear {
namespace {

constexpr double kAll = 1.0;  // of a wish
constexpr int kMostShift = 24, kMostCapo = 12, kMostHand = 17;

}  // namespace

RefingerWindow::RefingerWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Another place for the phrase"));
  auto* column = windowColumn(this);
  auto* form = new QFormLayout;
  from_ = new QComboBox(this);
  from_->setObjectName("refinger-from");
  from_->addItem(tr("the guitar as it is settled"), -1);
  int i = 0;
  for (const NamedTuning& t : tuningCatalogue()) from_->addItem(text(t.name), i++);
  from_->setToolTip(
      tr("What the frets were written for: the sound stays when the guitar turns out to be tuned otherwise"));
  capo_ = new QSpinBox(this);
  capo_->setObjectName("refinger-capo");
  capo_->setRange(0, kMostCapo);
  capo_->setSpecialValueText(tr("no capo"));
  to_ = new QComboBox(this);
  to_->setObjectName("refinger-to");
  for (const GuitarPart& p : bench.document().parts()) to_->addItem(text(p.name), text(p.id));
  if (const Phrase* p = bench.phrases().phrase()) to_->setCurrentIndex(std::max(0, to_->findData(text(p->part))));
  to_->setToolTip(tr("The guitar of the take that plays it"));
  higher_ = new QSpinBox(this);
  higher_->setObjectName("refinger-higher");
  higher_->setRange(-kMostShift, kMostShift);
  higher_->setSuffix(tr(" semitones"));
  hand_ = new QSpinBox(this);
  hand_->setObjectName("refinger-hand");
  hand_->setRange(0, kMostHand);
  hand_->setSpecialValueText(tr("where it is easiest"));
  hand_->setPrefix(tr("fret "));
  strings_ = new StringChoice(this);
  strings_->setObjectName("refinger-strings");
  strings_->setToolTip(tr("It is to lie on these strings alone"));
  form->addRow(tr("Written for"), from_);
  form->addRow(tr("with"), capo_);
  form->addRow(tr("To be played on"), to_);
  form->addRow(tr("Higher by"), higher_);
  form->addRow(tr("First finger at"), hand_);
  form->addRow(tr("On"), strings_);
  over_ = new QComboBox(this);
  over_->setObjectName("refinger-over");
  over_->setToolTip(
      tr("Where the hand is anyway: the boxes that the phrase states, or a shape of the chords under it"));
  form->addRow(tr("Under the hand"), over_);
  tone_ = new QComboBox(this);
  tone_->setObjectName("refinger-tone");
  tone_->addItem(tr("as it comes"), 0.0);
  tone_->addItem(tr("thick, on low strings"), kAll);
  tone_->addItem(tr("thin, on high strings"), -kAll);
  tone_->setToolTip(tr("The same note is thicker higher up on a lower string"));
  form->addRow(tr("Sound"), tone_);
  column->addLayout(form);
  column->addWidget(caption(tr("Ways, the easiest first"), this));
  ways_ = new QListWidget(this);
  ways_->setObjectName("refinger-ways");
  ways_->setAccessibleName(tr("Ways to play the phrase"));
  ways_->setWordWrap(true);
  column->addWidget(ways_, 1);
  lost_ = wrappingLabel(this, "refinger-lost", Theme::Face::text);
  column->addWidget(lost_);
  here_ = plainButton(this, "refinger-here", tr("Write it so"), tr("The notes go there; Ctrl+Z takes it back"));
  level_ =
      plainButton(this, "refinger-level", tr("As another level"), tr("The phrase stays as it is, with this beside it"));
  column->addLayout(rowOf({here_, level_}));
  for (QComboBox* box : std::initializer_list<QComboBox*>{from_, to_, strings_, over_, tone_})
    connect(box, &QComboBox::activated, this, &RefingerWindow::refresh);
  for (QSpinBox* box : {capo_, higher_, hand_}) connect(box, &QSpinBox::valueChanged, this, &RefingerWindow::refresh);
  connect(ways_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (row < 0) return;
    const auto lost = static_cast<int>(found_[static_cast<std::size_t>(row)].unplayable.size());
    lost_->setText(
        lost == 0 ? tr("All of it can be played there.")
                  : tr("%1 cannot be played there and will be missing.").arg(counted(lost, tr("note"), tr("notes"))));
  });
  connect(here_, &QPushButton::clicked, this, [this] { take(false); });
  connect(level_, &QPushButton::clicked, this, [this] { take(true); });
  connect(&bench.phrases(), &PhraseKeeper::changed, this, &RefingerWindow::refresh);
  resize(440, 520);
  refresh();
}

Guitar RefingerWindow::writtenFor() const {
  Guitar guitar = bench_.phrases().view().guitar;
  const int chosen = from_->currentData().toInt();
  if (chosen < 0) return guitar;
  guitar.tuning = tuningCatalogue()[static_cast<std::size_t>(chosen)].tuning;
  guitar.capo = Capo{.fret = capo_->value()};
  return guitar;
}

Guitar RefingerWindow::playedOn() const {
  for (const GuitarPart& p : bench_.document().parts())
    if (text(p.id) == to_->currentData().toString()) return bench_.phrases().guitarOf(p);
  return bench_.phrases().view().guitar;
}

void RefingerWindow::refresh() {
  capo_->setEnabled(from_->currentData().toInt() >= 0);
  const Phrase* p = bench_.phrases().phrase();
  const std::vector<Note>& notes = bench_.phrases().view().notes;
  const Guitar guitar = playedOn();
  QStringList names;
  for (int s = 0; s < guitar.strings(); ++s)
    names << text(stringMark(bench_.session().notation(), guitar, s, bench_.session().spelling()));
  strings_->setStrings(names);
  PlacingWishes wishes;
  wishes.strings = strings_->strings();
  wishes.thick = tone_->currentData().toDouble();
  if (hand_->value() > 0) wishes.hand = hand_->value();
  offerShapes(guitar);
  wishes.inUse = placesInUse(guitar);
  found_ = refingered(notes, writtenFor(), guitar, higher_->value(), wishes, 4);
  ways_->clear();
  for (const Refingered& way : found_) ways_->addItem(capitalised(text(sentenceOf(way.way))));
  if (found_.empty()) lost_->setText(p == nullptr ? tr("Open a phrase first.") : tr("None of it can be played there."));
  ways_->setCurrentRow(found_.empty() ? -1 : 0);
  const bool own = p != nullptr && to_->currentData().toString() == text(p->part);
  here_->setText(own ? tr("Write it so") : tr("As a phrase of that guitar"));
  here_->setEnabled(!found_.empty());
  level_->setEnabled(!found_.empty() && own);
}

void RefingerWindow::offerShapes(const Guitar& guitar) {
  QStringList offered = {tr("nothing in particular")};
  if (const Phrase* p = bench_.phrases().phrase(); p != nullptr && !placesInBoxes(guitar, p->scales).empty())
    offered << tr("the boxes it states");
  std::vector<Chord> chords = bench_.phrases().chordsUnder();
  if (!chords.empty())
    for (const NeckRegion& shape : shapesOf(guitar, chords.front())) offered << text(shape.label);
  const QString chosen = over_->currentText();
  over_->clear();
  over_->addItems(offered);
  over_->setCurrentIndex(std::max(0, over_->findText(chosen)));
}

std::vector<FretPosition> RefingerWindow::placesInUse(const Guitar& guitar) const {
  const Phrase* p = bench_.phrases().phrase();
  if (p == nullptr || over_->currentIndex() <= 0) return {};
  if (over_->currentText() == tr("the boxes it states")) return placesInBoxes(guitar, p->scales);
  return placesInShape(guitar, bench_.phrases().chordsUnder(), over_->currentText().toStdString());
}

void RefingerWindow::take(bool asLevel) {
  const int row = ways_->currentRow();
  if (row < 0) return;
  const std::vector<Note> notes = found_[static_cast<std::size_t>(row)].notes;
  if (asLevel)
    bench_.phrases().addLevel(tr("another place"), notes);
  else
    bench_.phrases().replaceNotes(to_->currentData().toString().toStdString(), notes);
  close();
}

}  // namespace ear
