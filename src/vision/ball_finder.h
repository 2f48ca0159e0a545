#pragma once

#include "vision/body_outline.h"
#include "vision/implement_finder.h"

namespace kestrel::vision {

/// A ball in the air on one picture, pixels.
struct FoundBall {
    ImagePoint at;
    double sigma = 0;
};

/// Finds a ball, or a puck, while it is free of the body; see equipment_marks.h for how.
class BallFinder {
public:
    /// \param cell  pixels to one place of a small picture \param diameter  share of standing height \param interval  seconds
    /// from picture to picture
    BallFinder(double cell, double diameter, double interval, std::size_t pictures);

    /// At one of the pictures; several threads may look at different ones at once. \param moved  as movedSince; empty: nothing is
    /// found there \param covered  by the body
    void look(std::size_t picture, const cv::Mat& small, const cv::Mat& moved, const cv::Mat& resting, const cv::Mat& covered,
              const Body&);

    /// On each picture, after all were looked at. \param held  what is held to hit with is not the ball; may be empty
    std::vector<std::optional<FoundBall>> find(const std::vector<std::optional<FoundImplement>>& held, double halfWidth,
                                               const std::stop_token& stop = {});

private:
    /// Something about as large that moved and is not the body, in cells.
    struct Spot {
        ImagePoint at;
        double area = 0;
        cv::Vec3d colour;
        bool isLikeShadow = false; ///< below the knees, and only darker than what rests there
    };
    /// Spots on pictures that follow each other, by their places in the list of each.
    struct Chain {
        std::size_t first = 0;
        std::vector<std::optional<std::size_t>> spots; ///< empty: missed on that picture
        double score = 0;
    };

    void leaveOutResting();
    bool isBall(const Chain&) const;
    bool isAlike(const Spot&, const Spot&) const;
    std::optional<std::size_t> nearest(std::size_t picture, ImagePoint expected, double within, const Spot& like) const;
    Chain chainFrom(std::size_t picture, std::size_t a, std::size_t b) const;

    double m_cell;     // pixels
    double m_diameter; // cells
    double m_interval; // seconds
    std::vector<std::vector<Spot>> m_spots;
};

} // namespace kestrel::vision
