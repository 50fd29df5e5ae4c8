// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/workbench/chord_keeper.h"

#include <algorithm>

#include "app/theme/words.h"
#include "app/workbench/workbench.h"
#include "core/practice/nesting.h"

namespace ear {

ChordKeeper::ChordKeeper(Workbench& bench) : QObject(&bench), bench_(bench) {}

std::optional<ShownChord> ChordKeeper::at(Seconds t) const {
  if (bench_.take() == nullptr) return std::nullopt;
  for (const auto& c : bench_.document().chords())
    if (c.span.contains(t)) return c;
  return std::nullopt;
}

void ChordKeeper::decide(const QString& label, TimeSpan span, std::optional<Chord> chord, Origin origin) {
  bench_.document().edit(label.toStdString(), [&, id = bench_.take()->id](Study& s) {
    decideChord(*s.take(id), {span, chord, origin});
  });
}

void ChordKeeper::decideTyped(TimeSpan span, const QString& name) {
  const auto read = parseChord(name.trimmed().toStdString());
  if (!read && !name.trimmed().isEmpty()) {
    bench_.say(tr("“%1” is no chord known here. Write a letter A to G, # or b, then the kind, such as m7, sus4, "
                  "maj7, dim.")
                   .arg(name));
    return;
  }
  decide(tr("Set chord"), span, read, Origin::set);
}

void ChordKeeper::backToMeasured(TimeSpan span) {
  bench_.document().edit(tr("Back to measured chord").toStdString(), [&, id = bench_.take()->id](Study& s) {
    std::erase_if(s.take(id)->chords.change(), [&](const ChordDecision& d) { return d.span == span; });
  });
}

void ChordKeeper::putHere(const Chord& chord) {
  const Seconds now = bench_.transport().position() + Transport::kBlink;
  const auto there = at(now);
  decide(tr("Set chord"),
         there ? there->span : nestedAround(bench_.time().grid(), {}, bench_.analysis().duration(), now).front(), chord,
         Origin::set);
}

}  // namespace ear
