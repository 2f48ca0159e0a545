#pragma once

#include "app/roster/clip_tile.h"
#include "app/roster/posters.h"
#include "core/pack/pack.h"
#include "store/records.h"

#include <QWidget>

#include <map>
#include <vector>

namespace kestrel::app {

/// The clips of a filming day as tiles. A tile is made when it comes into sight and given up when it is far out of it, so that a
/// day of hundreds of clips costs no more than one of ten.
class ClipGrid : public QWidget {
    Q_OBJECT
public:
    /// \param pack  null: the day's skill has none
    ClipGrid(std::vector<store::ClipSummary> clips, std::vector<std::string> files, const Pack* pack, Posters&,
             QWidget* parent = nullptr);

    /// Makes the tiles that lie in that part of this widget.
    void showPart(const QRect&);
    int tilesMade() const { return static_cast<int>(m_tiles.size()); }

    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;

signals:
    void chosen(kestrel::store::ClipId clip);
    void removeWanted(kestrel::store::ClipId clip);
    void menuWanted(kestrel::store::ClipId clip, const QPoint& at); ///< on the screen

protected:
    void resizeEvent(QResizeEvent*) override;

private:
    int columns(int width) const;
    QRect placeOf(int n) const;
    ClipTile* makeTile(int n);
    void onPoster(store::ClipId);

    std::vector<store::ClipSummary> m_clips;
    std::vector<std::string> m_files; ///< by clip
    const Pack* m_pack;
    Posters& m_posters;
    std::map<int, ClipTile*> m_tiles; // by place
    QRect m_part;
};

} // namespace kestrel::app
