#include "core/listening/listener.h"

#include <future>

#include "core/audio/resample.h"

namespace ear {
namespace {
constexpr double kShortest = 0.5;  // seconds; less holds no stable partial
}

Outcome<Findings> Listener::listen(const Recording& recording, const Progress& progress) const {
  if (recording.frames() == 0 || recording.duration() < Seconds(kShortest))
    return Problem{"There is less than half a second of sound: too short to measure anything."};
  const Problem cancelled{"Listening was cancelled."};
  const auto wants = [&](Part part) { return parts.contains(part); };
  const bool wantsTime = wants(Part::time) || wants(Part::form);

  Findings findings{.duration = recording.duration(), .reference = {}, .key = {}, .rhythm = {}, .form = {}};
  const auto ready = [&](Part part, double share) {
    if (wants(part) && onPart) onPart(part, findings);
    progress.report(share);
  };

  const auto mono = resample(mixToMono(recording), recording.sampleRate, kListeningRate);
  progress.report(0.1);
  Spectra spectra{.duration = recording.duration(), .tonal = {}, .bands = {}};
  auto bands = std::async(std::launch::async, [&] {
    spectra.bands = wantsTime ? measureBandFrames(mono, progress) : BandFrames{};
    return wantsTime ? measureOnsets(spectra.bands) : OnsetStrength{};
  });
  spectra.tonal = measureTonalFrames(mono, progress);
  const auto reference = measureReferencePitch(spectra.tonal);
  if (wants(Part::reference)) findings.reference = reference;
  if (!progress.cancelled()) ready(Part::reference, 0.4);

  const auto notes = measureNotes(spectra.tonal, reference ? reference->offset : Cents(0), progress);
  if (wants(Part::key) && reference && !progress.cancelled()) findings.key = findKey(notes);
  const auto onsets = bands.get();
  if (progress.cancelled()) return cancelled;
  ready(Part::key, 0.6);
  if (wantsTime) {
    const auto rhythm = measureRhythm(onsets, notes, progress);
    if (progress.cancelled()) return cancelled;
    if (wants(Part::time)) findings.rhythm = rhythm;
    ready(Part::time, 0.9);
    if (wants(Part::form)) findings.form = findForm(spectra, notes, rhythm);
    ready(Part::form, 1.0);
  }
  progress.report(1.0);
  return findings;
}

}  // namespace ear
