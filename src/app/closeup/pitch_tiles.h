// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>
#include <QObject>
#include <condition_variable>
#include <list>
#include <map>
#include <memory>
#include <mutex>
#include <thread>
#include <vector>

#include "core/listening/frontend/pitch_map.h"

namespace ear {

/// The pitch map of a recording in tiles, computed on a thread of its own when they are asked for, newest wishes first,
/// and kept while there is room.
class PitchTiles : public QObject {
  Q_OBJECT
 public:
  static constexpr int kColumns = 256;  ///< of a tile
  static constexpr int kLevels = 16;    ///< level n has a column every kHop * 2^n frames
  static constexpr int kHop = 64;
  static constexpr std::size_t kMostTiles = 600;  ///< kept: 27 MB

  explicit PitchTiles(QObject* parent = nullptr);
  ~PitchTiles() override;

  /// Of another sound, or the same one at another pitch or from another side; forgets everything. Null: none.
  void setSound(std::shared_ptr<const Recording> recording, Cents offset, PitchMap::Mix mix);

  struct Key {
    int level = 0;
    std::int64_t index = 0;                        ///< columns [index x kColumns, ...)
    auto operator<=>(const Key&) const = default;  // NOLINT(modernize-use-nullptr): its literal 0
  };
  /// A tile as an indexed picture, highest pitch on top, or null when it is not there yet; then it is on its way.
  const QImage* tile(Key key);
  /// The same without asking for it.
  const QImage* present(Key key);
  /// What is on its way and was not asked for since the last call is no longer wanted.
  void endOfLook();
  /// The last look missed something.
  bool busy() const { return missing_ > 0; }

 signals:
  void arrived();

 private:
  void work(const std::stop_token& stop);
  void receive(Key key, QImage picture, int generation);

  // Shared with the thread.
  std::mutex mutex_;
  std::condition_variable_any wake_;
  std::shared_ptr<const Recording> recording_;
  Cents offset_;
  PitchMap::Mix mix_;
  int generation_ = 0;
  std::vector<Key> asked_;  // the last one is done first

  // Of the window's thread.
  struct Kept {
    QImage picture;
    std::list<Key>::iterator use;
  };
  std::map<Key, Kept> tiles_;
  std::list<Key> uses_;  // the latest in front
  std::vector<Key> wanted_;
  std::size_t missing_ = 0;
  std::jthread thread_;
};

}  // namespace ear
