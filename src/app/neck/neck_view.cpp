// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/neck/neck_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/neck/string_choice.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"

namespace ear {
namespace {

constexpr int kOfKey = -1, kOfPhrase = -2;  // in place of a kind of scale
constexpr int kHeight = 208, kHighestPosition = 12, kLeastChoice = 84, kRaster = 960;

}  // namespace

NeckView::NeckView(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("panel");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(kHeight);
  layOut();
  bench.session().whenChanged(kOfBrief | Changed::chords, this, &NeckView::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &NeckView::refresh);
  connect(&bench.transport(), &Transport::positionChanged, this, &NeckView::showChord);
  connect(&bench.phrases(), &PhraseKeeper::changed, this, [this] {
    if (scale_->currentData().toInt() == kOfPhrase) refresh();
  });
  connect(neck_, &NeckMap::struck, this, [this](FretPosition place) {
    const int midi = bench_.document().guitar().pitch(place);
    bench_.voice().tone(midi);
    bench_.ear().guess(midi);  // while one is awaited
    emit struck(place);
  });
  refresh();
}

void NeckView::layOut() {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 6, 12, 4);
  column->setSpacing(4);
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  part_ = new QLabel(this);
  part_->setObjectName("neck-part");
  scale_ = new QComboBox(this);
  scale_->setObjectName("neck-scale");
  scale_->setAccessibleName(tr("Scale on the neck"));
  scale_->addItem(tr("scale of the key"), kOfKey);
  scale_->addItem(tr("scale of the phrase"), kOfPhrase);
  for (const ScaleKind kind : kAllScales) scale_->addItem(text(scaleName(kind)), static_cast<int>(kind));
  labels_ = new QComboBox(this);
  labels_->setObjectName("neck-labels");
  labels_->setAccessibleName(tr("What is written on the neck"));
  labels_->addItems({tr("notes"), tr("degrees")});
  map_ = new QComboBox(this);
  map_->setObjectName("neck-regions");
  map_->setAccessibleName(tr("How the neck is divided"));
  map_->addItems({tr("boxes"), tr("positions"), tr("shapes")});
  map_->setCurrentIndex(static_cast<int>(bench_.session().notation().neckMap));
  counted_ = new QComboBox(this);
  counted_->setObjectName("neck-counted");
  counted_->setAccessibleName(tr("Where frets are counted from"));
  counted_->addItems({tr("frets from the capo"), tr("frets from the nut")});
  counted_->setToolTip(tr("How frets of this guitar are counted where a capo is on"));
  strings_ = new StringChoice(this);
  strings_->setObjectName("neck-strings");
  strings_->setToolTip(tr("Which strings are lit; a click on a string's name lights it alone, more are added"));
  const auto button = [&](const QString& sign, const QString& name, const QString& tip) {
    auto* b = new QPushButton(sign, this);
    b->setObjectName(name);
    b->setToolTip(tip);
    b->setAccessibleName(tip);
    b->setFixedWidth(32);
    return b;
  };
  before_ = button("‹", "neck-before", tr("The place before along the neck (Shift+N)"));
  after_ = button("›", "neck-after", tr("The next place along the neck (Alt+N)"));
  after_->setShortcut(QKeySequence("Alt+N"));
  before_->setShortcut(QKeySequence("Shift+N"));
  regionName_ = new QLabel(this);
  regionName_->setObjectName("neck-region");
  regionName_->setMinimumWidth(92);
  regionName_->setAlignment(Qt::AlignCenter);
  settle_ = new QPushButton(tr("Guitar not settled"), this);
  settle_->setObjectName("neck-settle");
  settle_->setToolTip(
      tr("The readings of tuning and capo are guesses, so the neck stands in standard tuning. Choose one, or set your "
         "own (Shift+G)"));
  connect(settle_, &QPushButton::clicked, this, &NeckView::settleWanted);
  chord_ = new QLabel(this);
  chord_->setObjectName("neck-chord");
  chord_->setFont(Theme::font(Theme::Face::strong));
  chord_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  for (QWidget* w :
       std::initializer_list<QWidget*>{scale_, labels_, map_, before_, regionName_, after_, strings_, counted_})
    row->addWidget(w);
  row->addStretch(1);
  row->addWidget(settle_);
  row->addWidget(part_);
  row->addWidget(chord_);
  column->addLayout(row);
  neck_ = new NeckMap(this);
  neck_->setObjectName("neck-map");
  neck_->setToolTip(tr(
      "Filled: the tonic. Strong outline: tones of the chord that sounds, with a cut corner where they lie outside of "
      "the scale. Faded: out of the hand's place. Click one to hear it at the recording's pitch."));
  column->addWidget(neck_, 1);
  for (QComboBox* box : std::initializer_list<QComboBox*>{scale_, labels_, map_, strings_})
    box->setMinimumWidth(kLeastChoice);  // a wide drawer leaves little room
  for (auto* box : {scale_, labels_, map_})
    connect(box, &QComboBox::activated, this, [this] {
      shape_.clear();
      region_ = std::min<int>(region_, static_cast<int>(regions().size()) - 1);
      refresh();
    });
  connect(strings_, &QComboBox::activated, this, [this] { neck_->setLit(strings_->strings()); });
  connect(neck_, &NeckMap::named, strings_, &StringChoice::toggle);
  connect(counted_, &QComboBox::activated, this, [this](int i) {
    bench_.document().editPart(tr("Count frets").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.fretsFromNut = i == 1; });
  });
  connect(before_, &QPushButton::clicked, this, [this] { stepRegion(-1); });
  connect(after_, &QPushButton::clicked, this, [this] { stepRegion(1); });
}

