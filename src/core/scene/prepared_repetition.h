#pragma once

#include "core/base/error_sample.h"
#include "core/scene/correlated_error.h"
#include "core/scene/depth_model.h"
#include "core/scene/marking.h"
#include "core/scene/point_role.h"
#include "core/scene/scene_frame.h"

#include <map>
#include <optional>
#include <string_view>
#include <vector>

namespace kestrel {

/// One repetition made ready for reading: marks by landmark and frame, the scene's geometry, the clock. Immutable.
class PreparedRepetition {
public:
    PreparedRepetition(Marking marking, FrameClock clock);
    /// With pictures evenly spaced at the marking's capture rate.
    explicit PreparedRepetition(const Marking& marking);

    const Marking& marking() const { return m_marking; }
    const SceneFrame& scene() const { return m_scene; }
    const FrameClock& clock() const { return m_clock; }

    /// The marks of one landmark in frame order, short gaps bridged (see bridge_gaps.h); empty if it was never marked.
    const std::vector<Mark>& marksOf(const Landmark&) const;

    /// How high the athlete stands, in body coordinates: as stated, or without a scale by the length of the leg.
    double heightUnits() const { return m_heightUnits; }

    /// What one draw does to the whole scene: the camera turned about the plumb line and rolled, and the scale mistaken.
    struct SceneError {
        double cosYaw = 1, sinYaw = 0, cosRoll = 1, sinRoll = 0, scale = 1;
        DepthTravel travel;
    };
    /// \param sample  at most kErrorSamples
    const SceneError& sceneError(ErrorSample sample) const { return m_sceneErrors[sample.number()]; }

private:
    void prepareErrors();
    friend class PointPath;

    Marking m_marking;
    FrameClock m_clock;
    SceneFrame m_scene;
    std::map<Landmark, std::vector<Mark>> m_byLandmark;
    /// By draw: how far a landmark may lie off the plane of the scale, in body coordinates.
    const std::vector<Depth>& depthsOf(const Landmark&) const;
    /// What a frame means for the errors of depth.
    struct Moment {
        double cos = 1, sin = 0; ///< of the phase of kDepthPeriod
        double progress = 0;     ///< from the first key position to the last
    };
    Moment momentOf(FrameIndex) const;

    std::map<Landmark, std::vector<Depth>> m_depths;
    std::vector<SceneError> m_sceneErrors; // by draw
    BodyPoint m_middle;                    // of the picture
    double m_unitsPerMetre = 1;            // body coordinates are pixels without a scale
    double m_heightUnits = 1.6;            // standing height in body coordinates
    double m_cameraUnits = 8;              // how far the camera stands
    std::vector<Moment> m_moments;         // from the first mark's frame to the last one's
    FrameIndex m_firstMark;
    std::map<Landmark, CorrelatedError> m_correlated;
};

/// The path of one named point through a repetition, in body coordinates, under one draw of the errors.
///
/// Errors drawn: each mark by its sigma, a program's mostly as on the pictures around (see correlated_error.h); the camera's yaw
/// (5 degrees) acting on each point's unknown depth, which also makes it larger or smaller than the scale says (perspective, from
/// five standing heights away); roll (0.7 degrees); the scale (its line's ends, and 1 % for the length itself). How deep a point
/// may lie depends on the part of the body and the view: see depth_model.h.
class PointPath {
public:
    /// \param depth  how much of the depth the point may have counts (see measure/calibration.h)
    PointPath(const PreparedRepetition&, const PointRole&, double depth = 1);

    /// Between two marked frames by straight interpolation; else the mark at most half a frame away. On the smoothed way
    /// after smoothAround. Empty: not marked.
    std::optional<BodyPoint> at(FramePosition, ErrorSample) const;
    /// The same as marked, never smoothed.
    std::optional<BodyPoint> markAt(FramePosition, ErrorSample) const;
    /// Fits a smooth way through the marks of the span (see smoothed() in curve.h), for smoothOn.
    void smooth(FramePosition from, FramePosition to);
    /// The same about one instant, where the film is fast enough that no corner is cut: two pictures to either side in reach.
    void smoothAround(FramePosition);
    /// On a whole frame; the smoothed way where there is one, else the mark.
    std::optional<BodyPoint> smoothOn(FrameIndex, ErrorSample) const;
    /// Where it was marked, without errors, for drawing.
    std::optional<ImagePoint> imageAt(FramePosition) const;
    const PointRole& role() const { return m_role; }

private:
    struct Series {
        const std::vector<Mark>* marks = nullptr;
        std::uint64_t key = 0;
        const CorrelatedError* correlated = nullptr; // null: all are clicked
        const std::vector<Depth>* depths = nullptr;  // by draw: how far the point may lie off the plane of the scale
        bool isStruck = false;                       // never smoothed
        std::vector<Mark> smooth;                    // in frame order; empty: not smoothed
        static const Mark* find(const std::vector<Mark>& inFrameOrder, FrameIndex);
    };
    std::optional<BodyPoint> markOn(FrameIndex, ErrorSample) const;
    std::optional<ImagePoint> imageOnFrame(FrameIndex) const;
    std::optional<BodyPoint> bodyOf(const Series&, FrameIndex, ErrorSample) const;
    ImageVector errorOf(const Series&, const Mark&, std::uint64_t noiseKey, ErrorSample) const;
    BodyPoint disturbed(const Series&, const Mark&, std::uint64_t noiseKey, ErrorSample) const;
    template <class Get> auto combine(Get get) const -> decltype(get(std::declval<const Series&>()));
    template <class Get> auto massCentre(Get get) const -> decltype(get(std::declval<const Series&>()));
    template <class Get> auto interpolate(FramePosition, Get get) const -> decltype(get(FrameIndex{}));

    const PreparedRepetition* m_repetition;
    PointRole m_role;
    double m_depth;
    std::vector<Series> m_series; // what the derivation needs, in its order
    bool m_isSmoothThroughout = false;
};

} // namespace kestrel
