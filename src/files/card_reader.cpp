// SPDX-License-Identifier: GPL-3.0-or-later
#include "files/card_reader.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <cerrno>
#include <cmath>
#include <cstring>
#include <ebur128.h>
#include <fmt/format.h>
#include <fstream>
#include <memory>
#include <sndfile.h>
#include <vector>
#include <xxhash.h>

#include "files/disk.h"

namespace conductus::files {
namespace {

namespace fs = std::filesystem;

constexpr std::size_t most_files = 20000;
constexpr std::size_t envelope_stretches = 240;
constexpr double half_second = 0.5, gate_block = 0.4; // s
constexpr int hops = 10;                              // of a half second
constexpr float full_scale = 0.9999F;

/// Loudness of all that is put in, one after the other. A sound that is shorter than a gating block
/// is heard with silence behind it.
class LoudnessMeter {
public:
    void add(const float* frames, std::size_t count, int channels, int rate) {
        const auto c = static_cast<unsigned>(channels);
        const auto r = static_cast<unsigned long>(rate);
        if (!state_)
            state_.reset(ebur128_init(c, r, EBUR128_MODE_I));
        else if (c != channels_ || r != rate_)
            ebur128_change_parameters(state_.get(), c, r);
        channels_ = c, rate_ = r;
        if (state_) ebur128_add_frames_float(state_.get(), frames, count);
    }
    void end_of_sound(double seconds) {
        if (!state_ || seconds >= gate_block || !(seconds > 0)) return;
        const auto frames =
            static_cast<std::size_t>((gate_block - seconds) * static_cast<double>(rate_)) + 1;
        const std::vector<float> silence(frames * channels_);
        ebur128_add_frames_float(state_.get(), silence.data(), frames);
    }
    [[nodiscard]] double lufs() const {
        double value = -200;
        if (!state_ || ebur128_loudness_global(state_.get(), &value) != EBUR128_SUCCESS ||
            !std::isfinite(value))
            return -200;
        return value;
    }

private:
    struct Destroy {
        void operator()(ebur128_state* s) const { ebur128_destroy(&s); }
    };
    std::unique_ptr<ebur128_state, Destroy> state_;
    unsigned channels_ = 0;
    unsigned long rate_ = 0;
};

/// A WAV whose header promises more than the file has.
bool is_cut_short(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    std::array<char, 12> head{};
    if (!in.read(head.data(), head.size()) || std::memcmp(head.data(), "RIFF", 4) != 0)
        return false;
    std::error_code error;
    const std::uintmax_t size = fs::file_size(path, error);
    std::uintmax_t at = 12;
    while (!error && at + 8 <= size) {
        std::array<unsigned char, 8> chunk{};
        in.seekg(static_cast<std::streamoff>(at));
        if (!in.read(reinterpret_cast<char*>(chunk.data()), chunk.size())) return false;
        const std::uintmax_t length = chunk[4] | chunk[5] << 8U | chunk[6] << 16U |
                                      static_cast<std::uintmax_t>(chunk[7]) << 24U;
        if (std::memcmp(chunk.data(), "data", 4) == 0) return at + 8 + length > size;
        at += 8 + length + (length & 1U);
    }
    return false;
}

void tell_format(card::Sound& s, const SF_INFO& info) {
    const int major = info.format & SF_FORMAT_TYPEMASK, minor = info.format & SF_FORMAT_SUBMASK;
    switch (minor) {
    case SF_FORMAT_PCM_S8:
    case SF_FORMAT_PCM_U8:
        s.bits = 8;
        break;
    case SF_FORMAT_PCM_16:
        s.bits = 16;
        break;
    case SF_FORMAT_PCM_24:
        s.bits = 24;
        break;
    case SF_FORMAT_PCM_32:
        s.bits = 32;
        break;
    default:
        break;
    }
    const bool wav = major == SF_FORMAT_WAV || major == SF_FORMAT_WAVEX;
    s.plain = wav && s.bits > 0;
    SF_FORMAT_INFO type{}, samples{};
    type.format = major, samples.format = minor;
    sf_command(nullptr, SFC_GET_FORMAT_INFO, &type, sizeof type);
    sf_command(nullptr, SFC_GET_FORMAT_INFO, &samples, sizeof samples);
    s.format = s.plain ? fmt::format("WAV, {} bit", s.bits)
                       : fmt::format("{}, {}",
                                     wav         ? "WAV"
                                     : type.name ? type.name
                                                 : "unknown",
                                     samples.name ? samples.name : "unknown");
    s.rate = info.samplerate;
    s.channels = info.channels;
}

/// Runs over the samples once.
class Measuring {
public:
    Measuring(card::Sound& sound, sf_count_t frames)
        : s_(sound), hop_(std::max(1, static_cast<int>(sound.rate * half_second / hops))),
          stretch_(
              std::max<sf_count_t>(1, (frames + static_cast<sf_count_t>(envelope_stretches) - 1) /
                                          static_cast<sf_count_t>(envelope_stretches))) {
        s_.envelope.assign(
            std::min<std::size_t>(envelope_stretches, static_cast<std::size_t>(std::max<sf_count_t>(
                                                          1, (frames + stretch_ - 1) / stretch_))),
            0);
    }
    void frame(const float* x) {
        float sum = 0, most = 0;
        for (int c = 0; c < s_.channels; ++c) {
            sum += x[c];
            most = std::max(most, std::abs(x[c]));
        }
        if (most >= full_scale)
            ++run_;
        else
            end_run();
        peak_ = std::max(peak_, most);
        auto& held = s_.envelope[std::min(s_.envelope.size() - 1,
                                          static_cast<std::size_t>(frames_ / stretch_))];
        held = std::max(held, most);
        const double mono = sum / static_cast<float>(s_.channels);
        hop_energy_ += mono * mono;
        if (++in_hop_ == hop_) end_hop();
        ++frames_;
    }
    void done() {
        end_run();
        if (in_hop_ > 0) end_hop();
        s_.peak = std::min(1.0, static_cast<double>(peak_));
        s_.seconds = s_.rate > 0 ? static_cast<double>(frames_) / s_.rate : 0;
        s_.power = frames_ > 0 ? all_energy_ / static_cast<double>(frames_) : 0;
        s_.loudest = std::min(1.0, std::sqrt(loudest_ / (static_cast<double>(hop_) * hops)));
    }

private:
    void end_run() {
        if (run_ >= 3) s_.clipped += run_;
        run_ = 0;
    }
    void end_hop() {
        all_energy_ += hop_energy_;
        window_ += hop_energy_ - ring_[at_];
        ring_[at_] = hop_energy_;
        at_ = (at_ + 1) % hops;
        loudest_ = std::max(loudest_, window_);
        hop_energy_ = 0, in_hop_ = 0;
    }

