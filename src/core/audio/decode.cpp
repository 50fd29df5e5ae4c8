#include "core/audio/decode.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/channel_layout.h>
#include <libavutil/opt.h>
#include <libswresample/swresample.h>
}

#include <unistd.h>

#include <algorithm>
#include <cmath>
#include <fstream>
#include <memory>
#include <optional>

#include "core/text.h"

namespace ear {
namespace {

constexpr float kSilencePeak = 3.2e-5F;  // -90 dB: below the last bit of a 16-bit file
constexpr double kMissingTail = 0.5;     // seconds that may lack before a file counts as cut short
constexpr double kLongestHours = 12.0;   // a sane limit: planar float of this takes 15 GB
constexpr int kLowestRate = 8000, kHighestRate = 192000;

template <auto Free>
struct Deleter {
  template <class T>
  void operator()(T* p) const {
    Free(&p);
  }
};
using FormatPtr = std::unique_ptr<AVFormatContext, Deleter<avformat_close_input>>;
using CodecPtr = std::unique_ptr<AVCodecContext, Deleter<avcodec_free_context>>;
using FramePtr = std::unique_ptr<AVFrame, Deleter<av_frame_free>>;
using PacketPtr = std::unique_ptr<AVPacket, Deleter<av_packet_free>>;
using SwrPtr = std::unique_ptr<SwrContext, Deleter<swr_free>>;

/// What can be said of a file before opening it as sound.
std::optional<Problem> checkFile(const std::filesystem::path& file) {
  const std::string name = file.filename().string();
  std::error_code error;
  const auto status = std::filesystem::status(file, error);
  if (!std::filesystem::exists(status))
    return Problem{"There is no file “" + file.string() + "”. It may have been moved or renamed."};
  if (std::filesystem::is_directory(status))
    return Problem{"“" + name + "” is a folder. Choose a sound or video file inside it."};
  if (!std::filesystem::is_regular_file(status))
    return Problem{"“" + name + "” is not a regular file. Choose a sound or video file."};
  if (access(file.c_str(), R_OK) != 0)
    return Problem{"“" + name + "” may not be read: its permissions do not allow it."};
  if (std::filesystem::file_size(file, error) == 0)
    return Problem{"“" + name + "” is empty (0 bytes). Copy or download it again."};
  return std::nullopt;
}

/// Converts decoded frames to planar float with at most two channels and one sample rate.
class Folder {
 public:
  explicit Folder(double expectedSeconds) : expectedSeconds_(std::clamp(expectedSeconds, 0.0, kLongestHours * 3600)) {}

  /// Appends a frame (or, with null, what the resampler still holds) to the recording.
  bool append(const AVFrame* frame, Recording& out) {
    if (frame != nullptr && !matches(*frame)) {
      if (swr_ != nullptr && !append(nullptr, out)) return false;
      if (!configure(*frame, out)) return false;
    }
    if (swr_ == nullptr) return true;
    const int have = frame != nullptr ? frame->nb_samples : 0;
    const int room = swr_get_out_samples(swr_.get(), have);
    if (room <= 0) return true;
    const std::size_t before = out.frames();
    std::array<uint8_t*, 2> planes{};
    for (std::size_t c = 0; c < out.channels.size(); ++c) {
      out.channels[c].resize(before + static_cast<std::size_t>(room));
      planes[c] = reinterpret_cast<uint8_t*>(out.channels[c].data() + before);
    }
    const uint8_t** input = frame != nullptr ? const_cast<const uint8_t**>(frame->extended_data) : nullptr;
    const int got = swr_convert(swr_.get(), planes.data(), room, input, have);
    for (auto& plane : out.channels) plane.resize(before + static_cast<std::size_t>(std::max(got, 0)));
    return got >= 0;
  }

 private:
  bool matches(const AVFrame& f) const {
    return swr_ != nullptr && f.format == format_ && f.sample_rate == rate_ && f.ch_layout.nb_channels == channels_;
  }

