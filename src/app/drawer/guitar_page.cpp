// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/guitar_page.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/neck/capo_choices.h"
#include "app/settings/own_tunings.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/study/validity.h"

namespace ear {
namespace {

constexpr int kHighestCapo = 12;
constexpr Seconds kSpotBefore{0.2}, kSpotLength{3.0};

}  // namespace

GuitarPage::GuitarPage(Workbench& bench, QWidget* parent) : FactPage(bench, "Guitar", parent) {
  makeParts();
  makeReadings();
  makeOwn();
  body()->addStretch();
  refresh();
}

void GuitarPage::makeParts() {
  auto* row = new QHBoxLayout;
  row->setSpacing(6);
  parts_ = new QComboBox(this);
  parts_->setObjectName("guitar-parts");
  parts_->setAccessibleName(tr("Guitar in hand"));
  parts_->setEditable(true);
  parts_->setInsertPolicy(QComboBox::NoInsert);
  parts_->setToolTip(tr("The guitar in hand: the neck, the tuner and the sheet follow it. Type to rename it."));
  auto* add = new QPushButton(tr("Add"), this);
  add->setObjectName("guitar-add");
  add->setToolTip(tr("Another guitar of this recording, or an arrangement of your own"));
  remove_ = new QPushButton(tr("Remove"), this);
  remove_->setObjectName("guitar-remove");
  remove_->setToolTip(tr("Take this guitar off the study; Ctrl+Z brings it back"));
  row->addWidget(parts_, 1);
  row->addWidget(add);
  row->addWidget(remove_);
  body()->addLayout(row);
  auto* where = new QHBoxLayout;
  where->setSpacing(6);
  side_ = new QComboBox(this);
  side_->setObjectName("guitar-side");
  side_->setAccessibleName(tr("Where it sits"));
  for (const Side side : kAllSides)
    side_->addItem(tr("sits %1").arg(side == Side::centre ? tr("in the middle") : text(sideWord(side))));
  kind_ = new QComboBox(this);
  kind_->setObjectName("guitar-kind");
  kind_->setAccessibleName(tr("As recorded or arranged"));
  kind_->addItems({tr("as recorded"), tr("arranged")});
  kind_->setToolTip(tr("Arranged: parts are merged or changed for one pair of hands"));
  where->addWidget(side_, 1);
  where->addWidget(kind_, 1);
  body()->addLayout(where);
  connect(parts_, &QComboBox::activated, this, [this](int i) {
    const auto all = bench_.document().parts();
    if (i >= 0 && static_cast<std::size_t>(i) < all.size())
      bench_.document().takeInHand(all[static_cast<std::size_t>(i)].id);
  });
  connect(parts_->lineEdit(), &QLineEdit::editingFinished, this, [this] {
    const GuitarPart part = bench_.document().part();
    const auto name = parts_->lineEdit()->text().trimmed().toStdString();
    if (!name.empty() && name != part.name && parts_->findText(text(name)) < 0)
      bench_.document().editPart(tr("Rename guitar").toStdString(), part.id, [&](GuitarPart& p) { p.name = name; });
  });
  connect(side_, &QComboBox::activated, this, [this](int i) {
    bench_.document().editPart(tr("Place guitar").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.side = static_cast<Side>(i); });
  });
  connect(kind_, &QComboBox::activated, this, [this](int i) {
    bench_.document().editPart(tr("Mark guitar").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.arranged = i == 1; });
  });
  connect(add, &QPushButton::clicked, this, &GuitarPage::addPart);
  connect(remove_, &QPushButton::clicked, this, &GuitarPage::removePart);
}

