#include "sim/look.h"

namespace kestrel::sim {

Look lookOf(std::uint32_t number, Setting setting, Sex sex)
{
    static constexpr std::uint32_t kSkins[]{0xe0ac86, 0xc68c62, 0xf0c4a2, 0x8f5c3c, 0xb07852, 0x6b4430};
    static constexpr std::uint32_t kHairs[]{0x3a261a, 0x1c1a1a, 0x8a5a2c, 0x553620, 0xb08a4a};
    static constexpr std::uint32_t kShirts[]{0x2d5d8c, 0x9c3d2e, 0x3f7a5a, 0xd9a42c, 0x6a4d84, 0x2f8a92, 0xc25a7a};
    const auto pick = [number](const auto& list, std::uint32_t step) {
        return colourOf(list[(number * step + number / 3) % std::size(list)]);
    };
    Look look;
    look.skin = pick(kSkins, 1);
    look.hair = pick(kHairs, 3);
    look.shirt = pick(kShirts, 2);
    look.stripe = look.shirt.mean() > 0.55F ? Colour(look.shirt * 0.45F) : Colour(look.shirt * 0.3F + Colour::Constant(0.66F));
    const bool onField =
        setting == Setting::Mound || setting == Setting::BattersBox || setting == Setting::Circle || setting == Setting::Infield;
    look.hasCap = onField;
    look.hasShorts = !onField && setting != Setting::Rink;
    look.hasSkirt = sex == Sex::Female && setting == Setting::TennisCourt;
    look.hasLongHair = sex == Sex::Female;
    look.trousers = onField ? colourOf(0xdddbd4) : look.hasShorts ? Colour(look.shirt * 0.35F) : colourOf(0x2b3140);
    look.socks = onField ? Colour(look.shirt * 0.6F) : colourOf(0xeceae4);
    look.cap = look.shirt * 0.6F;
    look.shoes = onField ? colourOf(0x2a2a2e) : colourOf(0xd8d4cc);
    return look;
}

} // namespace kestrel::sim
