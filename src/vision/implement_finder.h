#pragma once

#include "core/pack/pack.h"
#include "vision/body_outline.h"
#include "vision/racket_face_finder.h"
#include "vision/small_picture.h"

#include <array>
#include <optional>
#include <stop_token>
#include <vector>

namespace kestrel::vision {

/// Where a bat, racket or stick was found on one picture, in pixels.
struct FoundImplement {
    ImagePoint hands, butt, tip;
    double seen = 0;                                ///< share of its length, 1: whole
    std::optional<std::array<ImagePoint, 2>> edges; ///< of its face, where one stands out
};

/// Finds what is held to hit with, from the marks of the hands that hold it; see equipment_marks.h for how.
class ImplementFinder {
public:
    /// \param cell  pixels to one place of a small picture \param interval  seconds from picture to picture
    ImplementFinder(double cell, const HeldImplement&, Hand, double interval, std::size_t pictures);

    /// At one of the pictures; several threads may look at different ones at once. \param moved  as movedSince, may be empty
    /// \param covered  by the body
    void look(std::size_t picture, const cv::Mat& small, const cv::Mat& moved, const cv::Mat& covered, const Body&);

    /// On each picture, after all were looked at. Empty: too little of it was seen. When it is stopped, some have no edges.
    std::vector<std::optional<FoundImplement>> find(const std::stop_token& stop = {});

private:
    static constexpr int kRays = 120;

    /// The hands that hold it, and where they say that it points when it is held with a way between them.
    struct Hold {
        ImagePoint at;
        std::optional<ImageVector> along;
    };
    /// What one picture shows about the hands, in cells.
    struct Sight {
        std::optional<Hold> hold; ///< empty: the hands are not marked
        cv::Point corner;         ///< of what is within reach, in the whole small picture
        cv::Mat evidence;         ///< 0 to 200 for 0 to 1
        cv::Mat colours;          ///< by their number
    };
    /// The same along the rays from the hands.
    struct Rays {
        std::vector<std::int16_t> colours;  ///< by ray and step; -1 beyond the picture
        std::vector<std::uint8_t> evidence; ///< the same: 0 to 200 for 0 to 1
        std::array<float, kRays> score{};   ///< share of its length that is seen
        std::array<float, kRays> length{};  ///< steps from the hands to its tip
        bool isThere() const { return !colours.empty(); }
    };

    static int turnBetween(int ray, int other);
    static ImageVector direction(double ray);
    static double leastCosine(double cells);
    static double finer(const Rays&, int ray);
    std::optional<Hold> holdOn(const Body&) const;
    ImagePoint handsIn(const Sight&) const;
    double likely(double evidence, int colour) const;
    double evidenceAt(const Sight&, ImagePoint) const;
    Evidence evidenceOf(const Sight&) const;
    cv::Mat evidenceIn(const cv::Mat& colours, const cv::Mat& moved, const cv::Mat& covered) const;
    void cast(const Sight&, Rays&) const;
    void score();
    std::vector<int> cheapestPath() const;
    bool learn(const std::vector<int>& path);
    FoundImplement lineOf(const Sight&, double ray, double length) const;
    void addEdges(std::vector<std::optional<FoundImplement>>&, const std::stop_token&) const;

    double m_cell; // pixels
    HeldImplement m_held;
    Hand m_hand;
    double m_halfWidth, m_reach; // cells
    int m_steps;                 // of one cell each
    double m_turn;
    cv::Mat m_narrow;
    std::vector<Sight> m_sights;
    std::vector<Rays> m_rays;
    std::vector<double> m_likeness; // by colour, 0 to 1: how much it speaks for the implement; empty: not learned
};

} // namespace kestrel::vision
