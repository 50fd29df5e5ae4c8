#include "app/chordbox/chord_box.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/study/parts.h"
#include "core/theory/chord_naming.h"
#include "core/theory/key.h"

namespace ear {
namespace {

constexpr int kHighestCapo = 9;
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

ChordBox::ChordBox(const Guitar& guitar, Spelling spelling, QWidget* parent)
    : QDialog(parent), spelling_(spelling), guitar_(guitar) {
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
  connect(tuning_, &QComboBox::activated, this, &ChordBox::changeGuitar);
  connect(capo_, &QSpinBox::valueChanged, this, &ChordBox::changeGuitar);
  connect(neck_, &NeckGrid::changed, this, &ChordBox::readFrets);
  connect(typed_, &QLineEdit::textChanged, this, &ChordBox::findShapes);
  connect(found_, &QListWidget::currentRowChanged, this, [this](int row) {
    if (row >= 0) neck_->setPlaces(shapes_[static_cast<std::size_t>(row)].places);
  });
  changeGuitar();
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
      tuning_->addItem(text(std::string(named.name)) + "   " + text(tuningLetters(named.tuning, Spelling::sharps)),
                       text(tuningLetters(named.tuning, Spelling::sharps, true)));
  // The guitar in hand first, even where its tuning has no name.
  const QString inHand = text(tuningLetters(guitar_.tuning, Spelling::sharps, true));
  if (guitar_.strings() == 6 && tuning_->findData(inHand) < 0)
    tuning_->insertItem(0, tr("in hand   %1").arg(text(tuningLetters(guitar_.tuning, Spelling::sharps))), inHand);
  tuning_->setCurrentIndex(std::max(0, tuning_->findData(inHand)));
  capo_ = new QSpinBox(row);
  capo_->setObjectName("chord-capo");
  capo_->setAccessibleName(tr("Capo"));
  capo_->setRange(0, kHighestCapo);
  capo_->setSpecialValueText(tr("no capo"));
  capo_->setValue(guitar_.capo.fret);
  capo_->setPrefix(tr("capo at "));
  capo_->setToolTip(tr("Frets are counted from the capo"));
  line->addWidget(new QLabel(tr("Guitar"), row));
  line->addWidget(tuning_, 1);
  line->addWidget(capo_);
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
  hear_ = new QPushButton(tr("Hear it"), side);
  hear_->setObjectName("chord-hear");
  hear_->setToolTip(tr("Strum it at the pitch the recording sounds at now"));
  connect(hear_, &QPushButton::clicked, this, [this] { emit heard(pitchesOf(guitar_, neck_->places())); });
  column->addWidget(hear_, 0, Qt::AlignLeft);
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
  typed_->setAccessibleName(tr("Name of a chord shape"));
  typed_->setPlaceholderText(tr("such as F#m7, Dsus4 or D/F#"));
  typed_->setClearButtonEnabled(true);
  wrong_ = new QLabel(side);
  wrong_->setObjectName("warning");
  wrong_->setWordWrap(true);
  found_ = new QListWidget(side);
  found_->setObjectName("chord-shapes");
  found_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  found_->setAccessibleName(tr("Shapes, the easiest first"));
  found_->setFont(Theme::font(Theme::Face::text));
  column->addWidget(caption(tr("Type a name, get shapes"), side));
  column->addWidget(typed_);
  column->addWidget(wrong_);
  column->addWidget(found_, 1);
  side->setMinimumWidth(340);
  return side;
}

void ChordBox::typeName(const QString& name) {
  typed_->setText(name);
  if (found_->count() > 0) found_->setCurrentRow(0);
}

void ChordBox::changeGuitar() {
  if (const auto tuning = parseTuning(tuning_->currentData().toString().toStdString())) guitar_.tuning = *tuning;
  guitar_.capo = {capo_->value(), 0};
  neck_->setGuitar(guitar_, spelling_);
  readFrets();
  findShapes();
}

void ChordBox::readFrets() {
  const auto places = neck_->places();
  const auto midi = pitchesOf(guitar_, places);
  const auto readings = nameNotes(midi);
  hear_->setEnabled(!midi.empty());
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
  // Spelt as the chord's own key has it, whatever key the desk is in.
  const Chord shape = transposed(readings.front().chord, -shapeShift({guitar_.tuning, guitar_.capo}));
  spelling_ = spellingOf({shape.root, shape.minor() ? Mode::minor : Mode::major});
  neck_->setGuitar(guitar_, spelling_);
  // The hand's name first; what it sounds with the capo below.
  const auto nameOf = [&](ChordReading reading, int by) {
    reading.chord = transposed(reading.chord, by);
    for (PitchClass& pc : reading.missing) pc = PitchClass(pc.value + by);
    return text(readingName(reading, spelling_));
  };
  const int shift = shapeShift({guitar_.tuning, guitar_.capo});
  name_->setText(nameOf(readings.front(), -shift));
  sounding_->setText(shift != 0 ? tr("sounds %1").arg(nameOf(readings.front(), 0)) : QString());
  sounding_->setVisible(shift != 0);
  QString notes;
  for (const int note : midi) notes += (notes.isEmpty() ? "" : "  ") + text(noteName(note, spelling_));
  notes_->setText(notes);
  grip_->setText(text(fretsText(places, guitar_.strings())) + "   " + describe(gripOf(places)));
  for (std::size_t i = 1; i < readings.size() && i < 6; ++i) others_->addItem(nameOf(readings[i], -shift));
}

void ChordBox::findShapes() {
  found_->clear();
  shapes_.clear();
  const std::string name = typed_->text().trimmed().toStdString();
  const auto chord = parseChord(name);
  wrong_->setVisible(!name.empty() && !chord);
  if (!chord) {
    wrong_->setText(
        tr("“%1” is no chord known here. Write a letter A to G, # or b, then the kind, such as m7, sus4, maj7, dim.")
            .arg(text(name)));
    return;
  }
  // The typed name is that of the shape: with a capo or retuned strings it sounds elsewhere.
  shapes_ = easiestShapes(guitar_, transposed(*chord, shapeShift({guitar_.tuning, guitar_.capo})), 14);
  for (const auto& shape : shapes_)
    found_->addItem(text(fretsText(shape.places, guitar_.strings())) + "     " + describe(shape.grip));
  if (shapes_.empty()) {
    wrong_->setText(tr("No hand can play %1 in this tuning.").arg(text(name)));
    wrong_->show();
  }
}

}  // namespace ear
