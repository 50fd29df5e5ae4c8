// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/sound_commands.h"

#include <algorithm>
#include <cmath>

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
  connect(&bench, &Workbench::settingsChanged, this, &SoundCommands::refresh);
  connect(&bench, &Workbench::documentChanged, this, &SoundCommands::refresh);
  connect(&bench, &Workbench::soundChanged, this, &SoundCommands::refresh);
  connect(&bench, &Workbench::listeningChanged, this, &SoundCommands::refresh);
  connect(&bench.time(), &TimeKeeper::changed, this, &SoundCommands::refresh);
  connect(&bench.practice(), &PracticeKeeper::changed, this, &SoundCommands::refresh);
  refresh();
}

void SoundCommands::bindPlaying() {
  commands_.bind("play", [this] { bench_.togglePlay(); });
  commands_.bind("return", [this] { bench_.seek(bench_.passage() ? bench_.passage()->start : Seconds(0)); });
  const auto step = [this](int direction, bool bars) {
    bench_.seek(stepByBeat(bench_.time().grid(), bench_.position(), direction, bars));
  };
  commands_.bind("beat-back", [=] { step(-1, false); });
  commands_.bind("beat-on", [=] { step(1, false); });
  commands_.bind("bar-back", [=] { step(-1, true); });
  commands_.bind("bar-on", [=] { step(1, true); });
  commands_.bind("slower", [this] { stepSpeed(-5); });
  commands_.bind("faster", [this] { stepSpeed(5); });
  commands_.bind("full-speed", [this] { bench_.setSpeed(1.0); });
  commands_.bind("half-speed", [this] { bench_.setSpeed(0.5); });
  commands_.bind("click", [this] { bench_.time().setClick(!bench_.time().click()); });
  commands_.bind("count-in", [this] { bench_.time().setCountIn(!bench_.time().countIn()); });
  commands_.bind("softer", [this] { bench_.setVolume(bench_.player().volume() - 0.05); });
  commands_.bind("louder", [this] { bench_.setVolume(bench_.player().volume() + 0.05); });
}

void SoundCommands::stepSpeed(int percent) {
  // On to the next multiple, so that a dragged 63 % is left behind by the first step.
  const double now = bench_.player().sounding().speed * 100;
  const double grid = percent > 0 ? std::floor(now / 5 + 1e-6) : std::ceil(now / 5 - 1e-6);
  bench_.setSpeed((grid * 5 + percent) / 100);
}

void SoundCommands::markEdge(bool start) {
  const Seconds at = bench_.position();
  const auto p = bench_.passage();
  const Seconds shortest(Player::kShortestLoop);
  if (!p)
    bench_.setPassage(start ? TimeSpan{at, at + kUsualPassage}
                            : TimeSpan{std::max(Seconds(0), at - kUsualPassage), at});
  else if (start)
    bench_.setPassage(TimeSpan{at, std::max(p->end, at + shortest)});
  else
    bench_.setPassage(TimeSpan{std::min(p->start, at - shortest), at});
}

void SoundCommands::bindPassage() {
  commands_.bind("mark-start", [this] { markEdge(true); });
  commands_.bind("mark-end", [this] { markEdge(false); });
  commands_.bind("loop-here", [this] { bench_.form().loopHere(); });
  commands_.bind("wider", [this] { bench_.form().widen(); });
  commands_.bind("narrower", [this] { bench_.form().narrow(); });
  commands_.bind("passage-on", [this] { bench_.form().step(true); });
  commands_.bind("passage-back", [this] { bench_.form().step(false); });
  commands_.bind("loop", [this] { bench_.setLooping(!bench_.looping()); });
  commands_.bind("keep", [this] { bench_.keepPassage(); });
  commands_.bind("back-to-kept", [this] { bench_.backToKept(); });
  commands_.bind("drop", [this] { bench_.setPassage(std::nullopt); });
  commands_.bind("climb",
                 [this] { bench_.practice().running() ? bench_.practice().stop() : bench_.practice().startLadder(); });
  commands_.bind("clean", [this] { bench_.practice().clean(); });
  commands_.bind("answer", [this] { bench_.practice().startAnswer(); });
}