    card::Sound& s_;
    int hop_;
    sf_count_t stretch_, frames_ = 0;
    std::int64_t run_ = 0;
    float peak_ = 0;
    double hop_energy_ = 0, all_energy_ = 0, window_ = 0, loudest_ = 0;
    int in_hop_ = 0;
    std::array<double, hops> ring_{};
    std::size_t at_ = 0;
};

/// Measures one sound, and puts it into those meters.
card::Sound measure(const fs::path& path, std::initializer_list<LoudnessMeter*> meters) {
    card::Sound s;
    SF_INFO info{};
    const std::unique_ptr<SNDFILE, int (*)(SNDFILE*)> file(sf_open(path.c_str(), SFM_READ, &info),
                                                           sf_close);
    if (!file || info.channels < 1 || info.samplerate < 1) {
        std::error_code error;
        s.trouble = fs::file_size(path, error) == 0 && !error ? Message("it is empty")
                                                              : Message("it is no sound");
        return s;
    }
    tell_format(s, info);
    if (is_cut_short(path)) {
        s.trouble = "it is cut short";
        return s;
    }
    Measuring measuring(s, info.frames);
    std::vector<float> piece(static_cast<std::size_t>(info.channels) * 16384);
    sf_count_t got = 0;
    while ((got = sf_readf_float(file.get(), piece.data(), 16384)) > 0) {
        for (sf_count_t i = 0; i < got; ++i)
            measuring.frame(piece.data() + i * info.channels);
        for (LoudnessMeter* meter : meters)
            meter->add(piece.data(), static_cast<std::size_t>(got), info.channels, info.samplerate);
    }
    measuring.done();
    for (LoudnessMeter* meter : meters)
        meter->end_of_sound(s.seconds);
    return s;
}

/// Where a read failed: whether the card itself is gone, not the file alone.
bool is_gone(const fs::path& card, int error) {
    std::error_code code;
    return !fs::is_directory(card, code) || error == EIO || error == ENODEV || error == ENXIO;
}

tl::unexpected<Problem> gone(const fs::path& card) {
    return problem(path_text(card), "the card went away while it was read",
                   "Put it in again and check it again", Cause::missing);
}

class Reader {
public:
    Reader(const fs::path& folder, const card::Layout& layout, const CardWatch& watch)
        : folder_(folder), layout_(layout), watch_(watch) {}