void GuitarPage::makeReadings() {
  body()->addWidget(caption(tr("Readings, best first")));
  readings_ = new QListWidget(this);
  readings_->setObjectName("guitar-readings");
  readings_->setAccessibleName(tr("Readings of tuning and capo"));
  readings_->setFixedHeight(158);
  readings_->setWordWrap(true);
  readings_->setTextElideMode(Qt::ElideNone);  // "no capo" is not to be cut off
  readings_->setResizeMode(QListView::Adjust);
  readings_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  readings_->setToolTip(tr("Choose one to see what speaks for it; double-click or press Return to take it"));
  body()->addWidget(readings_);
  reasons_ = new QListWidget(this);
  reasons_->setObjectName("guitar-reasons");
  reasons_->setAccessibleName(tr("What speaks for the reading"));
  reasons_->setWordWrap(true);
  reasons_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  reasons_->setFixedHeight(140);
  reasons_->setToolTip(tr("Double-click or press Return to loop the spot a reason speaks of"));
  body()->addWidget(caption(tr("Why")));
  body()->addWidget(reasons_);
  take_ = new QPushButton(tr("Take this reading"), this);
  take_->setObjectName("guitar-take");
  auto* tune = new QPushButton(tr("Tune up …"), this);
  tune->setObjectName("guitar-tune");
  tune->setToolTip(tr("What to tune each string to, reference tones and a tuner (Ctrl+T)"));
  auto* row = new QHBoxLayout;
  row->addWidget(take_);
  row->addWidget(tune);
  row->addStretch();
  body()->addLayout(row);
  body()->addWidget(caption(tr("Where sound sits")));
  sides_ = new SidesChart(this);
  body()->addWidget(sides_);
  two_ = new QLabel(this);
  two_->setObjectName("soft");
  two_->setWordWrap(true);
  body()->addWidget(two_);
  connect(sides_, &SidesChart::clicked, &bench_, &Workbench::seek);
  connect(readings_, &QListWidget::currentRowChanged, this, &GuitarPage::showReasons);
  connect(readings_, &QListWidget::itemActivated, this, &GuitarPage::takeReading);
  connect(take_, &QPushButton::clicked, this, &GuitarPage::takeReading);
  connect(tune, &QPushButton::clicked, this, &GuitarPage::tuneUpWanted);
  connect(reasons_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    if (const QVariant at = item->data(Qt::UserRole); at.isValid()) {
      const Seconds start = Seconds(at.toDouble()) - kSpotBefore;
      bench_.playSpot({start, start + kSpotLength});
    }
  });
}

void GuitarPage::makeOwn() {
  body()->addWidget(caption(tr("Set by hand")));
  auto* form = new QFormLayout;
  form->setLabelAlignment(Qt::AlignLeft);
  tuning_ = new QComboBox(this);
  tuning_->setObjectName("guitar-tuning");
  tuning_->setEditable(true);
  tuning_->setInsertPolicy(QComboBox::NoInsert);
  tuning_->setToolTip(
      tr("Choose one, or type the strings from low to high: their names, such as D A D G B E, or semitones "
         "from standard, such as -2 0 0 0 0 0"));
  tuning_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  for (const auto& named : tuningCatalogue()) tuning_->addItem(text(named.name));
  for (const auto& own : ownTunings()) tuning_->addItem(own.name);
  capo_ = new QSpinBox(this);
  capo_->setObjectName("guitar-capo");
  capo_->setRange(0, kHighestCapo);
  capo_->setSpecialValueText(tr("none"));
  capo_->setPrefix(tr("at fret "));
  capo_->setKeyboardTracking(false);
  capoStrings_ = new QComboBox(this);
  capoStrings_->setObjectName("guitar-capo-strings");
  fillCapoChoices(capoStrings_);
  shifts_ = new QLabel(this);
  shifts_->setObjectName("guitar-shifts");
  shifts_->setFont(Theme::font(Theme::Face::small));
  nickname_ = new QLineEdit(this);
  nickname_->setObjectName("guitar-nickname");
  nickname_->setPlaceholderText(tr("your own word for it"));
  nickname_->setToolTip(tr("Tile and sheet call the tuning so, and it is offered for other songs"));
  frets_ = new QSpinBox(this);
  frets_->setObjectName("guitar-frets");
  frets_->setRange(StudyLimits::kFewestFrets, StudyLimits::kMostFrets);
  frets_->setKeyboardTracking(false);
  frets_->setToolTip(tr("How many frets the neck of this guitar has"));
  form->addRow(tr("Strings"), tuning_);
  form->addRow(QString(), shifts_);
  form->addRow(tr("Called"), nickname_);
  form->addRow(tr("Capo"), capo_);
  form->addRow(QString(), capoStrings_);
  form->addRow(tr("Frets"), frets_);
  body()->addLayout(form);
  wrong_ = new QLabel(this);
  wrong_->setObjectName("warning");
  wrong_->setWordWrap(true);
  wrong_->hide();
  body()->addWidget(wrong_);
  connect(tuning_, &QComboBox::activated, this, &GuitarPage::setOwn);
  connect(tuning_->lineEdit(), &QLineEdit::returnPressed, this, &GuitarPage::setOwn);
  connect(capo_, &QSpinBox::valueChanged, this, &GuitarPage::setOwn);
  connect(capoStrings_, &QComboBox::activated, this, &GuitarPage::setOwn);
  connect(nickname_, &QLineEdit::editingFinished, this, &GuitarPage::setNickname);
  connect(frets_, &QSpinBox::valueChanged, this, [this](int frets) {
    bench_.document().editPart(tr("Set frets").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.frets = frets; });
  });
}