void SoundCommands::bindEdges() {
  const auto nudge = [this](bool start, Seconds by) { start ? bench_.nudgeStart(by) : bench_.nudgeEnd(by); };
  for (const bool start : {true, false})
    for (const int way : {-1, 1}) {
      const QString id = QString(start ? "start-" : "end-") + "%1" + (way < 0 ? "earlier" : "later");
      commands_.bind(id.arg(""), [=] { nudge(start, Seconds(way * 0.01)); });
      commands_.bind(id.arg("") + "-more", [=] { nudge(start, Seconds(way * 0.1)); });
      commands_.bind(id.arg("") + "-least", [=] { nudge(start, Seconds(way * 0.001)); });
      commands_.bind(id.arg("beat-"), [this, nudge, start, way] {
        if (!bench_.passage()) return;
        const Seconds edge = start ? bench_.passage()->start : bench_.passage()->end;
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
  commands_.bind("isolated", [this] { bench_.setIsolating(!bench_.isolating()); });
  // Alone at first; with something isolated already they add to it. The same key takes it away again.
  const auto isolate = [this](const QString& id, std::function<void(Isolation&)> toggle) {
    commands_.bind(id, [this, toggle = std::move(toggle)] {
      Isolation i = bench_.isolating() ? bench_.isolation() : Isolation{};
      toggle(i);
      bench_.setIsolation(i);
    });
  };
  using Channel = Isolation::Channel;
  const std::pair<const char*, Channel> channels[] = {{"only-left", Channel::left},
                                                      {"only-middle", Channel::middle},
                                                      {"only-right", Channel::right},
                                                      {"only-sides", Channel::sides}};
  for (const auto& [id, channel] : channels)
    isolate(id, [c = channel](Isolation& i) { i.channel = i.channel == c ? Channel::both : c; });
  const std::pair<const char*, Isolation::Part> parts[] = {{"only-ringing", Isolation::Part::harmonic},
                                                           {"only-striking", Isolation::Part::percussive}};
  for (const auto& [id, part] : parts)
    isolate(id, [p = part](Isolation& i) { i.part = i.part == p ? Isolation::Part::all : p; });
}

void SoundCommands::bindPitch() {
  const auto shift = [this](double cents) { bench_.setShift(bench_.player().sounding().shift + Cents(cents)); };
  commands_.bind("cent-down", [=] { shift(-1); });
  commands_.bind("cent-up", [=] { shift(1); });
  commands_.bind("semitone-down", [=] { shift(-100); });
  commands_.bind("semitone-up", [=] { shift(100); });
  commands_.bind("concert", [this] {
    const Cents to = bench_.shiftToConcert();
    bench_.setShift(bench_.player().sounding().shift == to ? Cents(0) : to);
  });
  commands_.bind("meet-guitar", [this] { bench_.meetGuitar(); });
  commands_.bind("drone", [this] {
    bench_.voice().setDrone(!bench_.voice().drone());
    refresh();
  });
  commands_.bind("next-guitar", [this] { bench_.nextGuitar(); });
}

void SoundCommands::refresh() {
  const bool sound = bench_.hasSound(), passage = bench_.passage().has_value();
  commands_.allow(bench_.take() != nullptr, sound, passage);
  const bool kept = !bench_.passageId().empty();
  commands_["keep"]->setEnabled(sound && passage && (!kept || bench_.passageChanged()));
  commands_["back-to-kept"]->setEnabled(sound && kept);
  commands_["loop"]->setChecked(bench_.looping());
  commands_["click"]->setChecked(bench_.time().click());
  commands_["count-in"]->setChecked(bench_.time().countIn());
  const Cents shift = bench_.player().sounding().shift, concert = bench_.shiftToConcert();
  commands_["concert"]->setEnabled(sound && concert != Cents(0));
  commands_["concert"]->setChecked(concert != Cents(0) && shift == concert);
  commands_["meet-guitar"]->setEnabled(sound && bench_.meetings().size() > 1);
  commands_["next-guitar"]->setEnabled(bench_.document().parts().size() > 1);
  commands_["drone"]->setChecked(bench_.voice().drone());
  commands_["isolated"]->setChecked(bench_.isolating());
  commands_["climb"]->setEnabled(sound && (passage || bench_.practice().running()));
  commands_["clean"]->setEnabled(sound && bench_.practice().kind() == PracticeEntry::Kind::ladder);
  commands_["play"]->setText(bench_.playing() ? tr("Pause") : tr("Play"));
  commands_["measure-again"]->setEnabled(sound && !bench_.listening());
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
