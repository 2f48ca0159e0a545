#include "app/roster/clip_grid.h"

#include "app/shell/words.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kGap = 10, kTileWidth = 176, kTileHeight = 140;
constexpr int kReach = 2 * kTileHeight; // tiles that near to what is seen are kept ready

QString stateOf(const store::ClipSummary& clip, const Pack* pack)
{
    if (clip.repetitions > 1)
        return ClipGrid::tr("%1 repetitions").arg(clip.repetitions);
    if (clip.events.empty())
        return ClipGrid::tr("not marked yet");
    return ClipGrid::tr("%1 of %2 key positions").arg(clip.events.size()).arg(pack ? pack->keyPositions.size() : 0);
}

/// The picture that stands for the film: that of the pack's zero where it is placed, else the middle.
FrameIndex posterOf(const store::ClipSummary& clip, const Pack* pack)
{
    if (pack && !pack->zero.empty())
        for (const auto& e : clip.events)
            if (e.keyPosition == pack->zero)
                return e.frame.nearest();
    return FrameIndex(clip.clip.film.frames / 2);
}

} // namespace

ClipGrid::ClipGrid(std::vector<store::ClipSummary> clips, std::vector<std::string> files, const Pack* pack, Posters& posters,
                   QWidget* parent)
    : QWidget(parent), m_clips(std::move(clips)), m_files(std::move(files)), m_pack(pack), m_posters(posters)
{
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
    connect(&m_posters, &Posters::ready, this, &ClipGrid::onPoster);
}

int ClipGrid::columns(int width) const
{
    return std::max(1, (width + kGap) / (kTileWidth + kGap));
}

int ClipGrid::heightForWidth(int width) const
{
    const int count = static_cast<int>(m_clips.size()), across = columns(width);
    const int rows = (count + across - 1) / across;
    return rows * (kTileHeight + kGap) - (rows > 0 ? kGap : 0);
}

QRect ClipGrid::placeOf(int n) const
{
    const int across = columns(width());
    return {(n % across) * (kTileWidth + kGap), (n / across) * (kTileHeight + kGap), kTileWidth, kTileHeight};
}

void ClipGrid::resizeEvent(QResizeEvent*)
{
    setFixedHeight(heightForWidth(width()));
    for (const auto& [n, tile] : m_tiles)
        tile->move(placeOf(n).topLeft());
    showPart(m_part);
}

void ClipGrid::showPart(const QRect& part)
{
    m_part = part;
    if (part.isEmpty())
        return;
    const QRect near = part.adjusted(0, -kReach, 0, kReach);
    for (auto it = m_tiles.begin(); it != m_tiles.end();) {
        if (near.intersects(placeOf(it->first)) || it->second->hasFocus()) {
            ++it;
            continue;
        }
        it->second->hide();
        it->second->deleteLater();
        it = m_tiles.erase(it);
    }
    const int across = columns(width()), row = kTileHeight + kGap;
    const int first = std::max(0, near.top() / row) * across;
    const int end = std::min(static_cast<int>(m_clips.size()), (std::max(0, near.bottom()) / row + 1) * across);
    for (int n = first; n < end; ++n)
        if (m_tiles.count(n) == 0)
            m_tiles[n] = makeTile(n);
}

ClipTile* ClipGrid::makeTile(int n)
{
    const auto place = static_cast<std::size_t>(n);
    const store::ClipSummary& c = m_clips[place];
    const QString variant = variantName(c.variant);
    const QString view = tr("%1 view").arg(text(plainWordsOf(c.clip.scene.view)));
    auto* tile = new ClipTile(variant.isEmpty() ? view : variant + QStringLiteral(", ") + view, stateOf(c, m_pack), c.clip.id,
                              m_posters.poster(c.clip, m_files[place], posterOf(c, m_pack)), this);
    tile->move(placeOf(n).topLeft());
    tile->show();
    connect(tile, &ClipTile::clicked, this, [this, id = c.clip.id] { emit chosen(id); });
    connect(tile, &ClipTile::removeWanted, this, [this, id = c.clip.id] { emit removeWanted(id); });
    connect(tile, &ClipTile::menuWanted, this, [this, id = c.clip.id](const QPoint& at) { emit menuWanted(id, at); });
    return tile;
}

void ClipGrid::onPoster(store::ClipId id)
{
    for (const auto& [n, tile] : m_tiles)
        if (m_clips[static_cast<std::size_t>(n)].clip.id == id)
            tile->setPoster(m_posters.made(id));
}

} // namespace kestrel::app
