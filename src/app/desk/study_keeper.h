#pragma once

#include <QObject>
#include <QStringList>
#include <QTimer>

#include "app/workbench/workbench.h"

class QWidget;

namespace ear {

/// Files of studies: open, save, recent ones, and the automatic copies that survive a crash. Asks before anything is
/// lost.
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

  QStringList recent() const;
  void autosaveNow();
  static QString demoFile();

 signals:
  void recentChanged();

 private:
  bool openStudy(const QString& file);
  bool writeTo(const QString& file);
  void remember(const QString& file);
  QString autosavePath() const;
  void dropAutosave();
  void complain(const QString& title, const std::string& sentence);

  Workbench& bench_;
  QWidget* window_;
  QTimer timer_;
};

}  // namespace ear
