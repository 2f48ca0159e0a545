#include "sim/skill.h"

#include "core/base/error_sample.h"
#include "core/pack/pack_folder.h"

#include <algorithm>
#include <filesystem>

namespace kestrel::sim {

namespace {

template <class List> auto findById(List& list, const std::string& id)
{
    const auto it = std::find_if(list.begin(), list.end(), [&](const auto& e) { return e.id == id; });
    return it == list.end() ? nullptr : &*it;
}

/// No two repetitions are alike: about a degree, a fifth of a per cent of height and one and a half of the timing.
void vary(std::vector<KeyPose>& keys, std::uint32_t seed)
{
    const ErrorSample sample(seed);
    for (std::size_t i = 0; i < keys.size(); ++i) {
        KeyPose& k = keys[i];
        const auto some = [&](std::uint64_t what) { return sample.normal(ErrorSample::mix(0x51b, i * 16 + what)); };
        k.pose.trunkLean += 0.8 * some(1);
        k.pose.pelvisYaw += 1.0 * some(2);
        k.pose.shoulderYaw += 1.2 * some(3);
        k.pose.pelvis.y() += 0.002 * some(4);
        k.pose.dom.upper.y() += 0.015 * some(5);
        k.pose.dom.fore.y() += 0.015 * some(6);
        k.pose.implement.axis += 0.01 * k.pose.implement.axis.norm() * Vec3(some(7), some(8), some(9));
        k.seconds *= 1 + 0.015 * sample.normal(0x7e); // the key pose at 0 stays
    }
}

} // namespace

void apply(std::vector<KeyPose>& keys, const std::vector<PoseChange>& changes, double amount)
{
    for (const auto& c : changes) {
        bool isWithin = false;
        for (auto& k : keys) {
            isWithin = isWithin || k.keyPosition == c.first;
            if (!isWithin)
                continue;
            k.seconds += amount * c.seconds;
            for (const auto& [part, seconds] : c.delay)
                k.delay[part] += amount * seconds;
            add(k.pose, c.pose, amount);
            if (k.keyPosition == c.last)
                break;
        }
    }
}

bool SimFault::isFor(const std::string& variant) const
{
    return variants.empty() || std::find(variants.begin(), variants.end(), variant) != variants.end();
}

const SimVariant& SimSkill::variantOf(const MotionOptions& options) const
{
    const SimVariant* found = findById(variants, options.variant);
    return found ? *found : variants.front();
}

Motion SimSkill::motion(const MotionOptions& options) const
{
    std::vector<KeyPose> keys = variantOf(options).poses;
    const SimSchool* school = findById(schools, options.school);
    apply(keys, (school ? *school : schools.front()).change, 1);
    apply(keys, options.style);
    for (const auto& [name, amount] : options.faults)
        if (const SimFault* fault = findById(faults, name); fault && fault->isFor(variantOf(options).id))
            apply(keys, fault->change, amount);
    vary(keys, options.seed);
    // a fault may take one key position past another
    std::stable_sort(keys.begin(), keys.end(), [](const KeyPose& a, const KeyPose& b) { return a.seconds < b.seconds; });
    for (auto& k : keys) {
        k.seconds /= options.tempo;
        for (auto& [part, seconds] : k.delay)
            seconds /= options.tempo;
    }
    return Motion(std::move(keys));
}

std::vector<std::string> simSkillIds()
{
    std::vector<std::string> ids;
    for (const auto& file : packFiles(shippedFolder("motions")))
        ids.push_back(std::filesystem::path(file).stem().string());
    return ids;
}

} // namespace kestrel::sim
