// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/media_file.h"

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
}

#include <unistd.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <string>

#include "core/audio/file_end.h"
#include "core/audio/frame_fold.h"
#include "core/base/text.h"

namespace ear {
namespace {

constexpr int kLowestRate = 8000, kHighestRate = 192000;

// What is opened at all. FFmpeg reads hundreds of formats, some of which are lists of other files or of addresses.
constexpr const char* kContainers = "mp3,aac,flac,ogg,wav,w64,aiff,mov,mp4,m4a,3gp,3g2,mj2,matroska,webm";
constexpr const char* kCodecs =
    "mp3,mp3float,mp2,mp2float,aac,alac,flac,vorbis,libvorbis,opus,libopus,ac3,eac3,"
    "pcm_u8,pcm_s8,pcm_s16le,pcm_s16be,pcm_s24le,pcm_s24be,pcm_s32le,pcm_s32be,pcm_f32le,pcm_f32be,pcm_f64le,"
    "pcm_f64be,pcm_alaw,pcm_mulaw,adpcm_ms,adpcm_ima_wav";
constexpr std::size_t kMostMemory = std::size_t{64} << 20;  // of one block that FFmpeg may ask for
constexpr unsigned kMostStreams = 64;

// Between where a frame belongs and where it would come to lie. Encoders' own delays stay below it.
constexpr double kGap = 0.04;          // seconds
constexpr double kLongestGap = 600.0;  // seconds of silence that may stand in for missing sound at one place,
constexpr double kAllGaps = 1800.0;    // and in all: a damaged file may claim any time
constexpr std::size_t kMostPlaces = 1000;

using FormatPtr = std::unique_ptr<AVFormatContext, MediaDeleter<avformat_close_input>>;
using IoPtr = std::unique_ptr<AVIOContext, MediaDeleter<avio_closep>>;
using CodecPtr = std::unique_ptr<AVCodecContext, MediaDeleter<avcodec_free_context>>;
using FramePtr = std::unique_ptr<AVFrame, MediaDeleter<av_frame_free>>;
using PacketPtr = std::unique_ptr<AVPacket, MediaDeleter<av_packet_free>>;

/// What can be said of a file before opening it as sound.
std::optional<Problem> checkFile(const std::filesystem::path& file) {
  const std::string name = shownPath(file.filename());
  std::error_code error;
  const auto status = std::filesystem::status(file, error);
  if (!std::filesystem::exists(status))
    return Problem{"There is no file “" + shownPath(file) + "”. It may have been moved or renamed."};
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

int interrupted(void* progress) {
  return static_cast<const Progress*>(progress)->cancelled() ? 1 : 0;
}

/// A file that wants others opened for it is not given them.
int refuseNested(AVFormatContext*, AVIOContext**, const char*, int, AVDictionary**) {
  return AVERROR(EACCES);
}

Problem noSound(const std::filesystem::path& file) {
  const std::string name = shownPath(file.filename());
  if (beginsAsMp4(file))
    return Problem{"“" + name +
                   "” is incomplete: its index is missing, which is written last. Copy or download it again, or "
                   "finish the recording it comes from."};
  return Problem{"“" + name +
                 "” is not a sound or video file that can be read. Known are mp3, m4a, aac, flac, ogg, "
                 "opus, wav, aiff, mp4, mkv and webm."};
}

}  // namespace

struct MediaFile::Parts {
  IoPtr io;  // outlives the format, which reads by it
  FormatPtr format;
  CodecPtr codec;
  int stream = -1;
  double declaredSeconds = 0.0;  // 0 when the file does not say
  bool timed = false;            // the container says when each frame sounds
  FrameFold fold;
  FramePtr frame{av_frame_alloc()};
  PacketPtr packet{av_packet_alloc()};
  Losses losses;
  std::optional<double> origin;  // what frames' times count from, seconds of the stream
  std::int64_t packetEnd = -1;   // in the file
  double silence = 0.0;          // seconds that were put in
  bool sounded = false;

