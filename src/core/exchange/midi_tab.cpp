// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/midi_tab.h"

#include <smf.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <fstream>
#include <memory>
#include <numbers>
#include <set>
#include <sstream>
#include <string_view>
#include <utility>

#include "core/base/text.h"
#include "core/phrase/phrase.h"
#include "core/phrase/placing.h"
#include "core/study/durable_file.h"

namespace ear {
namespace {

constexpr int kPerQuarter = 960;
constexpr int kWheelMiddle = 8192, kWheelMost = 16383;
constexpr std::array kWheelRanges = {4, 12, 24};  // semitones; the least that serves, so that a tenth of a cent is told
constexpr int kLetGo = 2;                         // pulses
constexpr int kModulation = 1;                    // controller
constexpr int kDrums = 9;                         // channel that plays no notes

struct Free {
  void operator()(smf_t* smf) const { smf_delete(smf); }
};

int pulses(Beats at) {
  return static_cast<int>(std::llround(at.value() * kPerQuarter));
}

class Track {
 public:
  explicit Track(smf_t* smf, int range = kWheelRanges.front()) : track_(smf_track_new()), range_(range) {
    smf_add_track(smf, track_);
  }

  void put(int at, int status, int one, int two) {
    smf_track_add_event_pulses(track_, smf_event_new_from_bytes(status, one, two), std::max(0, at));
  }
  void meta(int at, int type, const std::string& bytes) {
    std::string event{static_cast<char>(0xFF), static_cast<char>(type),
                      static_cast<char>(std::min<std::size_t>(bytes.size(), 120))};
    event += bytes.substr(0, 120);
    smf_track_add_event_pulses(track_, smf_event_new_from_pointer(event.data(), static_cast<int>(event.size())),
                               std::max(0, at));
  }
  void wheel(int at, int channel, double semitones) {
    const int value =
        std::clamp(static_cast<int>(std::lround(kWheelMiddle + semitones / range_ * kWheelMiddle)), 0, kWheelMost);
    if (last_[channel] == value) return;
    last_[channel] = value;
    put(at, 0xE0 + channel, value & 0x7F, value >> 7);
  }
  void declareRange(int channel) {
    last_[channel] = kWheelMiddle;
    for (const auto& [controller, value] : {std::pair{101, 0}, {100, 0}, {6, range_}, {38, 0}})
      put(0, 0xB0 + channel, controller, value);
  }

