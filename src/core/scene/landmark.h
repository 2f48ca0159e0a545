#pragma once

#include <compare>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kestrel {

enum class Hand { Right, Left };
/// Anatomical side, the athlete's own left and right.
enum class BodySide { None, Left, Right };

constexpr BodySide opposite(BodySide s)
{
    return s == BodySide::Left ? BodySide::Right : s == BodySide::Right ? BodySide::Left : BodySide::None;
}

enum class Part {
    Nose,
    Eye,
    Ear,
    Neck,
    Shoulder,
    Elbow,
    Wrist,
    Hand,
    Hip,
    Knee,
    Ankle,
    Heel,
    Toe,
    ImplementGrip,
    ImplementTip,
    ImplementMid,
    ImplementFaceA,
    ImplementFaceB,
    Ball,
    Reference,
};

/// A point that can be marked on a picture: "wrist.right", "nose", "implement.tip", "ref.plate".
struct Landmark {
    Part part = Part::Nose;
    BodySide side = BodySide::None; ///< None unless the part is paired
    std::string reference;          ///< the name after "ref."; empty for all other parts

    auto operator<=>(const Landmark&) const = default;
};

constexpr bool isOfArm(Part p)
{
    return p == Part::Shoulder || p == Part::Elbow || p == Part::Wrist || p == Part::Hand;
}
constexpr bool isOfLeg(Part p)
{
    return p == Part::Hip || p == Part::Knee || p == Part::Ankle || p == Part::Heel || p == Part::Toe;
}

/// True for parts of which a body has a left and a right one.
bool isPaired(Part);
/// The word used in files: "shoulder", "implement.tip".
std::string_view wordOf(Part);
std::optional<Part> findPart(std::string_view word);

/// The name used in files.
std::string nameOf(const Landmark&);
/// Empty if there is no landmark of that name; a paired part needs its side, the others must have none.
std::optional<Landmark> findLandmark(std::string_view name);
/// Every body landmark (not implement, ball and references), paired ones left before right.
const std::vector<Landmark>& bodyLandmarks();

} // namespace kestrel
