// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/jams.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "core/base/text.h"
#include "core/exchange/musicxml_words.h"
#include "core/study/grid.h"
#include "core/study/parts.h"
#include "core/study/time_map.h"

namespace ear {
namespace {

using nlohmann::json;

json observation(Seconds time, Seconds duration, json value, std::optional<double> confidence) {
  return {{"time", time.value},
          {"duration", duration.value},
          {"value", std::move(value)},
          {"confidence", confidence ? json(*confidence) : json()}};
}

/// An annotation with where it came from: the person or the machine.
json annotation(const char* space, Seconds duration, Origin origin, const std::string& source = {}) {
  const bool machine = origin == Origin::measured;
  return {{"namespace", space},
          {"time", 0.0},
          {"duration", duration.value},
          {"data", json::array()},
          {"sandbox", {{"origin", std::string(originWord(origin))}}},
          {"annotation_metadata",
           {{"curator", {{"name", ""}, {"email", ""}}},
            {"annotator", json::object()},
            {"version", ""},
            {"corpus", ""},
            {"annotation_tools", "Inner Ear"},
            {"annotation_rules", ""},
            {"validation", origin == Origin::confirmed ? "confirmed by ear" : ""},
            {"data_source", source.empty() ? (machine ? "program" : "manual") : source}}}};
}

std::string keyWords(const Key& key) {
  std::string name = pitchClassName(key.tonic, spellingOf(key));
  for (const auto& [from, to] : {std::pair<std::string, std::string>{"♭", "b"}, {"♯", "#"}})
    for (std::size_t at; (at = name.find(from)) != std::string::npos;) name.replace(at, from.size(), to);
  return name + ":" + std::string(modeName(key.mode));
}

/// What a note does besides its pitch, in words that read back: places, and the leftovers that MusicXML has.
json handOf(const Note& n) {
  json hand{{"at", n.at.text()},
            {"length", n.length.text()},
            {"fret", n.place.fret},
            {"voice", n.voice},
            {"attack", static_cast<int>(n.attack)},
            {"words", musicxml::leftoverOf(n, n.length)}};
  if (n.bend && n.bend->size)
    hand["bend"] = {{"cents", n.bend->size->value}, {"before", n.bend->before}, {"released", n.bend->released}};
  if (n.finger != Finger::unsaid) hand["finger"] = static_cast<int>(n.finger);
  if (n.picking != Picking::unsaid) hand["picking"] = static_cast<int>(n.picking);
  if (n.tone != Tone::full) hand["tone"] = n.tone == Tone::dead ? "dead" : "ghost";
  if (n.vibrato) hand["vibrato"] = true;
  if (n.harmonic && n.harmonic->kind == PlayedHarmonic::Kind::natural) hand["natural_harmonic"] = true;
  if (n.letRing) hand["let_ring"] = true;
  if (n.palmMuted) hand["palm_muted"] = true;
  if (n.staccato) hand["staccato"] = true;
  if (n.ending == Ending::slidUp || n.ending == Ending::slidDown)
    hand["slid_out"] = n.ending == Ending::slidUp ? 1 : -1;
  return hand;
}

double numberIn(const json& object, const char* name, double otherwise = 0.0) {
  const auto found = object.is_object() ? object.find(name) : object.end();
  if (!object.is_object() || found == object.end() || !found->is_number()) return otherwise;
  const double value = found->get<double>();
  return std::isfinite(value) ? value : otherwise;
}

std::string wordIn(const json& object, const char* name) {
  if (!object.is_object()) return {};
  const auto found = object.find(name);
  return found != object.end() && found->is_string() ? found->get<std::string>() : std::string();
}

bool flagIn(const json& object, const char* name) {
  if (!object.is_object()) return false;
  const auto found = object.find(name);
  return found != object.end() && found->is_boolean() && found->get<bool>();
}

std::optional<Beats> beatsIn(const json& object, const char* name) {
  const std::string text = wordIn(object, name);
  char* end = nullptr;
  const long top = std::strtol(text.c_str(), &end, 10);
  const long bottom = *end == '/' ? std::strtol(end + 1, nullptr, 10) : 1;
  if (text.empty() || bottom <= 0 || bottom > 100'000 || std::abs(top) > 1'000'000) return std::nullopt;
  return Beats(top, bottom);
}

std::optional<Note> writtenIn(const json& hand, int string, int id) {
  const auto at = beatsIn(hand, "at"), length = beatsIn(hand, "length");
  const int fret = static_cast<int>(numberIn(hand, "fret", -1));
  if (!at || !length || *length <= Beats(0) || fret < 0 || fret > 36 || string < 0 || string > 15) return std::nullopt;
  Note n;
  n.id = id;
  n.at = *at, n.length = *length, n.place = {string, fret};
  n.voice = numberIn(hand, "voice") > 0 ? 1 : 0;
  n.attack =
      static_cast<Attack>(std::clamp(static_cast<int>(numberIn(hand, "attack")), 0, static_cast<int>(Attack::raked)));
  if (const auto bend = hand.find("bend"); bend != hand.end() && bend->is_object())
    n.bend = Bend{Cents(std::clamp(numberIn(*bend, "cents"), -2400.0, 2400.0)), flagIn(*bend, "before"),
                  flagIn(*bend, "released")};
  n.finger =
      static_cast<Finger>(std::clamp(static_cast<int>(numberIn(hand, "finger")), 0, static_cast<int>(Finger::thumb)));
  n.picking =
      static_cast<Picking>(std::clamp(static_cast<int>(numberIn(hand, "picking")), 0, static_cast<int>(Picking::slap)));
  if (const std::string tone = wordIn(hand, "tone"); !tone.empty()) n.tone = tone == "dead" ? Tone::dead : Tone::ghost;
  if (flagIn(hand, "vibrato")) n.vibrato = Vibrato{};
  if (flagIn(hand, "natural_harmonic")) n.harmonic = PlayedHarmonic{};
  n.letRing = flagIn(hand, "let_ring"), n.palmMuted = flagIn(hand, "palm_muted"), n.staccato = flagIn(hand, "staccato");
  if (const double out = numberIn(hand, "slid_out"); out != 0) n.ending = out > 0 ? Ending::slidUp : Ending::slidDown;
  const Attack attack = n.attack;
  musicxml::readLeftover(wordIn(hand, "words"), n);
  n.attack = attack;
  return n;
}

std::optional<Chord> chordOf(const std::string& harte) {
  const auto colon = harte.find(':'), slash = harte.find('/');
  std::string_view root = std::string_view(harte).substr(0, std::min({colon, slash, harte.size()}));
  const auto tonic = parsePitchClass(root);
  if (!tonic) return std::nullopt;
  const std::string kind = colon == std::string::npos
                               ? "maj"
                               : harte.substr(colon + 1, slash == std::string::npos ? slash : slash - colon - 1);
  for (const ChordType& type : chordTypes())
    if (type.harte == kind) {
      Chord chord{*tonic, &type, std::nullopt};
      // The bass is a degree of the major scale: "/b7".
      static constexpr std::array kDegrees = {0, 2, 4, 5, 7, 9, 11};
      if (slash != std::string::npos) {
        const std::string degree = harte.substr(slash + 1);
        const int flats = static_cast<int>(std::count(degree.begin(), degree.end(), 'b'));
        const int sharps = static_cast<int>(std::count(degree.begin(), degree.end(), '#'));
        const int number = std::atoi(degree.c_str() + flats + sharps);
        if (number >= 1 && number <= 13)
          chord.bass = PitchClass(tonic->value + kDegrees[static_cast<std::size_t>((number - 1) % 7)] - flats + sharps);
      }
      return chord;
    }
  return std::nullopt;
}

}  // namespace

std::string writeJams(const TakeLists& l, const std::vector<TabPiece>& pieces) {
  const Brief brief = briefOf(l.take, partsOf(l.study, l.take, l.findings).front(), l.findings);
  const Seconds duration = l.take.duration;
  json annotations = json::array();
  const Grid grid = gridOf(l.take, l.findings);
  const Origin gridOrigin = l.take.grid ? l.take.grid->origin : Origin::measured;
  if (brief.time) {
    json tempo = annotation("tempo", duration, brief.time->origin);
    tempo["data"].push_back(observation(Seconds(0), duration, brief.time->value.tempo.value, brief.time->certainty));
    annotations.push_back(std::move(tempo));
  }
  if (!grid.empty()) {
    json beats = annotation("beat", duration, gridOrigin);
    int place = 0;
    for (const Beat& b : grid) {
      place = b.bar ? 1 : place > 0 ? place + 1 : 0;
      beats["data"].push_back(observation(b.time, Seconds(0), place > 0 ? json(place) : json(), std::nullopt));
    }
    annotations.push_back(std::move(beats));
  }
  if (brief.key) {
    json key = annotation("key_mode", duration, brief.key->origin);
    key["data"].push_back(observation(Seconds(0), duration, keyWords(brief.key->value), brief.key->certainty));
    annotations.push_back(std::move(key));
  }
  // One annotation for each origin, so that what a person said is told from what was measured.
  for (const Origin origin : {Origin::measured, Origin::set, Origin::confirmed}) {
    json chords = annotation("chord", duration, origin);
    for (const ShownChord& c : chordsOf(l.take, l.findings))
      if (c.origin == origin)
        chords["data"].push_back(
            observation(c.span.start, c.span.length(), c.chord ? harteLabel(*c.chord) : "N", c.certainty));
    if (!chords["data"].empty()) annotations.push_back(std::move(chords));
  }
  if (brief.form && !brief.form->value.empty()) {
    json form = annotation("segment_open", duration, brief.form->origin);
    for (const Section& s : brief.form->value)
      form["data"].push_back(
          observation(s.span.start, s.span.length(), s.name.empty() ? s.letter : s.letter + " " + s.name, s.certainty));
    annotations.push_back(std::move(form));
  }
  if (!l.pitch.empty()) {
    json contour = annotation("pitch_contour", duration, Origin::measured);
    for (const VoicePitch& p : l.pitch)
      contour["data"].push_back(
          observation(p.time, Seconds(0),
                      {{"index", 0}, {"frequency", p.pitch ? p.pitch->value : 0.0}, {"voiced", p.pitch.has_value()}},
                      std::nullopt));
    annotations.push_back(std::move(contour));
  }
  const TimeMap map(grid, settled(brief.time).value_or(TimeValue{}).swing);
  for (const TabPiece& p : pieces) {
    const Beats first =
        map.empty()
            ? Beats(0)
            : map.beatsOf({p.firstBar, p.firstBar == 0 ? p.barLines[0] - p.barLines[1] : Beats(0)}).value_or(Beats(0));
    const auto timeOf = [&](Beats at) { return map.empty() ? Seconds(at.value()) : map.timeAt(first + at); };
    for (int string = 0; string < p.guitar.strings(); ++string) {
      json notes = annotation("note_midi", duration, Origin::set, std::to_string(string));
      notes["sandbox"]["guitar"] = p.name;
      for (const Note& n : p.notes) {
        if (n.place.string != string) continue;
        const double midi = soundingKey(p.guitar, n) + p.guitar.offset.value / 100;
        const Seconds start = timeOf(n.at);
        json note = observation(start, timeOf(n.end()) - start, midi, 1.0);
        notes["data"].push_back(std::move(note));
        notes["sandbox"]["hands"].push_back(handOf(n));
      }
      if (!notes["data"].empty()) annotations.push_back(std::move(notes));
    }
  }
  const json jams{{"file_metadata",
                   {{"title", l.study.title},
                    {"artist", ""},
                    {"release", ""},
                    {"duration", duration.value},
                    {"identifiers", json::object()},
                    {"jams_version", "0.3.4"}}},
                  {"annotations", annotations},
                  {"sandbox", {{"take", l.take.name}}}};
  return jams.dump(1) + "\n";
}

Outcome<JamsContent> readJams(std::string_view text) {
  constexpr std::size_t kMostBytes = 32U << 20U, kMost = 200'000;
  if (text.size() > kMostBytes) return Problem{"The file is larger than 32 MB: no lesson needs so much."};
  json jams;
  try {
    jams = json::parse(text);
  } catch (const json::out_of_range&) {
    return Problem{"A number in this file is beyond all measure."};
  } catch (const json::parse_error& error) {
    const auto line =
        1 +
        std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(std::min(error.byte, text.size())), '\n');
    return Problem{"This is no JSON that can be read: it goes wrong in line " + std::to_string(line) + "."};
  }
  if (!jams.is_object() || !jams.contains("annotations") || !jams["annotations"].is_array())
    return Problem{"This is no JAMS file: it has no annotations."};
  JamsContent content;
  const json about = jams.value("file_metadata", json::object());
  content.title = shortened(wordIn(about, "title"), 500);
  content.duration = Seconds(std::clamp(numberIn(about, "duration"), 0.0, 1e6));
  std::set<std::string> losses;
  std::size_t count = 0;
  for (const json& a : jams["annotations"]) {
    if (!a.is_object() || !a.contains("data") || !a["data"].is_array()) continue;
    const std::string space = wordIn(a, "namespace");
    const json sandbox = a.value("sandbox", json::object());
    const json hands = sandbox.is_object() ? sandbox.value("hands", json::array()) : json::array();
    const int string = std::atoi(wordIn(a.value("annotation_metadata", json::object()), "data_source").c_str());
    std::size_t row = 0;
    for (const json& o : a["data"]) {
      const std::size_t own = row++;
      if (!o.is_object() || ++count > kMost) continue;
      const Seconds start(std::clamp(numberIn(o, "time"), 0.0, 1e6));
      const TimeSpan span{start, start + Seconds(std::clamp(numberIn(o, "duration"), 0.0, 1e6))};
      const std::string word = wordIn(o, "value");
      if (space == "beat") {
        content.beats.push_back({start, numberIn(o, "value") == 1.0, false});
      } else if (space == "chord") {
        content.chords.push_back({span, word == "N" ? std::nullopt : chordOf(word), Origin::set});
        if (word != "N" && !content.chords.back().chord) {
          content.chords.pop_back();
          losses.insert("Chords of kinds that are not known here were left out.");
        }
      } else if (space == "segment_open" || space == "segment_salami_upper") {
        content.form.push_back({span, shortened(word, 100), "", Origin::set, 1.0});
      } else if (space == "key_mode") {
        std::string name = word;
        std::replace(name.begin(), name.end(), ':', ' ');
        if (!content.key) content.key = parseKey(name);
      } else if (space == "tempo") {
        if (const double bpm = numberIn(o, "value"); bpm >= 20 && bpm <= 400 && !content.tempo)
          content.tempo = Bpm(bpm);
      } else if (space == "note_midi") {
        const double midi = numberIn(o, "value", -1);
        if (midi < 0 || midi > 127 || span.length() <= Seconds(0)) continue;
        JamsContent::HeardNote note{span, MidiPitch(midi), wordIn(sandbox, "guitar"), std::nullopt};
        if (hands.is_array() && own < hands.size())
          note.written = writtenIn(hands[own], string, static_cast<int>(content.notes.size()) + 1);
        content.notes.push_back(std::move(note));
      } else if (space == "pitch_contour") {
        const json value = o.value("value", json::object());
        const double hertz = numberIn(value, "frequency");
        const bool sounds = flagIn(value, "voiced") && hertz >= 10 && hertz <= 20'000;
        content.pitch.push_back({start, sounds ? std::optional(Hertz(hertz)) : std::nullopt});
      } else {
        losses.insert("Annotations of other kinds were left out.");
      }
    }
  }
  const auto byTime = [](const auto& a, const auto& b) { return a.span.start < b.span.start; };
  std::stable_sort(content.notes.begin(), content.notes.end(), byTime);
  std::stable_sort(content.chords.begin(), content.chords.end(), byTime);
  std::stable_sort(content.form.begin(), content.form.end(), byTime);
  std::stable_sort(content.beats.begin(), content.beats.end(),
                   [](const Beat& a, const Beat& b) { return a.time < b.time; });
  std::stable_sort(content.pitch.begin(), content.pitch.end(),
                   [](const VoicePitch& a, const VoicePitch& b) { return a.time < b.time; });
  content.notKept.assign(losses.begin(), losses.end());
  return content;
}

}  // namespace ear
