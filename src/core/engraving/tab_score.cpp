// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/tab_score.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace ear {
namespace {

constexpr double kLikelyEnough = 0.45;  // as core/study says "likely"; the score knows nothing of studies

std::string fingerMark(Finger finger) {
  static constexpr std::array kMarks = {"", "1", "2", "3", "4", "T"};
  return kMarks[static_cast<std::size_t>(finger)];
}

/// The note that starts next on the same string in the same voice, and the one before it.
struct Neighbours {
  const Note* before = nullptr;
  const Note* after = nullptr;
};

/// @param string  notes of its string by time
Neighbours neighboursOf(const std::vector<const Note*>& string, const Note& note) {
  const auto earlier = [](const Note* a, const Note* b) { return a->at < b->at; };
  const auto [first, last] = std::equal_range(string.begin(), string.end(), &note, earlier);
  return {first == string.begin() ? nullptr : *std::prev(first), last == string.end() ? nullptr : *last};
}

class Engraver {
 public:
  /// @param notes  in order of time
  Engraver(TabScore& score, const TabScoreContext& context, const std::vector<ShownNote>& notes)
      : score_(score), context_(context) {
    for (const ShownNote& s : notes) strings_[s.note.place.string].push_back(&s.note);
  }

  void draw(const ShownNote& shown) {
    const Note& n = shown.note;
    score_.heads.push_back({n.at, n.end(), n.id, n.place.string, n.voice,
                            headText(n, context_.guitar, context_.fretsFromNut), n.origin, shown.differs,
                            !n.readings.empty() || n.certainty < kLikelyEnough, n.letRing, n.staccato, keptTo(n),
                            fingerMark(n.finger)});
    const Neighbours near = neighboursOf(strings_[n.place.string], n);
    drawAttack(n, near);
    drawBend(n);
    drawSound(n);
    drawEnding(n, near);
  }

 private:
  void mark(TabMark::Kind kind, const Note& n, Beats from, Beats to, double cents = 0.0, std::string text = {}) {
    score_.marks.push_back({kind, from, to, n.place.string, n.id, cents, std::move(text)});
  }
  /// Up to the next note on its string, at most two beats.
  std::optional<Beats> keptTo(const Note& n) const {
    if (!n.keptDown) return std::nullopt;
    const Note* next = neighboursOf(strings_.at(n.place.string), n).after;
    const Beats most = n.end() + Beats(2);
    return next != nullptr ? std::min(most, std::max(n.end(), next->at)) : most;
  }
  void word(const Note& n, std::string text) { mark(TabMark::Kind::word, n, n.at, n.at, 0.0, std::move(text)); }

  void drawAttack(const Note& n, const Neighbours& near) {
    using K = TabMark::Kind;
    const Beats from = near.before != nullptr ? near.before->at : n.at;
    switch (n.attack) {
      case Attack::plucked:
        break;
      case Attack::hammeredOn:
        mark(near.before != nullptr ? K::hammer : K::word, n, from, n.at, 0.0, "h");
        break;
      case Attack::pulledOff:
        mark(near.before != nullptr ? K::pull : K::word, n, from, n.at, 0.0, "p");
        break;
      case Attack::slidInto:
        if (near.before != nullptr && !n.slidFrom)
          mark(K::slide, n, from, n.at, near.before->place.fret < n.place.fret ? 1.0 : -1.0);
        else
          mark(K::slideIn, n, n.at, n.at, n.slidFrom && *n.slidFrom > n.place.fret ? 1.0 : -1.0,
               n.slidFrom ? std::to_string(*n.slidFrom) : "");
        break;
      case Attack::slidFromBelow:
        mark(K::slideIn, n, n.at, n.at, -1.0);
        break;
      case Attack::slidFromAbove:
        mark(K::slideIn, n, n.at, n.at, 1.0);
        break;
      case Attack::tapped:
        word(n, "tap");
        break;
      case Attack::raked:
        word(n, "rake");
        break;
    }
  }

  void drawBend(const Note& n) {
    using K = TabMark::Kind;
    if (!n.bend) return;
    const double cents = n.bend->size ? n.bend->size->value : 100.0;
    const std::string text = n.bend->size ? bendMark(context_.schools, *n.bend->size) : "?";
    mark(n.bend->before ? K::heldBend : K::bend, n, n.at, n.end(), cents, text);
    if (n.bend->again > 0) mark(K::again, n, n.at, n.end(), cents, std::to_string(n.bend->again));
    if (n.bend->released) mark(K::release, n, n.at, n.end(), cents);
  }

  void drawSound(const Note& n) {
    using K = TabMark::Kind;
    if (n.vibrato)
      mark(n.vibrato->kind == Vibrato::Kind::finger ? K::vibrato : K::wideVibrato, n, n.at, n.end(), 0.0,
           n.vibrato->kind == Vibrato::Kind::bar ? "bar" : "");
    if (n.dive) mark(K::dive, n, n.at, n.end(), n.dive->depth ? n.dive->depth->value : 0.0, n.dive->depth ? "" : "?");
    if (n.trill) word(n, "trill " + std::to_string(n.trill->fret));
    if (n.harmonic && n.harmonic->kind == PlayedHarmonic::Kind::pinch) word(n, "pinch");
    if (n.harmonic && n.harmonic->kind == PlayedHarmonic::Kind::tapped)
      word(n, "touch " + std::to_string(n.harmonic->node));
    if (n.bar == SlideBar::atFret) word(n, "bar");
    if (n.bar == SlideBar::lifted) word(n, "lift");
    if (n.feedback) word(n, "feedback");
    if (n.picking == Picking::slap) word(n, "slap");
    if (n.barred) word(n, "barre");
  }

