// What the deck can be told, with its keys: the other half of class Deck.

#include <QAction>
#include <algorithm>
#include <cmath>
#include <tuple>

#include "app/deck/deck.h"

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
      tr("Keep the passage with a name, its speed and what you hear in it; a changed one as it is now"));
  command(
      "back-to-kept", tr("Back to the passage as kept"), "Shift+K", [this] { bench_.backToKept(); },
      tr("Undo what was changed on the desk since the passage was kept; once more brings the change back"));
  command("drop", tr("Clear the passage"), "Escape", [this] { bench_.setPassage(std::nullopt); });
  gap();
  const auto shiftBars = [this](int by) { bench_.time().shiftBars(by); };
  command(
      "tap", tr("Tap the beat"), "T", [this] { bench_.time().tap(false); },
      tr("Tap along while it plays to set tempo and beats"));
  command("tap-first", tr("Tap the first beat of a bar"), "Shift+T", [this] { bench_.time().tap(true); });
  command("bar-here", tr("A bar starts here"), "B", [this] { bench_.time().barHere(); });
  command("one-earlier", tr("Bar lines a beat earlier"), ",", [=] { shiftBars(-1); });
  command("one-later", tr("Bar lines a beat later"), ".", [=] { shiftBars(1); });
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
  // Alone at first; with something isolated already they add to it. The same key takes it away again.
  const auto isolate = [this](const char* name, const QString& title, const char* key,
                              std::function<void(Isolation&)> toggle) {
    command(name, title, key, [this, toggle = std::move(toggle)] {
      Isolation i = bench_.isolating() ? bench_.isolation() : Isolation{};
      toggle(i);
      bench_.setIsolation(i);
    });
  };
  using Channel = Isolation::Channel;
  const std::tuple<const char*, QString, const char*, Channel> channels[] = {
      {"only-left", tr("Only the left"), "1", Channel::left},
      {"only-middle", tr("Only the middle"), "2", Channel::middle},
      {"only-right", tr("Only the right"), "3", Channel::right},
      {"only-sides", tr("Only the sides"), "4", Channel::sides}};
  for (const auto& [name, title, key, channel] : channels)
    isolate(name, title, key, [c = channel](Isolation& i) { i.channel = i.channel == c ? Channel::both : c; });
  const std::tuple<const char*, QString, const char*, Isolation::Part> parts[] = {
      {"only-ringing", tr("Only what rings"), "5", Isolation::Part::harmonic},
      {"only-striking", tr("Only what strikes"), "6", Isolation::Part::percussive}};
  for (const auto& [name, title, key, part] : parts)
    isolate(name, title, key, [p = part](Isolation& i) { i.part = i.part == p ? Isolation::Part::all : p; });
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
  command(
      "meet-guitar", tr("To meet my guitar, the next way"), "Shift+V", [this] { bench_.meetGuitar(); },
      tr("In standard tuning, without the capo, and back: what the part in hand allows"));
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

}  // namespace ear
