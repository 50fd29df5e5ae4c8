// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/desk/file_claim.h"

#include <QFileInfo>
#include <QObject>

namespace ear {

QString FileClaim::identity(const QString& file) {
  const QFileInfo info(file);
  const QString real = info.canonicalFilePath();
  return real.isEmpty() ? info.absoluteFilePath() : real;
}

QString FileClaim::lockFor(const QString& file) {
  const QFileInfo info(identity(file));
  return info.absolutePath() + "/." + info.fileName() + ".open";
}

bool FileClaim::take(const QString& file) {
  if (holds(file)) return true;
  auto lock = std::make_unique<QLockFile>(lockFor(file));
  lock->setStaleLockTime(0);  // however old: only a process that is gone makes it stale
  if (!lock->tryLock() && lock->error() == QLockFile::LockFailedError) return false;
  lock_ = std::move(lock);
  file_ = identity(file);
  return true;
}

QString FileClaim::ownerOf(const QString& file) {
  const QLockFile lock(lockFor(file));
  qint64 process = 0;
  QString host, program;
  if (!lock.getLockInfo(&process, &host, &program)) return {};
  return QObject::tr("process %1 on %2").arg(process).arg(host.isEmpty() ? QObject::tr("this machine") : host);
}

}  // namespace ear
