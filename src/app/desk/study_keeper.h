// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>

#include "app/desk/asking.h"
#include "app/desk/copy_keeper.h"
#include "app/desk/file_claim.h"
#include "app/workbench/workbench.h"
#include "core/study/study_file.h"

class QWidget;

namespace ear {

/// Files of studies: open, save, recent ones, and the automatic copies that survive a crash. Asks before anything is
/// lost, and notices when somebody else has the file or has changed it.
class StudyKeeper : public QObject {
  Q_OBJECT
 public:
  StudyKeeper(Workbench& bench, QWidget* window);

  /// A study or a recording. @return false when it could not be opened or the user stayed with what is open
  bool open(const QString& file);
  void openByDialog();
  void newByDialog();
  void addTakeByDialog();
  void relocateByDialog();
  bool save();
  bool saveAs();
  /// The demo study, as a copy that has no file yet.
  bool openDemo(const QString& file = {});
  /// Offers to save what is not saved. @return false when the user wants to stay
  bool mayClose();
  /// Copies that a crash left of studies that had no file.
  void offerOrphans();

  /// From now on nobody is there to answer: questions take their careful answer, complaints go to standard error.
  void setUnattended() { asking_.setUnattended(); }
  bool complained() const { return asking_.complained(); }

  CopyKeeper& copies() { return *copies_; }
  static QString demoFile();

 signals:
  void recentChanged();

 private:
  QString pickRecording(const QString& title);
  bool openStudy(const QString& file);
  bool openAsCopy(const QString& source, const QString& notice);
  QString newerCopy(const QString& file);
  static QString contentMark(const QString& file);
  bool writeTo(const QString& file);
  bool bothKept(QString& file);
  void putOnDesk(StoredStudy stored, const QString& file);
  void remember(const QString& file);

  Workbench& bench_;
  QWidget* window_;
  Asking asking_;
  CopyKeeper* copies_;
  FileClaim claim_;  // on the study's file
  QString mark_;     // what that held when it was last read or written
};

}  // namespace ear
