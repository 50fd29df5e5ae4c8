// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/midi_file.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <fstream>
#include <map>
#include <optional>
#include <string_view>

#include "core/base/text.h"

namespace ear {
namespace {

constexpr std::size_t kMostBytes = 16U << 20U;
constexpr std::size_t kLongestName = 80, kLongestText = 200, kMostTexts = 20'000, kMostOfMoment = 2'000;
constexpr int kChannels = 16;
constexpr int kWheelMiddle = 8192;
constexpr double kUsualRange = 200;           // cents of the wheel either way
constexpr std::int64_t kMostBeats = 100'000;  // half a day

/// What is wrong, thrown within the reader only.
struct Broken {
  std::string why;
};

class Bytes {
 public:
  Bytes(std::span<const std::byte> bytes, std::size_t offset) : bytes_(bytes), offset_(offset) {}

  bool atEnd() const { return at_ == bytes_.size(); }
  std::size_t left() const { return bytes_.size() - at_; }

  int byte() {
    if (atEnd()) cutOff();
    return std::to_integer<int>(bytes_[at_++]);
  }
  int peek() const {
    if (atEnd()) cutOff();
    return std::to_integer<int>(bytes_[at_]);
  }
  std::uint32_t number(int bytes) {
    std::uint32_t n = 0;
    while (bytes-- > 0) n = n << 8U | static_cast<std::uint32_t>(byte());
    return n;
  }
  /// Seven bits a byte, at most four bytes.
  std::uint32_t length() {
    std::uint32_t n = 0;
    for (int i = 0; i < 4; ++i) {
      const int b = byte();
      n = n << 7U | static_cast<std::uint32_t>(b & 0x7F);
      if (b < 0x80) return n;
    }
    throw Broken{"A length at byte " + std::to_string(offset_ + at_) + " has no end: the file is damaged."};
  }
  Bytes take(std::size_t count) {
    if (count > left()) cutOff();
    at_ += count;
    return {bytes_.subspan(at_ - count, count), offset_ + at_ - count};
  }
  std::string text() const {
    std::string text(bytes_.size(), '\0');
    std::transform(bytes_.begin(), bytes_.end(), text.begin(), [](std::byte b) { return static_cast<char>(b); });
    return text;
  }

 private:
  [[noreturn]] void cutOff() const {
    throw Broken{"The file ends in the middle of an event, at byte " + std::to_string(offset_ + bytes_.size()) +
                 ": it was cut off or damaged. Save it again from where it comes from."};
  }

  std::span<const std::byte> bytes_;
  std::size_t offset_;  // of its first byte in the file
  std::size_t at_ = 0;
};

/// The wheel of a channel, and the range it was given.
struct Wheel {
  int value = kWheelMiddle;
  double range = kUsualRange;
  int parameter = -1;  // registered parameter that data entry sets

  Cents cents() const { return Cents(range * (value - kWheelMiddle) / kWheelMiddle); }
};

class TrackReader {
 public:
  TrackReader(Bytes bytes, int ppqn) : bytes_(bytes), ppqn_(ppqn) {}

  void read() {
    int status = 0;
    while (!bytes_.atEnd() && !ended_) {
      now_ += bytes_.length();
      if (now_ > kMostBeats * ppqn_) throw Broken{"A time in the file lies days ahead: it is damaged."};
      if (bytes_.peek() >= 0x80) status = bytes_.byte();
      if (status == 0) throw Broken{"A track does not begin with an event: the file is damaged."};
      if (status < 0xF0)
        channelEvent(status >> 4, status & 0x0F);
      else
        otherEvent(std::exchange(status, status < 0xF8 || status == 0xFF ? 0 : status));
    }
    for (auto& [key, open] : open_) close(open);
    for (MidiNote& n : notes_)
      if (const auto said = texts_.find(n.at); said != texts_.end()) n.words = said->second;
    std::stable_sort(notes_.begin(), notes_.end(), [](const MidiNote& a, const MidiNote& b) { return a.at < b.at; });
  }

  const std::string& name() const { return name_; }
  std::vector<MidiNote>& notes() { return notes_; }
  const std::optional<Rational>& bar() const { return bar_; }

 private:
  void channelEvent(int kind, int channel) {
    const int first = bytes_.byte() & 0x7F;
    const bool one = kind == 0xC || kind == 0xD;
    const int second = one ? 0 : bytes_.byte() & 0x7F;
    switch (kind) {
      case 0x9:
        letGo(channel, first);
        if (second > 0) {
          const Cents off = wheels_.at(static_cast<std::size_t>(channel)).cents();
          open_[{channel, first}] = {now_, {{}, {}, first, channel, off, off, off}};
        }
        break;
      case 0x8:
        letGo(channel, first);
        break;
      case 0xB:
        controller(wheels_.at(static_cast<std::size_t>(channel)), first, second);
        break;
      case 0xE:
        turn(channel, first | second << 7);
        break;
      default:
        break;
    }
  }

  static void controller(Wheel& wheel, int controller, int value) {
    if (controller == 101) wheel.parameter = value << 7 | (std::max(0, wheel.parameter) & 0x7F);
    if (controller == 100) wheel.parameter = (std::max(0, wheel.parameter) & ~0x7F) | value;
    if (controller == 6 && wheel.parameter == 0) wheel.range = 100.0 * value;
    if (controller == 38 && wheel.parameter == 0) wheel.range = 100.0 * std::floor(wheel.range / 100) + value;
  }

