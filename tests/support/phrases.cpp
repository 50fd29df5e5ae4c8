// SPDX-License-Identifier: GPL-3.0-or-later
#include "support/phrases.h"

namespace ear::test {

Note note(int id, int string, int fret, Beats at, Beats length) {
  Note n;
  n.id = id;
  n.place = {string, fret};
  n.at = at, n.length = length;
  return n;
}

Note anyNote(std::mt19937& random, int id) {
  const auto pick = [&](int from, int to) { return std::uniform_int_distribution(from, to)(random); };
  const auto chance = [&](int in) { return pick(1, in) == 1; };
  const auto size = [&](int most) { return chance(3) ? Size() : Size(Cents(pick(1, most))); };
  const auto rate = [&] { return chance(2) ? std::optional<Hertz>() : Hertz(pick(30, 90) / 10.0); };
  Note n = note(id, pick(0, 5), pick(1, 17), Beats(pick(-8, 200), pick(1, 12)), Beats(pick(1, 40), pick(1, 12)));
  n.voice = pick(0, 1);
  if (chance(6)) n.free = TimeSpan{Seconds(pick(0, 400) / 8.0), Seconds(pick(400, 500) / 8.0)};
  n.finger = static_cast<Finger>(pick(0, 5));
  n.barred = chance(8), n.keptDown = chance(8);
  n.picking = static_cast<Picking>(pick(0, 8));
  n.attack = static_cast<Attack>(pick(0, 7));
  if (n.attack == Attack::slidInto && chance(2)) n.slidFrom = pick(0, 17);
  n.tone = static_cast<Tone>(pick(0, 2));
  if (chance(3)) n.bend = Bend{size(400), chance(2), chance(2), pick(0, 3)};
  if (chance(3)) n.vibrato = Vibrato{static_cast<Vibrato::Kind>(pick(0, 2)), rate(), size(100)};
  if (chance(6)) n.dive = Dive{size(1200), chance(2)};
  if (chance(6)) n.trill = Trill{pick(0, 17), rate()};
  if (chance(5)) {
    const auto kind = static_cast<PlayedHarmonic::Kind>(pick(0, 2));
    n.harmonic = PlayedHarmonic{kind, kind == PlayedHarmonic::Kind::natural ? 0 : n.place.fret + 12};
  }
  if (chance(6)) n.tremolo = Tremolo{pick(0, 8)};
  n.bar = static_cast<SlideBar>(pick(0, 2));
  n.letRing = chance(4), n.palmMuted = chance(4), n.staccato = chance(4), n.feedback = chance(8);
  n.ending = static_cast<Ending>(pick(0, 5));
  n.origin = static_cast<Origin>(pick(0, 2));
  n.certainty = pick(0, 16) / 16.0;
  if (chance(4)) n.why = "The bass is loud here.";
  if (chance(4))
    n.readings.push_back(
        {n.at, n.length, {pick(0, 5), pick(1, 17)}, Bend{size(300), chance(2)}, 0.25, "or a fret lower"});
  return n;
}

Phrase phrase(const std::string& id, std::vector<Note> notes, const std::string& take, const std::string& part) {
  Phrase p{.id = id, .take = take, .part = part};
  p.span = {Seconds(4), Seconds(8)};
  p.levels.change().front().notes = std::move(notes);
  return p;
}

}  // namespace ear::test