/// Empty where the key is not settled: then only the tones of the chord stand on the neck.
std::optional<Scale> NeckView::scale() const {
  const auto key = settled(bench_.brief().key);
  const int kind = scale_->currentData().toInt();
  if (kind == kOfPhrase && stated_) return stated_->scale;
  if (!key) return std::nullopt;
  return kind < 0 ? scaleOf(*key) : Scale{key->tonic, static_cast<ScaleKind>(kind)};
}

/// What lies under the hand at each place of the neck, by the way it is divided.
std::vector<NeckRegion> NeckView::regions() const {
  const Guitar guitar = bench_.document().guitar();
  const auto key = settled(bench_.brief().key);
  const auto on = scale();
  std::vector<NeckRegion> list;
  switch (static_cast<NotationPreferences::NeckMap>(map_->currentIndex())) {
    case NotationPreferences::NeckMap::boxes:
      if (on) list = boxesOf(guitar, *on);
      break;
    case NotationPreferences::NeckMap::positions:
      for (int fret = 1; on && fret <= kHighestPosition; ++fret) list.push_back(positionAt(guitar, *on, fret));
      return list;
    case NotationPreferences::NeckMap::shapes: {
      auto chord = chordNow();
      if (!chord && key) chord = Chord{key->tonic, chordType(key->mode == Mode::minor ? "m" : ""), {}};
      if (chord) list = shapesOf(guitar, *chord);
      break;
    }
  }
  std::stable_sort(list.begin(), list.end(),
                   [](const NeckRegion& a, const NeckRegion& b) { return a.firstFinger < b.firstFinger; });
  return list;
}

void NeckView::showShape(const std::vector<FretPosition>& places) {
  shape_ = places;
  refresh();
}

void NeckView::stepRegion(int by) {
  shape_.clear();
  const int count = static_cast<int>(regions().size());
  region_ = region_ + by;
  if (region_ >= count) region_ = -1;
  if (region_ < -1) region_ = count - 1;
  refresh();
}

std::optional<Chord> NeckView::chordNow() const {
  const Take* take = bench_.take();
  if (take == nullptr) return std::nullopt;
  for (const auto& c : bench_.document().chords())
    if (c.span.contains(bench_.transport().position() + Transport::kBlink)) return c.chord;
  return std::nullopt;
}