    Result<card::Card> run(const ParallelFor& parallel_for) {
        if (auto ok = list(); !ok) return tl::unexpected(ok.error());
        std::map<std::string, std::vector<std::size_t>> by_group;
        for (std::size_t i = 0; i < card_.files.size(); ++i) {
            const std::string& path = card_.files[i].path;
            by_group[card::is_sound(path) ? card::measured_with(layout_, path) : std::string()]
                .push_back(i);
        }
        std::vector<Group> groups;
        for (auto& [name, files] : by_group) {
            Group g{name, std::move(files), 0, -200};
            for (const std::size_t i : g.files)
                g.bytes += card_.files[i].bytes;
            groups.push_back(std::move(g));
        }
        // The longest first, so that no core waits for it at the end.
        std::sort(groups.begin(), groups.end(),
                  [](const Group& a, const Group& b) { return a.bytes > b.bytes; });
        parallel_for(groups.size(), [&](std::size_t g) { read(groups[g]); });
        if (stopped_)
            return problem(path_text(folder_), "the check was stopped", {}, Cause::stopped);
        if (gone_) return gone(folder_);
        for (const Group& g : groups)
            if (!g.name.empty()) card_.loudness[g.name] = g.lufs;
        return std::move(card_);
    }

private:
    struct Group {
        std::string name;
        std::vector<std::size_t> files;
        std::uint64_t bytes = 0;
        double lufs = -200;
    };

    Result<void> list() {
        std::error_code error;
        if (!fs::is_directory(folder_, error))
            return problem(path_text(folder_), "there is no such folder",
                           "Choose the folder of the card, or of a copy of it", Cause::missing);
        const auto options = fs::directory_options::skip_permission_denied;
        fs::recursive_directory_iterator it(folder_, options, error), end;
        for (; !error && it != end; it.increment(error)) {
            const std::string path = it->path().lexically_relative(folder_).generic_string();
            std::error_code code;
            if (it->path().filename().string().starts_with(".") || it->is_symlink(code)) {
                it.disable_recursion_pending();
                continue;
            }
            if (it->is_directory(code)) {
                card_.folders.push_back(path);
            } else if (it->is_regular_file(code)) {
                card::File file;
                file.path = path;
                file.bytes = it->file_size(code);
                if (code) file.bytes = 0;
                card_.used += file.bytes;
                card_.files.push_back(std::move(file));
            }
            if (card_.files.size() > most_files)
                return problem(path_text(folder_),
                               say("there are more than {} files in it", most_files),
                               "Choose the folder of the card alone");
        }
        if (error) return gone(folder_);
        std::sort(card_.folders.begin(), card_.folders.end());
        std::sort(card_.files.begin(), card_.files.end(),
                  [](const card::File& a, const card::File& b) { return a.path < b.path; });
        const fs::space_info space = fs::space(folder_, error);
        if (!error) card_.free = space.available;
        return {};
    }

    void read(Group& group) {
        LoudnessMeter meter;
        for (const std::size_t i : group.files) {
            if (stopped_ || gone_) return;
            card::File& file = card_.files[i];
            const fs::path path = folder_ / file.path;
            errno = 0;
            if (auto hash = hash_of_file(path))
                file.hash = std::move(*hash);
            else if (is_gone(folder_, errno))
                gone_ = true;
            if (!group.name.empty())
                file.sound =
                    file.hash.empty() && file.bytes > 0 ? unreadable() : measure(path, {&meter});
            if (file.sound && !file.sound->trouble.empty() && is_gone(folder_, 0)) gone_ = true;
            done_ += file.bytes;
            ++files_;
            if (watch_ && !watch_({files_, card_.files.size(), done_, card_.used})) stopped_ = true;
        }
        group.lufs = meter.lufs();
    }
    static card::Sound unreadable() {
        card::Sound s;
        s.trouble = "reading it fails";
        return s;
    }

    const fs::path& folder_;
    const card::Layout& layout_;
    const CardWatch& watch_;
    card::Card card_;
    std::atomic<bool> stopped_ = false, gone_ = false;
    std::atomic<std::uint64_t> done_ = 0;
    std::atomic<std::size_t> files_ = 0;
};

} // namespace

Result<std::string> hash_of_file(const fs::path& path) {
    std::ifstream in(path, std::ios::binary);
    if (!in) return problem(path_text(path), "it can not be read", {}, Cause::unreadable);
    const std::unique_ptr<XXH3_state_t, XXH_errorcode (*)(XXH3_state_t*)> state(XXH3_createState(),
                                                                                XXH3_freeState);
    XXH3_128bits_reset(state.get());
    std::vector<char> piece(1U << 20U);
    while (in.read(piece.data(), static_cast<std::streamsize>(piece.size())) || in.gcount() > 0)
        XXH3_128bits_update(state.get(), piece.data(), static_cast<std::size_t>(in.gcount()));
    if (in.bad()) return problem(path_text(path), "reading it fails", {}, Cause::unreadable);
    const XXH128_hash_t hash = XXH3_128bits_digest(state.get());
    return fmt::format("{:016x}{:016x}", hash.high64, hash.low64);
}

MeasuredSound measure_sound(const fs::path& file) {
    LoudnessMeter meter;
    MeasuredSound m;
    m.sound = measure(file, {&meter});
    m.loudness = meter.lufs();
    return m;
}

Result<card::Card> read_card(const fs::path& folder, const card::Layout& layout,
                             const ParallelFor& parallel_for, const CardWatch& watch) {
    return Reader(folder, layout, watch).run(parallel_for);
}

} // namespace conductus::files
