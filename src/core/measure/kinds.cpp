#include "core/measure/kind.h"

namespace kestrel {

extern const MeasureKind kJointAngle, kFlexion, kTilt, kElevation, kLean, kSeparation, kDistance, kDistanceRatio, kOffsetAlong,
    kOffsetAcross, kOffsetUp, kAngleChange, kLeanChange, kDrop, kRise, kFarthestBehind, kDriftAcross, kInterval, kTurnGap,
    kShareAlong, kDrift, kAdvance, kPathAngle, kTravel, kDwell, kLineUp, kFace, kFacing, kClosure, kTurned, kClock, kTriangle,
    kPeakSpeed, kPeakRate, kPeakGap, kSync, kPathStraightness, kPathCurvature, kPlaneOverlap, kInside, kSupport, kCrossing,
    kRevolutions, kFall, kWayElevation, kSteady, kSpeedShare, kPeakToEnd, kPeakAfter, kVelocityAlong, kLeastUp, kLineGap,
    kFirstOnLine, kEntryAngle, kArcMargin, kHeightAbove;

std::span<const MeasureKind* const> measureKinds()
{
    // one line a kind
    // clang-format off
    static const MeasureKind* const all[] = {
        &kJointAngle,
        &kFlexion,
        &kTilt,
        &kElevation,
        &kLean,
        &kSeparation,
        &kDistance,
        &kDistanceRatio,
        &kOffsetAlong,
        &kOffsetAcross,
        &kOffsetUp,
        &kHeightAbove,
        &kAngleChange,
        &kLeanChange,
        &kDrop,
        &kRise,
        &kFarthestBehind,
        &kDriftAcross,
        &kInterval,
        &kTurnGap,
        &kShareAlong,
        &kDrift,
        &kAdvance,
        &kPathAngle,
        &kTravel,
        &kDwell,
        &kLineUp,
        &kFace,
        &kFacing,
        &kClosure,
        &kTurned,
        &kClock,
        &kTriangle,
        &kPeakSpeed,
        &kPeakRate,
        &kPeakGap,
        &kSync,
        &kPathStraightness,
        &kPathCurvature,
        &kPlaneOverlap,
        &kInside,
        &kSupport,
        &kCrossing,
        &kRevolutions,
        &kFall,
        &kWayElevation,
        &kSteady,
        &kSpeedShare,
        &kPeakToEnd,
        &kPeakAfter,
        &kVelocityAlong,
        &kLeastUp,
        &kLineGap,
        &kFirstOnLine,
        &kEntryAngle,
        &kArcMargin,
    };
    // clang-format on
    return all;
}

const MeasureKind* findMeasureKind(std::string_view id)
{
    for (const auto* kind : measureKinds())
        if (kind->id == id)
            return kind;
    return nullptr;
}

} // namespace kestrel
