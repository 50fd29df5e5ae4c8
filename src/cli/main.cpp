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
#include "core/exchange/export.h"
#include "core/exchange/facts.h"
#include "core/exchange/import.h"
#include "core/listening/listener.h"
#include "core/listening/melody/voices.h"
#include "core/sheet/sheet.h"
#include "core/study/durable_file.h"
#include "core/study/study_file.h"
#include "drawn.h"
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

struct ExportRequest {
  std::string study, format, output, take, part, phrase, picture = "phrases", paper = "a4";
  bool pitch = false, repeats = false;
};

/// The take with that id or name; the first one where none is asked for.
const ear::Take* takeIn(const ear::Study& study, const std::string& wanted) {
  for (const auto& take : study.takes)
    if (wanted.empty() || take.id == wanted || take.name == wanted) return &take;
  return nullptr;
}

/// The id of what has that id or name; empty where nothing is asked for or found.
template <class Things>
std::string idIn(const Things& things, const std::string& wanted) {
  for (const auto& thing : things)
    if (!wanted.empty() && (thing.id == wanted || thing.name == wanted)) return thing.id;
  return {};
}

int exportStudy(const ExportRequest& request) {
  const auto stored = ear::loadStudy(request.study);
  if (!stored) {
    spdlog::error(stored.problem());
    return kCannot;
  }
  const ear::Study& study = stored->study;
  const ear::Take* take = takeIn(study, request.take);
  if (take == nullptr) {
    request.take.empty() ? spdlog::error("The study has no recording.")
                         : spdlog::error("The study has no take “{}”.", request.take);
    return kCannot;
  }
  const auto measured = stored->measurements.find(take->id);
  const ear::Findings* findings = measured != stored->measurements.end() ? measured->second.get() : nullptr;
  const ear::ExportChoice choice{idIn(ear::partsOf(study, *take, findings), request.part),
                                 idIn(study.phrases, request.phrase), request.repeats};
  for (const auto& [wanted, found, what] :
       {std::tuple{request.part, choice.part, "guitar"}, {request.phrase, choice.phrase, "phrase"}})
    if (!wanted.empty() && found.empty()) {
      spdlog::error("The take has no {} “{}”.", what, wanted);
      return kCannot;
    }
  const ear::ExportFormat* format = ear::exportFormat(request.format);
  if (request.repeats && (format == nullptr || !format->repeats))
    spdlog::warn("Only MusicXML holds repeat signs: the file is written without.");
  ear::Outcome<std::vector<std::string>> done = std::vector<std::string>{};
  if (format == nullptr) {
    const ear::SheetSource source{study, *take, findings};
    const auto kept = request.format == "text"
                          ? ear::writeDurably(request.output, sheetText(layOutSheet(source)))
                          : ear::draw(source, {request.format, request.picture, choice.part, choice.phrase,
                                               request.paper == "letter", request.output});
    if (!kept) done = ear::Problem{kept.problem()};
  } else {
    ear::TakeLists lists{study, *take, findings};
    if (request.pitch) {
      const auto recording = ear::decode(take->file);
      if (!recording) {
        spdlog::error(recording.problem());
        return kCannot;
      }
      const auto brief = briefOf(*take, {}, findings);
      const ear::Cents offset = settled(brief.pitch).value_or(ear::PitchValue{}).offset;
      for (const auto& [time, pitch] : ear::hearAllNotes(*recording, offset, {}).line.sampled())
        lists.pitch.push_back({time, pitch});
    }
    done = exportTake(lists, *ear::exportFormat(request.format), choice, request.output);
  }
  if (!done) {
    spdlog::error(done.problem());
    return kCannot;
  }
  for (const auto& loss : *done) spdlog::warn(loss);
  return 0;
}

struct ImportRequest {
  std::string file, study, take, part;
  int bar = 0;
  bool facts = false;
};

int keep(const std::string& file, const ear::Study& study, const ear::Measurements& measurements) {
  const auto saved = ear::saveStudy(file, study, measurements);
  if (saved) return 0;
  spdlog::error(saved.problem());
  return kCannot;
}