 private:
  smf_track_t* track_;
  int range_;
  int last_[16] = {};
};

int channelOf(int string, int strings) {
  const int channel = std::max(0, strings - 1 - string);
  return channel < kDrums ? channel : channel + 1;
}

/// How far from its fretted pitch a note is, in semitones, at a share of its length.
double curveOf(const Note& n, double share) {
  double off = 0.0;
  if (n.bend && n.bend->size) {
    const double size = n.bend->size->value / 100;
    const double up = n.bend->before ? 1.0 : std::clamp(share / 0.3, 0.0, 1.0);
    const double down = n.bend->released ? std::clamp((share - 0.6) / 0.3, 0.0, 1.0) : 0.0;
    off += size * (0.5 - 0.5 * std::cos(std::numbers::pi * up)) * (1 - down);
  }
  if (n.dive && n.dive->depth)
    off -= n.dive->depth->value / 100 * (n.dive->back && share > 0.5 ? 2 * (1 - share) : std::min(1.0, 2 * share));
  return off;
}

/// A harmonic sounds another key than that of its fret, so that where it lies is said beside it: "harmonic: string 3
/// fret 12 natural".
constexpr std::string_view kHarmonic = "harmonic:";
constexpr std::array<const char*, 3> kHarmonics = {"natural", "pinch", "tapped"};

std::string wordsOn(const Note& n, int strings) {
  std::string words = std::string(kHarmonic) + " string " + std::to_string(strings - n.place.string) + " fret " +
                      std::to_string(n.place.fret) + " " + kHarmonics.at(static_cast<std::size_t>(n.harmonic->kind));
  if (n.harmonic->kind != PlayedHarmonic::Kind::natural) words += " " + std::to_string(n.harmonic->node);
  return words;
}

/// The place and the kind that the words beside a note give the harmonic on a string; nothing where they give none.
std::optional<std::pair<FretPosition, PlayedHarmonic>> harmonicIn(const std::string& words, int string,
                                                                  const Guitar& guitar) {
  constexpr int kMostNode = 40;
  std::istringstream lines(words);
  for (std::string line; std::getline(lines, line);) {
    std::istringstream in(line);
    std::string head, word, kind;
    int number = 0, fret = -1, node = 0;
    if (!(in >> head >> word >> number >> word >> fret >> kind) || head != kHarmonic) continue;
    in >> node;
    const auto known = std::find(kHarmonics.begin(), kHarmonics.end(), kind);
    if (number != guitar.strings() - string || known == kHarmonics.end()) continue;
    if (fret < 0 || fret > guitar.lastFret(string)) continue;
    return std::pair{
        FretPosition{string, fret},
        PlayedHarmonic{static_cast<PlayedHarmonic::Kind>(known - kHarmonics.begin()), std::clamp(node, 0, kMostNode)}};
  }
  return std::nullopt;
}

int rangeFor(const TabPiece& piece) {
  double most = 0;
  for (const Note& n : piece.notes) {
    if (n.bend && n.bend->size) most = std::max(most, std::abs(n.bend->size->value));
    if (n.dive && n.dive->depth) most = std::max(most, std::abs(n.dive->depth->value));
  }
  const auto enough =
      std::find_if(kWheelRanges.begin(), kWheelRanges.end(), [&](int range) { return 100 * range >= most; });
  return enough == kWheelRanges.end() ? kWheelRanges.back() : *enough;
}

/// A length without what a string is let go early by.
Beats wholeLength(Rational length) {
  constexpr int kRaster = 48;
  const Beats near(std::llround(length.value() * kRaster), kRaster);
  return near > Beats(0) && std::abs((near - length).value()) <= 1.5 * kLetGo / kPerQuarter ? near : length;
}

void play(Track& track, const TabPiece& piece, const Note& n, Beats until) {
  const int channel = channelOf(n.place.string, piece.guitar.strings());
  // Events of one moment have no order: a string is let go two pulses early, and its wheel set one before it is struck.
  const int from = pulses(n.at);
  const int to =
      std::max(from + 1, pulses(n.tone == Tone::dead ? std::min(until, n.at + Beats(1, 16)) : until) - kLetGo);
  const bool soft = n.attack == Attack::hammeredOn || n.attack == Attack::pulledOff || n.attack == Attack::slidInto;
  const int velocity = n.tone == Tone::dead ? 30 : n.tone == Tone::ghost ? 40 : soft ? 70 : 90;
  const int midi = std::clamp(soundingKey(piece.guitar, n), 0, 127);
  constexpr int kStep = kPerQuarter / 24;
  const bool moves = n.bend || n.dive;
  track.wheel(from - 1, channel, moves ? curveOf(n, 0.0) : 0.0);
  if (n.harmonic) track.meta(from, 0x01, wordsOn(n, piece.guitar.strings()));
  track.put(from, 0x90 + channel, midi, velocity);
  if (moves)
    for (int at = from + kStep; at < to; at += kStep)
      track.wheel(at, channel, curveOf(n, static_cast<double>(at - from) / (to - from)));
  if (n.vibrato) {
    track.put(from + (to - from) / 3, 0xB0 + channel, kModulation, n.vibrato->kind == Vibrato::Kind::finger ? 50 : 100);
    track.put(to, 0xB0 + channel, kModulation, 0);
  }
  track.put(to, 0x80 + channel, midi, 0);
}

/// The tempo of each bar as it was recorded, so that the file runs beside the recording, and where that begins.
void writeTempos(Track& song, const TabPiece& piece) {
  auto tempos = piece.tempos;
  if (tempos.empty() && piece.tempo) tempos.emplace_back(Beats(0), *piece.tempo);
  if (!piece.tempos.empty() && piece.start >= Seconds(0)) {
    constexpr int kFrames = 30, kThirtyFrames = 0x60;  // a second; its two bits in the hour
    const auto parts = std::llround(piece.start.value * kFrames * 100);
    const auto frames = parts / 100, seconds = frames / kFrames;
    song.meta(0, 0x54,
              {static_cast<char>(kThirtyFrames | (seconds / 3600 % 24)), static_cast<char>(seconds / 60 % 60),
               static_cast<char>(seconds % 60), static_cast<char>(frames % kFrames), static_cast<char>(parts % 100)});
  }
  long last = -1;
  double written = 0, exact = 0;  // microseconds: what is rounded off in one bar is made good in the next
  for (std::size_t i = 0; i < tempos.size(); ++i) {
    const auto& [at, tempo] = tempos[i];
    const double quarters = i + 1 < tempos.size() ? (tempos[i + 1].first - at).value() : 1.0;
    const double due = exact + 60e6 / tempo.value * quarters - written;
    const long micros = std::clamp(std::lround(due / quarters), 1L, 0xFFFFFFL);
    exact += 60e6 / tempo.value * quarters, written += static_cast<double>(micros) * quarters;
    if (micros == std::exchange(last, micros)) continue;
    song.meta(pulses(at), 0x51,
              {static_cast<char>(micros >> 16 & 0xFF), static_cast<char>(micros >> 8 & 0xFF),
               static_cast<char>(micros & 0xFF)});
  }
}

}  // namespace

Outcome<Done> writeMidi(const std::vector<TabPiece>& pieces, const std::filesystem::path& file) {
  if (pieces.empty()) return Problem{"There is nothing to write: the study has no phrase with notes."};
  const std::unique_ptr<smf_t, Free> smf(smf_new());
  if (smf == nullptr || smf_set_ppqn(smf.get(), kPerQuarter) != 0)
    return Problem{"The MIDI file could not be made: there may be no memory left."};
  const TabPiece& first = pieces.front();
  Track song(smf.get());
  song.meta(0, 0x03, first.title);
  writeTempos(song, first);
  for (std::size_t bar = 0; bar + 1 < first.barLines.size(); ++bar) {
    const Beats length = first.barLines[bar + 1] - first.barLines[bar];
    if (bar > 0 && length == first.barLines[bar] - first.barLines[bar - 1]) continue;
    const auto unit = 4 * length.bottom();
    const auto power = static_cast<char>(std::lround(std::log2(static_cast<double>(unit))));
    if (length.top() <= 255 && (unit & (unit - 1)) == 0)
      song.meta(pulses(first.barLines[bar]), 0x58, {static_cast<char>(length.top()), power, 24, 8});
  }
  std::set<std::pair<Beats, std::string>> marks;  // of all guitars, each once
  for (const TabPiece& piece : pieces) marks.insert(piece.marks.begin(), piece.marks.end());
  for (const auto& [at, name] : marks) song.meta(pulses(at), 0x06, name);
  for (const TabPiece& piece : pieces) {
    Track track(smf.get(), rangeFor(piece));
    track.meta(0, 0x03, piece.name);
    for (int s = 0; s < piece.guitar.strings(); ++s) track.declareRange(channelOf(s, piece.guitar.strings()));
    for (auto n = piece.notes.begin(); n != piece.notes.end(); ++n) {
      // A string sounds one note at a time.
      const auto next = std::find_if(n + 1, piece.notes.end(),
                                     [&](const Note& o) { return o.place.string == n->place.string && o.at > n->at; });
      play(track, piece, *n, next == piece.notes.end() ? n->end() : std::min(n->end(), next->at));
    }
  }
  // The library writes to a name only.
  std::filesystem::path draft = file;
  draft += ".part";
  const Problem cannot{"“" + shownPath(file) + "” cannot be written. Choose a folder that you may write to."};
  if (!std::ofstream(draft)) return cannot;  // the library would complain to the terminal
  const bool saved = smf_save(smf.get(), draft.string().c_str()) == 0;
  std::ostringstream bytes;
  bytes << std::ifstream(draft, std::ios::binary).rdbuf();
  std::error_code ignored;
  std::filesystem::remove(draft, ignored);
  if (!saved || bytes.str().empty()) return cannot;
  return writeDurably(file, bytes.str());
}

TabPiece tabPieceOf(const MidiVoice& voice, const Guitar& guitar, Rational bar) {
  TabPiece piece{.name = voice.name, .guitar = guitar};
  const auto stringOf = [&](const MidiNote& m) {
    return guitar.strings() - 1 - (m.channel > kDrums ? m.channel - 1 : m.channel);
  };
  const auto placeOf = [&](const MidiNote& m) -> std::optional<FretPosition> {
    const int string = stringOf(m);
    if (m.channel == kDrums || string < 0) return std::nullopt;
    if (const auto harmonic = harmonicIn(m.words, string, guitar)) return harmonic->first;
    const int fret = m.midi - guitar.open(string);
    return fret >= 0 && fret <= guitar.lastFret(string) ? std::optional(FretPosition{string, fret}) : std::nullopt;
  };
  const bool placed = std::all_of(voice.notes.begin(), voice.notes.end(), placeOf);
  // On one channel the wheel shakes as well as it bends; where each string has its own, it is as we write it.
  const Cents least(placed ? 4 : 35), back(placed ? 3 : 25);
  std::vector<NoteToPlace> line;
  std::vector<std::size_t> order(voice.notes.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return voice.notes[a].at < voice.notes[b].at; });
  int moment = -1;
  std::optional<Rational> last;
  std::vector<Note> notes;
  for (const std::size_t i : order) {
    const MidiNote& m = voice.notes[i];
    if (last != m.at) ++moment, last = m.at;
    Note n;
    n.at = m.at, n.length = wholeLength(m.length);
    const bool up = m.most >= least, down = m.most <= -least;
    if (up) n.bend = Bend{Cents(std::round(10 * m.most.value) / 10), m.before >= least, m.after < back};
    if (down) n.dive = Dive{Cents(std::round(-10 * m.most.value) / 10), m.after > -back};
    if (placed) {
      n.place = *placeOf(m);
      if (const auto harmonic = harmonicIn(m.words, stringOf(m), guitar)) n.harmonic = harmonic->second;
    }
    line.push_back({.midi = m.midi, .moment = moment, .bent = up});
    notes.push_back(n);
  }
  if (!placed) {
    const LinePlacing way = placeLine(guitar, line, {}, 1).front();
    std::vector<Note> kept;
    std::size_t at = 0;
    for (std::size_t i = 0; i < notes.size(); ++i) {
      if (std::find(way.unplayable.begin(), way.unplayable.end(), i) != way.unplayable.end()) continue;
      notes[i].place = way.places[at++];
      kept.push_back(notes[i]);
    }
    if (kept.size() < notes.size()) piece.notKept.emplace_back("Notes that the guitar cannot reach were left out.");
    piece.notKept.emplace_back("Notes without a string and a fret were placed where they lie best under the hand.");
    notes = std::move(kept);
  }
  Beats to(0);
  for (std::size_t i = 0; i < notes.size(); ++i)
    notes[i].id = static_cast<int>(i) + 1, to = std::max(to, notes[i].end());
  piece.notes = std::move(notes);
  putInOrder(piece.notes);
  piece.barLines = {Beats(0)};
  while (piece.barLines.back() < to || piece.barLines.size() < 2) piece.barLines.push_back(piece.barLines.back() + bar);
  return piece;
}

}  // namespace ear
