#include "core/study/durable_file.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <iterator>

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

Problem cannotSave(const std::filesystem::path& file, int error) {
  return Problem{"“" + file.filename().string() + "” could not be saved: " + std::strerror(error) +
                 ". Choose another place with Save As."};
}

}  // namespace

Outcome<Done> writeDurably(const std::filesystem::path& file, std::string_view contents) {
  std::error_code ignored;
  // A link stays a link: what it points to is replaced.
  const auto target = std::filesystem::is_symlink(file, ignored) ? std::filesystem::canonical(file, ignored) : file;
  std::string name = target.string() + ".XXXXXX";
  const Descriptor out(mkstemp(name.data()));
  if (out.fd < 0) return cannotSave(file, errno);
  struct stat old {};
  const mode_t mask = umask(0);
  umask(mask);
  const mode_t mode = stat(target.c_str(), &old) == 0 ? old.st_mode & 07777 : 0666 & ~mask;
  if (!writeAll(out.fd, contents) || fchmod(out.fd, mode) != 0 || fsync(out.fd) != 0 ||
      rename(name.c_str(), target.c_str()) != 0) {
    const int error = errno;
    unlink(name.c_str());
    return cannotSave(file, error);
  }
  const auto folder = target.parent_path().empty() ? std::filesystem::path(".") : target.parent_path();
  const Descriptor directory(open(folder.c_str(), O_RDONLY | O_DIRECTORY));
  if (directory.fd >= 0) fsync(directory.fd);  // the rename itself must reach the disk too
  return Done{};
}

Outcome<std::string> readWhole(const std::filesystem::path& file, std::uintmax_t limit) {
  const std::string name = file.filename().string();
  std::error_code error;
  if (!std::filesystem::exists(file, error))
    return Problem{"There is no file “" + file.string() + "”. It may have been moved or renamed."};
  if (std::filesystem::is_directory(file, error)) return Problem{"“" + name + "” is a folder."};
  if (std::filesystem::file_size(file, error) > limit) return Problem{"“" + name + "” is too large to be a study."};
  std::ifstream in(file, std::ios::binary);
  if (!in) return Problem{"“" + name + "” may not be read: its permissions do not allow it."};
  return std::string(std::istreambuf_iterator<char>(in), {});
}

}  // namespace ear
