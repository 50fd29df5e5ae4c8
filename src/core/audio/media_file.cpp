#include "core/audio/media_file.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/channel_layout.h>
#include <libavutil/opt.h>
#include <libswresample/swresample.h>
}

#include <unistd.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <string>

namespace ear {
namespace {

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
    for (auto& plane : out.channels) {
      plane.resize(before + static_cast<std::size_t>(std::max(got, 0)));
      check(std::span(plane).subspan(before));
    }
    return got >= 0;
  }

  float peak() const { return peak_; }
  bool metUnreal() const { return metUnreal_; }

 private:
  /// Samples that are no numbers (a damaged float file) would poison every measurement.
  void check(std::span<float> samples) {
    for (float& s : samples) {
      if (!std::isfinite(s)) s = 0.0F, metUnreal_ = true;
      peak_ = std::max(peak_, std::abs(s));
    }
  }

  bool matches(const AVFrame& f) const {
    return swr_ != nullptr && f.format == format_ && f.sample_rate == rate_ && f.ch_layout.nb_channels == channels_;
  }

  bool configure(const AVFrame& frame, Recording& out) {
    if (out.sampleRate == 0) {
      out.sampleRate = frame.sample_rate;
      out.channels.resize(frame.ch_layout.nb_channels == 1 ? 1 : 2);
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

  SwrPtr swr_;
  int format_ = -1, rate_ = 0, channels_ = 0;
  float peak_ = 0.0F;
  bool metUnreal_ = false;
};

}  // namespace

struct MediaFile::Parts {
  FormatPtr format;
  CodecPtr codec;
  int stream = -1;
  double declaredSeconds = 0.0;  // 0 when the file does not say
  Folder folder;
  FramePtr frame{av_frame_alloc()};
  PacketPtr packet{av_packet_alloc()};
  bool damaged = false;

  void drain(Recording& to) {
    while (avcodec_receive_frame(codec.get(), frame.get()) >= 0) {
      if (!folder.append(frame.get(), to)) damaged = true;
      av_frame_unref(frame.get());
    }
  }
};

MediaFile::MediaFile(std::unique_ptr<Parts> parts) : parts_(std::move(parts)) {}
MediaFile::MediaFile(MediaFile&&) noexcept = default;
MediaFile& MediaFile::operator=(MediaFile&&) noexcept = default;
MediaFile::~MediaFile() = default;

Outcome<MediaFile> MediaFile::open(const std::filesystem::path& file) {
  if (auto problem = checkFile(file)) return *problem;
  av_log_set_level(AV_LOG_QUIET);
  const std::string name = file.filename().string();
  AVFormatContext* raw = nullptr;
  if (avformat_open_input(&raw, ("file:" + file.string()).c_str(), nullptr, nullptr) < 0)
    return Problem{"“" + name +
                   "” is not a sound or video file that can be read. Known are mp3, m4a, aac, flac, ogg, "
                   "opus, wav, aiff, mp4, mkv and webm."};
  auto parts = std::make_unique<Parts>();
  Parts& result = *parts;
  result.format.reset(raw);
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
  return MediaFile(std::move(parts));
}

Seconds MediaFile::declared() const {
  return Seconds(parts_->declaredSeconds);
}

float MediaFile::peak() const {
  return parts_->folder.peak();
}

bool MediaFile::damaged() const {
  return parts_->damaged || parts_->folder.metUnreal();
}

bool MediaFile::read(Recording& to) {
  Parts& p = *parts_;
  const int got = av_read_frame(p.format.get(), p.packet.get());
  if (got < 0) {
    p.damaged = p.damaged || got != AVERROR_EOF;
    avcodec_send_packet(p.codec.get(), nullptr);
    p.drain(to);
    p.folder.append(nullptr, to);
    return false;
  }
  if (p.packet->stream_index == p.stream) {
    if (avcodec_send_packet(p.codec.get(), p.packet.get()) < 0) p.damaged = true;
    p.drain(to);
  }
  av_packet_unref(p.packet.get());
  return true;
}

bool MediaFile::seek(Seconds to) {
  Parts& p = *parts_;
  const AVStream& stream = *p.format->streams[p.stream];
  const auto start = stream.start_time == AV_NOPTS_VALUE ? 0 : stream.start_time;
  const auto at = start + static_cast<std::int64_t>(to.value / av_q2d(stream.time_base));
  if (av_seek_frame(p.format.get(), p.stream, at, AVSEEK_FLAG_BACKWARD) < 0) return false;
  avcodec_flush_buffers(p.codec.get());
  return true;
}

}  // namespace ear
