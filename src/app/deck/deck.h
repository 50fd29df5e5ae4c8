#pragma once

#include <QWidget>
#include <map>

#include "app/workbench/workbench.h"

class QAction;
class QDoubleSpinBox;
class QLabel;
class QPushButton;
class QSlider;
class QSpinBox;

namespace ear {

class TabularLabel;

/// Playing: start and stop, the passage's edges, speed, pitch, level. Every control is an action with a key.
class Deck : public QWidget {
  Q_OBJECT
 public:
  explicit Deck(Workbench& bench, QWidget* parent = nullptr);

  /// The deck's commands, in the order of the Listen menu; a null entry is a separator.
  const QList<QAction*>& commands() const { return commands_; }

 signals:
  void cueWanted();
  void noteWanted();
  void freezeWanted();
  void compareWanted();
  void earWanted();  ///< something for the ear was asked for

 private:
  QAction* command(const QString& name, const QString& title, const QString& key, std::function<void()> run,
                   const QString& tip = {});
  void makeCommands();
  void layOut();
  QPushButton* buttonFor(const QString& command, const QString& label, int width = 0);
  void refresh();
  void showPosition();
  void stepSpeed(int percent);

  Workbench& bench_;
  QList<QAction*> commands_;
  std::map<QString, QAction*> byName_;
  QPushButton* play_ = nullptr;
  TabularLabel* clock_ = nullptr;
  QLabel* bar_ = nullptr;
  TabularLabel *start_ = nullptr, *end_ = nullptr;
  QLabel *length_ = nullptr, *sound_ = nullptr;
  QSpinBox* speed_ = nullptr;
  QDoubleSpinBox* shift_ = nullptr;
  QSlider* volume_ = nullptr;
};

}  // namespace ear
