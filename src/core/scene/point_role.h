#pragma once

#include "core/scene/landmark.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kestrel {

/// How packs name a side, so that handedness never appears in them.
/// lead: nearer the target at landing; dom: the throwing or hitting arm's side. When a pack is read, lead and trail become
/// dom and off as its "leadSide" says, so that all that comes after knows two sides only; where no pack is asked, the lead
/// side is taken to be the one opposite the dominant side.
enum class SideRole { None, Lead, Trail, Dom, Off };

/// Points that are computed from marks.
enum class DerivedPoint {
    None,
    Head,        ///< middle of the ears; the one that is marked if only one is, else the nose
    MidShoulder, ///< middle of the shoulder joints
    MidHip,      ///< middle of the hip joints
    Sternum,     ///< a fifth of the way from mid-shoulder to mid-hip
    MassCentre,  ///< of the whole body, by Winter's segment masses; needs every joint
};

/// A point as packs name it: "knee.lead", "wrist.dom", "head", "midHip", "ref.plate".
struct PointRole {
    DerivedPoint derived = DerivedPoint::None;
    Part part = Part::Nose;
    SideRole side = SideRole::None;
    std::string reference;
    bool operator==(const PointRole&) const = default;
};

std::optional<PointRole> findPointRole(std::string_view name);
std::string nameOf(const PointRole&);

/// Lead and trail as dominant and other side.
PointRole withoutLead(const PointRole&, SideRole leadSide);

BodySide sideOf(SideRole, Hand);
/// The landmark meant for an athlete of that hand. Only for roles that are not derived.
Landmark resolve(const PointRole&, Hand);

/// Landmarks to click so that the point can be had; for the head the one ear that the usual view shows.
std::vector<Landmark> landmarksFor(const PointRole&, Hand);

} // namespace kestrel