  void turn(int channel, int value) {
    Wheel& wheel = wheels_.at(static_cast<std::size_t>(channel));
    wheel.value = value;
    for (auto& [key, open] : open_) {
      if (key.first != channel) continue;
      open.note.after = wheel.cents();
      if (std::abs(open.note.after.value) > std::abs(open.note.most.value)) open.note.most = open.note.after;
    }
  }

  void otherEvent(int status) {
    if (status == 0xFF) {
      const int kind = bytes_.byte();
      Bytes data = bytes_.take(bytes_.length());
      if (kind == 0x2F) ended_ = true;
      if (kind == 0x01 && data.left() <= kLongestText) remember(data.text());
      if (kind == 0x03 && name_.empty()) name_ = data.text();
      if (kind == 0x58 && !bar_ && data.left() >= 2) {
        const int beats = data.byte(), value = data.byte();
        if (beats > 0 && value < 7) bar_ = Rational(4 * beats, std::int64_t{1} << value);
      }
    } else if (status == 0xF0 || status == 0xF7) {
      bytes_.take(bytes_.length());
    } else {
      throw Broken{"An event that no MIDI file may hold: the file is damaged."};
    }
  }

  /// Every note of a moment gets its texts, so that they must stay few.
  void remember(const std::string& text) {
    if (texts_.size() >= kMostTexts) return;
    std::string& said = texts_[Rational(now_, ppqn_)];
    if (said.size() < kMostOfMoment) said += text + "\n";
  }

  struct Open {
    std::int64_t since = 0;
    MidiNote note;
  };

  void letGo(int channel, int midi) {
    const auto found = open_.find({channel, midi});
    if (found == open_.end()) return;
    close(found->second);
    open_.erase(found);
  }

  void close(Open& open) {
    if (now_ <= open.since) return;
    open.note.at = Rational(open.since, ppqn_);
    open.note.length = Rational(now_ - open.since, ppqn_);
    notes_.push_back(open.note);
  }

  Bytes bytes_;
  int ppqn_;
  std::int64_t now_ = 0;
  bool ended_ = false;
  std::string name_;
  std::optional<Rational> bar_;
  std::vector<MidiNote> notes_;
  std::map<Rational, std::string> texts_;
  std::map<std::pair<int, int>, Open> open_;  // by channel and key
  std::array<Wheel, kChannels> wheels_{};
};

std::string nameOr(const std::string& name, const std::string& other) {
  const std::string clean = shortened(asUtf8(name), kLongestName);
  return clean.find_first_not_of(' ') == std::string::npos ? other : clean;
}

MidiFile read(std::span<const std::byte> all) {
  Bytes bytes(all, 0);
  if (all.size() < 14 || bytes.take(4).text() != "MThd")
    throw Broken{"This is no MIDI file: it does not begin as one does."};
  Bytes head = bytes.take(bytes.number(4));
  const auto type = head.number(2);
  head.number(2);  // as many tracks as there are, whatever is said
  const auto division = head.number(2);
  if (type > 1) throw Broken{"The file holds several pieces (type 2). Save each as a file of its own."};
  if ((division & 0x8000U) != 0)
    throw Broken{"The file counts in film frames and knows no beats. Save it with beats (ticks for each quarter)."};
  if (division == 0) throw Broken{"The file has no ticks to a quarter note: it is damaged."};
  MidiFile file;
  bool known = false;
  for (int track = 1; bytes.left() >= 8; ++track) {
    const std::string kind = bytes.take(4).text();
    Bytes data = bytes.take(bytes.number(4));
    if (kind != "MTrk") continue;  // others are passed over, as the standard asks
    TrackReader reader(data, static_cast<int>(division));
    reader.read();
    if (reader.bar() && !known) file.bar = *reader.bar(), known = true;
    const std::string name = nameOr(reader.name(), "track " + std::to_string(track));
    if (type == 1 && !reader.notes().empty()) file.voices.push_back({name, std::move(reader.notes())});
    for (int channel = 0; type == 0 && channel < kChannels; ++channel) {
      MidiVoice voice{"channel " + std::to_string(channel + 1)};
      std::copy_if(reader.notes().begin(), reader.notes().end(), std::back_inserter(voice.notes),
                   [&](const MidiNote& n) { return n.channel == channel; });
      if (!voice.notes.empty()) file.voices.push_back(std::move(voice));
    }
  }
  if (file.voices.empty()) throw Broken{"There are no notes in this file."};
  return file;
}

}  // namespace

Outcome<MidiFile> readMidi(std::span<const std::byte> bytes) {
  try {
    return read(bytes);
  } catch (const Broken& broken) {
    return Problem{broken.why};
  }
}

Outcome<MidiFile> readMidi(const std::filesystem::path& file) {
  std::ifstream in(file, std::ios::binary);
  if (!in) return Problem{"The file cannot be opened. Is it still there, and may you read it?"};
  std::string bytes(kMostBytes + 1, '\0');
  in.read(bytes.data(), static_cast<std::streamsize>(bytes.size()));
  bytes.resize(static_cast<std::size_t>(in.gcount()));
  if (bytes.size() > kMostBytes) return Problem{"The file is larger than 16 MB: no MIDI file of a song is."};
  return readMidi(std::as_bytes(std::span(bytes)));
}

}  // namespace ear
