// SPDX-License-Identifier: GPL-3.0-or-later
// writing: what a key press costs while a line is typed in a study of 400 notes, and how long a phrase of ten seconds
// is checked by ear. Prints one JSON object.

#include <algorithm>
#include <chrono>
#include <iostream>

#include "core/audio/decode.h"
#include "core/checking/by_ear.h"
#include "core/checking/near_repeat.h"
#include "core/checking/slips.h"
#include "core/engraving/spacing.h"
#include "core/listening/frontend/spectra.h"
#include "core/phrase/entry/entry.h"
#include "core/playback/isolator.h"

namespace {

using namespace ear;

double msSince(std::chrono::steady_clock::time_point start) {
  return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

/// 400 notes in one phrase: the line of a solo over and over.
Phrase longPhrase() {
  const Entry entry = readEntry(
      "all eighths, 14 3rd bent a whole step vibrato, 12 2nd, 15 pull 12 2nd, 14 3rd, 12 3rd, 14 3rd, 12 hammer 15 "
      "1st, "
      "13 2nd");
  Phrase phrase;
  phrase.id = "phrase1", phrase.take = "take1";
  std::vector<Note> notes;
  for (int id = 1; id <= 400; ++id) {
    const auto steps = static_cast<int>(entry.steps.size());
    Note n = entry.steps[static_cast<std::size_t>(id % steps)].notes.front();
    n.id = id;
    n.at = Beats(id, 2), n.length = Beats(1, 2);
    notes.push_back(n);
  }
  phrase.levels.change().front().notes = notes;
  return phrase;
}

/// All that follows a key press: the line is read, the phrase is shown, checked by arithmetic, engraved and spaced.
double keyPressMs(const Pieces<Phrase>& phrases, std::string_view typed, double& check) {
  const auto start = std::chrono::steady_clock::now();
  EntryContext context;
  const Entry entry = readEntry(typed, context);
  const ShownPhrase all = shown(phrases, phrases.front(), context.guitar);
  std::vector<Note> notes;
  for (const ShownNote& s : all.notes) notes.push_back(s.note);
  const auto slips = slipsIn(notes, {context.guitar});
  std::vector<Beats> bars;
  for (int b = 0; b <= 204; b += 4) bars.emplace_back(b);
  const TabScore score = engrave(all, {.guitar = context.guitar, .barLines = bars});
  check += Spacing(score).width() + static_cast<double>(entry.steps.size() + slips.size()) +
           (nearRepeat(phrases, phrases.front(), context.guitar) ? 1 : 0);
  return msSince(start);
}

double earCheckMs(const std::string& file) {
  const auto decoded = decode(file);
  if (!decoded) {
    std::cerr << decoded.problem() << '\n';
    std::exit(1);
  }
  const auto recording = std::make_shared<const Recording>(*decoded);
  Guitar guitar;
  guitar.offset = Cents(12);
  std::vector<Note> notes;
  for (int i = 0; i < 34; ++i) {
    Note n;
    n.id = i + 1, n.place = {3, 5 + i % 8};
    n.free = TimeSpan{Seconds(0.288 * i), Seconds(0.288 * i + 0.28)};
    notes.push_back(n);
  }
  const auto start = std::chrono::steady_clock::now();
  const Recording part =
      isolatedPart(recording, {Seconds(83.4), Seconds(93.4)}, {.channel = Isolation::Channel::right});
  const HeardVoice voice = hearVoice(part, guitar.offset, {});
  const PitchSalience salience = measureSalience(listeningMono(part), {});
  const TimeMap noBeats;
  const auto found = checkByEar(notes, voice, salience, {{}, noBeats}, guitar);
  return found.verdicts.empty() ? 0.0 : msSince(start);
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: writing RECORDING\n";
    return 2;
  }
  Pieces<Phrase> phrases;
  phrases.push_back(longPhrase());
  const std::string line =
      "14 bent whole step 3rd, 12 15p12 2nd, 14 12 14 3rd, 12 15 bent whole step 2nd, 12 1st, 15 13 2nd";
  double check = 0;
  std::vector<double> took;
  for (std::size_t typed = 1; typed <= line.size(); ++typed)
    took.push_back(keyPressMs(phrases, std::string_view(line).substr(0, typed), check));
  std::sort(took.begin(), took.end());
  std::cout << "{\"key_press_ms_median\": " << took[took.size() / 2] << ", \"key_press_ms_worst\": " << took.back()
            << ", \"ear_check_ms\": " << earCheckMs(argv[1]) << ", \"sum\": " << check << "}\n";
}