  void damagedAt(const Recording& to) {
    const Seconds at = to.sampleRate > 0 ? to.duration() : Seconds(0);
    if (losses.damaged.size() < kMostPlaces && (losses.damaged.empty() || at - losses.damaged.back() > Seconds(0.5)))
      losses.damaged.push_back(at);
  }

  /// Puts silence where the frame's time says that sound is missing before it, so that later times stay right.
  void place(Recording& to) {
    const auto pts = frame->best_effort_timestamp;
    if (!timed || pts == AV_NOPTS_VALUE) return;
    const double time = static_cast<double>(pts) * av_q2d(format->streams[stream]->time_base);
    const double here = to.sampleRate > 0 ? to.duration().value : 0.0;
    if (!origin) origin = time - here;
    const double gap = time - *origin - here;
    if (std::abs(gap) < kGap) return;
    if (gap < 0 || gap > kLongestGap || silence + gap > kAllGaps) {
      // Time runs backwards, as where recordings were joined, or jumps beyond reason: what follows is counted on.
      gap < 0 && time < kGap ? losses.joined = true : (damagedAt(to), true);
      origin = time - here;
      return;
    }
    silence += gap;
    fold.append(nullptr, to);
    const auto frames = to.frames() + static_cast<std::size_t>(std::lround(gap * to.sampleRate));
    if (losses.missing.size() < kMostPlaces) losses.missing.push_back({Seconds(here), Seconds(here + gap)});
    for (auto& plane : to.channels) plane.resize(frames, 0.0F);
  }

  void drain(Recording& to) {
    int got = 0;
    while ((got = avcodec_receive_frame(codec.get(), frame.get())) >= 0) {
      place(to);
      if (!fold.append(frame.get(), to)) damagedAt(to);
      sounded = true;
      av_frame_unref(frame.get());
    }
    // Before the first sound a decoder may lack what a cut took away; that is no loss.
    if (got != AVERROR(EAGAIN) && got != AVERROR_EOF && sounded) damagedAt(to);
  }