  bool configure(const AVFrame& frame, Recording& out) {
    if (out.sampleRate == 0) {
      out.sampleRate = frame.sample_rate;
      out.channels.resize(frame.ch_layout.nb_channels == 1 ? 1 : 2);
      const auto expected = static_cast<std::size_t>((expectedSeconds_ + 1) * frame.sample_rate);
      for (auto& plane : out.channels) plane.reserve(expected);
    }
    AVChannelLayout to{}, from{};
    av_channel_layout_default(&to, static_cast<int>(out.channels.size()));
    if (frame.ch_layout.order == AV_CHANNEL_ORDER_UNSPEC)
      av_channel_layout_default(&from, frame.ch_layout.nb_channels);
    else
      av_channel_layout_copy(&from, &frame.ch_layout);
    SwrContext* fresh = nullptr;
    const int made = swr_alloc_set_opts2(&fresh, &to, AV_SAMPLE_FMT_FLTP, out.sampleRate, &from,
                                         static_cast<AVSampleFormat>(frame.format), frame.sample_rate, 0, nullptr);
    swr_.reset(fresh);
    av_channel_layout_uninit(&from);
    if (made < 0 || swr_init(swr_.get()) < 0) {
      swr_.reset();
      return false;
    }
    format_ = frame.format;
    rate_ = frame.sample_rate;
    channels_ = frame.ch_layout.nb_channels;
    return true;
  }

