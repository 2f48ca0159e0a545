#include "app/roster/posters.h"

#include "app/workspace/background.h"
#include "look/film_image.h"
#include "media/film.h"

namespace kestrel::app {

namespace {

constexpr media::PixelSize kPosterSize{240, 135};
constexpr std::size_t kMostKept = 400, kMostWishes = 60; // of 130 kB each; what has gone out of sight is not wanted any more
constexpr int kAtOnce = 1;

} // namespace

QImage Posters::made(store::ClipId id) const
{
    const auto it = m_posters.find(id);
    return it == m_posters.end() ? QImage() : it->second.image;
}

QImage Posters::poster(const store::Clip& clip, const std::string& file, FrameIndex frame)
{
    if (const auto it = m_posters.find(clip.id); it != m_posters.end() && it->second.frame == frame)
        return it->second.image;
    const auto known = m_workspace.library().films().known(clip.contentHash);
    m_posters[clip.id] = {frame, made(clip.id)}; // the old one stands until the new one is there
    m_order.push_back(clip.id);
    while (m_order.size() > kMostKept) {
        m_posters.erase(m_order.front());
        m_order.pop_front();
    }
    m_wishes.push_back({clip.id, file, known && *known ? (*known)->index : std::string(), frame});
    while (m_wishes.size() > kMostWishes) {
        m_posters.erase(m_wishes.front().clip); // asked for again when it is seen again
        m_wishes.pop_front();
    }
    next();
    return made(clip.id);
}

void Posters::next()
{
    if (m_running >= kAtOnce || m_wishes.empty())
        return;
    const Wish wish = m_wishes.back();
    m_wishes.pop_back();
    ++m_running;
    Background::run(
        this,
        [wish](std::stop_token stop) {
            media::OpenOptions options;
            options.stop = stop;
            options.knownIndex = wish.index;
            auto film = media::Film::open(wish.file, options);
            const auto picture =
                film ? film->frame(wish.frame, kPosterSize, stop) : Expected<media::Picture>(tl::unexpected(film.error()));
            return picture ? look::toImage(*picture).copy() : QImage();
        },
        [this, wish](const QImage& image) {
            --m_running;
            if (const auto it = m_posters.find(wish.clip); it != m_posters.end() && it->second.frame == wish.frame) {
                it->second.image = image;
                emit ready(wish.clip);
            }
            next();
        });
}

} // namespace kestrel::app