  /// Frames of a bare stream follow each other byte by byte; where they do not, something is broken in between.
  void followBytes(const Recording& to) {
    if (timed || packet->pos < 0 || packet->size <= 0) return;
    if (packetEnd >= 0 && packet->pos > packetEnd && sounded) damagedAt(to);
    packetEnd = packet->pos + packet->size;
  }
};

MediaFile::MediaFile(std::unique_ptr<Parts> parts) : parts_(std::move(parts)) {}
MediaFile::MediaFile(MediaFile&&) noexcept = default;
MediaFile& MediaFile::operator=(MediaFile&&) noexcept = default;
MediaFile::~MediaFile() = default;

Outcome<MediaFile> MediaFile::open(const std::filesystem::path& file, const Progress& progress) {
  if (auto problem = checkFile(file)) return *problem;
  av_log_set_level(AV_LOG_QUIET);
  av_max_alloc(kMostMemory);
  const std::string name = shownPath(file.filename());
  const AVIOInterruptCB interrupt{interrupted, const_cast<Progress*>(&progress)};
  auto parts = std::make_unique<Parts>();
  Parts& result = *parts;
  AVIOContext* io = nullptr;
  if (avio_open2(&io, ("file:" + file.native()).c_str(), AVIO_FLAG_READ, &interrupt, nullptr) < 0)
    return Problem{"“" + name + "” could not be read. Check the disk it lies on."};
  result.io.reset(io);
  AVFormatContext* raw = avformat_alloc_context();
  raw->pb = io;
  raw->flags |= AVFMT_FLAG_CUSTOM_IO;
  raw->io_open = refuseNested;
  raw->interrupt_callback = interrupt;
  raw->max_streams = kMostStreams;
  raw->error_recognition |= AV_EF_CRCCHECK;
  raw->format_whitelist = av_strdup(kContainers);
  raw->codec_whitelist = av_strdup(kCodecs);
  raw->protocol_whitelist = av_strdup("file");
  if (avformat_open_input(&raw, nullptr, nullptr, nullptr) < 0) {
    if (progress.cancelled()) return Problem{"Opening “" + name + "” was cancelled."};
    return noSound(file);
  }
  result.format.reset(raw);
  bool pictures = false;
  for (unsigned i = 0; i < raw->nb_streams; ++i) {
    AVStream& other = *raw->streams[i];
    if (other.codecpar->codec_type == AVMEDIA_TYPE_AUDIO) continue;
    other.discard = AVDISCARD_ALL;  // neither a film nor a cover is ever decoded
    pictures = pictures || (other.codecpar->codec_type == AVMEDIA_TYPE_VIDEO &&
                            (other.disposition & AV_DISPOSITION_ATTACHED_PIC) == 0);
  }
  const int found = avformat_find_stream_info(raw, nullptr);
  if (progress.cancelled()) return Problem{"Opening “" + name + "” was cancelled."};
  if (found < 0) return Problem{"“" + name + "” is damaged: its contents make no sense. Copy or download it again."};
  const AVCodec* decoder = nullptr;
  result.stream = av_find_best_stream(raw, AVMEDIA_TYPE_AUDIO, -1, -1, &decoder, 0);
  if (result.stream == AVERROR_STREAM_NOT_FOUND)
    return Problem{"“" + name + "” holds no sound. Choose a file with an audio track."};
  AVStream& stream = *raw->streams[std::max(result.stream, 0)];
  const Problem unknown{"The sound in “" + name +
                        "” is of a kind that cannot be decoded here. Convert it to FLAC or WAV."};
  if (result.stream < 0 || decoder == nullptr) return unknown;
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
  result.codec->codec_whitelist = av_strdup(kCodecs);
  // FLAC frames carry their own checksum: one that fails is missing, not played.
  if (params.codec_id == AV_CODEC_ID_FLAC) result.codec->err_recognition |= AV_EF_CRCCHECK | AV_EF_EXPLODE;
  if (avcodec_open2(result.codec.get(), decoder, nullptr) < 0) return unknown;
  const std::string container = raw->iformat->name;
  result.timed =
      container == "ogg" || container == "flac" || container.starts_with("mov") || container.starts_with("matroska");
  if (stream.duration > 0)
    result.declaredSeconds = static_cast<double>(stream.duration) * av_q2d(stream.time_base);
  else if (raw->duration > 0 && !pictures)  // of a film it may be the picture that lasts longer
    result.declaredSeconds = static_cast<double>(raw->duration) / AV_TIME_BASE;
  // A stream that starts later is counted from its start.
  if (stream.duration <= 0 && stream.start_time != AV_NOPTS_VALUE && stream.start_time > 0 &&
      result.declaredSeconds > 0)
    result.declaredSeconds =
        std::max(0.0, result.declaredSeconds - static_cast<double>(stream.start_time) * av_q2d(stream.time_base));
  return MediaFile(std::move(parts));
}

Seconds MediaFile::declared() const {
  return Seconds(parts_->declaredSeconds);
}

float MediaFile::peak() const {
  return parts_->fold.peak();
}

MediaFile::Losses MediaFile::losses() const {
  Losses losses = parts_->losses;
  losses.unreal = parts_->fold.metUnreal();
  return losses;
}

bool MediaFile::read(Recording& to) {
  Parts& p = *parts_;
  const int got = av_read_frame(p.format.get(), p.packet.get());
  if (got < 0) {
    if (got != AVERROR_EOF && got != AVERROR_EXIT) p.damagedAt(to);
    avcodec_send_packet(p.codec.get(), nullptr);
    p.drain(to);
    p.fold.append(nullptr, to);
    return false;
  }
  if (p.packet->stream_index == p.stream) {
    p.followBytes(to);
    if ((p.packet->flags & AV_PKT_FLAG_CORRUPT) != 0) p.damagedAt(to);
    if (avcodec_send_packet(p.codec.get(), p.packet.get()) < 0 && p.sounded) p.damagedAt(to);
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
  p.origin.reset();
  p.packetEnd = -1;
  return true;
}

}  // namespace ear