void GuitarPage::setSetup(const QString& label, const GuitarSetup& setup, Origin origin, const QString& evidence) {
  bench_.document().editPart(label.toStdString(), bench_.document().part().id, [&](GuitarPart& p) {
    p.setup = Decision<GuitarSetup>{setup, origin, 1.0, evidence.toStdString()};
  });
}

void GuitarPage::setOwn() {
  const QString typed = tuning_->lineEdit()->text().trimmed();
  const GuitarSetup before = bench_.document().setup();
  GuitarSetup setup{before.tuning, {}, {}};
  bool named = false;
  for (const auto& entry : tuningCatalogue())
    if (text(entry.name) == typed) setup.tuning = entry.tuning, named = true;
  for (const auto& own : ownTunings())
    if (own.name == typed) setup.tuning = own.tuning, setup.nickname = typed.toStdString(), named = true;
  if (!named) {
    const auto strings = static_cast<std::size_t>(typed.split(' ', Qt::SkipEmptyParts).size());
    const auto read = parseTuning(typed.toStdString(), strings >= 4 && strings <= 8 ? strings : 6);
    wrong_->setVisible(!read);
    if (!read) {
      wrong_->setText(text(read.problem()));
      return;
    }
    setup.tuning = *read;
  }
  if (setup.tuning == before.tuning) setup.nickname = before.nickname;
  wrong_->hide();
  const auto mask = static_cast<std::uint16_t>(capoStrings_->currentData().toUInt());
  setup.capo = {capo_->value(), capo_->value() > 0 && setup.tuning.count() == 6 ? mask : std::uint16_t{0}};
  setSetup(tr("Set guitar"), setup, Origin::set, tr("Set by hand."));
}

void GuitarPage::setNickname() {
  GuitarSetup setup = bench_.document().setup();
  const QString name = nickname_->text().trimmed();
  if (name == text(setup.nickname)) return;
  setup.nickname = name.toStdString();
  setSetup(tr("Name the tuning"), setup, Origin::set, tr("Set by hand."));
  if (name.isEmpty()) return;
  rememberTuning(name, setup.tuning);
  if (tuning_->findText(name) < 0) tuning_->addItem(name);
}

void GuitarPage::addPart() {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  std::string id;
  bench_.document().edit(tr("Add guitar").toStdString(), [&, on = *take, found = bench_.findings()](Study& s) {
    keepParts(s, on, found);
    id = freshId(s, "guitar");
    s.parts.push_back({id, on.id, "Guitar " + std::to_string(s.parts.size() + 1), Side::centre});
  });
  bench_.document().takeInHand(id);
}

void GuitarPage::removePart() {
  const Take* take = bench_.take();
  if (take == nullptr) return;
  const std::string id = bench_.document().part().id;
  bench_.document().edit(tr("Remove guitar").toStdString(), [&, on = *take, found = bench_.findings()](Study& s) {
    keepParts(s, on, found);
    std::erase_if(s.parts, [&](const GuitarPart& p) { return p.id == id; });
  });
}

