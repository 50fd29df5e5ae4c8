// SPDX-License-Identifier: GPL-3.0-or-later
#include <spdlog/sinks/stdout_sinks.h>
#include <spdlog/spdlog.h>

#include <CLI/CLI.hpp>
#include <cmath>
#include <csignal>
#include <iostream>
#include <map>

#include "core/audio/decode.h"
#include "core/base/text.h"
#include "core/listening/listener.h"
#include "core/listening/melody/voices.h"
#include "report.h"

namespace {

constexpr int kCannot = 1, kWrongUsage = 2;

struct Request {
  std::string file;
  double from = 0.0, to = -1.0;
  std::vector<std::string> only;
  bool notes = false;
};

/// Which part of the listening each key of the report comes from.
const std::map<std::string, ear::Aspect> kParts = {
    {"reference", ear::Aspect::reference}, {"key", ear::Aspect::key},       {"tempo", ear::Aspect::time},
    {"meter", ear::Aspect::time},          {"swing", ear::Aspect::time},    {"beats", ear::Aspect::time},
    {"downbeats", ear::Aspect::time},      {"chords", ear::Aspect::chords}, {"guitar_setups", ear::Aspect::guitar},
    {"sections", ear::Aspect::form}};

int analyze(const Request& request) {
  auto recording = ear::decode(request.file);
  if (!recording) {
    spdlog::error(recording.problem());
    return kCannot;
  }
  if (!recording->notice.empty()) spdlog::warn(recording->notice);
  const ear::Seconds from(request.from), end = recording->duration();
  if (from >= end) {
    spdlog::error("--from {} lies behind the end of the recording at {:.1f} s.", request.from, end.value);
    return kCannot;
  }
  if (request.from > 0 || request.to >= 0)
    *recording = ear::excerpt(*recording, {from, request.to >= 0 ? ear::Seconds(request.to) : end});

  ear::Listener listener;
  if (!request.only.empty()) {
    listener.parts.clear();
    for (const auto& key : request.only) listener.parts.insert(kParts.at(key));
  }
  if (request.notes) listener.parts.insert(ear::Aspect::reference);  // notes are told against it
  const ear::Progress progress([](double share) { spdlog::info("{:3.0f} %", 100 * share); });
  const auto findings = listener.listen(*recording, progress);
  if (!findings) {
    spdlog::error(findings.problem());
    return kCannot;
  }
  auto report = reportOf(*findings, ear::shownPath(request.file), from, {request.only.begin(), request.only.end()});
  if (request.notes) {
    const ear::Cents reference = findings->reference ? findings->reference->offset : ear::Cents(0);
    const auto voice = ear::hearAllNotes(*recording, reference, {});
    report["notes"] = notesOf(voice.notes, reference, from);
    report["pitch"] = pitchOf(voice.line, from);
  }
  std::cout << report.dump(1) << '\n' << std::flush;
  if (std::cout) return 0;
  spdlog::error("What was measured could not be written: is there room on the disk, and does anybody read it?");
  return kCannot;
}

/// Not a number passes every comparison that asks for less.
std::string faultOfTime(std::string& text) {
  try {
    const double seconds = std::stod(text);
    if (std::isfinite(seconds) && seconds >= 0) return {};
  } catch (const std::exception&) {
  }
  return "“" + text + "” is no time in seconds from 0 on";
}

}  // namespace

int main(int argc, char** argv) try {
  spdlog::set_default_logger(spdlog::stderr_logger_mt("inner-ear"));
  spdlog::set_pattern("%v");
  std::signal(SIGPIPE, SIG_IGN);  // a reader that went away is told like a full disk

  CLI::App app{"Inner Ear on the command line: measures a recording."};
  app.require_subcommand(1);
  Request request;
  auto* command = app.add_subcommand("analyze", "Print what a recording tells as one JSON object");
  command->add_option("file", request.file, "A sound or video file")->required();
  command->add_option("--from", request.from, "Start of the part to analyse, in seconds")
      ->check(CLI::Validator(faultOfTime, "SECONDS"));
  command->add_option("--to", request.to, "End of the part to analyse, in seconds")
      ->check(CLI::Validator(faultOfTime, "SECONDS"));
  command->add_option("--only", request.only, "Only these parts, with commas between")
      ->delimiter(',')
      ->check(CLI::IsMember(kParts));
  command->add_flag("--notes", request.notes, "Also list the notes heard, and the pitch of the leading voice");
  try {
    app.parse(argc, argv);
    if (request.to >= 0 && request.to <= request.from) throw CLI::ValidationError("--to must be greater than --from");
  } catch (const CLI::ParseError& error) {
    return app.exit(error, std::cerr, std::cerr) == 0 ? 0 : kWrongUsage;
  }
  try {
    return analyze(request);
  } catch (const std::exception& error) {
    spdlog::error("“{}” could not be analysed: {}.", ear::shownPath(request.file), error.what());
    return kCannot;
  }
} catch (...) {
  return kCannot;  // no memory to say what went wrong
}
