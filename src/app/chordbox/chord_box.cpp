// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/chordbox/chord_box.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/chordbox/shape_ways_row.h"
#include "app/neck/capo_choices.h"
#include "app/paper/paper_picture.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "app/workbench/paths.h"
#include "core/study/parts.h"
#include "core/study/tune_up.h"
#include "core/theory/chord_naming.h"
#include "core/theory/fret_count.h"
#include "core/theory/key.h"

namespace ear {
namespace {

constexpr double kEasy = 3.5, kFair = 6.0;  // of Grip::effort

QString describe(const Grip& grip) {
  if (grip.fingers == 0) return QObject::tr("all open");
  QString words = counted(grip.fingers, QObject::tr("finger"), QObject::tr("fingers"));
  if (grip.barre > 0) words += QObject::tr(", barre at %1").arg(grip.barre);
  if (!grip.playable()) return words + QObject::tr(", out of reach for one hand");
  return words + (grip.effort <= kEasy   ? QObject::tr(", easy")
                  : grip.effort <= kFair ? QObject::tr(", fair")
                                         : QObject::tr(", demanding"));
}

}  // namespace

ChordBox::ChordBox(Workbench& bench, QWidget* parent)
    : QDialog(parent), bench_(bench), spelling_(bench.session().spelling()), guitar_(bench.document().guitar()) {
  setWindowTitle(tr("Chord box"));
  setObjectName("chord-box");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 16, 20, 16);
  column->setSpacing(12);
  column->addWidget(makeGuitarRow());
  auto* sides = new QHBoxLayout;
  sides->setSpacing(28);
  sides->addWidget(makeNeckSide());
  sides->addWidget(makeShapeSide(), 1);
  column->addLayout(sides, 1);
  ways_ = new ShapeWaysRow(this);
  column->addWidget(caption(tr("Which capo?"), this));
  column->addWidget(ways_);
  connect(ways_, &ShapeWaysRow::tried, this, &ChordBox::tryWay);
  bench.session().whenChanged(kOfBrief | Changed::chords, this, &ChordBox::followDesk);
  connect(&bench.selection(), &Selection::changed, this, &ChordBox::allowPlaces);
  connect(capoStrings_, &QComboBox::activated, this, &ChordBox::changeGuitar);
  connect(tuning_, &QComboBox::activated, this, &ChordBox::changeGuitar);
  connect(capo_, &QSpinBox::valueChanged, this, &ChordBox::changeGuitar);
  connect(neck_, &NeckGrid::changed, this, &ChordBox::readFrets);
  connect(typed_, &QLineEdit::textChanged, this, &ChordBox::findShapes);
  connect(found_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (row >= 0) neck_->setPlaces(shapes_[static_cast<std::size_t>(row)].places);
  });
  followDesk();
  typed_->setFocus();
}

void ChordBox::typeName(const QString& name) {
  typed_->setText(name);
  if (found_->count() > 0) found_->setCurrentRow(0);
}

void ChordBox::changeGuitar() {
  if (const auto tuning = parseTuning(tuning_->currentData().toString().toStdString())) guitar_.tuning = *tuning;
  const auto strings = static_cast<std::uint16_t>(capoStrings_->currentData().toUInt());
  guitar_.capo = {capo_->value(), capo_->value() > 0 ? strings : std::uint16_t{0}};
  capoStrings_->setEnabled(capo_->value() > 0);
  showGuitar();
  readFrets();
  findShapes();
}

void ChordBox::showGuitar() {
  QStringList names;
  for (int s = 0; s < guitar_.strings(); ++s)
    names << text(stringMark(schools_, guitar_, s, bench_.session().spelling()));
  neck_->setGuitar(guitar_, names, spelling_, fromNut_);
  capo_->setToolTip(fromNut_ ? tr("Frets are counted from the nut") : tr("Frets are counted from the capo"));
}

/// The guitar in hand, names and the origin of frets may be others now.
void ChordBox::followDesk() {
  const Guitar inHand = bench_.document().guitar();
  const bool another = inHand.tuning != inHand_.tuning || inHand.capo != inHand_.capo || tuning_->currentIndex() < 0;
  const bool renamed = bench_.session().notation() != schools_ || bench_.document().fretsFromNut() != fromNut_;
  inHand_ = inHand;
  schools_ = bench_.session().notation();
  fromNut_ = bench_.document().fretsFromNut();
  if (another) showInHand();
  if (renamed || another) ways_->setSpelling(bench_.session().spelling()), changeGuitar();
  allowPlaces();
}

/// The guitar in hand comes into the fields, even where its tuning has no name.
void ChordBox::showInHand() {
  if (inHand_.strings() != 6) return;
  const QString letters = text(tuningLetters(inHand_.tuning, Spelling::sharps, true));
  if (tuning_->findData(letters) < 0)
    tuning_->insertItem(
        0, tr("in hand   %1").arg(text(tuningLetters(inHand_.tuning, spellingOf(inHand_.tuning, schools_)))), letters);
  tuning_->setCurrentIndex(tuning_->findData(letters));
  showCapoStrings(capoStrings_, inHand_.capo.strings);
  const QSignalBlocker quiet(capo_);
  capo_->setValue(inHand_.capo.fret);
}

void ChordBox::tryWay(ShapeWay way) {
  Tuning strings = standardTuning();
  for (int& string : strings.strings) string += way.strings;
  tuning_->setCurrentIndex(tuning_->findData(text(tuningLetters(strings, Spelling::sharps, true))));
  showCapoStrings(capoStrings_, 0);
  const QSignalBlocker quiet(capo_);
  capo_->setValue(way.capo);
  changeGuitar();
}