  void drawEnding(const Note& n, const Neighbours& near) {
    using K = TabMark::Kind;
    const Beats until = near.after != nullptr ? std::min(n.end(), near.after->at) : n.end();
    switch (n.ending) {
      case Ending::plain:
        break;
      case Ending::slidUp:
        mark(K::slideOut, n, n.at, until, 1.0);
        break;
      case Ending::slidDown:
        mark(K::slideOut, n, n.at, until, -1.0);
        break;
      case Ending::pulledOff:
        word(n, "pull away");
        break;
      case Ending::choked:
        word(n, "choke");
        break;
      case Ending::faded:
        word(n, "fade");
        break;
    }
  }

  TabScore& score_;
  const TabScoreContext& context_;
  std::map<int, std::vector<const Note*>> strings_;  // by time
};

/// Palm-muted notes in a row make one stretch.
void muteStretches(TabScore& score, const std::vector<ShownNote>& notes) {
  std::optional<TabStretch> open;
  for (const ShownNote& s : notes) {
    if (s.note.palmMuted && open)
      open->to = std::max(open->to, s.note.end());
    else if (s.note.palmMuted)
      open = TabStretch{s.note.at, s.note.end(), TabStretch::Kind::palmMute, "palm"};
    else if (open && s.note.at >= open->from && s.note.voice == 0) {
      open->to = std::min(open->to, std::max(s.note.at, open->from));
      score.stretches.push_back(*open);
      open.reset();
    }
  }
  if (open) score.stretches.push_back(*open);
}

std::optional<TabCount> countAt(Beats at, const TabScoreContext& context) {
  const auto after = std::upper_bound(context.barLines.begin(), context.barLines.end(), at);
  if (after == context.barLines.begin()) return std::nullopt;
  const Beats within = at - *std::prev(after);
  const std::int64_t beat = within.floor();
  const Beats part = within - Beats(beat);
  if (part.bottom() > 4) return std::nullopt;
  const std::string name = countName(context.schools, static_cast<int>(beat) + 1, static_cast<int>(part.top()),
                                     static_cast<int>(part.bottom()));
  const auto space = name.find(' ');
  return TabCount{at, part.top() == 0 || space == std::string::npos ? name : name.substr(space + 1), part.top() == 0};
}

}  // namespace

std::string bendMark(const NotationPreferences& schools, Cents size) {
  static constexpr std::array kQuarters = {"", "¼", "½", "¾"};
  const auto quarters = static_cast<int>(std::lround(size.value / 50));
  if (schools.bends == NotationPreferences::Bends::frets)
    return "+" + (quarters > 1 ? std::to_string(quarters / 2) : "") + (quarters % 2 == 1 ? "½" : "");
  const std::string whole = quarters / 4 > 0 ? std::to_string(quarters / 4) : "";
  return quarters == 0 ? "<¼" : whole + kQuarters[static_cast<std::size_t>(quarters % 4)];
}

std::string headText(const Note& note, const Guitar& guitar, bool fromNut) {
  if (note.tone == Tone::dead) return "×";
  const bool open = note.place.fret == 0 && !(note.harmonic && note.harmonic->kind == PlayedHarmonic::Kind::natural);
  const int fret = fromNut && !open ? guitar.fromNut(note.place) : note.place.fret;
  const std::string number = std::to_string(fret);
  if (note.harmonic && note.harmonic->kind == PlayedHarmonic::Kind::natural) return "‹" + number + "›";
  return note.tone == Tone::ghost ? "(" + number + ")" : number;
}

TabScore engrave(const ShownPhrase& shown, const TabScoreContext& context) {
  TabScore score;
  score.strings = context.guitar.strings();
  score.barLines = context.barLines;
  Engraver engraver(score, context, shown.notes);
  std::map<int, std::vector<Note>> voices;
  bool first = true;
  const auto reach = [&](Beats from, Beats to) {
    score.from = first ? from : std::min(score.from, from);
    score.to = first ? to : std::max(score.to, to);
    first = false;
  };
  for (const ShownNote& s : shown.notes) {
    engraver.draw(s);
    voices[s.note.voice].push_back(s.note);
    reach(s.note.at, s.note.end());
    const bool newMoment = score.strokes.empty() || score.strokes.back().at != s.note.at;
    if (s.note.picking != Picking::unsaid && s.note.picking != Picking::slap && newMoment)
      score.strokes.push_back({s.note.at, s.note.picking});
  }
  muteStretches(score, shown.notes);
  for (const OpenStretch& o : shown.open) {
    const bool unclear = o.kind == OpenStretch::Kind::unclear;
    const std::string plain = unclear ? "unclear" : "free fill";
    score.stretches.push_back({o.from, o.to, unclear ? TabStretch::Kind::unclear : TabStretch::Kind::freeFill,
                               o.words.empty() ? plain : plain + ": " + o.words});
    reach(o.from, o.to);
  }
  for (const auto& [voice, notes] : voices) score.voices.push_back(rhythmOf(notes, context.barLines, context.unit));
  std::map<Beats, TabCount> counts;  // both voices are counted once
  for (const RhythmRow& row : score.voices)
    for (const RhythmPiece& piece : row.pieces)
      if (const auto count = countAt(piece.at, context); count && !piece.rest && !piece.tied)
        counts.emplace(piece.at, *count);
  for (const auto& [at, count] : counts) score.counts.push_back(count);
  return score;
}

}  // namespace ear