int importFile(const ImportRequest& request) {
  auto stored = ear::loadStudy(request.study);
  if (!stored) {
    spdlog::error(stored.problem());
    return kCannot;
  }
  ear::Study& study = stored->study;
  const ear::Take* take = takeIn(study, request.take);
  if (take == nullptr) {
    spdlog::error("The study has no take “{}”.", request.take);
    return kCannot;
  }
  if (request.facts) {
    const auto known = ear::readFacts(request.file);
    const auto taken = known ? takeFacts(study, take->id, *known)
                             : ear::Outcome<std::string>(ear::Problem{
                                   "The file says nothing of beats, chords, sections or key: only JAMS files do."});
    if (!taken) {
      spdlog::error(taken.problem());
      return kCannot;
    }
    std::cout << *taken << '\n';
    return keep(request.study, study, stored->measurements);
  }
  const auto measured = stored->measurements.find(take->id);
  const ear::Findings* findings = measured != stored->measurements.end() ? measured->second.get() : nullptr;
  const auto parts = ear::partsOf(study, *take, findings);
  const std::string id = request.part.empty() ? parts.front().id : idIn(parts, request.part);
  const auto part = std::find_if(parts.begin(), parts.end(), [&](const ear::GuitarPart& p) { return p.id == id; });
  if (part == parts.end()) {
    spdlog::error("The take has no guitar “{}”.", request.part);
    return kCannot;
  }
  ear::Guitar guitar = ear::guitarOf(settled(setupOf(*part, findings)).value_or(ear::GuitarSetup{}), ear::Cents(0));
  guitar.frets = part->frets;
  const auto pieces = ear::readPieces(request.file, guitar);
  if (!pieces) {
    spdlog::error(pieces.problem());
    return kCannot;
  }
  for (const ear::TabPiece& piece : *pieces) {
    // Guitars of that name, if the study has them.
    const std::string own = request.part.empty() ? idIn(parts, piece.name) : id;
    const ear::Take chosen = *take;
    const auto added = addAsPhrase(study, chosen, findings, own.empty() ? id : own, piece,
                                   request.bar > 0 ? request.bar : std::max(1, piece.firstBar));
    if (!added) {
      spdlog::error(added.problem());
      return kCannot;
    }
    for (const auto& loss : piece.notKept) spdlog::warn(loss);
    take = takeIn(study, request.take);
    std::cout << *added << '\n';
  }
  return keep(request.study, study, stored->measurements);
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

  CLI::App app{"Inner Ear on the command line: measures a recording, writes a study to other programs' files."};
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
  ExportRequest wanted;
  std::set<std::string> formats{"text", "html", "pdf", "svg", "png"};
  for (const auto& format : ear::exportFormats()) formats.emplace(format.name);
  auto* write = app.add_subcommand("export", "Write what a study holds to a file that other programs read");
  write->add_option("study", wanted.study, "A study file")->required();
  write->add_option("--format", wanted.format, "Kind of file")->required()->check(CLI::IsMember(formats));
  write->add_option("--output", wanted.output, "The file to write")->required();
  write->add_option("--take", wanted.take, "Id or name of the take; the first one otherwise");
  write->add_option("--part", wanted.part, "Id or name of the guitar; every one otherwise");
  write->add_option("--phrase", wanted.phrase, "Id or name of the phrase; all of them otherwise");
  write->add_flag("--pitch", wanted.pitch, "JAMS: also the pitch of the leading voice, measured now");
  write->add_flag("--repeats", wanted.repeats,
                  "MusicXML: what is played again at once stands once, between repeat signs");
  write->add_option("--picture", wanted.picture, "What an SVG or PNG shows")->check(CLI::IsMember(ear::pictureNames()));
  write->add_option("--paper", wanted.paper, "Of a PDF")->check(CLI::IsMember({"a4", "letter"}));
  ImportRequest taken;
  auto* take = app.add_subcommand("import", "Take tab from another program's file into a study as phrases");
  take->add_option("file", taken.file, "MusicXML (packed or not), MIDI or JAMS")->required();
  take->add_option("--into", taken.study, "The study file, which is changed")->required();
  take->add_option("--take", taken.take, "Id or name of the take; the first one otherwise");
  take->add_option("--part", taken.part,
                   "Id or name of the guitar; by its name in the file, or the first one otherwise");
  take->add_option("--bar", taken.bar, "Bar of the recording in which its first bar lies; as the file says otherwise")
      ->check(CLI::Range(1, 1'000'000));
  take->add_flag("--facts", taken.facts,
                 "Take beats, chords, sections and key of a JAMS file as set, instead of its tab");
  command->add_flag("--notes", request.notes, "Also list the notes heard, and the pitch of the leading voice");
  try {
    app.parse(argc, argv);
    if (request.to >= 0 && request.to <= request.from) throw CLI::ValidationError("--to must be greater than --from");
  } catch (const CLI::ParseError& error) {
    return app.exit(error, std::cerr, std::cerr) == 0 ? 0 : kWrongUsage;
  }
  const std::string& named = write->parsed() ? wanted.study : take->parsed() ? taken.file : request.file;
  try {
    return write->parsed() ? exportStudy(wanted) : take->parsed() ? importFile(taken) : analyze(request);
  } catch (const std::exception& error) {
    spdlog::error("“{}” could not be dealt with: {}.", ear::shownPath(named), error.what());
    return kCannot;
  }
} catch (...) {
  return kCannot;  // no memory to say what went wrong
}
