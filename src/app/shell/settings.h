#pragma once

#include "vision/pose_track.h"

#include <cstddef>
#include <optional>

namespace kestrel::app {

/// When faces are made unrecognisable on what leaves the program.
enum class FaceHiding { Never, WithoutConsent, Always };

/// What the coach has set for this machine; kept with the user's other settings, not in the library.
struct Settings {
    /// Memory for decoded pictures. Empty: a quarter of what is free, at most 1 GiB.
    static std::optional<std::size_t> filmMemory();
    static void setFilmMemory(std::optional<std::size_t> bytes);
    /// What marks the body.
    static vision::BodyNetwork bodyNetwork();
    static void setBodyNetwork(vision::BodyNetwork);
    /// How many tasks go home with a player, 1 to 3.
    static int tasks();
    static void setTasks(int);
    static FaceHiding faceHiding();
    static void setFaceHiding(FaceHiding);
};

} // namespace kestrel::app
