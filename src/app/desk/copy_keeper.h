// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QTimer>

#include "app/desk/file_claim.h"
#include "app/workbench/background_job.h"
#include "app/workbench/workbench.h"

namespace ear {

/// The automatic copy of what is not saved, for the day on which the program or the machine ends without asking. It
/// lies beside the study's file, or in the program's own folder under a random name while there is no file.
class CopyKeeper : public QObject {
  Q_OBJECT
 public:
  explicit CopyKeeper(Workbench& bench, QObject* parent);
  ~CopyKeeper() override;

  /// Writes it at once, on this thread. Throws nothing. @return whether there is a copy of what is not saved
  bool writeNow() noexcept;
  /// What is on the desk is saved, or not wanted any more.
  void drop();
  /// The same before another study comes onto the desk: the copy of the one that stays unsaved has been dropped or
  /// kept, and the next one gets a name of its own.
  void beginAnother();

  /// Where it lies, now or when it is written.
  QString path() const;

  /// Copies of studies without a file that nobody works on any more, newest first.
  static QStringList orphans();
  /// Takes an orphan away once it was opened or is not wanted.
  static void removeOrphan(const QString& copy);

 private:
  void write();
  void prepare();

  Workbench& bench_;
  QTimer timer_;
  BackgroundJob job_;
  bool due_ = false;  // a copy is wanted as soon as the one before is written
  QString name_;      // of the copy of a study without a file
  FileClaim claim_;   // on that copy
};

}  // namespace ear
