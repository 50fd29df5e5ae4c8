// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/musicxml_hands.h"

#include <algorithm>
#include <cmath>

#include "core/exchange/musicxml_elements.h"
#include "core/exchange/musicxml_words.h"

namespace ear::musicxml {
namespace {

using pugi::xml_node;

void writePlace(xml_node technical, const Note& n, int strings) {
  add(technical, "fret", n.place.fret);
  add(technical, "string", strings - n.place.string);
}

void writeOrnaments(xml_node notations, const Note& n) {
  const bool counted = n.tremolo && n.tremolo->strokesInBeat > 0;
  if (!n.vibrato && !n.trill && !counted) return;
  xml_node ornaments = notations.append_child("ornaments");
  if (n.trill) ornaments.append_child("trill-mark");
  if (n.vibrato)
    for (const char* type : {"start", "stop"}) ornaments.append_child("wavy-line").append_attribute("type") = type;
  if (counted) {
    const int marks = std::clamp(static_cast<int>(std::lround(std::log2(n.tremolo->strokesInBeat))), 1, 8);
    add(ornaments, "tremolo", marks).append_attribute("type") = "single";
  }
}

void writeBend(xml_node technical, const Note& n) {
  if (!n.bend || !n.bend->size) return;
  const double semitones = n.bend->size->value / 100;
  xml_node bend = technical.append_child("bend");
  add(bend, "bend-alter", plainNumber(semitones));
  if (n.bend->before) bend.append_child("pre-bend");
  if (!n.bend->released) return;
  bend = technical.append_child("bend");
  add(bend, "bend-alter", plainNumber(-semitones));
  bend.append_child("release");
}

void writeArticulations(xml_node notations, const Note& n) {
  const std::pair<bool, const char*> articulations[] = {{n.staccato, "staccato"},
                                                        {n.attack == Attack::slidFromBelow, "scoop"},
                                                        {n.attack == Attack::slidFromAbove, "plop"},
                                                        {n.ending == Ending::slidUp, "doit"},
                                                        {n.ending == Ending::slidDown, "falloff"}};
  xml_node marks;
  for (const auto& [on, name] : articulations) {
    if (!on) continue;
    if (!marks) marks = notations.append_child("articulations");
    marks.append_child(name);
  }
}

}  // namespace

void HandMarks::write(xml_node notations, bool starts) const {
  const Note& n = note;
  if (!starts) return writePlace(notations.append_child("technical"), n, strings);
  const auto line = [&](const char* type) {
    xml_node slide = notations.append_child("slide");
    slide.append_attribute("type") = type;
    slide.append_attribute("number") = n.place.string + 1;
    slide.append_attribute("line-type") = "solid";
  };
  if (led && n.attack == Attack::slidInto) line("stop");
  if (leads != nullptr && leads->attack == Attack::slidInto) line("start");
  writeOrnaments(notations, n);
  xml_node technical = notations.append_child("technical");
  if (n.picking == Picking::down) technical.append_child("down-bow");
  if (n.picking == Picking::up) technical.append_child("up-bow");
  if (n.harmonic) {  // the note stands at the pitch of its fret
    const bool natural = n.harmonic->kind == PlayedHarmonic::Kind::natural;
    xml_node harmonic = technical.append_child("harmonic");
    harmonic.append_child(natural ? "natural" : "artificial");
    harmonic.append_child(natural ? "touching-pitch" : "base-pitch");
  }
  if (n.finger != Finger::unsaid)
    add(technical, "fingering", n.finger == Finger::thumb ? "T" : std::to_string(static_cast<int>(n.finger)));
  if (n.picking >= Picking::thumb && n.picking <= Picking::ring)
    add(technical, "pluck", std::string(1, "pima"[static_cast<int>(n.picking) - static_cast<int>(Picking::thumb)]));
  writePlace(technical, n, strings);
  const auto pair = [&](Attack attack, const char* name, const char* sign) {
    const auto both = [&](const char* type, const char* text) {
      xml_node e = add(technical, name, text);
      e.append_attribute("type") = type;
      e.append_attribute("number") = n.place.string + 1;
    };
    if (n.attack == attack && led) both("stop", "");
    if (leads != nullptr && leads->attack == attack) both("start", sign);
  };
  pair(Attack::hammeredOn, "hammer-on", "H");
  pair(Attack::pulledOff, "pull-off", "P");
  writeBend(technical, n);
  if (n.attack == Attack::tapped) technical.append_child("tap");
  if (const std::string rest = leftoverOf(n, written); !rest.empty()) add(technical, "other-technical", rest);
  writeArticulations(notations, n);
}

}  // namespace ear::musicxml