/// By its sound, and by the shape the hand makes where the two differ.
QString NeckView::chordSentence(const Chord& chord) const {
  const auto [sound, shape] = bench_.session().chordWords(chord);
  if (shape.empty()) return text(sound);
  return bench_.session().notation().keyLead == NotationPreferences::KeyLead::sound
             ? tr("%1, %2 shape").arg(text(sound), text(shape))
             : tr("%1 shape, sounds %2").arg(text(shape), text(sound));
}

void NeckView::showChord() {
  if (chordNow() == shown_ && (scale_->currentData().toInt() != kOfPhrase || statedNow() == stated_)) return;
  refresh();
}

/// What the phrase in hand is said to use: where it sounds while it plays, else where the caret stands.
std::optional<ScaleStretch> NeckView::statedNow() const {
  const PhraseKeeper& phrases = bench_.phrases();
  const Phrase* p = phrases.phrase();
  if (p == nullptr || scale_->currentData().toInt() != kOfPhrase) return std::nullopt;
  const Seconds now = bench_.transport().position();
  const bool sounds = bench_.transport().playing() && p->span.contains(now);
  const ScaleStretch* stretch =
      sounds ? stretchAt(p->scales, Beats(std::llround(phrases.placeOf(*p, now) * kRaster), kRaster))
             : phrases.scaleInHand();
  return stretch != nullptr ? std::optional(*stretch) : std::nullopt;
}

void NeckView::refresh() {
  if (!isVisibleTo(parentWidget())) return;
  shown_ = chordNow();
  stated_ = statedNow();
  const Guitar guitar = bench_.document().guitar();
  const bool fromNut = bench_.document().fretsFromNut();
  const Spelling spelling = bench_.session().spelling();
  QStringList names;
  for (int s = 0; s < guitar.strings(); ++s)
    names << text(stringMark(bench_.session().notation(), guitar, s, spelling));
  neck_->setGuitar(guitar, names, fromNut, guitar.frets);
  strings_->setStrings(names);
  neck_->setLit(strings_->strings());
  const auto all = regions();
  const auto box = stated_ && stated_->box > 0
                       ? regionOf(guitar, stated_->scale, stated_->box, bench_.phrases().view().notes)
                       : std::nullopt;
  const NeckRegion* region = box ? &*box
                             : region_ >= 0 && static_cast<std::size_t>(region_) < all.size()
                                 ? &all[static_cast<std::size_t>(region_)]
                                 : nullptr;
  const bool shapes =
      static_cast<NotationPreferences::NeckMap>(map_->currentIndex()) == NotationPreferences::NeckMap::shapes;
  const auto on = scale();
  neck_->setMarks(scaleMarks(guitar, on, static_cast<NeckLabels>(labels_->currentIndex()), spelling, guitar.frets,
                             region, shown_ ? &*shown_ : nullptr));
  if (!shape_.empty()) {
    neck_->setMarks(shapeMarks(guitar, shape_, spelling));
    neck_->setHand(std::nullopt);
    regionName_->setText(tr("the shape"));
  } else if (region != nullptr && !region->places.empty()) {
    const auto [low, high] = std::minmax_element(region->places.begin(), region->places.end(),
                                                 [](FretPosition a, FretPosition b) { return a.fret < b.fret; });
    neck_->setHand(std::pair{low->fret, high->fret});
    const int first = region->firstFinger + (fromNut ? guitar.capo.fret : 0);
    regionName_->setText(shapes || map_->currentIndex() == 0 ? tr("%1, fret %2").arg(text(region->label)).arg(first)
                                                             : tr("fret %1").arg(first));
  } else {
    neck_->setHand(std::nullopt);
    regionName_->setText(tr("whole neck"));
  }
  counted_->setVisible(guitar.capo.fret > 0);
  counted_->setCurrentIndex(fromNut ? 1 : 0);
  part_->setText(text(bench_.document().part().name));
  part_->setToolTip(text(sentenceOf(bench_.document().setup())));
  part_->setVisible(bench_.document().parts().size() > 1);
  const auto& known = bench_.brief().guitar;
  settle_->setVisible(known && !isSettled(known));
  chord_->setText(shown_ ? chordSentence(*shown_) : QString());
}

}  // namespace ear
