#pragma once

#include "core/draw.h"
#include "core/marking.h"
#include "core/point_role.h"
#include "core/scene_frame.h"

#include <map>
#include <optional>
#include <string_view>
#include <vector>

namespace kestrel {

/// One repetition made ready for reading: marks by landmark and frame, the scene's geometry, the clock. Immutable.
class Repetition {
public:
    Repetition(Marking marking, FrameClock clock);
    /// With pictures evenly spaced at the marking's capture rate.
    explicit Repetition(Marking marking);

    const Marking& marking() const { return m_marking; }
    const SceneFrame& frame() const { return m_frame; }
    const FrameClock& clock() const { return m_clock; }

    /// The marks of one landmark in frame order; empty if it was never marked.
    const std::vector<Mark>& marksOf(const Landmark&) const;

private:
    Marking m_marking;
    FrameClock m_clock;
    SceneFrame m_frame;
    std::map<Landmark, std::vector<Mark>> m_byLandmark;
};

/// The path of one named point through a repetition, in body coordinates, under one draw of the errors.
///
/// Errors drawn: each mark by its sigma; the camera's yaw (5 degrees) acting on each point's unknown depth (10 % of
/// standing height); roll (0.7 degrees); the scale (its line's ends, and 1 % for the length itself).
class PointPath {
public:
    PointPath(const Repetition&, const PointRole&);

    /// Between two marked frames by straight interpolation; else the mark at most half a frame away. Empty: not marked.
    std::optional<BodyPoint> at(FramePosition, Draw) const;
    /// Where it was marked, without errors, for drawing.
    std::optional<ImagePoint> imageAt(FramePosition) const;
    const PointRole& role() const { return m_role; }

private:
    struct Series {
        const std::vector<Mark>* marks = nullptr;
        std::uint64_t key = 0;
        const Mark* at(FrameIndex) const;
    };
    std::optional<BodyPoint> onFrame(FrameIndex, Draw) const;
    std::optional<ImagePoint> imageOnFrame(FrameIndex) const;
    std::optional<BodyPoint> bodyOf(const Series&, FrameIndex, Draw) const;
    template <class Get> auto combine(Get get) const -> decltype(get(std::declval<const Series&>()));
    template <class Get> auto massCentre(Get get) const -> decltype(get(std::declval<const Series&>()));
    template <class Get> auto interpolate(FramePosition, Get get) const -> decltype(get(FrameIndex{}));

    const Repetition* m_repetition;
    PointRole m_role;
    std::vector<Series> m_series; // what the derivation needs, in its order
};

} // namespace kestrel
