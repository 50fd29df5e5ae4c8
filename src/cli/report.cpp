// SPDX-License-Identifier: GPL-3.0-or-later
#include "report.h"

#include <cmath>

#include "core/theory/pitch.h"

namespace ear {
namespace {

using Json = nlohmann::ordered_json;

/// Rounded to what the measurement can bear, so that the report stays readable.
double rounded(double value, double unit) {
  return std::round(value / unit) * unit;
}
double milli(double value) {
  return rounded(value * 1000, 1) / 1000;
}

Json times(const std::vector<Seconds>& list, Seconds from) {
  Json out = Json::array();
  for (const Seconds t : list) out.push_back(milli((t + from).value));
  return out;
}

}  // namespace

Json reportOf(const Findings& f, const std::string& file, Seconds from, const std::set<std::string>& only) {
  const auto wants = [&](const char* key) { return only.empty() || only.contains(key); };
  Json report{{"file", file}, {"duration_s", milli(f.duration.value)}};
  if (f.reference && wants("reference"))
    report["reference"] = {{"a4_hz", milli(f.reference->a4().value)},
                           {"cents", milli(f.reference->offset.value)},
                           {"confidence", milli(f.reference->certainty)}};
  if (f.key && wants("key"))
    for (const auto& r : f.key->readings)
      report["key"].push_back(
          {{"tonic", sharpName(r.key.tonic)}, {"mode", modeName(r.key.mode)}, {"confidence", milli(r.certainty)}});
  if (f.rhythm && !f.rhythm->tempo.empty()) {
    if (wants("tempo"))
      for (const auto& r : f.rhythm->tempo)
        report["tempo"].push_back(
            {{"bpm", milli(r.tempo.value)}, {"confidence", milli(r.certainty * f.rhythm->pulse)}});
    if (wants("meter")) report["meter"] = f.rhythm->meter;
    if (wants("swing")) report["swing"] = milli(f.rhythm->swing.ratio);
    if (wants("beats")) report["beats"] = times(f.rhythm->beats, from);
    if (wants("downbeats")) report["downbeats"] = times(f.rhythm->downbeats, from);
  }
  if (!f.form.empty() && wants("sections"))
    for (const auto& s : f.form)
      report["sections"].push_back({{"start_s", milli((s.span.start + from).value)},
                                    {"end_s", milli((s.span.end + from).value)},
                                    {"label", s.letter},
                                    {"confidence", milli(s.certainty)}});
  if (!f.chords.empty() && wants("chords"))
    for (const auto& c : f.chords)
      report["chords"].push_back({{"start_s", milli((c.span.start + from).value)},
                                  {"end_s", milli((c.span.end + from).value)},
                                  {"label", c.chord ? harteLabel(*c.chord) : "N"},
                                  {"confidence", milli(c.certainty)},
                                  {"kind_confidence", milli(c.kindCertainty)}});
  if (!f.guitars.empty() && wants("guitar_setups"))
    for (const auto& r : f.guitars.front().readings) {
      Json tuning = Json::array(), reasons = Json::array();
      for (const int pitch : r.tuning.strings)
        tuning.push_back(sharpName(PitchClass(pitch)) + std::to_string(pitch / 12 - 1));
      for (const auto& reason : r.reasons) reasons.push_back(sentenceOf(reason, spellingOf(f.key)));
      report["guitar_setups"].push_back(
          {{"tuning", tuning}, {"capo", r.capo.fret}, {"confidence", milli(r.certainty)}, {"reasons", reasons}});
    }
  return report;
}

Json notesOf(const std::vector<PlayedNote>& notes, Cents reference, Seconds from) {
  Json list = Json::array();
  for (const auto& [n, bend, vibrato, slide, leading] : notes) {
    Json note{{"start_s", milli((n.span.start + from).value)},
              {"end_s", milli((n.span.end + from).value)},
              {"midi", milli(n.pitch.value - reference.value / 100)},
              {"leading", leading}};
    if (bend) note["bend_cents"] = std::lround(bend->size().value);
    if (bend && bend->again) note["bent_still"] = true;
    if (bend && bend->released) note["released_s"] = milli((*bend->released + from).value);
    if (vibrato)
      note["vibrato_hz"] = milli(vibrato->rate.value), note["vibrato_cents"] = std::lround(vibrato->width.value);
    if (slide) note["slide_from_midi"] = milli(slide->from.value - reference.value / 100);
    list.push_back(note);
  }
  return list;
}

Json pitchOf(const F0Contour& line, Seconds from) {
  Json list = Json::array();
  for (const auto& [time, pitch] : line.sampled())
    list.push_back({milli((time + from).value), pitch ? Json(milli(pitch->value)) : Json(nullptr)});
  return list;
}

}  // namespace ear
