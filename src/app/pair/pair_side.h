#pragma once

#include "core/scene/prepared_repetition.h"
#include "report/repetition_film.h"

#include <QTransform>

#include <memory>
#include <optional>
#include <string>

namespace kestrel::app {

/// One side of a pair: a repetition with its film.
struct PairSide {
    std::string title; ///< "Ada Moss, 2026-04-11"
    report::RepetitionFilm film;
    std::shared_ptr<const PreparedRepetition> prepared;
    bool isModel = false;    ///< a simulated athlete
    bool hidesFaces = false; ///< on everything that leaves
};

/// Where a point of the body is, such as "midHip" between both hips; empty: not marked there. \param role  a point role
std::optional<ImagePoint> placeOf(const PairSide&, const std::string& role, FrameIndex);

/// They are of different hands.
bool areMirrored(const PairSide&, const PairSide&);

/// From the second film's picture to the first's: the same standing height, the anchor on the anchor, mirrored where hands
/// differ. Empty: the bodies are not marked on both pictures. \param anchor  a point role such as "midHip"
std::optional<QTransform> secondToFirst(const PairSide& first, FrameIndex, const PairSide& second, FrameIndex,
                                        const std::string& anchor);

} // namespace kestrel::app
