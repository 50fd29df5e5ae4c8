// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <map>
#include <optional>
#include <string>

#include "core/base/units.h"
#include "core/study/study.h"

namespace ear {

class Analysis;
class Session;
class Transport;

/// The passage in hand, kept or not: its edges, its loop, and how it is heard. Each take is found as it was left:
/// place, passage, and what is heard of it.
class Selection : public QObject {
  Q_OBJECT
 public:
  Selection(Session& session, Transport& transport, Analysis& analysis, QObject* parent);

  const std::optional<TimeSpan>& passage() const { return passage_; }
  void set(std::optional<TimeSpan> span);
  /// A passage that was found; a kept one on the desk is let go, not changed.
  void put(TimeSpan span);
  /// As a click does: a passage that lies elsewhere is let go.
  void goTo(Seconds to);
  /// Loops a spot that is worth hearing, without touching kept passages.
  /// @param shown  the close-up goes there
  void playSpot(TimeSpan span, bool shown = true);
  void nudgeStart(Seconds by);
  void nudgeEnd(Seconds by);
  bool looping() const { return looping_; }
  void setLooping(bool on);

  /// The kept passage on the desk, or empty.
  const std::string& keptId() const { return keptId_; }
  /// It is heard otherwise now than it is kept: other edges, speed, pitch or isolation.
  bool differsFromKept() const;
  void open(const std::string& id);
  /// Keeps a new passage, or a changed one as it is now.
  void keep();
  /// Puts a changed passage back to how it is kept, and the other way round again.
  void backToKept();
  void remove(const std::string& id);

 signals:
  void changed();  ///< edges, loop, the kept passage on the desk
  void opened();   ///< a passage was put on the desk, to be seen

 private:
  void applyLoop();
  Passage::Settings onDesk() const;
  void putOnDesk(const Passage::Settings& settings);
  void letGo();
  void takePartInHand(const std::string& id);
  void followStudy();
  void leaveTake();
  void enterTake();
  void startWithSound();
  void forgetAll();

  Session& session_;
  Transport& transport_;
  Analysis& analysis_;
  bool looping_ = true;
  std::optional<TimeSpan> passage_;
  std::string keptId_;
  Passage::Settings kept_;  // of that passage, as last seen in the study
  /// Kept passages that were left changed, or were put back: as they were heard then.
  std::map<std::string, Passage::Settings> changed_;
  struct Left {
    Seconds position;
    std::optional<TimeSpan> passage;
    std::string keptId;
  };
  std::map<std::string, Left> left_;  // by take
  std::optional<Seconds> resumeAt_;   // once the sound is there
};

}  // namespace ear
