// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/deck/deck.h"

#include <QAction>
#include <QDoubleSpinBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <algorithm>
#include <cmath>

#include "app/deck/tabular_label.h"
#include "app/settings/own_speeds.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/base/text.h"

namespace ear {
Deck::Deck(Workbench& bench, const Commands& commands, QWidget* parent)
    : QWidget(parent), bench_(bench), commands_(commands) {
  setObjectName("deck");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(Theme::kDeck);
  layOut();
  connect(&bench.transport(), &Transport::changed, this, &Deck::refresh);
  connect(&bench.selection(), &Selection::changed, this, &Deck::refresh);
  bench.session().whenChanged(kOfBrief | Changed::passages, this, &Deck::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &Deck::refresh);
  connect(&bench.transport(), &Transport::positionChanged, this, &Deck::showPosition);
  connect(&bench.time(), &TimeKeeper::changed, this, &Deck::refresh);
  connect(&bench.practice(), &PracticeKeeper::changed, this, &Deck::refresh);
  refresh();
}

QPushButton* Deck::buttonFor(const QString& name, const QString& label, int width) {
  QAction* action = commands_[name];
  auto* button = new QPushButton(label, this);
  button->setObjectName("deck-" + name);
  button->setToolTip(action->toolTip());
  button->setAccessibleName(action->text());
  if (width > 0) button->setFixedWidth(width);
  button->setCheckable(action->isCheckable());
  connect(button, &QPushButton::clicked, action, &QAction::trigger);
  connect(action, &QAction::changed, button, [button, action] {
    button->setEnabled(action->isEnabled());
    button->setChecked(action->isChecked());
    button->setToolTip(action->toolTip());  // which names its key
  });
  return button;
}

void Deck::layOut() {
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(16, 10, 16, 10);
  row->setSpacing(12);

  const auto group = [&](const QString& title, const QList<QWidget*>& widgets, int spacing = 4) {
    auto* column = new QVBoxLayout;
    column->setSpacing(6);
    auto* label = new QLabel(title, this);
    label->setObjectName("soft");
    label->setFont(Theme::font(Theme::Face::small));
    column->addWidget(label);
    auto* line = new QHBoxLayout;
    line->setSpacing(spacing);
    for (auto* w : widgets) line->addWidget(w, 0, Qt::AlignVCenter);
    column->addLayout(line);
    column->addStretch();
    row->addLayout(column);
    return label;
  };

  play_ = buttonFor("play", tr("Play"), 88);
  play_->setObjectName("primary");
  clock_ = new TabularLabel(Theme::font(Theme::Face::figure), this);
  clock_->setText("0:00.0");
  clock_->setMinimumWidth(84);
  clock_->setFixedHeight(Theme::kDeckControl);
  bar_ = group(tr("Playhead"), {play_, clock_}, 12);
  bar_->setMinimumWidth(132);

  start_ = new TabularLabel(Theme::font(Theme::Face::strong), this);
  end_ = new TabularLabel(Theme::font(Theme::Face::strong), this);
  for (auto* edge : {start_, end_}) {
    edge->setText("–");
    edge->setMinimumWidth(54);
    edge->setFixedHeight(Theme::kDeckControl);
  }
  length_ = group(tr("Passage"), {buttonFor("start-earlier", "−", 30), start_, buttonFor("start-later", "+", 30),
                                  new QLabel(tr("to"), this), buttonFor("end-earlier", "−", 30), end_,
                                  buttonFor("end-later", "+", 30), buttonFor("loop", tr("Repeat"), 76),
                                  buttonFor("keep", tr("Keep"), 62), buttonFor("back-to-kept", tr("Back"), 58)});

  makeFields();
  group(tr("Speed"), {speed_, ownSpeeds_});
  group(tr("Pitch"), {shift_, buttonFor("concert", tr("To A 440"), 84)}, 6);

  sound_ = group(tr("Sound"), {buttonFor("isolated", tr("Isolated"), 80)});

  group(tr("Beat"), {buttonFor("click", tr("Click"), 58), buttonFor("count-in", tr("Count"), 62)});

  volume_ = new QSlider(Qt::Horizontal, this);
  volume_->setObjectName("deck-volume");
  volume_->setAccessibleName(tr("Level"));
  volume_->setRange(0, 100);
  volume_->setMinimumWidth(56);
  volume_->setFixedHeight(Theme::kDeckControl);
  volume_->setToolTip(tr("Level of the sound (Ctrl+Up, Ctrl+Down)"));
  connect(volume_, &QSlider::valueChanged, this, [this](int v) { bench_.transport().setVolume(v / 100.0); });
  group(tr("Level"), {volume_});
}

/// Speed and pitch, to be typed or turned.
void Deck::makeFields() {
  speed_ = new QSpinBox(this);
  speed_->setObjectName("deck-speed");
  speed_->setAccessibleName(tr("Speed in per cent"));
  speed_->setRange(static_cast<int>(100 * Player::kSlowest), static_cast<int>(100 * Player::kFastest));
  speed_->setSingleStep(5);
  speed_->setSuffix(" %");
  speed_->setFixedWidth(92);
  speed_->setToolTip(tr("Speed; the pitch stays. Z slower, X faster, C full, Shift+C half; any figure can be typed"));
  connect(speed_, &QSpinBox::valueChanged, this, [this](int v) { bench_.transport().setSpeed(v / 100.0); });
  ownSpeeds_ = new QPushButton("▾", this);
  ownSpeeds_->setObjectName("deck-own-speeds");
  ownSpeeds_->setAccessibleName(tr("Your speeds"));
  ownSpeeds_->setToolTip(tr("Your speeds (Alt+Z, Alt+X); Alt+C makes the one that is set one of yours"));
  ownSpeeds_->setFixedWidth(26);
  connect(ownSpeeds_, &QPushButton::clicked, this, &Deck::offerOwnSpeeds);
  shift_ = new QDoubleSpinBox(this);
  shift_->setObjectName("deck-shift");
  shift_->setAccessibleName(tr("Pitch shift in cents"));
  shift_->setRange(-Player::kMostShift, Player::kMostShift);
  shift_->setDecimals(0);
  shift_->setSuffix(tr(" cents"));
  shift_->setFixedWidth(108);
  shift_->setToolTip(tr("Pitch of what you hear. Up and Down by a cent, with Shift by a semitone"));
  connect(shift_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
    // The field shows whole cents; leave a finer value alone until it is really changed.
    if (std::abs(v - bench_.transport().sounding().shift.value) >= 0.5) bench_.transport().setShift(Cents(v));
  });
}

