// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <functional>
#include <optional>
#include <string>

#include "core/study/study.h"

namespace ear {

class Workbench;

/// The form of the take on the desk: its sections and marks, and the stretches of it that are worth looping. Every
/// change is one step of undo.
class FormKeeper : public QObject {
  Q_OBJECT
 public:
  explicit FormKeeper(Workbench& bench);

  /// Empty while nothing is known.
  Form form() const;
  /// Edits the form, or a fresh one of one section.
  /// @param merge  edits in a row with the same non-empty key make one step
  void edit(const QString& label, const std::function<void(Form&)>& change, const std::string& merge = {});
  /// Puts a word at a time, or takes it away where it is empty.
  void mark(Seconds at, const QString& words);

  /// Loops the bar at the playhead, or what is wider or narrower than the passage, or its neighbour of the same length.
  void loopHere();
  void widen();
  void narrow();
  void step(bool next);

 private:
  /// @param instead  what is said where there is none
  void take(const std::optional<TimeSpan>& span, const QString& instead);

  Workbench& bench_;
};

}  // namespace ear
