#include "vision/body_outline.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>

namespace kestrel::vision {

namespace {

/// Limbs and how thick they are, shares of standing height.
struct Limb {
    Part from, to;
    double thick;
};
constexpr Limb kLimbs[] = {{Part::Shoulder, Part::Elbow, 0.065}, {Part::Elbow, Part::Wrist, 0.055},
                           {Part::Hip, Part::Knee, 0.10},        {Part::Knee, Part::Ankle, 0.07},
                           {Part::Ankle, Part::Toe, 0.05},       {Part::Shoulder, Part::Hip, 0.12}};
constexpr double kHead = 0.075, kTrunkThick = 0.14;

} // namespace

const ImagePoint* pointOf(const Body& body, Part part, BodySide side)
{
    const auto it = body.find({part, side, {}});
    return it == body.end() ? nullptr : &it->second;
}

cv::Mat coveredBy(const Body& body, double cell, double height, cv::Size size, cv::Point corner)
{
    cv::Mat covered = cv::Mat::zeros(size, CV_8U);
    const auto at = [&](ImagePoint p) { return cv::Point(cvRound(p.x / cell), cvRound(p.y / cell)) - corner; };
    const auto cover = [&](ImagePoint a, ImagePoint b, double thick) {
        cv::line(covered, at(a), at(b), 255, std::clamp(cvRound(thick), 1, 1000));
    };
    for (const BodySide side : {BodySide::Left, BodySide::Right})
        for (const auto& limb : kLimbs)
            if (const auto* a = pointOf(body, limb.from, side), *b = pointOf(body, limb.to, side); a && b)
                cover(*a, *b, limb.thick * height);
    const auto *shoulderL = pointOf(body, Part::Shoulder, BodySide::Left),
               *shoulderR = pointOf(body, Part::Shoulder, BodySide::Right), *hipL = pointOf(body, Part::Hip, BodySide::Left),
               *hipR = pointOf(body, Part::Hip, BodySide::Right);
    if (shoulderL && shoulderR && hipL && hipR)
        cover(midpoint(*shoulderL, *shoulderR), midpoint(*hipL, *hipR), kTrunkThick * height);
    if (const auto* a = pointOf(body, Part::Ear, BodySide::Left), *b = pointOf(body, Part::Ear, BodySide::Right); a && b)
        cover(*a, *b, 2 * kHead * height);
    return covered;
}

} // namespace kestrel::vision