/// The chord on the neck as it sounds, by its first reading.
std::optional<Chord> ChordBox::sounding() const {
  const auto readings = nameNotes(pitchesOf(guitar_, neck_->places()));
  return readings.empty() ? std::nullopt : std::optional(readings.front().chord);
}

void ChordBox::allowPlaces() {
  const bool some = !neck_->places().empty(), chord = sounding().has_value();
  const bool same = guitar_.tuning == inHand_.tuning && guitar_.capo == inHand_.capo;
  hear_->setEnabled(some);
  picture_->setEnabled(some);
  onNeck_->setEnabled(some && same);
  onNeck_->setToolTip(same ? tr("Show it on the neck of the guitar in hand")
                           : tr("The guitar in hand is set up otherwise than the one above"));
  here_->setEnabled(chord && bench_.transport().hasSound());
  toPassage_->setEnabled(chord && bench_.selection().passage().has_value());
}

/// Frets as this guitar's are counted, such as "x02220".
QString ChordBox::written(const std::vector<FretPosition>& places) const {
  return text(fromNut_ ? fretsText(writtenFromNut(guitar_, places), guitar_.strings())
                       : fretsText(places, guitar_.strings()));
}

bool ChordBox::writePicture(const QString& file) {
  const auto places = neck_->places();
  SheetBoxes::Box box{.sounding = name_->text().toStdString(),
                      .shape = {},
                      .frets = std::vector<int>(static_cast<std::size_t>(guitar_.strings()), -1),
                      .barre = gripOf(places).barre};
  for (const FretPosition& place : places) box.frets[static_cast<std::size_t>(place.string)] = place.fret;
  constexpr double kWide = 42.0;  // mm
  const PaperPicture picture({SheetBoxes{.capo = guitar_.capo.fret, .boxes = {box}}}, kWide);
  const auto done = file.endsWith(".png", Qt::CaseInsensitive) ? picture.writePng(toPath(file))
                                                               : picture.writeSvg(toPath(file), name_->text());
  bench_.say(done ? tr("Written: %1").arg(file) : text(done.problem()));
  return done.ok();
}

void ChordBox::writeToPassage() {
  if (bench_.selection().keptId().empty()) bench_.selection().keep();
  const QString line = name_->text() + "  " + written(neck_->places());
  bench_.document().edit(tr("Write chord into the passage").toStdString(), [&](Study& s) {
    Passage* p = s.passage(bench_.selection().keptId());
    if (p == nullptr) return;
    if (!p->text.empty() && p->text.back() != '\n') p->text += '\n';
    p->text += line.toStdString() + "\n";
  });
}

void ChordBox::readFrets() {
  const auto places = neck_->places();
  const auto midi = pitchesOf(guitar_, places);
  const auto readings = nameNotes(midi);
  allowPlaces();
  others_->clear();
  if (readings.empty()) {
    name_->setText(places.empty()       ? tr("Nothing sounds")
                   : places.size() == 1 ? text(noteName(midi.front(), spelling_))
                                        : tr("No chord known by these notes"));
    sounding_->clear();
    notes_->clear();
    grip_->clear();
    return;
  }
  // Spelt as the chord's own key has it, whatever key the desk is in: what sounds by that, what is held by the shape's.
  const int shift = shapeShift({guitar_.tuning, guitar_.capo});
  const Chord& sounds = readings.front().chord;
  spelling_ = spellingIn(schools_, ownKey(sounds));
  const Spelling held = spellingIn(schools_, ownKey(transposed(sounds, -shift)));
  showGuitar();
  // The hand's name first; what it sounds with the capo below.
  const auto nameOf = [&](ChordReading reading, int by) {
    reading.chord = transposed(reading.chord, by);
    for (PitchClass& pc : reading.missing) pc = PitchClass(pc.value + by);
    return text(readingName(reading, by == 0 ? spelling_ : held));
  };
  name_->setText(nameOf(readings.front(), -shift));
  sounding_->setText(shift != 0 ? tr("sounds %1").arg(nameOf(readings.front(), 0)) : QString());
  sounding_->setVisible(shift != 0);
  QString notes;
  for (const int note : midi) notes += (notes.isEmpty() ? "" : "  ") + text(noteName(note, spelling_));
  notes_->setText(notes);
  grip_->setText(written(places) + "   " + describe(gripOf(places)));
  for (std::size_t i = 1; i < readings.size() && i < 6; ++i) others_->addItem(nameOf(readings[i], -shift));
}

void ChordBox::findShapes() {
  found_->clear();
  shapes_.clear();
  const std::string name = typed_->text().trimmed().toStdString();
  if (const auto frets = parseFrets(name, guitar_.strings())) {
    wrong_->hide();
    neck_->setPlaces(fromNut_ ? readFromNut(guitar_, *frets) : *frets);
    return;
  }
  const auto chord = parseChord(name);
  wrong_->setVisible(!name.empty() && !chord);
  if (!chord) {
    wrong_->setText(tr("“%1” is no chord known here. Write a letter A to G, # or b, then the kind, such as m7, sus4, "
                       "maj7, dim; or a fret or x for each string, such as x02220.")
                        .arg(text(name)));
    return;
  }
  // The typed name is that of the shape: with a capo or retuned strings it sounds elsewhere.
  shapes_ = usualShapes(guitar_, transposed(*chord, shapeShift({guitar_.tuning, guitar_.capo})), 14);
  for (const auto& shape : shapes_) found_->addItem(written(shape.places) + "     " + describe(shape.grip));
  if (shapes_.empty()) {
    wrong_->setText(tr("No hand can play %1 in this tuning.").arg(text(name)));
    wrong_->show();
  }
}

}  // namespace ear
