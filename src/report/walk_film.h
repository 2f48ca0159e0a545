#pragma once

#include "look/drawing_overlays.h"
#include "media/caption.h"
#include "report/repetition_film.h"
#include "report/walk.h"

#include <algorithm>
#include <functional>
#include <memory>
#include <stop_token>

namespace kestrel::report {

inline constexpr double kGrowSeconds = 0.6; ///< until a stop's drawings are there

/// When a stop plays, and how long it stands.
struct StopTimes {
    double plays = 0, stands = 0; ///< seconds
    double whole() const { return plays + stands; }
    /// How much of its drawings is there, 0 to 1, seconds from its beginning.
    double growthAt(double seconds) const { return std::clamp((seconds - plays) / kGrowSeconds, 0.0, 1.0); }
};
/// \param voiceSeconds  how long the coach speaks; 0: the sentence is read
StopTimes timesOf(const WalkStop&, const FrameClock&, double voiceSeconds);
/// The film's picture at an instant of the stop, seconds from its beginning.
FrameIndex frameAt(const WalkStop&, const FrameClock&, double seconds);

/// What is drawn on a stop's picture. \param growth  0 to 1: its drawings are being drawn
std::vector<look::Overlay> overlaysOf(const WalkStop&, const RepetitionFilm&, const PreparedRepetition&, FrameIndex,
                                      double growth, bool hasNumbers, const look::Strobes& strobes = {});

enum class CaptionStyle { Burnt, Track, None };
struct WalkFilmOptions {
    CaptionStyle captions = CaptionStyle::Burnt;
    bool isFullSize = false; ///< as large as the film; else at most 1280 by 720
    bool hasNumbers = true;  ///< of readings and drawings
    /// Hides on a picture of a film, which may be smaller than it, what must not be recognised; empty: nothing.
    std::function<void(std::size_t film, FrameIndex, QImage&)> hide{};
    std::function<void(double)> progress{}; ///< 0 to 1
};

/// What was written.
struct WrittenWalk {
    struct Stop {
        FrameIndex frame; ///< on which it stands
        double from = 0, seconds = 0;
        std::string text;
    };
    std::vector<Stop> stops;
    std::vector<media::Caption> captions;
    double seconds = 0;
    std::vector<std::string> warnings; ///< what could not be had, a sentence each
};

/// Writes the talk as a film: .mp4 (H.264, AAC) or .webm (VP9, Opus). Nothing stands under the name until all of it is written.
/// \param films  by repetition, as the stops count them
/// Errors: BadArgument (no stops, another ending, no encoder), CannotOpen, CannotWrite, Cancelled, those of the films.
Expected<WrittenWalk> writeWalk(const WalkScript&, const std::vector<RepetitionFilm>& films, const std::string& file,
                                const WalkFilmOptions&, std::stop_token = {});

} // namespace kestrel::report
