#include "vision/small_picture.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>

namespace kestrel::vision {

namespace {

constexpr double kMovedCamera = 0.22; // of the edges; on still films up to 0.18 do
constexpr double kLeastEdges = 0.01;  // of the places: before a plain wall nothing tells
constexpr int kAboutBody = 41;        // cells, what it wears and holds reaches about twenty beyond it

} // namespace

cv::Mat smallPicture(const media::Picture& picture, double cell, const cv::Rect& window)
{
    const cv::Mat all(picture.size.height, picture.size.width, CV_8UC4, const_cast<std::uint8_t*>(picture.row(0)),
                      static_cast<std::size_t>(picture.row(1) - picture.row(0)));
    const cv::Mat part = all(window & cv::Rect({}, all.size()));
    cv::Mat small;
    cv::resize(part, small, {std::max(1, cvRound(part.cols / cell)), std::max(1, cvRound(part.rows / cell))}, 0, 0,
               cv::INTER_AREA);
    cv::cvtColor(small, small, cv::COLOR_BGRA2BGR);
    return small;
}

cv::Mat restingPicture(const std::vector<cv::Mat>& pictures)
{
    cv::Mat middle = pictures.empty() ? cv::Mat() : pictures.front().clone();
    const std::size_t bytes = middle.total() * middle.elemSize();
    std::vector<std::uint8_t> values(pictures.size());
    for (std::size_t at = 0; at < bytes; ++at) {
        for (std::size_t n = 0; n < values.size(); ++n)
            values[n] = pictures[n].data[at];
        const auto half = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
        std::nth_element(values.begin(), half, values.end());
        middle.data[at] = *half;
    }
    return middle;
}

cv::Mat greatest(const cv::Mat& bgr)
{
    std::vector<cv::Mat> parts;
    cv::split(bgr, parts);
    return cv::max(cv::max(parts[0], parts[1]), parts[2]);
}

cv::Mat movedSince(const cv::Mat& resting, const cv::Mat& bgr, const cv::Mat& covered)
{
    if (resting.size() != bgr.size())
        return {};
    cv::Mat moved, edges, body;
    cv::absdiff(bgr, resting, moved);
    moved = greatest(moved);
    cv::morphologyEx(bgr, edges, cv::MORPH_GRADIENT, cv::getStructuringElement(cv::MORPH_RECT, {3, 3}));
    cv::dilate(covered, body, cv::getStructuringElement(cv::MORPH_RECT, {kAboutBody, kAboutBody}));
    edges = (greatest(edges) > kContrast) & ~body;
    const int all = cv::countNonZero(edges), off = cv::countNonZero(edges & (moved > kContrast));
    return all < kLeastEdges * static_cast<double>(moved.total()) || off < kMovedCamera * all ? moved : cv::Mat();
}

} // namespace kestrel::vision
