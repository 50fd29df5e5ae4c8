#include "app/deck/deck.h"

#include <QAction>
#include <QDoubleSpinBox>
#include <QFrame>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <algorithm>
#include <cmath>

#include "app/deck/tabular_label.h"
#include "app/theme/theme.h"
#include "app/theme/words.h"
#include "core/text.h"

namespace ear {
namespace {

/// The beat or bar line before or after a place, or half a second or two where none are known.
Seconds stepByBeat(const Grid& grid, Seconds from, int direction, bool bars) {
  const auto times = bars ? barLines(grid) : beatTimes(grid);
  if (direction > 0) {
    const auto next = std::upper_bound(times.begin(), times.end(), from + Seconds(0.02));
    if (next != times.end()) return *next;
  } else {
    const auto here = std::lower_bound(times.begin(), times.end(), from - Seconds(0.15));
    if (here != times.begin()) return *std::prev(here);
  }
  return from + Seconds(direction * (bars ? 2.0 : 0.5));
}

}  // namespace

Deck::Deck(Workbench& bench, QWidget* parent) : QWidget(parent), bench_(bench) {
  setObjectName("deck");
  setAttribute(Qt::WA_StyledBackground);
  setFixedHeight(Theme::kDeck);
  makeCommands();
  layOut();
  connect(&bench, &Workbench::settingsChanged, this, &Deck::refresh);
  connect(&bench, &Workbench::documentChanged, this, &Deck::refresh);
  connect(&bench, &Workbench::soundChanged, this, &Deck::refresh);
  connect(&bench, &Workbench::positionChanged, this, &Deck::showPosition);
  connect(&bench.time(), &TimeKeeper::changed, this, &Deck::refresh);
  connect(&bench.practice(), &PracticeKeeper::changed, this, &Deck::refresh);
  refresh();
}

QAction* Deck::command(const QString& name, const QString& title, const QString& key, std::function<void()> run,
                       const QString& tip) {
  auto* action = new QAction(title, this);
  action->setObjectName(name);
  action->setShortcut(QKeySequence(key));
  action->setToolTip((tip.isEmpty() ? title : tip) +
                     QStringLiteral("  (%1)").arg(QKeySequence(key).toString(QKeySequence::NativeText)));
  connect(action, &QAction::triggered, this, [run = std::move(run)] { run(); });
  commands_.append(action);
  byName_[name] = action;
  return action;
}

void Deck::makeCommands() {
  const auto gap = [this] { commands_.append(nullptr); };
  const auto mark = [this](bool start) {
    const Seconds at = bench_.position();
    const auto p = bench_.passage();
    const Seconds usual(4.0);
    if (!p)
      bench_.setPassage(start ? TimeSpan{at, at + usual} : TimeSpan{std::max(Seconds(0), at - usual), at});
    else if (start)
      bench_.setPassage(TimeSpan{at, std::max(p->end, at + Seconds(Player::kShortestLoop))});
    else
      bench_.setPassage(TimeSpan{std::min(p->start, at - Seconds(Player::kShortestLoop)), at});
  };
  const auto nudge = [this](bool start, double ms) {
    const Seconds by(ms / 1000);
    start ? bench_.nudgeStart(by) : bench_.nudgeEnd(by);
  };
  command("play", tr("Play"), "Space", [this] { bench_.togglePlay(); });
  command("return", tr("Back to the passage's start"), "Backspace",
          [this] { bench_.seek(bench_.passage() ? bench_.passage()->start : Seconds(0)); });
  command("beat-back", tr("A beat back"), "Left",
          [this] { bench_.seek(stepByBeat(bench_.time().grid(), bench_.position(), -1, false)); });
  command("beat-on", tr("A beat on"), "Right",
          [this] { bench_.seek(stepByBeat(bench_.time().grid(), bench_.position(), 1, false)); });
  command("bar-back", tr("A bar back"), "Ctrl+Left",
          [this] { bench_.seek(stepByBeat(bench_.time().grid(), bench_.position(), -1, true)); });
  command("bar-on", tr("A bar on"), "Ctrl+Right",
          [this] { bench_.seek(stepByBeat(bench_.time().grid(), bench_.position(), 1, true)); });
  gap();
  command("mark-start", tr("Passage starts here"), "Q", [=] { mark(true); });
  command("mark-end", tr("Passage ends here"), "W", [=] { mark(false); });
  command(
      "loop-here", tr("Loop the bar here"), "O", [this] { bench_.form().loopHere(); },
      tr("Loop the bar under the playhead"));
  command(
      "wider", tr("A wider passage"), "P", [this] { bench_.form().widen(); },
      tr("From the bar to two bars, the phrase of four, the section, the whole"));
  command("narrower", tr("A narrower passage"), "U", [this] { bench_.form().narrow(); });
  command("passage-on", tr("The next passage of this length"), "'", [this] { bench_.form().step(true); });
  command("passage-back", tr("The passage of this length before"), ";", [this] { bench_.form().step(false); });
  command("start-earlier", tr("Start 10 ms earlier"), "A", [=] { nudge(true, -10); });
  command("start-later", tr("Start 10 ms later"), "S", [=] { nudge(true, 10); });
  command("end-earlier", tr("End 10 ms earlier"), "D", [=] { nudge(false, -10); });
  command("end-later", tr("End 10 ms later"), "F", [=] { nudge(false, 10); });
  command("start-earlier-more", tr("Start 100 ms earlier"), "Shift+A", [=] { nudge(true, -100); });
  command("start-later-more", tr("Start 100 ms later"), "Shift+S", [=] { nudge(true, 100); });
  command("end-earlier-more", tr("End 100 ms earlier"), "Shift+D", [=] { nudge(false, -100); });
  command("end-later-more", tr("End 100 ms later"), "Shift+F", [=] { nudge(false, 100); });
  command("start-earlier-least", tr("Start 1 ms earlier"), "Alt+Shift+A", [=] { nudge(true, -1); });
  command("start-later-least", tr("Start 1 ms later"), "Alt+Shift+S", [=] { nudge(true, 1); });
  command("end-earlier-least", tr("End 1 ms earlier"), "Alt+Shift+D", [=] { nudge(false, -1); });
  command("end-later-least", tr("End 1 ms later"), "Alt+Shift+F", [=] { nudge(false, 1); });
  const auto nudgeBeat = [this](bool start, int by) {
    if (const auto& p = bench_.passage()) {
      const Seconds edge = start ? p->start : p->end;
      const Seconds to = stepByBeat(bench_.time().grid(), edge, by, false);
      start ? bench_.nudgeStart(to - edge) : bench_.nudgeEnd(to - edge);
    }
  };
  command("start-beat-earlier", tr("Start a beat earlier"), "Ctrl+Alt+A", [=] { nudgeBeat(true, -1); });
  command("start-beat-later", tr("Start a beat later"), "Ctrl+Alt+S", [=] { nudgeBeat(true, 1); });
  command("end-beat-earlier", tr("End a beat earlier"), "Ctrl+Alt+D", [=] { nudgeBeat(false, -1); });
  command("end-beat-later", tr("End a beat later"), "Ctrl+Alt+F", [=] { nudgeBeat(false, 1); });
  auto* loop = command("loop", tr("Repeat the passage"), "E", [this] { bench_.setLooping(!bench_.looping()); });
  loop->setCheckable(true);
  command(
      "keep", tr("Keep passage"), "K", [this] { bench_.keepPassage(); },
      tr("Keep the passage with a name, its speed and what you hear in it"));
  command("drop", tr("Let go of the passage"), "Escape", [this] { bench_.setPassage(std::nullopt); });
  gap();
  const auto shiftBars = [this](int by) { bench_.time().shiftBars(by); };
  command(
      "tap", tr("Tap the beat"), "T", [this] { bench_.time().tap(false); },
      tr("Tap along while it plays to set tempo and beats"));
  command("tap-first", tr("Tap the first beat of a bar"), "Shift+T", [this] { bench_.time().tap(true); });
  command("bar-here", tr("A bar starts here"), "B", [this] { bench_.time().barHere(); });
  command("one-earlier", tr("The one a beat earlier"), ",", [=] { shiftBars(-1); });
  command("one-later", tr("The one a beat later"), ".", [=] { shiftBars(1); });
  command(
      "cue", tr("Mark this spot …"), "M", [this] { emit cueWanted(); }, tr("Put a word of your own at the playhead"));
  command(
      "note", tr("Note for the lesson"), "Shift+M", [this] { emit noteWanted(); },
      tr("Type words that are pinned to where the sound is"));
  auto* click = command(
      "click", tr("Click on the beats"), "R", [this] { bench_.time().setClick(!bench_.time().click()); },
      tr("A click on every beat of the recording, following its drift"));
  click->setCheckable(true);
  auto* count = command(
      "count-in", tr("Count a bar in"), "Y", [this] { bench_.time().setCountIn(!bench_.time().countIn()); },
      tr("A bar of clicks at the present speed before it plays"));
  count->setCheckable(true);
  auto* drone = command(
      "drone", tr("Hold the key note"), "Shift+B",
      [this] { bench_.voice().setDrone(!bench_.voice().drone()), refresh(); },
      tr("A held note on the tonic, at the pitch of what you hear"));
  drone->setCheckable(true);
  gap();
  auto* isolated = command(
      "isolated", tr("Isolated, or the whole sound"), "/", [this] { bench_.setIsolating(!bench_.isolating()); },
      tr("Back and forth between what is isolated and the whole sound"));
  isolated->setCheckable(true);
  const auto sideKey = [this](const char* name, const QString& title, const char* key, Isolation::Channel channel) {
    command(name, title, key, [this, channel] {
      Isolation i = bench_.isolation();
      if (!bench_.isolating()) i = {};
      i.channel = i.channel == channel ? Isolation::Channel::both : channel;
      bench_.setIsolation(i);
    });
  };
  sideKey("only-left", tr("Only the left"), "1", Isolation::Channel::left);
  sideKey("only-middle", tr("Only the middle"), "2", Isolation::Channel::middle);
  sideKey("only-right", tr("Only the right"), "3", Isolation::Channel::right);
  sideKey("only-sides", tr("Only what differs"), "4", Isolation::Channel::sides);
  const auto partKey = [this](const char* name, const QString& title, const char* key, Isolation::Part part) {
    command(name, title, key, [this, part] {
      Isolation i = bench_.isolation();
      if (!bench_.isolating()) i = {};
      i.part = i.part == part ? Isolation::Part::all : part;
      bench_.setIsolation(i);
    });
  };
  partKey("only-ringing", tr("Only what rings"), "5", Isolation::Part::harmonic);
  partKey("only-striking", tr("Only what strikes"), "6", Isolation::Part::percussive);
  gap();
  command(
      "guess", tr("Guess what sounds"), "9", [this] { bench_.ear().ask(), emit earWanted(); },
      tr("Take the moment at the playhead and guess its notes"));
  command(
      "freeze", tr("Hold the moment …"), "8", [this] { emit freezeWanted(); },
      tr("Let the sound at the playhead go on, with its spectrum and the notes that may be in it"));
  command(
      "compare", tr("Compare with another time …"), "7", [this] { emit compareWanted(); },
      tr("The passage above the same bars of another verse, with what differs marked"));
  command(
      "follow-voice", tr("Follow the voice of the passage"), "Shift+J",
      [this] { bench_.ear().followVoice(), emit earWanted(); },
      tr("Draw its pitch over the map, with bends and vibrato measured"));
  gap();
  command(
      "climb", tr("Climb the ladder"), "Shift+L",
      [this] { bench_.practice().running() ? bench_.practice().stop() : bench_.practice().startLadder(); },
      tr("Loop the passage from slow to fast, and end it again"));
  command(
      "clean", tr("That was clean"), "L", [this] { bench_.practice().clean(); },
      tr("Counts this repetition on the ladder"));
  command("answer", tr("Call and answer"), "Shift+Y", [this] { bench_.practice().startAnswer(); });
  gap();
  command("slower", tr("Slower by 5 %"), "Z", [this] { stepSpeed(-5); });
  command("faster", tr("Faster by 5 %"), "X", [this] { stepSpeed(5); });
  command("full-speed", tr("Full speed"), "C", [this] { bench_.setSpeed(1.0); });
  command("half-speed", tr("Half speed"), "Shift+C", [this] { bench_.setSpeed(0.5); });
  gap();
  command("cent-down", tr("A cent lower"), "Down",
          [this] { bench_.setShift(bench_.player().sounding().shift - Cents(1)); });
  command("cent-up", tr("A cent higher"), "Up",
          [this] { bench_.setShift(bench_.player().sounding().shift + Cents(1)); });
  command("semitone-down", tr("A semitone lower"), "Shift+Down",
          [this] { bench_.setShift(bench_.player().sounding().shift - Cents(100)); });
  command("semitone-up", tr("A semitone higher"), "Shift+Up",
          [this] { bench_.setShift(bench_.player().sounding().shift + Cents(100)); });
  auto* concert = command(
      "concert", tr("To concert pitch"), "V",
      [this] {
        const Cents to = bench_.shiftToConcert();
        bench_.setShift(bench_.player().sounding().shift == to ? Cents(0) : to);
      },
      tr("Shift what you hear to A 440, and back"));
  concert->setCheckable(true);
  auto* standard = command("standard-guitar", tr("To meet a guitar in standard tuning"), "Shift+V", [this] {
    const Cents to = bench_.shiftToStandardGuitar();
    bench_.setShift(bench_.player().sounding().shift == to ? Cents(0) : to);
  });
  standard->setCheckable(true);
  gap();
  command("softer", tr("Softer"), "Ctrl+Down", [this] { bench_.setVolume(bench_.player().volume() - 0.05); });
  command("louder", tr("Louder"), "Ctrl+Up", [this] { bench_.setVolume(bench_.player().volume() + 0.05); });
}

void Deck::stepSpeed(int percent) {
  // On to the next multiple, so that a dragged 63 % is left behind by the first step.
  const double now = bench_.player().sounding().speed * 100;
  const double grid = percent > 0 ? std::floor(now / 5 + 1e-6) : std::ceil(now / 5 - 1e-6);
  bench_.setSpeed((grid * 5 + percent) / 100);
}

QPushButton* Deck::buttonFor(const QString& name, const QString& label, int width) {
  QAction* action = byName_.at(name);
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
  length_ = group(tr("Passage"),
                  {buttonFor("start-earlier", "−", 30), start_, buttonFor("start-later", "+", 30),
                   new QLabel(tr("to"), this), buttonFor("end-earlier", "−", 30), end_, buttonFor("end-later", "+", 30),
                   buttonFor("loop", tr("Repeat"), 76), buttonFor("keep", tr("Keep"), 62)});

  speed_ = new QSpinBox(this);
  speed_->setObjectName("deck-speed");
  speed_->setAccessibleName(tr("Speed in per cent"));
  speed_->setRange(static_cast<int>(100 * Player::kSlowest), static_cast<int>(100 * Player::kFastest));
  speed_->setSingleStep(5);
  speed_->setSuffix(" %");
  speed_->setFixedWidth(92);
  speed_->setToolTip(tr("Speed; the pitch stays. Z slower, X faster, C full, Shift+C half; any figure can be typed"));
  connect(speed_, &QSpinBox::valueChanged, this, [this](int v) { bench_.setSpeed(v / 100.0); });
  group(tr("Speed"), {speed_});

  shift_ = new QDoubleSpinBox(this);
  shift_->setObjectName("deck-shift");
  shift_->setAccessibleName(tr("Pitch shift in cents"));
  shift_->setRange(-Player::kMostShift, Player::kMostShift);
  shift_->setDecimals(0);
  shift_->setSuffix(tr(" cents"));
  shift_->setFixedWidth(116);
  shift_->setToolTip(tr("Pitch of what you hear. Up and Down by a cent, with Shift by a semitone"));
  connect(shift_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
    // The field shows whole cents; leave a finer value alone until it is really changed.
    if (std::abs(v - bench_.player().sounding().shift.value) >= 0.5) bench_.setShift(Cents(v));
  });
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
  connect(volume_, &QSlider::valueChanged, this, [this](int v) { bench_.setVolume(v / 100.0); });
  group(tr("Level"), {volume_});
}

