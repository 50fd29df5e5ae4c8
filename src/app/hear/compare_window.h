// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QDialog>
#include <QTimer>
#include <memory>
#include <optional>
#include <vector>

#include "app/hear/repeat_chart.h"
#include "app/workbench/background_job.h"

class QComboBox;
class QLabel;
class QPushButton;

namespace ear {

class Workbench;

/// The passage against another time it is played: the same bars of another verse, any other passage or phrase that is
/// kept, of this take or another one. By what sounds, and by what is written.
class CompareWindow : public QDialog {
  Q_OBJECT
 public:
  explicit CompareWindow(Workbench& bench, QWidget* parent);
  ~CompareWindow() override;
  bool working() const { return job_.running(); }

 private:
  /// What the passage can be compared with.
  struct Other {
    QString name;
    std::string take;
    TimeSpan span;
  };
  void find();
  void compare();
  void tell(std::shared_ptr<const RepeatDifference> difference);
  void compareWritten();
  void hear(const std::string& take, TimeSpan span, std::optional<Seconds> from = {});
  const Other* other() const;
  std::vector<Other> others() const;
  const Phrase* phraseIn(const std::string& take, TimeSpan span) const;
  RepeatChart::Written writtenAs(const Phrase* phrase) const;

  Workbench& bench_;
  QLabel *sentence_, *state_;
  QComboBox* list_;
  RepeatChart* chart_;
  QPushButton *hearFirst_, *hearSecond_;
  std::string take_;  // of the passage
  TimeSpan passage_;
  QTimer pause_;
  std::shared_ptr<const Recording> sound_;  // where the passage lies
  std::vector<Other> others_;
  std::optional<std::pair<TimeSpan, std::optional<Seconds>>> awaited_;  // to be heard when its take is there
  BackgroundJob job_;
  std::shared_ptr<const RepeatDifference> difference_;
};

}  // namespace ear
