// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/durable_file.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <cstring>
#include <fstream>
#include <iterator>

#include "core/base/text.h"

namespace ear {
namespace {

/// Closes on every way out.
struct Descriptor {
  int fd;
  explicit Descriptor(int f) : fd(f) {}
  Descriptor(const Descriptor&) = delete;
  Descriptor& operator=(const Descriptor&) = delete;
  ~Descriptor() {
    if (fd >= 0) close(fd);
  }
};

bool writeAll(int fd, std::string_view contents) {
  while (!contents.empty()) {
    const ssize_t n = write(fd, contents.data(), contents.size());
    if (n < 0 && errno == EINTR) continue;
    if (n <= 0) return false;
    contents.remove_prefix(static_cast<std::size_t>(n));
  }
  return true;
}

/// Compares as it reads, so that no second copy is needed.
bool holds(int fd, std::string_view contents) {
  std::array<char, 65536> block;
  if (lseek(fd, 0, SEEK_SET) != 0) return false;
  while (true) {
    const ssize_t n = read(fd, block.data(), block.size());
    if (n < 0 && errno == EINTR) continue;
    if (n < 0) return false;
    const std::string_view got(block.data(), static_cast<std::size_t>(n));
    if (got != contents.substr(0, got.size())) {
      errno = EIO;
      return false;
    }
    contents.remove_prefix(got.size());
    if (n == 0) {
      if (!contents.empty()) errno = EIO;
      return contents.empty();
    }
  }
}

Problem cannotSave(const std::filesystem::path& file, int error) {
  return Problem{"“" + shownPath(file.filename()) + "” could not be saved: " + std::strerror(error) +
                 ". What lay there stands as it was. Free some room, or choose another place with Save As."};
}

/// A link stays a link: what it points to is replaced.
std::filesystem::path targetOf(const std::filesystem::path& file) {
  std::error_code error;
  if (!std::filesystem::is_symlink(file, error)) return file;
  const auto target = std::filesystem::weakly_canonical(file, error);
  return error ? file : target;
}

/// Hidden, and known again by sweepLeftovers.
std::string leftoverPrefix(const std::filesystem::path& target) {
  return "." + target.filename().native() + ".saving-";
}

std::filesystem::path folderOf(const std::filesystem::path& target) {
  return target.parent_path().empty() ? std::filesystem::path(".") : target.parent_path();
}

/// A file beside the target that goes again unless it was renamed.
class Fresh {
 public:
  explicit Fresh(const std::filesystem::path& target)
      : name_((folderOf(target) / (leftoverPrefix(target) + "XXXXXX")).native()),
        file_(mkostemp(name_.data(), O_CLOEXEC)) {}
  Fresh(const Fresh&) = delete;
  Fresh& operator=(const Fresh&) = delete;
  ~Fresh() {
    if (file_.fd >= 0 && !renamed_) unlink(name_.c_str());
  }

  bool open() const { return file_.fd >= 0; }
  /// Contents on the disk, read back; with the mode and owners that the old file had.
  bool fill(std::string_view contents, mode_t mode, const struct stat* old) const {
    if (old != nullptr && fchown(file_.fd, old->st_uid, old->st_gid) != 0) {
      // Not allowed: at least the group, where one belongs to it; else the file is the saver's own.
      [[maybe_unused]] const int group = fchown(file_.fd, static_cast<uid_t>(-1), old->st_gid);
    }
    return writeAll(file_.fd, contents) && fchmod(file_.fd, mode) == 0 && fsync(file_.fd) == 0 &&
           holds(file_.fd, contents);
  }
  bool renameTo(const std::filesystem::path& to) {
    renamed_ = rename(name_.c_str(), to.c_str()) == 0;
    return renamed_;
  }

 private:
  std::string name_;
  Descriptor file_;
  bool renamed_ = false;
};

/// Asked for once: it can only be read by setting it, which other threads would notice.
mode_t maskOfProcess() {
  static const mode_t mask = [] {
    const mode_t now = umask(0);
    umask(now);
    return now;
  }();
  return mask;
}

void syncFolder(const std::filesystem::path& target) {
  const Descriptor folder(open(folderOf(target).c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
  if (folder.fd >= 0) fsync(folder.fd);  // the rename itself must reach the disk too
}

/// The old contents under their second name. A copy, so that writing the file in place leaves it alone.
bool keepBefore(const std::filesystem::path& target, const struct stat& old) {
  const auto contents = readWhole(target, static_cast<std::uintmax_t>(old.st_size));
  if (!contents) return false;
  const auto before = generationBefore(target);
  Fresh copy(before);
  return copy.open() && copy.fill(*contents, old.st_mode & 07777, &old) && copy.renameTo(before);
}

bool writeInPlace(const std::filesystem::path& target, std::string_view contents) {
  const Descriptor file(open(target.c_str(), O_RDWR | O_CLOEXEC));
  return file.fd >= 0 && ftruncate(file.fd, 0) == 0 && writeAll(file.fd, contents) && fsync(file.fd) == 0 &&
         holds(file.fd, contents);
}

}  // namespace

std::filesystem::path generationBefore(const std::filesystem::path& file) {
  return targetOf(file).native() + ".before";
}

Outcome<Done> writeDurably(const std::filesystem::path& file, std::string_view contents, Before before) {
  const auto target = targetOf(file);
  struct stat old {};
  const bool there = stat(target.c_str(), &old) == 0;
  const mode_t mode = there ? old.st_mode & 07777 : 0666 & ~maskOfProcess();
  const bool manyNames = there && old.st_nlink > 1;
  if (there && (before == Before::keep || manyNames) && !keepBefore(target, old)) return cannotSave(file, errno);
  Fresh fresh(target);
  if (!fresh.open() || !fresh.fill(contents, mode, there ? &old : nullptr)) return cannotSave(file, errno);
  if (manyNames) {
    // Better under one name than not at all.
    if (!writeInPlace(target, contents) && !fresh.renameTo(target)) return cannotSave(file, errno);
  } else if (!fresh.renameTo(target)) {
    return cannotSave(file, errno);
  }
  syncFolder(target);
  return Done{};
}

void sweepLeftovers(const std::filesystem::path& file) {
  const auto target = targetOf(file);
  std::error_code error;
  for (const auto& name : {target, generationBefore(target)})
    for (const auto& entry : std::filesystem::directory_iterator(folderOf(target), error))
      if (entry.path().filename().native().starts_with(leftoverPrefix(name)))
        std::filesystem::remove(entry.path(), error);
}

Outcome<std::string> readWhole(const std::filesystem::path& file, std::uintmax_t limit) {
  const std::string name = shownPath(file.filename());
  std::error_code error;
  if (!std::filesystem::exists(file, error))
    return Problem{"There is no file “" + shownPath(file) + "”. It may have been moved or renamed."};
  if (std::filesystem::is_directory(file, error)) return Problem{"“" + name + "” is a folder."};
  if (!std::filesystem::is_regular_file(file, error)) return Problem{"“" + name + "” is not a regular file."};
  if (std::filesystem::file_size(file, error) > limit) return Problem{"“" + name + "” is too large to be a study."};
  std::ifstream in(file, std::ios::binary);
  if (!in) return Problem{"“" + name + "” may not be read: its permissions do not allow it."};
  return std::string(std::istreambuf_iterator<char>(in), {});
}

}  // namespace ear
