// SPDX-License-Identifier: GPL-3.0-or-later
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sys/wait.h>
#include <cmath>

#include <cstdio>
#include <cstring>
#include <fstream>
#include <nlohmann/json.hpp>
#include <sstream>

#include "support/sounds.h"

namespace ear {
namespace {

using testing::HasSubstr;
using testing::Not;

struct Ran {
  int code;
  std::string out, err;
};

Ran run(const std::string& arguments) {
  const auto errors = test::freshFolder("cli") / "stderr";
  FILE* pipe = popen((std::string(CLI_PATH) + " " + arguments + " 2>" + errors.string()).c_str(), "r");
  Ran ran{};
  char buffer[4096];
  while (const std::size_t n = fread(buffer, 1, sizeof buffer, pipe)) ran.out.append(buffer, n);
  ran.code = WEXITSTATUS(pclose(pipe));
  std::stringstream text;
  text << std::ifstream(errors).rdbuf();
  ran.err = text.str();
  return ran;
}

const std::string kStudio = std::string(DEMO_DIR) + "/studio.ogg";

TEST(Analyze, PrintsTheReportAndNothingElse) {
  const auto ran = run("analyze " + kStudio);
  ASSERT_EQ(ran.code, 0) << ran.err;
  const auto report = nlohmann::json::parse(ran.out);
  EXPECT_EQ(report["file"], kStudio);
  EXPECT_NEAR(report["duration_s"].get<double>(), 115.6, 0.1);
  EXPECT_NEAR(report["reference"]["cents"].get<double>(), 12, 2);
  EXPECT_NEAR(report["reference"]["a4_hz"].get<double>(), 443.06, 0.5);
  EXPECT_EQ(report["key"][0]["tonic"], "D#");
  EXPECT_EQ(report["key"][0]["mode"], "minor");
  EXPECT_NEAR(report["tempo"][0]["bpm"].get<double>(), 104, 1);
  EXPECT_EQ(report["meter"], 4);
  EXPECT_EQ(report["swing"], 1.0);
  EXPECT_GT(report["beats"].size(), 150U);
  EXPECT_GT(report["downbeats"].size(), 40U);
  double end = 0;
  for (const auto& s : report["sections"]) {
    EXPECT_EQ(s["start_s"], end);
    end = s["end_s"];
    EXPECT_TRUE(s["label"].is_string());
    EXPECT_GE(s["confidence"], 0);
    EXPECT_LE(s["confidence"], 1);
  }
  EXPECT_EQ(end, report["duration_s"]);
  EXPECT_THAT(ran.err, HasSubstr("100 %"));
}

TEST(Analyze, ListsNotesWhenAsked) {
  const auto part =
      nlohmann::json::parse(run("analyze " + kStudio + " --from 83.4 --to 92 --only reference --notes").out);
  ASSERT_GT(part["notes"].size(), 5U);
  double before = 0;
  for (const auto& n : part["notes"]) {
    EXPECT_GE(n["start_s"].get<double>(), std::max(83.4, before));
    EXPECT_GT(n["end_s"], n["start_s"]);
    EXPECT_GT(n["midi"].get<double>(), 37);
    before = n["start_s"];
  }
  // The pitch goes on every 10 ms; where a plain note of the leading voice is told it is that of the note.
  const auto& pitch = part["pitch"];
  ASSERT_NEAR(static_cast<double>(pitch.size()), 860, 2);
  EXPECT_NEAR(pitch[100][0].get<double>(), 84.4, 1e-9);
  int compared = 0, others = 0;
  for (const auto& n : part["notes"]) {
    const double start = n["start_s"], length = n["end_s"].get<double>() - start;
    const bool several =  // of which the pitch follows one
        std::count_if(part["notes"].begin(), part["notes"].end(),
                      [&](const auto& m) { return m["start_s"] == n["start_s"]; }) > 1;
    if (!n["leading"].get<bool>()) ++others;
    if (!n["leading"].get<bool>() || several || n.contains("bend_cents") || n.contains("vibrato_hz") || length < 0.2)
      continue;
    const auto& hertz = pitch[static_cast<std::size_t>(std::lround((start + 0.06 - 83.4) * 100))][1];
    if (!hertz.is_number()) continue;
    const double above = 12 * std::log2(hertz.get<double>() / 440) - part["reference"]["cents"].get<double>() / 100;
    EXPECT_NEAR(69 + above, n["midi"].get<double>(), 0.4) << n;
    ++compared;
  }
  EXPECT_GT(compared, 2);
  EXPECT_GT(others, 2) << "another guitar plays under the solo";
  EXPECT_FALSE(nlohmann::json::parse(run("analyze " + kStudio + " --to 10 --only reference").out).contains("notes"));
}

TEST(Analyze, CanBeLimited) {
  const auto part = nlohmann::json::parse(run("analyze " + kStudio + " --from 20 --to 40 --only reference,beats").out);
  EXPECT_NEAR(part["duration_s"].get<double>(), 20, 0.01);
  EXPECT_TRUE(part.contains("reference"));
  EXPECT_FALSE(part.contains("key"));
  EXPECT_FALSE(part.contains("downbeats"));
  EXPECT_GE(part["beats"].front().get<double>(), 20.0);
  EXPECT_LE(part["beats"].back().get<double>(), 40.0);
}

TEST(Analyze, TellsChordsAndGuitarSetups) {
  const auto ran = run("analyze " + kStudio + " --from 10 --to 40 --only chords,guitar_setups");
  ASSERT_EQ(ran.code, 0) << ran.err;
  const auto report = nlohmann::json::parse(ran.out);
  EXPECT_FALSE(report.contains("key"));
  const auto& chords = report["chords"];
  ASSERT_GT(chords.size(), 5U);
  EXPECT_EQ(chords.front()["start_s"], 10.0) << "times are those of the file";
  const auto knownKinds = std::count_if(chords.begin(), chords.end(),
                                        [](const auto& c) { return c["kind_confidence"].template get<double>() > 0; });
  EXPECT_GT(2 * knownKinds, static_cast<int>(chords.size())) << "how sure the kind is goes with the chord";
  EXPECT_EQ(chords.back()["end_s"], 40.0);
  for (std::size_t i = 1; i < chords.size(); ++i) EXPECT_EQ(chords[i]["start_s"], chords[i - 1]["end_s"]);
  for (const auto& setup : report["guitar_setups"]) {
    ASSERT_EQ(setup["tuning"].size(), 6U);
    EXPECT_TRUE(setup["tuning"][0].is_string());
    EXPECT_GE(setup["capo"].get<int>(), 0);
    EXPECT_FALSE(setup["reasons"].empty());
  }
}

TEST(Analyze, SaysInOneLineWhatCannotBeDone) {
  for (const std::string& file :
       {std::string("/no/such/file.mp3"), std::string(DEMO_DIR), std::string(DEMO_DIR) + "/song.py"}) {
    const auto ran = run("analyze " + file);
    EXPECT_EQ(ran.code, 1) << file;
    EXPECT_EQ(ran.out, "");
    EXPECT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1) << ran.err;
  }
  EXPECT_EQ(run("analyze " + kStudio + " --from 5000").code, 1);
}

TEST(Analyze, AFullDiskIsAFailure) {
  const auto ran = run("analyze " + kStudio + " --to 10 --only reference > /dev/full");
  EXPECT_EQ(ran.code, 1);
  EXPECT_THAT(ran.err, HasSubstr("could not be written"));
}

TEST(Analyze, NamesMayBeAnyBytes) {
  const auto file = test::freshFolder("cli-names") / "caf\xE9.ogg";
  EXPECT_THAT(run("analyze " + file.string()).err, HasSubstr("caf%E9.ogg"));
  std::filesystem::copy(kStudio, file);
  const auto ran = run("analyze " + file.string() + " --to 10 --only reference");
  ASSERT_EQ(ran.code, 0) << ran.err;
  EXPECT_THAT(nlohmann::json::parse(ran.out)["file"], HasSubstr("caf%E9.ogg"));
}

TEST(Analyze, TellsWrongUsage) {
  for (const char* arguments :
       {"", "analyze", "analyse x", "analyze x --only beat", "analyze x --from -3", "analyze x --from 5 --to 4",
        "analyze x --from nan", "analyze x --to inf", "analyze x --from 1e999"}) {
    const auto ran = run(arguments);
    EXPECT_EQ(ran.code, 2) << arguments;
    EXPECT_EQ(ran.out, "") << arguments;
  }
  EXPECT_EQ(run("--help").code, 0);
}

TEST(Export, WritesAStudyForOtherPrograms) {
  const auto folder = test::freshFolder("export");
  const std::string study = std::string(DEMO_DIR) + "/copper-weather.innerear";
  for (const char* format : {"musicxml", "mxl", "midi", "lilypond", "notes", "csv", "chordpro", "labels", "text",
                             "html", "pdf", "svg", "png"}) {
    const auto file = folder / format;
    const auto ran = run("export " + study + " --format " + format + " --output " + file.string());
    EXPECT_EQ(ran.code, 0) << ran.err;
    EXPECT_TRUE(std::filesystem::exists(file) && std::filesystem::file_size(file) > 200) << format;
    EXPECT_EQ(ran.out, "");
  }
  const auto one =
      run("export " + study + " --format notes --phrase 'Solo, the call' --output " + (folder / "one").string());
  EXPECT_EQ(one.code, 0) << one.err;
  // Drawn ones begin as files of their kind do, and need no display.
  for (const auto& [format, sign] : {std::pair{"pdf", "%PDF-1."}, {"png", "\x89PNG"}, {"svg", "<svg "}}) {
    std::ifstream file(folder / format, std::ios::binary);
    std::string head(std::strlen(sign), '\0');
    file.read(head.data(), static_cast<std::streamsize>(head.size()));
    EXPECT_EQ(head, sign);
  }
  for (const char* picture : {"grips", "tuning", "neck"})
    EXPECT_EQ(
        run("export " + study + " --format svg --picture " + picture + " --output " + (folder / "p").string()).code, 0)
        << picture;
  EXPECT_EQ(run("export " + study + " --format svg --picture sky --output " + (folder / "p").string()).code, 2);
  std::ifstream lines(folder / "one");
  EXPECT_EQ(std::count(std::istreambuf_iterator<char>(lines), {}, '\n'), 10) << "its nine notes, and the names";
}

TEST(Export, RepeatSignsAreOnlyForFilesThatHaveThem) {
  const auto folder = test::freshFolder("export");
  const std::string study = std::string(DEMO_DIR) + "/copper-weather.innerear";
  const auto written = [&](const std::string& format) {
    return run("export " + study + " --repeats --format " + format + " --output " + (folder / format).string());
  };
  const auto midi = written("midi");
  EXPECT_EQ(midi.code, 0);
  EXPECT_THAT(midi.err, HasSubstr("Only MusicXML holds repeat signs"));
  EXPECT_TRUE(std::filesystem::exists(folder / "midi")) << "it is written all the same";
  const auto xml = written("musicxml");
  EXPECT_EQ(xml.code, 0);
  EXPECT_THAT(xml.err, Not(HasSubstr("repeat signs")));
}

TEST(Export, SaysWhatIsNotThere) {
  const auto folder = test::freshFolder("export");
  const std::string study = std::string(DEMO_DIR) + "/copper-weather.innerear",
                    to = " --output " + (folder / "x").string();
  EXPECT_EQ(run("export " + study + " --format nonsense" + to).code, 2);
  EXPECT_EQ(run("export " + study + " --format midi").code, 2) << "no file to write";
  EXPECT_THAT(run("export /no/such/study --format midi" + to).err, HasSubstr("/no/such/study"));
  EXPECT_THAT(run("export " + study + " --format midi --take Nobody" + to).err, HasSubstr("no take “Nobody”"));
  EXPECT_THAT(run("export " + study + " --format midi --phrase Nobody" + to).err, HasSubstr("no phrase “Nobody”"));
  EXPECT_THAT(run("export " + study + " --format midi --part Nobody" + to).err, HasSubstr("no guitar “Nobody”"));
  EXPECT_FALSE(std::filesystem::exists(folder / "x"));
}

TEST(Import, TakesTabFromAFileIntoAStudy) {
  const auto folder = test::freshFolder("import");
  std::filesystem::copy_file(std::string(DEMO_DIR) + "/copper-weather.innerear", folder / "s.innerear");
  const std::string study = (folder / "s.innerear").string();
  for (const char* format : {"musicxml", "mxl", "midi", "jams"}) {
    const std::string file = (folder / format).string();
    ASSERT_EQ(run("export " + study + " --format " + format + " --phrase 'Solo, the call' --output " + file).code, 0);
    const auto ran = run("import " + file + " --into " + study + " --bar 41 --part 'Right guitar'");
    EXPECT_EQ(ran.code, 0) << ran.err;
    EXPECT_THAT(ran.out, HasSubstr("phrase"));
  }
  const std::string all = (folder / "all.csv").string();
  ASSERT_EQ(run("export " + study + " --format notes --part 'Right guitar' --output " + all).code, 0);
  std::ifstream lines(all);
  const std::string table{std::istreambuf_iterator<char>(lines), {}};
  std::size_t there = 0;
  for (std::size_t at = 0; (at = table.find("Right guitar,41,1,", at)) != std::string::npos; ++at) ++there;
  EXPECT_EQ(there, 4U) << "its first note, from each of the four files";
  EXPECT_EQ(run("import " + all + " --into " + study).code, 1);
  EXPECT_THAT(run("import " + (folder / "midi").string() + " --into " + study + " --bar 9000").err,
              HasSubstr("no bar 9000"));
}

}  // namespace
}  // namespace ear
