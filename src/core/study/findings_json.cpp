// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/findings_json.h"

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "core/base/text.h"
#include "core/study/json_values.h"
#include "core/study/validity.h"

namespace ear {
namespace {

/// Four decimals. JSON knows no number that is none: the writer's look at what it wrote finds those.
double tidy(double value) {
  const double scaled = value * 1e4;
  return std::isfinite(scaled) ? std::round(scaled) / 1e4 : value;
}

template <class List, class Get>
Json listOf(const List& list, Get get) {
  Json out = Json::array();
  for (const auto& item : list) out.push_back(tidy(get(item)));
  return out;
}

/// A list of what is not one number each.
template <class List, class Get>
Json arrayOf(const List& list, Get get) {
  Json out = Json::array();
  for (const auto& item : list) out.push_back(get(item));
  return out;
}

Seconds secondsFrom(const Json& json) {
  const Seconds t(finite(json));
  require(t >= -StudyLimits::kLongestTime && t <= StudyLimits::kLongestTime, "a time beyond any recording");
  return t;
}

std::string sentenceFrom(const Json& json) {
  return shortened(json.get<std::string>(), StudyLimits::kLongestSentence);
}

Json times(const std::vector<Seconds>& list) {
  return listOf(list, [](Seconds t) { return t.value; });
}

std::vector<Seconds> timesFrom(const Json& json) {
  std::vector<Seconds> out;
  for (const auto& t : json) {
    out.push_back(secondsFrom(t));
    if (out.size() > 1 && out.back() < out[out.size() - 2]) throw std::runtime_error("times out of order");
  }
  return out;
}

Json referenceToJson(const ReferencePitch& r) {
  Json curve = Json::array();
  for (const auto& p : r.curve) curve.push_back({tidy(p.time.value), tidy(p.offset.value), tidy(p.certainty)});
  Json json{{"cents", tidy(r.offset.value)},
            {"certainty", tidy(r.certainty)},
            {"histogram", listOf(r.histogram, [](float v) { return v; })},
            {"curve", curve}};
  if (r.second) json["second"] = {tidy(r.second->offset.value), tidy(r.second->share)};
  return json;
}

ReferencePitch referenceFrom(const Json& json) {
  ReferencePitch r{
      .offset = Cents(finiteAt(json, "cents")), .certainty = finiteAt(json, "certainty"), .histogram = {}, .curve = {}};
  if (json.contains("second")) r.second = {Cents(finite(json.at("second").at(0))), finite(json.at("second").at(1))};
  const Json& histogram = json.at("histogram");
  if (histogram.size() != r.histogram.size()) throw std::runtime_error("a histogram of the wrong size");
  for (std::size_t i = 0; i < r.histogram.size(); ++i) r.histogram[i] = static_cast<float>(finite(histogram[i]));
  for (const auto& p : json.at("curve"))
    r.curve.push_back({secondsFrom(p.at(0)), Cents(finite(p.at(1))), finite(p.at(2))});
  return r;
}

Json keyToJson(const KeyFindings& k) {
  Json readings = Json::array();
  for (const auto& r : k.readings)
    readings.push_back(
        {{"tonic", sharpName(r.key.tonic)}, {"mode", modeName(r.key.mode)}, {"certainty", tidy(r.certainty)}});
  Json changes = Json::array();
  for (const auto& c : k.changes)
    changes.push_back({{"at_s", tidy(c.at.value)}, {"tonic", sharpName(c.key.tonic)}, {"mode", modeName(c.key.mode)}});
  return {
      {"readings", readings}, {"chroma", listOf(k.chroma, [](float v) { return v; })}, {"changes", std::move(changes)}};
}

Key keyAt(const Json& json) {
  const auto key = parseKey(json.at("tonic").get<std::string>() + " " + json.at("mode").get<std::string>());
  if (!key) throw std::runtime_error("a key that is none");
  return *key;
}

KeyFindings keyFrom(const Json& json) {
  KeyFindings k;
  for (const auto& r : json.at("readings")) k.readings.push_back({keyAt(r), finiteAt(r, "certainty")});
  if (json.contains("changes"))
    for (const auto& c : json.at("changes")) k.changes.push_back({secondsFrom(c.at("at_s")), keyAt(c)});
  if (json.at("chroma").size() != 12) throw std::runtime_error("a chroma of the wrong size");
  for (std::size_t i = 0; i < 12; ++i) k.chroma[i] = static_cast<float>(finite(json.at("chroma")[i]));
  return k;
}

/// In the order of LevelReason.
constexpr std::array<std::string_view, 7> kLevelReasons = {
    "", "thirds paired", "compound", "half collides", "twice is empty", "slowly divided", "twice is fast"};

/// Before version 2 it was a sentence.
LevelReason levelReasonFrom(const Json& json) {
  const auto name = json.value("level", ""), sentence = json.value("reason", "");
  for (std::size_t i = 1; i < kLevelReasons.size(); ++i)
    if (const auto reason = static_cast<LevelReason>(i); name == kLevelReasons[i] || sentence == sentenceOf(reason))
      return reason;
  return LevelReason::none;
}

Json rhythmToJson(const RhythmFindings& r) {
  Json tempo = Json::array();
  for (const auto& t : r.tempo) tempo.push_back({{"bpm", tidy(t.tempo.value)}, {"certainty", tidy(t.certainty)}});
  return {{"tempo", tempo},
          {"pulse", tidy(r.pulse)},
          {"meter", r.meter},
          {"meter_certainty", tidy(r.meterCertainty)},
          {"swing", tidy(r.swing.ratio)},
          {"swing_of", r.swing.level == SwingLevel::sixteenths ? "sixteenths" : "eighths"},
          {"level", kLevelReasons[static_cast<std::size_t>(r.reason)]},
          {"feels", arrayOf(r.feels,
                            [](const FeelSpan& f) {
                              return Json{tidy(f.span.start.value), tidy(f.span.end.value),
                                          f.feel == Feel::halfTime ? "half" : "double"};
                            })},
          {"profile", listOf(r.profile.strength, [](double v) { return v; })},
          {"beats", times(r.beats)},
          {"downbeats", times(r.downbeats)},
          {"tempogram_bpm", listOf(r.tempogram.tempi, [](Bpm t) { return t.value; })},
          {"tempogram", listOf(r.tempogram.strength, [](float v) { return v; })}};
}

RhythmFindings rhythmFrom(const Json& json) {
  RhythmFindings r;
  for (const auto& t : json.at("tempo")) r.tempo.push_back({Bpm(finiteAt(t, "bpm")), finiteAt(t, "certainty")});
  if (json.contains("pulse")) r.pulse = finiteAt(json, "pulse");
  r.meter = wholeAt(json, "meter");
  if (r.meter < 1 || r.meter > 32) throw std::runtime_error("a metre out of range");
  r.meterCertainty = finiteAt(json, "meter_certainty");
  r.swing.ratio = finiteAt(json, "swing");
  if (json.value("swing_of", "") == "sixteenths") r.swing.level = SwingLevel::sixteenths;
  r.reason = levelReasonFrom(json);
  if (json.contains("feels"))
    for (const auto& f : json.at("feels"))
      r.feels.push_back(
          {{secondsFrom(f.at(0)), secondsFrom(f.at(1))}, f.at(2) == "half" ? Feel::halfTime : Feel::doubleTime});
  if (json.contains("profile") && json.at("profile").size() == BeatProfile::kPlaces)
    for (std::size_t i = 0; i < BeatProfile::kPlaces; ++i) r.profile.strength[i] = finite(json.at("profile")[i]);
  r.beats = timesFrom(json.at("beats"));
  r.downbeats = timesFrom(json.at("downbeats"));
  for (const auto& t : json.at("tempogram_bpm")) r.tempogram.tempi.emplace_back(finite(t));
  for (const auto& s : json.at("tempogram")) r.tempogram.strength.push_back(static_cast<float>(finite(s)));
  if (r.tempogram.tempi.size() != r.tempogram.strength.size()) throw std::runtime_error("a tempogram of two sizes");
  return r;
}

Json chordsToJson(const std::vector<FoundChord>& chords) {
  Json list = Json::array();
  for (const auto& c : chords) {
    list.push_back({{"start_s", tidy(c.span.start.value)},
                    {"end_s", tidy(c.span.end.value)},
                    {"name", c.chord ? chordName(*c.chord, Spelling::sharps) : ""},
                    {"certainty", tidy(c.certainty)}});
    if (c.kindCertainty > 0) list.back()["kind_certainty"] = tidy(c.kindCertainty);
  }
  return list;
}

std::vector<FoundChord> chordsFrom(const Json& json) {
  std::vector<FoundChord> chords;
  for (const auto& c : json) {
    const auto name = c.at("name").get<std::string>();
    chords.push_back({{secondsFrom(c.at("start_s")), secondsFrom(c.at("end_s"))},
                      parseChord(name),
                      finiteAt(c, "certainty"),
                      c.contains("kind_certainty") ? finiteAt(c, "kind_certainty") : 0.0});
    if (!name.empty() && !chords.back().chord) throw std::runtime_error("a chord that is none");
  }
  return chords;
}

/// In the order of SetupReason::Kind.
constexpr std::array<std::string_view, 11> kSetupReasons = {
    "words", "lowest is open", "lowest is above", "lowest is below", "lowest is a bass", "fits grips",
    "ease",  "rings open",     "rings fretted",   "cannot hold",     "sounds like"};

Json setupReasonToJson(const SetupReason& reason) {
  Json json{{"kind", kSetupReasons[static_cast<std::size_t>(reason.kind)]}};
  if (reason.at) json["at_s"] = tidy(reason.at->value);
  if (!reason.text.empty()) json["text"] = reason.text;
  if (!reason.numbers.empty()) json["numbers"] = reason.numbers;
  for (const auto& grip : reason.grips)
    json["grips"].push_back({{"shape", chordName(grip.shape, Spelling::sharps)}, {"frets", grip.frets}});
  return json;
}

SetupReason setupReasonFrom(const Json& json) {
  SetupReason reason;
  if (json.contains("kind")) {
    const auto kind = std::ranges::find(kSetupReasons, json.at("kind").get<std::string>());
    if (kind == kSetupReasons.end()) throw std::runtime_error("a reason of an unknown kind");
    reason.kind = static_cast<SetupReason::Kind>(kind - kSetupReasons.begin());
  }
  if (json.contains("text")) reason.text = sentenceFrom(json.at("text"));
  if (json.contains("at_s")) reason.at = secondsFrom(json.at("at_s"));
  if (json.contains("numbers"))
    for (const auto& n : json.at("numbers")) reason.numbers.push_back(whole(n));
  if (json.contains("grips"))
    for (const auto& g : json.at("grips")) {
      const auto shape = parseChord(g.at("shape").get<std::string>());
      if (!shape) throw std::runtime_error("a chord that is none");
      reason.grips.push_back({*shape, sentenceFrom(g.at("frets"))});
    }
  return reason;
}

Json guitarsToJson(const std::vector<FoundGuitar>& guitars) {
  Json list = Json::array();
  for (const auto& g : guitars) {
    Json readings = Json::array();
    for (const auto& r : g.readings) {
      Json reasons = Json::array();
      for (const auto& reason : r.reasons) reasons.push_back(setupReasonToJson(reason));
      readings.push_back({{"strings", r.tuning.strings},
                          {"capo", r.capo.fret},
                          {"certainty", tidy(r.certainty)},
                          {"reasons", std::move(reasons)}});
    }
    list.push_back({{"side", static_cast<int>(g.side) - 1}, {"share", tidy(g.share)}, {"readings", readings}});
  }
  return list;
}

std::vector<FoundGuitar> guitarsFrom(const Json& json) {
  std::vector<FoundGuitar> guitars;
  for (const auto& g : json) {
    const int side = wholeAt(g, "side");
    if (side < -1 || side > 1) throw std::runtime_error("a side that is none");
    FoundGuitar guitar{static_cast<Side>(side + 1), finiteAt(g, "share"), {}};
    for (const auto& r : g.at("readings")) {
      SetupReading reading{{}, {wholeAt(r, "capo"), 0}, finiteAt(r, "certainty"), {}};
      for (const auto& string : r.at("strings")) reading.tuning.strings.push_back(whole(string));
      if (!isGuitar(reading.tuning, reading.capo)) throw std::runtime_error("a guitar that is none");
      for (const auto& reason : r.at("reasons")) reading.reasons.push_back(setupReasonFrom(reason));
      guitar.readings.push_back(std::move(reading));
    }
    guitars.push_back(std::move(guitar));
  }
  return guitars;
}

Json sidesToJson(const std::vector<SidePoint>& sides) {
  Json list = Json::array();
  for (const auto& p : sides)
    list.push_back({tidy(p.time.value), tidy(p.level[0]), tidy(p.level[1]), tidy(p.level[2])});
  return list;
}

std::vector<SidePoint> sidesFrom(const Json& json) {
  std::vector<SidePoint> sides;
  for (const auto& p : json) {
    SidePoint point{secondsFrom(p.at(0))};
    for (std::size_t i = 0; i < 3; ++i) point.level[i] = static_cast<float>(finite(p.at(i + 1)));
    sides.push_back(point);
  }
  return sides;
}

/// Only what differs.
Json differenceToJson(const SectionDifference& d) {
  Json json = Json::object();
  const auto tell = [&](const char* name, int value) {
    if (value != 0) json[name] = value;
  };
  tell("semitones", d.semitones);
  tell("bars", d.bars);
  tell("ending", d.endsOtherwise ? 1 : 0);
  tell("beat", d.otherBeat ? 1 : 0);
  tell("loudness", d.loudness);
  tell("left", d.left);
  tell("right", d.right);
  return json;
}

/// An earlier file has it in words, of which these facts were made.
SectionDifference differenceFrom(const Json& json) {
  if (json.is_string()) return differenceIn(sentenceFrom(json));
  constexpr int kMost = 9999;  // of anything: more was never measured
  const auto number = [&](const char* name) {
    return json.contains(name) ? std::clamp(wholeAt(json, name), -kMost, kMost) : 0;
  };
  return {number("semitones"), number("bars"), number("ending") != 0, number("beat") != 0,
          number("loudness"),  number("left"), number("right")};
}

Role roleFrom(const std::string& word) {
  for (int i = 0; i <= static_cast<int>(Role::noMusic); ++i)
    if (word == roleWord(static_cast<Role>(i))) return static_cast<Role>(i);
  return Role::none;
}

/// One hexadecimal digit for each pair of bars, a string for each row.
Json pictureToJson(const SelfSimilarityPicture& picture) {
  Json rows = Json::array();
  for (std::size_t i = 0; i < picture.size; ++i) {
    std::string row;
    for (std::size_t j = 0; j < picture.size; ++j) row += "0123456789abcdef"[picture.alike[i * picture.size + j] & 15U];
    rows.push_back(row);
  }
  return {{"bars_each", picture.barsEach}, {"rows", rows}};
}

SelfSimilarityPicture pictureFrom(const Json& json) {
  SelfSimilarityPicture picture{.size = json.at("rows").size(), .barsEach = wholeAt(json, "bars_each")};
  for (const auto& row : json.at("rows")) {
    const auto text = row.get<std::string>();
    if (text.size() != picture.size || text.find_first_not_of("0123456789abcdef") != std::string::npos)
      throw std::runtime_error("a picture of the bars that is not square");
    for (const char c : text) picture.alike.push_back(static_cast<std::uint8_t>(c <= '9' ? c - '0' : c - 'a' + 10));
  }
  return picture;
}

}  // namespace

Json findingsToJson(const Findings& f) {
  Json json{{"duration_s", tidy(f.duration.value)}};
  if (f.reference) json["reference"] = referenceToJson(*f.reference);
  if (f.key) json["key"] = keyToJson(*f.key);
  if (f.rhythm) json["time"] = rhythmToJson(*f.rhythm);
  if (!f.chords.empty()) json["chords"] = chordsToJson(f.chords);
  if (!f.guitars.empty()) json["guitars"] = guitarsToJson(f.guitars);
  if (!f.sides.empty()) json["sides"] = sidesToJson(f.sides);
  json["form"] = Json::array();
  for (const auto& s : f.form)
    json["form"].push_back({{"start_s", tidy(s.span.start.value)},
                            {"end_s", tidy(s.span.end.value)},
                            {"letter", s.letter},
                            {"certainty", tidy(s.certainty)},
                            {"bars", s.bars},
                            {"role", roleWord(s.role)},
                            {"difference", differenceToJson(s.difference)}});
  if (f.alike.size > 0) json["alike"] = pictureToJson(f.alike);
  return json;
}

Findings findingsFromJson(const Json& json) {
  Findings f{.duration = secondsFrom(json.at("duration_s"))};
  if (json.contains("reference")) f.reference = referenceFrom(json.at("reference"));
  if (json.contains("key")) f.key = keyFrom(json.at("key"));
  if (json.contains("time")) f.rhythm = rhythmFrom(json.at("time"));
  if (json.contains("chords")) f.chords = chordsFrom(json.at("chords"));
  if (json.contains("guitars")) f.guitars = guitarsFrom(json.at("guitars"));
  if (json.contains("sides")) f.sides = sidesFrom(json.at("sides"));
  for (const auto& s : json.at("form"))
    f.form.push_back({{secondsFrom(s.at("start_s")), secondsFrom(s.at("end_s"))},
                      sentenceFrom(s.at("letter")),
                      finiteAt(s, "certainty"),
                      s.contains("bars") ? wholeAt(s, "bars") : 0,
                      roleFrom(s.value("role", "")),
                      s.contains("difference") ? differenceFrom(s.at("difference")) : SectionDifference{}});
  if (json.contains("alike")) f.alike = pictureFrom(json.at("alike"));
  return f;
}

}  // namespace ear
