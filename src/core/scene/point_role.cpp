#include "core/scene/point_role.h"

#include "core/base/word_table.h"

namespace kestrel {

namespace {

constexpr WordRow<DerivedPoint> kDerived[] = {
    {DerivedPoint::Head, "head"},       {DerivedPoint::MidShoulder, "midShoulder"}, {DerivedPoint::MidHip, "midHip"},
    {DerivedPoint::Sternum, "sternum"}, {DerivedPoint::MassCentre, "massCentre"},
};
constexpr WordRow<SideRole> kSides[] = {
    {SideRole::Lead, "lead"},
    {SideRole::Trail, "trail"},
    {SideRole::Dom, "dom"},
    {SideRole::Off, "off"},
};

} // namespace

std::optional<PointRole> findPointRole(std::string_view name)
{
    if (const auto d = findIn(kDerived, name))
        return PointRole{*d, Part::Nose, SideRole::None, {}};
    const auto dot = name.rfind('.');
    if (dot != std::string_view::npos)
        if (const auto side = findIn(kSides, name.substr(dot + 1))) {
            const auto part = findPart(name.substr(0, dot));
            if (!part || !isPaired(*part))
                return std::nullopt;
            return PointRole{DerivedPoint::None, *part, *side, {}};
        }
    const auto landmark = findLandmark(name);
    if (!landmark || landmark->side != BodySide::None) // packs never speak of left and right
        return std::nullopt;
    return PointRole{DerivedPoint::None, landmark->part, SideRole::None, landmark->reference};
}

std::string nameOf(const PointRole& r)
{
    if (r.derived != DerivedPoint::None)
        return std::string(wordIn(kDerived, r.derived));
    if (r.side != SideRole::None)
        return std::string(wordOf(r.part)) + "." + std::string(wordIn(kSides, r.side));
    return nameOf(Landmark{r.part, BodySide::None, r.reference});
}

PointRole withoutLead(const PointRole& role, SideRole leadSide)
{
    PointRole r = role;
    if (role.side == SideRole::Lead)
        r.side = leadSide;
    else if (role.side == SideRole::Trail)
        r.side = leadSide == SideRole::Dom ? SideRole::Off : SideRole::Dom;
    return r;
}

BodySide sideOf(SideRole role, Hand hand)
{
    const BodySide dom = hand == Hand::Right ? BodySide::Right : BodySide::Left;
    switch (role) {
    case SideRole::Dom:
    case SideRole::Trail:
        return dom;
    case SideRole::Off:
    case SideRole::Lead:
        return opposite(dom);
    case SideRole::None:
        break;
    }
    return BodySide::None;
}

Landmark resolve(const PointRole& r, Hand hand)
{
    return {r.part, sideOf(r.side, hand), r.reference};
}

std::vector<Landmark> landmarksFor(const PointRole& r, Hand hand)
{
    const BodySide dom = sideOf(SideRole::Dom, hand);
    const auto both = [&](Part p) { return std::vector<Landmark>{{p, opposite(dom), {}}, {p, dom, {}}}; };
    switch (r.derived) {
    case DerivedPoint::Head:
        return {{Part::Ear, dom, {}}};
    case DerivedPoint::MidShoulder:
        return both(Part::Shoulder);
    case DerivedPoint::MidHip:
        return both(Part::Hip);
    case DerivedPoint::Sternum: {
        auto list = both(Part::Shoulder);
        for (const auto& l : both(Part::Hip))
            list.push_back(l);
        return list;
    }
    case DerivedPoint::MassCentre: {
        std::vector<Landmark> list;
        for (const auto& l : bodyLandmarks())
            if (l.part != Part::Eye && l.part != Part::Neck && l.part != Part::Nose && l.part != Part::Heel)
                list.push_back(l);
        return list;
    }
    case DerivedPoint::None:
        break;
    }
    return {resolve(r, hand)};
}

} // namespace kestrel
