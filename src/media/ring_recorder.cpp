#include "media/ring_recorder.h"

#include "media/film_file.h"

#include <algorithm>
#include <cmath>

namespace kestrel::media {

namespace {

constexpr double kGroupSeconds = 0.25; // between key frames: how exactly the beginning can be chosen

} // namespace

Expected<void> RingRecorder::start(PixelSize size, double frameRate, double seconds)
{
    EncoderSettings settings;
    settings.size = size;
    settings.frameRate = frameRate;
    settings.keyEvery = std::max(1, static_cast<int>(std::lround(frameRate * kGroupSeconds)));
    settings.bFrames = 0;
    settings.isLive = true;
    m_seconds = seconds;
    return m_encoder.open(settings, true);
}

Expected<void> RingRecorder::push(const std::uint8_t* bgra, int stride, MediaTime shown)
{
    return m_encoder.encode(bgra, stride, shown, [this](AVPacket& packet) -> Expected<void> {
        Held held(av_packet_clone(&packet), [](AVPacket* p) { av_packet_free(&p); });
        const std::lock_guard lock(m_mutex);
        m_packets.push_back(std::move(held));
        forgetOld();
        return {};
    });
}

/// Whole groups go, so that what is left begins with a key frame.
void RingRecorder::forgetOld()
{
    const auto keep = static_cast<std::int64_t>(m_seconds / av_q2d(m_encoder.codec().time_base));
    const std::int64_t oldest = m_packets.back()->pts - keep;
    for (;;) {
        const auto next =
            std::find_if(m_packets.begin() + 1, m_packets.end(), [](const Held& p) { return p->flags & AV_PKT_FLAG_KEY; });
        if (next == m_packets.end() || (*next)->pts > oldest)
            return;
        m_packets.erase(m_packets.begin(), next);
    }
}

double RingRecorder::secondsHeld() const
{
    const std::lock_guard lock(m_mutex);
    return m_packets.empty()
               ? 0
               : static_cast<double>(m_packets.back()->pts - m_packets.front()->pts) * av_q2d(m_encoder.codec().time_base);
}

std::size_t RingRecorder::bytesHeld() const
{
    const std::lock_guard lock(m_mutex);
    std::size_t bytes = 0;
    for (const auto& p : m_packets)
        bytes += static_cast<std::size_t>(p->size);
    return bytes;
}

Expected<void> RingRecorder::save(const std::string& file, double seconds) const
{
    std::deque<Held> packets;
    {
        const std::lock_guard lock(m_mutex);
        packets = m_packets;
    }
    if (packets.empty())
        return fail(ErrorCode::NotFound, "The camera has shown nothing yet.", file);
    const std::int64_t begin = packets.back()->pts - static_cast<std::int64_t>(seconds / av_q2d(m_encoder.codec().time_base));
    auto first = packets.begin(); // the last key frame not after the beginning
    for (auto it = packets.begin(); it != packets.end() && (*it)->pts <= begin; ++it)
        if ((*it)->flags & AV_PKT_FLAG_KEY)
            first = it;
    FilmFile output(file);
    if (auto done = output.choose(); !done)
        return done;
    output.addStream(m_encoder.codec());
    if (auto done = output.begin(); !done)
        return done;
    const std::int64_t zero = (*first)->pts;
    for (auto it = first; it != packets.end(); ++it) {
        const PacketPtr packet(av_packet_clone(it->get()));
        packet->pts -= zero;
        packet->dts -= zero;
        if (auto done = output.write(*packet); !done)
            return done;
    }
    return output.finish();
}

} // namespace kestrel::media
