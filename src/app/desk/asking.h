// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <QStringList>
#include <string>

class QWidget;

namespace ear {

/// Questions to the person at the desk, and what went wrong. Where nobody is there to answer, questions take their
/// careful answer and complaints go to standard error.
class Asking {
 public:
  explicit Asking(QWidget* window) : window_(window) {}

  void complain(const QString& title, const std::string& sentence);
  /// The last answer is the one of Escape, and the careful one. @return which
  int ask(const QString& title, const QString& question, const QStringList& answers) const;

  void setUnattended() { unattended_ = true; }
  bool complained() const { return complained_; }

 private:
  QWidget* window_;
  bool unattended_ = false, complained_ = false;
};

}  // namespace ear
