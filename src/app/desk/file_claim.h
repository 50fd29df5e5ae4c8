// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLockFile>
#include <QString>
#include <memory>

namespace ear {

/// Says that a file is being worked on by this window, to any other window that looks: a small hidden file beside it
/// with the process and the host. Whoever died without taking it away counts as gone.
class FileClaim {
 public:
  /// Claims a file; what was claimed before is let go of only when that succeeds.
  /// @return false when another window has it. A folder that takes no such file is no obstacle: nobody else can write
  /// there either
  bool take(const QString& file);
  void letGo() { lock_.reset(), file_.clear(); }
  /// Whether take() has succeeded for this file.
  bool holds(const QString& file) const { return !file_.isEmpty() && file_ == identity(file); }

  /// Who has a file, in words: "process 4711 on studio-pc". Empty when nobody has it.
  static QString ownerOf(const QString& file);

 private:
  /// One name for a file, by whatever link it is reached.
  static QString identity(const QString& file);
  static QString lockFor(const QString& file);

  std::unique_ptr<QLockFile> lock_;
  QString file_;
};

}  // namespace ear