void Deck::showPosition() {
  clock_->setText(text(clockTenths(bench_.position())));
  const TimeKeeper& time = bench_.time();
  const QString place = bench_.hasSound() ? time.counted(bench_.position() + Seconds(0.01)) : QString();
  bar_->setText(bench_.player().counting()        ? tr("Counting in")
                : bench_.player().place().resting ? tr("Breath")
                : time.taps() > 0                 ? counted(time.taps(), tr("tap"), tr("taps"))
                : place.isEmpty()                 ? tr("Playhead")
                                                  : tr("Bar %1").arg(place));
}

void Deck::refresh() {
  const bool sound = bench_.hasSound();
  const auto& passage = bench_.passage();
  for (const auto& [name, action] : byName_) action->setEnabled(sound);
  for (const char* name :
       {"start-earlier",     "start-later",      "end-earlier",        "end-later",           "start-earlier-more",
        "start-later-more",  "end-earlier-more", "end-later-more",     "start-earlier-least", "start-later-least",
        "end-earlier-least", "end-later-least",  "start-beat-earlier", "start-beat-later",    "end-beat-earlier",
        "end-beat-later",    "narrower",         "passage-on",         "passage-back",        "drop"})
    byName_.at(name)->setEnabled(sound && passage.has_value());
  byName_.at("keep")->setEnabled(sound && passage.has_value() && bench_.passageId().empty());
  byName_.at("loop")->setChecked(bench_.looping());
  byName_.at("click")->setChecked(bench_.time().click());
  byName_.at("count-in")->setChecked(bench_.time().countIn());
  const Cents shift = bench_.player().sounding().shift, concert = bench_.shiftToConcert(),
              standard = bench_.shiftToStandardGuitar();
  byName_.at("concert")->setEnabled(sound && concert != Cents(0));
  byName_.at("concert")->setChecked(concert != Cents(0) && shift == concert);
  byName_.at("standard-guitar")->setEnabled(sound && standard != Cents(0));
  byName_.at("standard-guitar")->setChecked(standard != Cents(0) && shift == standard);
  byName_.at("drone")->setChecked(bench_.voice().drone());
  byName_.at("isolated")->setChecked(bench_.isolating());
  sound_->setText(bench_.isolating() ? tr("Sound, a part") : tr("Sound, whole"));
  byName_.at("compare")->setEnabled(sound && passage.has_value());
  byName_.at("follow-voice")->setEnabled(sound && passage.has_value());
  byName_.at("climb")->setEnabled(sound && (passage.has_value() || bench_.practice().running()));
  byName_.at("clean")->setEnabled(sound && bench_.practice().kind() == PracticeEntry::Kind::ladder);
  byName_.at("answer")->setEnabled(sound && passage.has_value());
  byName_.at("play")->setText(bench_.playing() ? tr("Pause") : tr("Play"));
  play_->setText(byName_.at("play")->text());

  start_->setText(passage ? text(clockTenths(passage->start)) : "–");
  end_->setText(passage ? text(clockTenths(passage->end)) : "–");
  length_->setText(passage ? tr("Passage, %1 s").arg(text(fixed(passage->length().value, 2)))
                           : tr("Passage: drag one on the map or the close-up"));
  const auto percent = static_cast<int>(std::lround(100 * bench_.player().sounding().speed));
  const QSignalBlocker b(speed_), c(shift_), d(volume_);
  speed_->setValue(percent);
  shift_->setValue(shift.value);
  volume_->setValue(static_cast<int>(std::lround(100 * bench_.player().volume())));
  for (QWidget* w : std::initializer_list<QWidget*>{speed_, shift_, volume_}) w->setEnabled(sound);
  showPosition();
}

}  // namespace ear