void Deck::offerOwnSpeeds() {
  auto* menu = new QMenu(this);
  menu->setObjectName("own-speeds");
  menu->setAttribute(Qt::WA_DeleteOnClose);
  for (const int percent : ownSpeeds()) {
    QAction* action = menu->addAction(tr("%1 %").arg(percent));
    action->setCheckable(true);
    action->setChecked(percent == speed_->value());
    connect(action, &QAction::triggered, this, [this, percent] { bench_.transport().setSpeed(percent / 100.0); });
  }
  menu->addSeparator();
  menu->addAction(commands_["own-speed"]);
  menu->popup(ownSpeeds_->mapToGlobal(QPoint(0, ownSpeeds_->height())));
}

void Deck::showPosition() {
  clock_->setText(text(clockTenths(bench_.transport().position())));
  const TimeKeeper& time = bench_.time();
  const QString place =
      bench_.transport().hasSound() ? time.counted(bench_.transport().position() + Transport::kBlink) : QString();
  bar_->setText(bench_.transport().player().counting()        ? tr("Counting in")
                : bench_.transport().player().place().resting ? tr("Breath")
                : time.taps() > 0                             ? counted(time.taps(), tr("tap"), tr("taps"))
                : place.isEmpty()                             ? tr("Playhead")
                                                              : tr("Bar %1").arg(place));
}

void Deck::refresh() {
  const bool sound = bench_.transport().hasSound();
  const auto& passage = bench_.selection().passage();
  const bool kept = !bench_.selection().keptId().empty(), changed = bench_.selection().differsFromKept();
  findChild<QPushButton*>("deck-back-to-kept")->setVisible(changed);
  sound_->setText(bench_.transport().isolating() ? tr("Sound, a part") : tr("Sound, whole"));
  play_->setText(commands_["play"]->text());

  start_->setText(passage ? text(clockTenths(passage->start)) : "–");
  end_->setText(passage ? text(clockTenths(passage->end)) : "–");
  length_->setText(passage ? tr("Passage, %1 s%2")
                                 .arg(text(fixed(passage->length().value, 2)), changed ? tr(", changed")
                                                                               : kept  ? tr(", kept")
                                                                                       : QString())
                           : tr("Passage: drag one on the map or the close-up"));
  const auto percent = static_cast<int>(std::lround(100 * bench_.transport().sounding().speed));
  const QSignalBlocker b(speed_), c(shift_), d(volume_);
  speed_->setValue(percent);
  shift_->setValue(bench_.transport().sounding().shift.value);
  volume_->setValue(static_cast<int>(std::lround(100 * bench_.transport().volume())));
  for (QWidget* w : std::initializer_list<QWidget*>{speed_, ownSpeeds_, shift_, volume_}) w->setEnabled(sound);
  showPosition();
}

}  // namespace ear