  double expectedSeconds_;
  SwrPtr swr_;
  int format_ = -1, rate_ = 0, channels_ = 0;
};

struct OpenFile {
  FormatPtr format;
  CodecPtr codec;
  int stream = -1;
  double declaredSeconds = 0.0;  // 0 when the file does not say
};

Outcome<OpenFile> open(const std::filesystem::path& file) {
  const std::string name = file.filename().string();
  AVFormatContext* raw = nullptr;
  if (avformat_open_input(&raw, ("file:" + file.string()).c_str(), nullptr, nullptr) < 0)
    return Problem{"“" + name +
                   "” is not a sound or video file that can be read. Known are mp3, m4a, aac, flac, ogg, "
                   "opus, wav, aiff, mp4, mkv and webm."};
  OpenFile result{.format = FormatPtr(raw), .codec = nullptr};
  if (avformat_find_stream_info(raw, nullptr) < 0)
    return Problem{"“" + name + "” is damaged: its contents make no sense. Copy or download it again."};
  const AVCodec* decoder = nullptr;
  result.stream = av_find_best_stream(raw, AVMEDIA_TYPE_AUDIO, -1, -1, &decoder, 0);
  if (result.stream == AVERROR_STREAM_NOT_FOUND)
    return Problem{"“" + name + "” holds no sound. Choose a file with an audio track."};
  const AVStream& stream = *raw->streams[std::max(result.stream, 0)];
  if (result.stream < 0 || decoder == nullptr)
    return Problem{"The sound in “" + name + "” is of a kind that cannot be decoded here. Convert it to FLAC or WAV."};
  const AVCodecParameters& params = *stream.codecpar;
  if (params.ch_layout.nb_channels > 8)
    return Problem{"“" + name + "” has " + std::to_string(params.ch_layout.nb_channels) +
                   " channels; up to 8 are read. Mix it down first."};
  if (params.sample_rate != 0 && (params.sample_rate < kLowestRate || params.sample_rate > kHighestRate))
    return Problem{"“" + name + "” is sampled at " + std::to_string(params.sample_rate) +
                   " Hz; 8 to 192 kHz are read. Resample it first."};
  result.codec.reset(avcodec_alloc_context3(decoder));
  avcodec_parameters_to_context(result.codec.get(), &params);
  result.codec->pkt_timebase = stream.time_base;
  result.codec->thread_count = 2;
  if (avcodec_open2(result.codec.get(), decoder, nullptr) < 0)
    return Problem{"The sound in “" + name + "” cannot be decoded. Convert it to FLAC or WAV."};
  if (stream.duration > 0)
    result.declaredSeconds = static_cast<double>(stream.duration) * av_q2d(stream.time_base);
  else if (raw->duration > 0)
    result.declaredSeconds = static_cast<double>(raw->duration) / AV_TIME_BASE;
  return result;
}

/// WAV and AIFF say how long they are in their first bytes, but the demuxer trusts the file's end instead.
bool shorterThanItsHeader(const std::filesystem::path& file) {
  std::array<unsigned char, 12> head{};
  std::ifstream(file, std::ios::binary).read(reinterpret_cast<char*>(head.data()), head.size());
  const std::string_view kind(reinterpret_cast<const char*>(head.data()), 4),
      form(reinterpret_cast<const char*>(head.data()) + 8, 4);
  const auto size = [&](int first, int step) {
    std::uint32_t value = 0;
    for (int i = 0; i < 4; ++i) value = value << 8 | head[static_cast<std::size_t>(first + step * i)];
    return value;
  };
  std::uint32_t said = 0;
  if (kind == "RIFF" && form == "WAVE")
    said = size(7, -1);
  else if (kind == "FORM" && (form == "AIFF" || form == "AIFC"))
    said = size(4, 1);
  std::error_code error;
  return said != 0 && said != 0xFFFFFFFFU && said > std::filesystem::file_size(file, error);
}

float peakOf(const Recording& recording) {
  float peak = 0.0F;
  for (const auto& plane : recording.channels)
    for (const float s : plane) peak = std::max(peak, std::abs(s));
  return peak;
}

/// Samples that are no numbers (a damaged float file) would poison every measurement.
bool dropUnreal(Recording& recording) {
  bool found = false;
  for (auto& plane : recording.channels)
    for (float& s : plane)
      if (!std::isfinite(s)) s = 0.0F, found = true;
  return found;
}

}  // namespace

Outcome<Recording> decode(const std::filesystem::path& file, const Progress& progress) {
  if (auto problem = checkFile(file)) return *problem;
  av_log_set_level(AV_LOG_QUIET);
  auto opened = open(file);
  if (!opened) return Problem{opened.problem()};
  const std::string name = file.filename().string();

  Recording recording;
  Folder folder(opened->declaredSeconds);
  const FramePtr frame(av_frame_alloc());
  const PacketPtr packet(av_packet_alloc());
  int damaged = 0;
  const auto drain = [&] {
    while (avcodec_receive_frame(opened->codec.get(), frame.get()) >= 0) {
      if (!folder.append(frame.get(), recording)) ++damaged;
      av_frame_unref(frame.get());
    }
  };

  double reported = 0.0;
  int read = 0;
  while ((read = av_read_frame(opened->format.get(), packet.get())) >= 0) {
    if (progress.cancelled()) return Problem{"Opening “" + name + "” was cancelled."};
    if (packet->stream_index == opened->stream) {
      if (avcodec_send_packet(opened->codec.get(), packet.get()) < 0) ++damaged;
      drain();
    }
    av_packet_unref(packet.get());
    if (recording.sampleRate > 0) {
      const double done = recording.duration().value;
      if (done > kLongestHours * 3600)
        return Problem{"“" + name + "” is longer than 12 hours. Cut it into parts first."};
      if (opened->declaredSeconds > 0 && done - reported > 5) {
        reported = done;
        progress.report(std::min(1.0, done / opened->declaredSeconds));
      }
    }
  }
  avcodec_send_packet(opened->codec.get(), nullptr);
  drain();
  folder.append(nullptr, recording);

  if (recording.frames() == 0)
    return Problem{"“" + name +
                   "” is damaged: not one sample of its sound could be decoded. Copy or download it again."};
  if (dropUnreal(recording)) ++damaged;
  if (peakOf(recording) < kSilencePeak)
    return Problem{"“" + name + "” holds nothing but silence (" + clockTime(recording.duration()) +
                   " of it). Check that it is the right file."};
  const double lacking = opened->declaredSeconds - recording.duration().value;
  if (lacking > kMissingTail)
    recording.notice = "The file ends early: " + clockTime(recording.duration()) + " of " +
                       clockTime(Seconds(opened->declaredSeconds)) + " could be read.";
  else if (shorterThanItsHeader(file))
    recording.notice = "The file ends early: only its first " + clockTime(recording.duration()) + " could be read.";
  else if (damaged > 0 || (read < 0 && read != AVERROR_EOF))
    recording.notice = "Some places of the file could not be read; times after them may be off.";
  return recording;
}

}  // namespace ear
