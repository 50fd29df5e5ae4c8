// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAction>
#include <QKeySequence>
#include <QObject>
#include <map>
#include <memory>
#include <vector>

#include "devices/pedal.h"

namespace ear {

/// Which key and which pedal switch does what. Every command of the desk is in it; what was changed is kept for the
/// next start.
class KeyMap : public QObject {
  Q_OBJECT
 public:
  /// @param window  whose buttons have keys of their own that stay as they are
  explicit KeyMap(QWidget* window);
  ~KeyMap() override;

  /// A command with an object name and its standard key. @param group  under which it is listed
  void add(QAction* action, const QString& group);
  struct Entry {
    QAction* action;
    QString group;
    QKeySequence standard;
  };
  const std::vector<Entry>& entries() const { return entries_; }

  /// What a key does already; empty when it is free for `action`.
  QString takenBy(const QKeySequence& key, const QAction* action) const;
  /// Takes the key away from whatever command had it. An empty one leaves the command without.
  void setKey(QAction* action, const QKeySequence& key);
  void reset();

  /// From now on this pedal is listened to.
  void setPedal(std::unique_ptr<Pedal> pedal);
  Pedal* pedal() { return pedal_.get(); }
  /// The next switch that is pressed will do this; null: no longer wanted.
  void learn(QAction* action);
  const QAction* learning() const { return learning_; }
  /// The switch of a command, or empty.
  QString pedalOf(const QAction* action) const;
  void forgetPedal(QAction* action);

  /// A tip that ends with the standard key of a command in brackets, with the key that the command has now.
  QString withKeysAsSet(const QString& tip) const;

  /// All keys on a page, as HTML.
  QString card() const;

 signals:
  /// A key of a MIDI keyboard went down that no command was given to.
  void noteStruck(int midi);
  void changed();

 private:
  void apply(QAction* action, const QKeySequence& key);
  void pressed(const QString& name);
  /// Keys that belong to a button.
  std::map<QString, QString> fixedKeys() const;

  QWidget* window_;
  std::vector<Entry> entries_;
  std::map<QString, QString> switches_;  // to the names of commands
  std::unique_ptr<Pedal> pedal_;
  QAction* learning_ = nullptr;
};

}  // namespace ear
