// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/drawer/own_setup.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/neck/capo_choices.h"
#include "app/settings/own_tunings.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/study/validity.h"

namespace ear {
namespace {

constexpr int kHighestCapo = 12;

}  // namespace

void decideSetup(Workbench& bench, const QString& label, const GuitarSetup& setup, Origin origin,
                 const Evidence& evidence) {
  bench.document().editPart(label.toStdString(), bench.document().part().id, [&](GuitarPart& p) {
    p.setup = Decision<GuitarSetup>{setup, origin, 1.0, evidence};
  });
}

OwnSetup::OwnSetup(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  makeStrings();
  makeCapo();
  auto* form = new QFormLayout;
  form->setLabelAlignment(Qt::AlignLeft);
  form->addRow(tr("Strings"), tuning_);
  form->addRow(QString(), shifts_);
  form->addRow(tr("Called"), nickname_);
  form->addRow(tr("Capo"), capo_);
  form->addRow(QString(), capoStrings_);
  form->addRow(tr("Frets"), frets_);
  rows->addLayout(form);
  wrong_ = new QLabel(this);
  wrong_->setObjectName("warning");
  wrong_->setWordWrap(true);
  wrong_->hide();
  rows->addWidget(wrong_);
  follow();
}

void OwnSetup::makeStrings() {
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
  shifts_ = new QLabel(this);
  shifts_->setObjectName("guitar-shifts");
  shifts_->setFont(Theme::font(Theme::Face::small));
  nickname_ = new QLineEdit(this);
  nickname_->setObjectName("guitar-nickname");
  nickname_->setPlaceholderText(tr("your own word for it"));
  nickname_->setToolTip(tr("Tile and sheet call the tuning so, and it is offered for other songs"));
}

void OwnSetup::makeCapo() {
  capo_ = new QSpinBox(this);
  capo_->setObjectName("guitar-capo");
  capo_->setRange(0, kHighestCapo);
  capo_->setSpecialValueText(tr("none"));
  capo_->setPrefix(tr("at fret "));
  capo_->setKeyboardTracking(false);
  capoStrings_ = new QComboBox(this);
  capoStrings_->setObjectName("guitar-capo-strings");
  fillCapoChoices(capoStrings_);
  frets_ = new QSpinBox(this);
  frets_->setObjectName("guitar-frets");
  frets_->setRange(StudyLimits::kFewestFrets, StudyLimits::kMostFrets);
  frets_->setKeyboardTracking(false);
  frets_->setToolTip(tr("How many frets the neck of this guitar has"));
}

void OwnSetup::follow() {
  connect(tuning_, &QComboBox::activated, this, &OwnSetup::setOwn);
  connect(tuning_->lineEdit(), &QLineEdit::returnPressed, this, &OwnSetup::setOwn);
  connect(capo_, &QSpinBox::valueChanged, this, &OwnSetup::setOwn);
  connect(capoStrings_, &QComboBox::activated, this, &OwnSetup::setOwn);
  connect(nickname_, &QLineEdit::editingFinished, this, &OwnSetup::setNickname);
  connect(frets_, &QSpinBox::valueChanged, this, [this](int frets) {
    bench_.document().editPart(tr("Set frets").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.frets = frets; });
  });
}

void OwnSetup::setOwn() {
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
  decideSetup(bench_, tr("Set guitar"), setup, Origin::set, Evidence::Kind::setByHand);
}

void OwnSetup::setNickname() {
  GuitarSetup setup = bench_.document().setup();
  const QString name = nickname_->text().trimmed();
  if (name == text(setup.nickname)) return;
  setup.nickname = name.toStdString();
  decideSetup(bench_, tr("Name the tuning"), setup, Origin::set, Evidence::Kind::setByHand);
  if (name.isEmpty()) return;
  rememberTuning(name, setup.tuning);
  if (tuning_->findText(name) < 0) tuning_->addItem(name);
}

void OwnSetup::refresh() {
  const QSignalBlocker a(tuning_), b(capo_), c(capoStrings_), d(frets_);
  const GuitarSetup setup = bench_.document().setup();
  tuning_->setEditText(text(setup.nickname.empty() ? tuningName(setup.tuning) : setup.nickname));
  nickname_->setText(text(setup.nickname));
  QStringList shifts;
  for (const int by : shiftsFromStandard(setup.tuning)) shifts << (by > 0 ? "+" : "") + QString::number(by);
  shifts_->setText(tr("%1 from standard").arg(shifts.join("  ")));
  frets_->setValue(bench_.document().part().frets);
  capo_->setValue(setup.capo.fret);
  showCapoStrings(capoStrings_, setup.capo.strings);
  capoStrings_->setEnabled(setup.capo.fret > 0 && setup.tuning.count() == 6);
  for (QWidget* w : std::initializer_list<QWidget*>{tuning_, capo_, nickname_, frets_})
    w->setEnabled(bench_.take() != nullptr);
}

}  // namespace ear
