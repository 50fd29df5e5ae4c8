// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/sound_commands.h"

#include <algorithm>
#include <cmath>

#include "app/settings/own_speeds.h"

namespace ear {
namespace {

constexpr Seconds kUsualPassage{4.0};

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

SoundCommands::SoundCommands(Commands& commands, Workbench& bench, QObject* parent)
    : QObject(parent), commands_(commands), bench_(bench) {
  bindPlaying();
  bindPassage();
  bindEdges();
  bindTime();
  bindIsolation();
  bindPitch();
  connect(&bench.transport(), &Transport::changed, this, &SoundCommands::refresh);
  connect(&bench.selection(), &Selection::changed, this, &SoundCommands::refresh);
  connect(&bench.session(), &Session::documentChanged, this, &SoundCommands::refresh);
  connect(&bench.analysis(), &Analysis::soundChanged, this, &SoundCommands::refresh);
  connect(&bench.analysis(), &Analysis::changed, this, &SoundCommands::refresh);
  connect(&bench.time(), &TimeKeeper::changed, this, &SoundCommands::refresh);
  connect(&bench.practice(), &PracticeKeeper::changed, this, &SoundCommands::refresh);
  refresh();
}

void SoundCommands::bindPlaying() {
  commands_.bind("play", [this] { bench_.transport().togglePlay(); });
  commands_.bind("return", [this] {
    bench_.transport().seek(bench_.selection().passage() ? bench_.selection().passage()->start : Seconds(0));
  });
  const auto step = [this](int direction, bool bars) {
    bench_.transport().seek(stepByBeat(bench_.time().grid(), bench_.transport().position(), direction, bars));
  };
  commands_.bind("beat-back", [=] { step(-1, false); });
  commands_.bind("beat-on", [=] { step(1, false); });
  commands_.bind("bar-back", [=] { step(-1, true); });
  commands_.bind("bar-on", [=] { step(1, true); });
  commands_.bind("slower", [this] { stepSpeed(-5); });
  commands_.bind("faster", [this] { stepSpeed(5); });
  commands_.bind("full-speed", [this] { bench_.transport().setSpeed(1.0); });
  commands_.bind("half-speed", [this] { bench_.transport().setSpeed(0.5); });
  commands_.bind("own-slower", [this] { toOwnSpeed(false); });
  commands_.bind("own-faster", [this] { toOwnSpeed(true); });
  commands_.bind("own-speed", [this] {
    const int now = percentNow();
    bench_.say(toggleOwnSpeed(now) ? tr("%1 % is one of your speeds. Alt+Z and Alt+X go from one to the next.").arg(now)
                                   : tr("%1 % is no longer one of your speeds.").arg(now));
  });
  commands_.bind("click", [this] { bench_.time().setClick(!bench_.time().click()); });
  commands_.bind("count-in", [this] { bench_.time().setCountIn(!bench_.time().countIn()); });
  commands_.bind("softer", [this] { bench_.transport().setVolume(bench_.transport().volume() - 0.05); });
  commands_.bind("louder", [this] { bench_.transport().setVolume(bench_.transport().volume() + 0.05); });
}

void SoundCommands::stepSpeed(int percent) {
  // On to the next multiple, so that a dragged 63 % is left behind by the first step.
  const double now = bench_.transport().sounding().speed * 100;
  const double grid = percent > 0 ? std::floor(now / 5 + 1e-6) : std::ceil(now / 5 - 1e-6);
  bench_.transport().setSpeed((grid * 5 + percent) / 100);
}

int SoundCommands::percentNow() const {
  return static_cast<int>(std::lround(bench_.transport().sounding().speed * 100));
}

void SoundCommands::toOwnSpeed(bool faster) {
  if (const auto to = ownSpeedBeside(bench_.transport().sounding().speed * 100, faster))
    bench_.transport().setSpeed(*to / 100.0);
  else
    bench_.say(tr("None of your speeds is %1 than this. Alt+C makes a speed one of yours.")
                   .arg(faster ? tr("faster") : tr("slower")));
}

void SoundCommands::markEdge(bool start) {
  const Seconds at = bench_.transport().position();
  const auto p = bench_.selection().passage();
  const Seconds shortest(Player::kShortestLoop);
  if (!p)
    bench_.selection().set(start ? TimeSpan{at, at + kUsualPassage}
                                 : TimeSpan{std::max(Seconds(0), at - kUsualPassage), at});
  else if (start)
    bench_.selection().set(TimeSpan{at, std::max(p->end, at + shortest)});
  else
    bench_.selection().set(TimeSpan{std::min(p->start, at - shortest), at});
}

void SoundCommands::bindPassage() {
  commands_.bind("mark-start", [this] { markEdge(true); });
  commands_.bind("mark-end", [this] { markEdge(false); });
  commands_.bind("loop-here", [this] { bench_.form().loopHere(); });
  commands_.bind("wider", [this] { bench_.form().widen(); });
  commands_.bind("narrower", [this] { bench_.form().narrow(); });
  commands_.bind("passage-on", [this] { bench_.form().step(true); });
  commands_.bind("passage-back", [this] { bench_.form().step(false); });
  commands_.bind("loop", [this] { bench_.selection().setLooping(!bench_.selection().looping()); });
  commands_.bind("keep", [this] { bench_.selection().keep(); });
  commands_.bind("back-to-kept", [this] { bench_.selection().backToKept(); });
  commands_.bind("drop", [this] { bench_.selection().set(std::nullopt); });
  commands_.bind("climb",
                 [this] { bench_.practice().running() ? bench_.practice().stop() : bench_.practice().startLadder(); });
  commands_.bind("clean", [this] { bench_.practice().clean(); });
  commands_.bind("answer", [this] { bench_.practice().startAnswer(); });
}

void SoundCommands::bindEdges() {
  const auto nudge = [this](bool start, Seconds by) {
    start ? bench_.selection().nudgeStart(by) : bench_.selection().nudgeEnd(by);
  };
  for (const bool start : {true, false})
    for (const int way : {-1, 1}) {
      const QString id = QString(start ? "start-" : "end-") + "%1" + (way < 0 ? "earlier" : "later");
      commands_.bind(id.arg(""), [=] { nudge(start, Seconds(way * 0.01)); });
      commands_.bind(id.arg("") + "-more", [=] { nudge(start, Seconds(way * 0.1)); });
      commands_.bind(id.arg("") + "-least", [=] { nudge(start, Seconds(way * 0.001)); });
      commands_.bind(id.arg("beat-"), [this, nudge, start, way] {
        if (!bench_.selection().passage()) return;
        const Seconds edge = start ? bench_.selection().passage()->start : bench_.selection().passage()->end;
        nudge(start, stepByBeat(bench_.time().grid(), edge, way, false) - edge);
      });
    }
}

void SoundCommands::bindTime() {
  commands_.bind("tap", [this] { bench_.time().tap(false); });
  commands_.bind("tap-first", [this] { bench_.time().tap(true); });
  commands_.bind("bar-here", [this] { bench_.time().barHere(); });
  commands_.bind("one-earlier", [this] { bench_.time().shiftBars(-1); });
  commands_.bind("one-later", [this] { bench_.time().shiftBars(1); });
}

void SoundCommands::bindIsolation() {
  commands_.bind("isolated", [this] { bench_.transport().setIsolating(!bench_.transport().isolating()); });
  // Alone at first; with something isolated already they add to it. The same key takes it away again.
  const auto isolate = [this](const QString& id, std::function<void(Isolation&)> toggle) {
    commands_.bind(id, [this, toggle = std::move(toggle)] {
      Isolation i = bench_.transport().isolating() ? bench_.transport().isolation() : Isolation{};
      toggle(i);
      bench_.transport().setIsolation(i);
    });
  };
  using Channel = Isolation::Channel;
  const std::pair<const char*, Channel> channels[] = {{"only-left", Channel::left},
                                                      {"only-middle", Channel::middle},
                                                      {"only-right", Channel::right},
                                                      {"only-sides", Channel::sides}};
  for (const auto& [id, channel] : channels)
    isolate(id, [c = channel](Isolation& i) { i.channel = i.channel == c ? Channel::both : c; });
  const std::pair<const char*, Isolation::Component> parts[] = {{"only-ringing", Isolation::Component::harmonic},
                                                                {"only-striking", Isolation::Component::percussive}};
  for (const auto& [id, part] : parts)
    isolate(id, [p = part](Isolation& i) { i.part = i.part == p ? Isolation::Component::all : p; });
}

void SoundCommands::bindPitch() {
  const auto shift = [this](double cents) {
    bench_.transport().setShift(bench_.transport().sounding().shift + Cents(cents));
  };
  commands_.bind("cent-down", [=] { shift(-1); });
  commands_.bind("cent-up", [=] { shift(1); });
  commands_.bind("semitone-down", [=] { shift(-100); });
  commands_.bind("semitone-up", [=] { shift(100); });
  commands_.bind("concert", [this] {
    const Cents to = bench_.transport().shiftToConcert();
    bench_.transport().setShift(bench_.transport().sounding().shift == to ? Cents(0) : to);
  });
  commands_.bind("meet-guitar", [this] { bench_.transport().meetGuitar(); });
  commands_.bind("drone", [this] {
    bench_.voice().setDrone(!bench_.voice().drone());
    refresh();
  });
  commands_.bind("next-guitar", [this] { bench_.session().nextGuitar(); });
}

void SoundCommands::refresh() {
  const bool sound = bench_.transport().hasSound(), passage = bench_.selection().passage().has_value();
  commands_.allow(bench_.take() != nullptr, sound, passage);
  const bool kept = !bench_.selection().keptId().empty();
  commands_["keep"]->setEnabled(sound && passage && (!kept || bench_.selection().differsFromKept()));
  commands_["back-to-kept"]->setEnabled(sound && kept);
  commands_["loop"]->setChecked(bench_.selection().looping());
  commands_["click"]->setChecked(bench_.time().click());
  commands_["count-in"]->setChecked(bench_.time().countIn());
  const Cents shift = bench_.transport().sounding().shift, concert = bench_.transport().shiftToConcert();
  commands_["concert"]->setEnabled(sound && concert != Cents(0));
  commands_["concert"]->setChecked(concert != Cents(0) && shift == concert);
  commands_["meet-guitar"]->setEnabled(sound && bench_.transport().meetings().size() > 1);
  commands_["next-guitar"]->setEnabled(bench_.document().parts().size() > 1);
  commands_["drone"]->setChecked(bench_.voice().drone());
  commands_["isolated"]->setChecked(bench_.transport().isolating());
  commands_["climb"]->setEnabled(sound && (passage || bench_.practice().running()));
  commands_["clean"]->setEnabled(sound && bench_.practice().kind() == PracticeEntry::Kind::ladder);
  commands_["play"]->setText(bench_.transport().playing() ? tr("Pause") : tr("Play"));
  commands_["measure-again"]->setEnabled(sound && !bench_.analysis().running());
  const Document& document = bench_.document();
  for (const bool undo : {true, false}) {
    const bool can = undo ? document.canUndo() : document.canRedo();
    const QString word = undo ? tr("Undo") : tr("Redo");
    QAction* action = commands_[undo ? "undo" : "redo"];
    action->setEnabled(can);
    action->setText(can ? word + ": " + QString::fromStdString(undo ? document.undoLabel() : document.redoLabel())
                        : word);
  }
}

}  // namespace ear
