// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/settings/naming_window.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/theme/words.h"

namespace ear {

template <class Choice>
void NamingWindow::add(const QString& name, const QString& what, Choice NotationPreferences::*member,
                       const QStringList& choices) {
  auto* box = new QComboBox(this);
  box->setObjectName(name);
  box->addItems(choices);
  box->setCurrentIndex(static_cast<int>(bench_.session().notation().*member));
  connect(box, &QComboBox::activated, this, [this, member](int i) {
    NotationPreferences schools = bench_.session().notation();
    schools.*member = static_cast<Choice>(i);
    bench_.session().setNotation(schools);
    showExample();
  });
  form_->addRow(what, box);
}

NamingWindow::NamingWindow(Workbench& bench, QWidget* parent) : QDialog(parent), bench_(bench) {
  setWindowTitle(tr("Naming"));
  setObjectName("naming");
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 16, 20, 16);
  column->setSpacing(12);
  auto* intro = new QLabel(
      tr("Teachers differ in these. Choose what your students know; nothing that was stored changes."), this);
  intro->setObjectName("soft");
  intro->setWordWrap(true);
  column->addWidget(intro);
  form_ = new QFormLayout;
  form_->setLabelAlignment(Qt::AlignLeft);
  form_->setHorizontalSpacing(20);
  form_->setVerticalSpacing(8);
  column->addLayout(form_);
  add("naming-strings", tr("Strings"), &NotationPreferences::strings,
      {tr("number, 1 is the highest sounding"), tr("number, 1 is the lowest sounding"), tr("letter it is tuned to"),
       tr("letter of standard tuning"), tr("pitch it sounds")});
  add("naming-letters", tr("The note under C"), &NotationPreferences::letters,
      {tr("B, and B♭ below it"), tr("H, and B below it")});
  add("naming-signs", tr("Sharps or flats"), &NotationPreferences::signs,
      {tr("as the key has them"), tr("always sharps"), tr("always flats")});
  add("naming-key", tr("Key with a capo"), &NotationPreferences::keyLead, {tr("sound first"), tr("shapes first")});
  add("naming-neck", tr("Neck divided in"), &NotationPreferences::neckMap,
      {tr("boxes"), tr("positions"), tr("shapes")});
  add("naming-places", tr("A place on the neck"), &NotationPreferences::places,
      {tr("fret, then string"), tr("string, then fret")});
  add("naming-bends", tr("Size of a bend"), &NotationPreferences::bends,
      {tr("half and whole step"), tr("semitone and tone"), tr("half and full"), tr("frets")});
  add("naming-counting", tr("Counting"), &NotationPreferences::counting,
      {tr("1 e and a"), tr("1 and 2 and"), tr("1 trip let"), tr("parts of a beat")});
  auto* frets = new QComboBox(this);
  frets->setObjectName("naming-frets");
  frets->addItems({tr("from the capo"), tr("from the nut")});
  frets->setToolTip(tr("Kept with the guitar in hand"));
  frets->setCurrentIndex(bench.document().fretsFromNut() ? 1 : 0);
  connect(frets, &QComboBox::activated, this, [this](int i) {
    bench_.document().editPart(tr("Count frets").toStdString(), bench_.document().part().id,
                               [&](GuitarPart& p) { p.fretsFromNut = i == 1; });
    showExample();
  });
  form_->addRow(tr("Frets with a capo"), frets);
  column->addWidget(caption(tr("So it reads"), this));
  example_ = new QLabel(this);
  example_->setObjectName("naming-example");
  example_->setWordWrap(true);
  example_->setMinimumWidth(460);
  column->addWidget(example_);
  auto* close = new QPushButton(tr("Close"), this);
  connect(close, &QPushButton::clicked, this, &QDialog::accept);
  column->addWidget(close, 0, Qt::AlignRight);
  showExample();
}

/// One sentence in which every choice shows, on the guitar in hand.
void NamingWindow::showExample() {
  const NotationPreferences& schools = bench_.session().notation();
  const Guitar guitar = bench_.document().guitar();
  const auto key = bench_.brief().key;
  const Spelling spelling = bench_.session().spelling();
  const FretPosition place{guitar.strings() - 3, 4};
  const int of = schools.counting == NotationPreferences::Counting::triplets ? 3
                 : schools.counting == NotationPreferences::Counting::ands   ? 2
                                                                             : 4;
  QStringList counts;
  for (int beat = 1; beat <= 2; ++beat)
    for (int part = 0; part < of; ++part)
      counts << text(countName(schools, beat, part, of)).section(' ', part > 0 ? 1 : 0);
  QStringList strings;
  for (int s = 0; s < guitar.strings(); ++s) strings << text(stringName(schools, guitar, s, spelling));
  example_->setText(
      tr("%1. Strings from low to high: %2. %3 gives %4; bent by a %5 it gives %6. Counted: %7.")
          .arg(text(keySentence(schools, key ? key->value : Key{PitchClass(11), Mode::minor},
                                bench_.document().setup())),
               strings.join(", "),
               capitalised(text(placeName(schools, guitar, place, bench_.document().fretsFromNut(), spelling))),
               text(noteName(guitar.pitch(place), spelling)), text(bendName(schools, Cents(200))),
               text(noteName(guitar.pitch(place) + 2, spelling)), counts.join(" ")));
}

}  // namespace ear
