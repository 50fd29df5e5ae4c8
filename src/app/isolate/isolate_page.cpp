// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/isolate/isolate_page.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>

#include "app/isolate/place_view.h"
#include "app/theme/pieces.h"
#include "app/theme/words.h"
#include "core/base/text.h"
#include "core/theory/pitch.h"

namespace ear {
QString isolationWords(const Isolation& i) {
  const auto tr = [](const char* words) { return IsolatePage::tr(words); };
  if (i.plain()) return tr("The whole sound");
  QStringList parts;
  const QString channels[] = {{}, tr("left"), tr("right"), tr("middle"), tr("sides")};
  if (i.channel != Isolation::Channel::both) parts << channels[static_cast<int>(i.channel)];
  if (i.place != Isolation::Panned::all) {
    const QString where = std::abs(i.centre) < 0.05
                              ? tr("the middle")
                              : (i.centre < 0 ? tr("%1 left") : tr("%1 right")).arg(percent(std::abs(i.centre)));
    parts << (i.place == Isolation::Panned::keep ? tr("only around %1") : tr("without %1")).arg(where);
  }
  if (i.part != Isolation::Component::all)
    parts << (i.part == Isolation::Component::harmonic ? tr("what rings") : tr("what strikes"));
  const auto hertz = [](Hertz f) { return QString::number(std::lround(f.value)); };
  if (i.lowCut > Hertz(0) && i.highCut > Hertz(0))
    parts << tr("%1 to %2 Hz").arg(hertz(i.lowCut), hertz(i.highCut));
  else if (i.lowCut > Hertz(0))
    parts << tr("over %1 Hz").arg(hertz(i.lowCut));
  else if (i.highCut > Hertz(0))
    parts << tr("under %1 Hz").arg(hertz(i.highCut));
  if (i.focus > Hertz(0)) parts << tr("the octave around %1 Hz").arg(hertz(i.focus));
  if (i.bassUp) parts << tr("bass an octave up");
  return capitalised(parts.join(", "));
}

IsolatePage::IsolatePage(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  auto* column = pageColumn(this);
  sentence_ = wrappingLabel(this, "isolate-sentence", Theme::Face::sentence);
  level_ = wrappingLabel(this, "soft", Theme::Face::text);
  level_->setText(tr("As loud as the whole sound, by EBU R 128"));
  whole_ =
      plainButton(this, "isolate-whole", {}, tr("Back and forth between what is isolated and the whole sound  (/)"));
  clear_ = plainButton(this, "isolate-clear", tr("Clear all"), tr("Nothing is isolated any more"));
  connect(whole_, &QPushButton::clicked, this,
          [this] { bench_.transport().setIsolating(!bench_.transport().isolating()); });
  connect(clear_, &QPushButton::clicked, this, [this] { bench_.transport().setIsolation({}); });
  column->addWidget(sentence_);
  column->addWidget(level_);
  column->addLayout(rowOf({whole_, clear_}));

  channel_ = choice("isolate-channel", tr("Side"), {tr("Both"), tr("Left"), tr("Right"), tr("Middle"), tr("Sides")},
                    {tr("Both sides as they are"), tr("The left side in both ears"), tr("The right side in both ears"),
                     tr("What both sides have"), tr("What differs between the sides")},
                    [](Isolation& i, int n) { i.channel = static_cast<Isolation::Channel>(n); });
  place_ = choice(
      "isolate-place-mode", tr("FretPosition between left and right"),
      {tr("Everywhere"), tr("Only here"), tr("Without it")},
      {tr("Whatever its place"), tr("Only what sits at the place below"), tr("All but what sits at the place below")},
      [](Isolation& i, int n) { i.place = static_cast<Isolation::Panned>(n); });
  column->addWidget(new PlaceView(bench, this));
  part_ =
      choice("isolate-part", tr("Part"), {tr("All"), tr("What rings"), tr("What strikes")},
             {tr("Everything"), tr("The harmonic part: strings, voices"), tr("The percussive part: drums, attacks")},
             [](Isolation& i, int n) { i.part = static_cast<Isolation::Component>(n); });
  column->addWidget(caption(tr("Band"), this));
  low_ = frequency("isolate-low", tr("Over"), tr("Nothing lower is heard"), &Isolation::lowCut, 200);
  high_ = frequency("isolate-high", tr("Under"), tr("Nothing higher is heard"), &Isolation::highCut, 2000);
  focus_ = frequency("isolate-focus", tr("Octave around"),
                     tr("Only the octave around this frequency; Alt and a drag on the pitch map set it too"),
                     &Isolation::focus, 330);
  auto* band = new QGridLayout;
  band->setSpacing(6);
  band->addWidget(new QLabel(tr("Over"), this), 0, 0);
  band->addWidget(low_, 0, 1);
  band->addWidget(new QLabel(tr("Under"), this), 0, 2);
  band->addWidget(high_, 0, 3);
  band->addWidget(new QLabel(tr("Octave around"), this), 1, 0, 1, 3);
  band->addWidget(focus_, 1, 3);
  band->setColumnStretch(4, 1);
  column->addLayout(band);
  bass_ = new QCheckBox(tr("Bass alone, an octave up"), this);
  bass_->setObjectName("isolate-bass");
  bass_->setToolTip(tr("What lies under 250 Hz, moved where a small speaker gives it"));
  connect(bass_, &QCheckBox::toggled, this, [this](bool on) { change([on](Isolation& i) { i.bassUp = on; }); });
  column->addWidget(bass_);
  column->addStretch();
  connect(&bench.transport(), &Transport::changed, this, &IsolatePage::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &IsolatePage::refresh);
  refresh();
}

QButtonGroup* IsolatePage::choice(const QString& name, const QString& title, const QStringList& words,
                                  const QStringList& tips, std::function<void(Isolation&, int)> choose) {
  auto* column = static_cast<QVBoxLayout*>(layout());
  column->addWidget(caption(title, this));
  auto* group = new QButtonGroup(this);
  auto* row = new QHBoxLayout;
  row->setSpacing(4);
  for (int n = 0; n < words.size(); ++n) {
    auto* button = new QPushButton(words[n], this);
    button->setObjectName(name + "-" + QString::number(n));
    button->setToolTip(tips[n]);
    button->setCheckable(true);
    button->setProperty("compact", true);
    group->addButton(button, n);
    row->addWidget(button, 1);
  }
  column->addLayout(row);
  connect(group, &QButtonGroup::idClicked, this,
          [this, choose = std::move(choose)](int n) { change([&](Isolation& i) { choose(i, n); }); });
  return group;
}

/// A frequency that is off at its least value; the first step up from there leads to `first`.
QSpinBox* IsolatePage::frequency(const QString& name, const QString& title, const QString& tip, Hertz Isolation::*which,
                                 int first) {
  auto* box = new QSpinBox(this);
  box->setObjectName(name);
  box->setAccessibleName(title);
  box->setToolTip(tip);
  box->setRange(0, static_cast<int>(Isolation::kHighest.value));
  box->setSingleStep(20);
  box->setSpecialValueText(tr("off"));
  box->setSuffix(tr(" Hz"));
  box->setKeyboardTracking(false);
  box->setFixedWidth(88);
  connect(box, &QSpinBox::valueChanged, this, [this, which, first](int value) {
    const bool wasOff = bench_.transport().isolation().*which <= Hertz(0);
    const bool under = value < static_cast<int>(Isolation::kLowest.value);
    const double hertz = wasOff && under && value > 0 ? first : under ? 0 : value;
    change([&](Isolation& i) { i.*which = Hertz(hertz); });
  });
  return box;
}

void IsolatePage::change(const std::function<void(Isolation&)>& change) {
  Isolation i = bench_.transport().isolation();
  change(i);
  bench_.transport().setIsolation(i);
}

void IsolatePage::refresh() {
  const Isolation& i = bench_.transport().isolation();
  const bool sound = bench_.transport().hasSound();
  sentence_->setText(bench_.transport().isolating() ? isolationWords(i)
                     : i.plain()                    ? isolationWords({})
                                                    : tr("The whole sound for now"));
  whole_->setText(bench_.transport().isolating() ? tr("Hear the whole") : tr("Hear it isolated"));
  whole_->setEnabled(sound && !i.plain());
  clear_->setEnabled(sound && !i.plain());
  channel_->button(static_cast<int>(i.channel))->setChecked(true);
  place_->button(static_cast<int>(i.place))->setChecked(true);
  part_->button(static_cast<int>(i.part))->setChecked(true);
  const QSignalBlocker a(low_), b(high_), c(focus_), d(bass_);
  low_->setValue(static_cast<int>(std::lround(i.lowCut.value)));
  high_->setValue(static_cast<int>(std::lround(i.highCut.value)));
  focus_->setValue(static_cast<int>(std::lround(i.focus.value)));
  bass_->setChecked(i.bassUp);
  for (auto* group : {channel_, place_, part_})
    for (auto* button : group->buttons()) button->setEnabled(sound);
  for (QWidget* w : std::initializer_list<QWidget*>{low_, high_, focus_, bass_}) w->setEnabled(sound);
}

}  // namespace ear
