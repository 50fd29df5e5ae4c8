// SPDX-License-Identifier: GPL-3.0-or-later
// make-demo-study FOLDER: listens to FOLDER/studio.ogg and writes FOLDER/copper-weather.innerear.
// The studio take is stored with what was measured on it; the live take is left to be heard when it is first chosen.

#include <filesystem>
#include <iostream>

#include "core/audio/decode.h"
#include "core/audio/fingerprint.h"
#include "core/listening/listener.h"
#include "core/study/parts.h"
#include "core/study/study_file.h"
#include "demo_phrases.h"

namespace {

using ear::Cents;
using ear::Seconds;

constexpr const char* kHook = R"(Right guitar, over the arpeggio. Shapes as fingered,
strings a semitone down. Slide into bars 1 and 3.

e|-----------------|-----------------|
B|-----8-8/10----8-|-----------------|
G|-9---------------|-9---7-7/9-------|
D|-----------------|-----------------|
A|-----------------|-----------------|
E|-----------------|-----------------|

Second time bar 4 ends on the third string, fret 8: let it sing.)";

constexpr const char* kBend = R"(Whole-tone bend, third string fret 14, held with a slow shake.
Then 12 - 15 - 12 on the second string.

e|-----------------------|
B|----------12-15-12-----|
G|-14(16)~-----------14--|
D|-----------------------|

Check: is the 15 picked or hammered?)";

constexpr const char* kTurn =
    "B7 in two halves: first with the fourth on top, then plain.\nLeft hand: x 2 4 2 5 2, then x 2 1 2 0 2.";

ear::Passage passage(const char* id, const char* name, double from, double to, double speed, double shift,
                     const char* text, const char* part) {
  return {id, "take1", name, {Seconds(from), Seconds(to)}, speed, Cents(shift), text, {}, part};
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2) {
    std::cerr << "usage: make-demo-study FOLDER\n";
    return 2;
  }
  const std::filesystem::path folder = std::filesystem::absolute(argv[1]).lexically_normal();
  ear::Study study{.title = "Copper Weather", .takes = {}, .passages = {}};
  ear::Measurements measurements;
  for (const auto& [name, kind] : {std::pair{"studio", ear::TakeKind::studio}, {"live", ear::TakeKind::live}}) {
    ear::Take take;
    take.id = ear::freshId(study, "take");
    take.name = kind == ear::TakeKind::studio ? "Studio take" : "Live at the boathouse";
    take.kind = kind;
    take.file = folder / (std::string(name) + ".ogg");
    const auto recording = ear::decode(take.file);
    const auto hash = ear::contentHash(take.file);
    if (!recording || !hash) {
      std::cerr << (recording ? hash.problem() : recording.problem()) << '\n';
      return 1;
    }
    take.hash = *hash;
    take.duration = recording->duration();
    if (kind == ear::TakeKind::studio) {
      ear::Listener listener;
      const auto found = listener.listen(*recording);
      if (!found) {
        std::cerr << found.problem() << '\n';
        return 1;
      }
      measurements[take.id] = std::make_shared<ear::Findings>(*found);
    }
    study.takes.push_back(take);
  }
  study.passages = {passage("passage1", "Opening hook", 0.35, 4.96, 0.6, 0, kHook, "take1-right"),
                    passage("passage2", "Turn into the verse", 44.2, 46.6, 0.75, -12, kTurn, "take1-left"),
                    passage("passage3", "Solo, first bend", 83.43, 88.04, 0.5, 0, kBend, "take1-right")};
  // The lead's strings are settled, as its phrases are to be checked by them; the other guitar's are left to the
  // listening.
  ear::keepParts(study, study.takes.front(), measurements["take1"].get());
  study.part("take1-right")->setup =
      ear::Decision<ear::GuitarSetup>{{.tuning = *ear::parseTuning("Eb2 Ab2 Db3 Gb3 Bb3 Eb4")},
                                      ear::Origin::confirmed,
                                      1.0,
                                      ear::Evidence::Kind::confirmedByEar};
  writeDemoPhrases(study);
  const auto file = folder / (std::string("copper-weather") + ear::kStudyFileExtension);
  if (const auto done = ear::saveCopy(file, study, measurements); !done) {
    std::cerr << done.problem() << '\n';
    return 1;
  }
  return 0;
}
