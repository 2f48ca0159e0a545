#include "media/packet_source.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <map>
#include <vector>

namespace kestrel::media {

namespace {

namespace fs = std::filesystem;

constexpr std::uintmax_t kLargestPicture = 256u << 20; // bytes; a file beyond this is no photograph
constexpr int kTicksPerSecond = 1'000'000;

AVCodecID codecOf(const fs::path& file)
{
    std::string ending = file.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
    return ending == ".png" ? AV_CODEC_ID_PNG : ending == ".jpg" || ending == ".jpeg" ? AV_CODEC_ID_MJPEG : AV_CODEC_ID_NONE;
}

/// The last run of digits in the name, without its ending; empty: not numbered.
std::optional<long long> numberOf(const fs::path& file)
{
    const std::string name = file.stem().string();
    const auto end = std::find_if(name.rbegin(), name.rend(), [](unsigned char c) { return std::isdigit(c); }).base();
    auto begin = end;
    while (begin != name.begin() && std::isdigit(static_cast<unsigned char>(*std::prev(begin))))
        --begin;
    if (begin == end || end - begin > 15)
        return std::nullopt;
    return std::stoll(std::string(begin, end));
}

std::vector<std::uint8_t> contentOf(const fs::path& file)
{
    std::error_code ec;
    if (fs::file_size(file, ec) > kLargestPicture || ec)
        return {};
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
}

struct ParametersDelete {
    void operator()(AVCodecParameters* p) const { avcodec_parameters_free(&p); }
};

class PictureFolderSource : public PacketSource {
public:
    PictureFolderSource(std::string folder, double rate) : m_folder(std::move(folder)), m_rate(rate) {}

    std::optional<Error> open()
    {
        std::map<AVCodecID, std::map<long long, fs::path>> numbered;
        std::error_code ec;
        for (fs::directory_iterator it(m_folder, ec), end; !ec && it != end; it.increment(ec))
            if (const AVCodecID codec = codecOf(it->path()); codec != AV_CODEC_ID_NONE && it->is_regular_file(ec))
                if (const auto number = numberOf(it->path()))
                    numbered[codec].emplace(*number, it->path());
        if (ec)
            return Error{ErrorCode::CannotOpen, "You have no permission to read this folder.", m_folder, ""};
        if (numbered.empty())
            return Error{ErrorCode::CannotOpen,
                         "This folder holds no numbered PNG or JPEG pictures. Choose a film, or a folder of such pictures.",
                         m_folder, ""};
        const auto most = std::max_element(numbered.begin(), numbered.end(),
                                           [](const auto& a, const auto& b) { return a.second.size() < b.second.size(); });
        for (const auto& [number, file] : most->second)
            m_files.push_back(file);
        m_parameters.reset(avcodec_parameters_alloc());
        m_parameters->codec_type = AVMEDIA_TYPE_VIDEO;
        m_parameters->codec_id = most->first;
        return measureFirst();
    }

    const AVCodecParameters& parameters() const override { return *m_parameters; }

    StreamFacts facts() const override
    {
        StreamFacts facts;
        facts.timeBase = {1, kTicksPerSecond};
        facts.guessedRate = av_d2q(m_rate, 100'000);
        facts.declaredFrames = static_cast<std::int64_t>(m_files.size());
        facts.start = 0;
        return facts;
    }

    std::optional<FilmIndex> index() const override
    {
        FilmIndex index;
        for (std::size_t n = 0; n < m_files.size(); ++n) {
            index.entries.push_back({ticksOf(n), ticksOf(n + 1) - ticksOf(n)});
            index.keys.push_back(ticksOf(n));
        }
        return index;
    }

    bool read(AVPacket& packet) override
    {
        av_packet_unref(&packet);
        if (m_next >= m_files.size())
            return false;
        const auto content = contentOf(m_files[m_next]);
        // a picture that cannot be read still has its place in the film
        if (av_new_packet(&packet, static_cast<int>(std::max<std::size_t>(1, content.size()))) < 0)
            return false;
        std::copy(content.begin(), content.end(), packet.data);
        packet.pts = packet.dts = ticksOf(m_next);
        packet.duration = ticksOf(m_next + 1) - packet.pts;
        packet.flags |= AV_PKT_FLAG_KEY;
        ++m_next;
        return true;
    }

    bool seek(std::int64_t ticks) override
    {
        m_next = 0;
        while (m_next + 1 < m_files.size() && ticksOf(m_next + 1) <= ticks)
            ++m_next;
        return true;
    }

    bool rewind() override
    {
        m_next = 0;
        return true;
    }

    double progress() const override { return static_cast<double>(m_next) / static_cast<double>(m_files.size()); }

private:
    std::int64_t ticksOf(std::size_t n) const { return std::llround(static_cast<double>(n) / m_rate * kTicksPerSecond); }

    /// The first picture says how large they all are.
    std::optional<Error> measureFirst()
    {
        const auto no = [this](const std::string& why) { return Error{ErrorCode::NotAFilm, why, m_files.front().string(), ""}; };
        const PacketPtr packet(av_packet_alloc());
        const FramePtr frame(av_frame_alloc());
        const CodecPtr codec(avcodec_alloc_context3(avcodec_find_decoder(m_parameters->codec_id)));
        if (!codec || avcodec_open2(codec.get(), nullptr, nullptr) < 0 || !read(*packet))
            return no("The first picture cannot be read.");
        rewind();
        avcodec_send_packet(codec.get(), packet.get());
        avcodec_send_packet(codec.get(), nullptr);
        if (avcodec_receive_frame(codec.get(), frame.get()) < 0)
            return no("The first picture is damaged; take it out of the folder.");
        m_parameters->width = frame->width;
        m_parameters->height = frame->height;
        m_parameters->format = frame->format;
        return std::nullopt;
    }

    std::string m_folder;
    double m_rate;
    std::vector<fs::path> m_files;
    std::unique_ptr<AVCodecParameters, ParametersDelete> m_parameters;
    std::size_t m_next = 0;
};

} // namespace

Expected<PacketSourcePtr> openPictureFolder(const std::string& folder, double picturesPerSecond)
{
    auto source = std::make_unique<PictureFolderSource>(folder, picturesPerSecond);
    if (auto e = source->open())
        return tl::unexpected(*e);
    return source;
}

} // namespace kestrel::media