void GuitarPage::confirm() {
  if (const auto guitar = bench_.brief().guitar)
    setSetup(tr("Confirm guitar"), guitar->value, Origin::confirmed, tr("Confirmed by ear."));
}

void GuitarPage::takeMeasured() {
  bench_.document().editPart(tr("Back to measured guitar").toStdString(), bench_.document().part().id,
                             [](GuitarPart& p) { p.setup.reset(); });
}

const SetupReading* GuitarPage::chosenReading() const {
  const FoundGuitar* heard = heardFor(bench_.document().part(), bench_.findings());
  const int row = readings_->currentRow();
  return heard != nullptr && row >= 0 && static_cast<std::size_t>(row) < heard->readings.size()
             ? &heard->readings[static_cast<std::size_t>(row)]
             : nullptr;
}

void GuitarPage::chooseReading() {
  readings_->setFocus();
}

void GuitarPage::takeReading() {
  if (const SetupReading* r = chosenReading())
    setSetup(tr("Take guitar reading"), {r->tuning, r->capo}, Origin::set, tr("Taken from the readings."));
}

void GuitarPage::showReasons() {
  reasons_->clear();
  const SetupReading* reading = chosenReading();
  take_->setEnabled(reading != nullptr);
  if (reading == nullptr) return;
  for (const auto& reason : reading->reasons) {
    auto* item = new QListWidgetItem(text(reason.text), reasons_);
    if (reason.at) item->setData(Qt::UserRole, reason.at->value);
  }
}

void GuitarPage::showParts() {
  const auto all = bench_.document().parts();
  const GuitarPart part = bench_.document().part();
  const QSignalBlocker a(parts_), b(side_), c(kind_);
  parts_->clear();
  for (const auto& p : all) parts_->addItem(text(p.name));
  parts_->setCurrentIndex(parts_->findText(text(part.name)));
  side_->setCurrentIndex(static_cast<int>(part.side));
  kind_->setCurrentIndex(part.arranged ? 1 : 0);
  remove_->setEnabled(all.size() > 1);
}

void GuitarPage::refreshOwn(const Brief& brief, const Findings* found) {
  const GuitarPart part = bench_.document().part();
  GuitarPart undecided = part;
  undecided.setup.reset();
  showDecision(brief.guitar, setupOf(undecided, found));
  showParts();
  const FoundGuitar* heard = heardFor(part, found);
  const int row = std::max(0, readings_->currentRow());
  {
    const QSignalBlocker blocker(readings_);
    readings_->clear();
    if (heard != nullptr)
      for (const auto& r : heard->readings)
        readings_->addItem(shareOf(r.certainty) + text(sentenceOf(GuitarSetup{r.tuning, r.capo})));
    readings_->setCurrentRow(std::min(row, readings_->count() - 1));
  }
  showReasons();
  sides_->show(found != nullptr ? found->sides : std::vector<SidePoint>{}, bench_.duration());
  two_->setText(found != nullptr ? text(sidesSentence(*found)) : QString());
  const QSignalBlocker a(tuning_), b(capo_), c(capoStrings_), d(frets_);
  const GuitarSetup setup = bench_.document().setup();
  tuning_->setEditText(text(setup.nickname.empty() ? tuningName(setup.tuning) : setup.nickname));
  nickname_->setText(text(setup.nickname));
  QStringList shifts;
  for (const int by : shiftsFromStandard(setup.tuning)) shifts << (by > 0 ? "+" : "") + QString::number(by);
  shifts_->setText(tr("%1 from standard").arg(shifts.join("  ")));
  frets_->setValue(part.frets);
  capo_->setValue(setup.capo.fret);
  showCapoStrings(capoStrings_, setup.capo.strings);
  capoStrings_->setEnabled(setup.capo.fret > 0 && setup.tuning.count() == 6);
  for (QWidget* w : std::initializer_list<QWidget*>{parts_, side_, kind_, tuning_, capo_, nickname_, frets_})
    w->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
