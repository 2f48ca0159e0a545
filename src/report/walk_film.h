#pragma once

#include "core/scene/prepared_repetition.h"
#include "look/drawing_overlays.h"
#include "media/caption.h"
#include "report/walk.h"

#include <functional>
#include <memory>
#include <stop_token>

namespace kestrel::report {

/// The film of one repetition that a talk goes through.
struct WalkFilm {
    std::string file, knownIndex; ///< as media::OpenOptions
    Marking marking;              ///< with its drawings
    FrameClock clock;
    FrameRange repetition;         ///< the pictures that belong to it
    std::vector<Reading> readings; ///< of it
};

/// When a stop plays, and how long it stands.
struct StopTimes {
    double plays = 0, stands = 0; ///< seconds
    double whole() const { return plays + stands; }
};
/// \param voiceSeconds  how long the coach speaks; 0: the sentence is read
StopTimes timesOf(const WalkStop&, const FrameClock&, double voiceSeconds);
/// The film's picture at an instant of the stop, seconds from its beginning.
FrameIndex frameAt(const WalkStop&, const FrameClock&, double seconds);

/// What is drawn on a stop's picture. \param growth  0 to 1: its drawings are being drawn
std::vector<look::Overlay> overlaysOf(const WalkStop&, const WalkFilm&, const PreparedRepetition&, FrameIndex, double growth,
                                      bool hasNumbers, const look::Strobes& strobes = {});

enum class CaptionStyle { Burnt, Track, None };
struct WalkFilmOptions {
    CaptionStyle captions = CaptionStyle::Burnt;
    bool isFullSize = false; ///< as large as the film; else at most 1280 by 720
    bool hasNumbers = true;  ///< of readings and drawings
    /// Hides faces on a picture of a film, which may be smaller than the film; empty: nothing is hidden.
    std::function<void(std::size_t film, FrameIndex, QImage&)> hideFaces{};
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
Expected<WrittenWalk> writeWalk(const WalkScript&, const std::vector<WalkFilm>& films, const std::string& file,
                                const WalkFilmOptions&, std::stop_token = {});

} // namespace kestrel::report
