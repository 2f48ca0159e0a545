#include "core/scene/landmark.h"

#include <array>

namespace kestrel {

namespace {

struct PartRow {
    Part part;
    std::string_view word;
    bool paired;
};

constexpr std::array kParts{
    PartRow{Part::Nose, "nose", false},
    PartRow{Part::Eye, "eye", true},
    PartRow{Part::Ear, "ear", true},
    PartRow{Part::Neck, "neck", false},
    PartRow{Part::Shoulder, "shoulder", true},
    PartRow{Part::Elbow, "elbow", true},
    PartRow{Part::Wrist, "wrist", true},
    PartRow{Part::Hand, "hand", true},
    PartRow{Part::Hip, "hip", true},
    PartRow{Part::Knee, "knee", true},
    PartRow{Part::Ankle, "ankle", true},
    PartRow{Part::Heel, "heel", true},
    PartRow{Part::Toe, "toe", true},
    PartRow{Part::ImplementGrip, "implement.grip", false},
    PartRow{Part::ImplementTip, "implement.tip", false},
    PartRow{Part::ImplementMid, "implement.mid", false},
    PartRow{Part::ImplementFaceA, "implement.faceA", false},
    PartRow{Part::ImplementFaceB, "implement.faceB", false},
    PartRow{Part::Ball, "ball", false},
};

constexpr std::string_view kReferencePrefix = "ref.";

} // namespace

bool isPaired(Part part)
{
    for (const auto& row : kParts)
        if (row.part == part)
            return row.paired;
    return false;
}

std::string_view wordOf(Part part)
{
    for (const auto& row : kParts)
        if (row.part == part)
            return row.word;
    return "ref";
}

std::optional<Part> findPart(std::string_view word)
{
    for (const auto& row : kParts)
        if (row.word == word)
            return row.part;
    return std::nullopt;
}

std::string nameOf(const Landmark& l)
{
    if (l.part == Part::Reference)
        return std::string(kReferencePrefix) + l.reference;
    std::string name(wordOf(l.part));
    if (l.side != BodySide::None)
        name += l.side == BodySide::Left ? ".left" : ".right";
    return name;
}

std::optional<Landmark> findLandmark(std::string_view name)
{
    if (name.starts_with(kReferencePrefix) && name.size() > kReferencePrefix.size())
        return Landmark{Part::Reference, BodySide::None, std::string(name.substr(kReferencePrefix.size()))};
    BodySide side = BodySide::None;
    std::string_view word = name;
    if (name.ends_with(".left"))
        side = BodySide::Left;
    else if (name.ends_with(".right"))
        side = BodySide::Right;
    if (side != BodySide::None)
        word = name.substr(0, name.rfind('.'));
    const auto part = findPart(word);
    if (!part || isPaired(*part) != (side != BodySide::None))
        return std::nullopt;
    return Landmark{*part, side, {}};
}

const std::vector<Landmark>& bodyLandmarks()
{
    static const std::vector<Landmark> all = [] {
        std::vector<Landmark> list;
        for (const auto& row : kParts) {
            if (row.part >= Part::ImplementGrip)
                continue;
            if (row.paired) {
                list.push_back({row.part, BodySide::Left, {}});
                list.push_back({row.part, BodySide::Right, {}});
            } else {
                list.push_back({row.part, BodySide::None, {}});
            }
        }
        return list;
    }();
    return all;
}

} // namespace kestrel
