#include "core/base/json_reader.h"
#include "core/base/word_table.h"
#include "core/pack/pack_folder.h"
#include "sim/skill.h"

#include <algorithm>
#include <set>

namespace kestrel::sim {

namespace {

constexpr WordRow<Setting> kSettings[]{{Setting::Mound, "mound"},
                                       {Setting::BattersBox, "batters-box"},
                                       {Setting::TennisCourt, "tennis-court"},
                                       {Setting::SquashCourt, "squash-court"},
                                       {Setting::Table, "table"},
                                       {Setting::Hoop, "hoop"},
                                       {Setting::Rink, "rink"},
                                       {Setting::Circle, "circle"},
                                       {Setting::Infield, "infield"}};
constexpr WordRow<DominantSide> kSides[]{{DominantSide::Trail, "trail"}, {DominantSide::Lead, "lead"}};

void checkNames(const JsonNode& node, const std::set<std::string>& known)
{
    for (const auto& [name, value] : node.members())
        if (known.count(name) == 0)
            value.wrong("found a member \"" + name + "\" that means nothing here");
}

/// Reads into numbers that are there already: an absent member leaves them alone.
struct PartReader {
    const JsonNode& node;
    void operator()(double& v) const { v = node.number(); }
    void operator()(Vec3& v) const
    {
        const auto items = node.items();
        if (items.size() != 3)
            return node.wrong("found " + std::to_string(items.size()) + " numbers, expected three");
        v = {items[0].number(), items[1].number(), items[2].number()};
    }
    template <class Member> void member(const char* name, Member& m) const
    {
        if (const auto n = node.find(name))
            PartReader{*n}(m);
    }
    void operator()(FootPose& f) const
    {
        checkNames(node, {"toe", "yaw", "pitch"});
        member("toe", f.toe);
        member("yaw", f.yaw);
        member("pitch", f.pitch);
    }
    void operator()(ArmPose& a) const
    {
        checkNames(node, {"upper", "fore"});
        member("upper", a.upper);
        member("fore", a.fore);
    }
    void operator()(ImplementPose& i) const
    {
        checkNames(node, {"grip", "axis", "face", "flex"});
        member("grip", i.grip);
        member("axis", i.axis);
        member("face", i.face);
        member("flex", i.flex);
    }
};

/// \param others  members that may stand beside the parts of the pose
void readPose(const JsonNode& node, Pose& pose, std::set<std::string> others)
{
    eachPart(pose, [&](const char* name, auto& part) {
        others.insert(name);
        if (const auto n = node.find(name))
            PartReader{*n}(part);
    });
    checkNames(node, others);
}

class SkillReader {
public:
    SkillReader(const nlohmann::json& root, JsonProblems& problems) : m_root(root, "", problems) {}

    SimSkill read()
    {
        SimSkill s;
        s.id = m_root.at("skill").text();
        const auto word = [](const auto& rows) { return [&rows](const std::string& w) { return findIn(rows, w); }; };
        s.dominant = m_root.at("dominantSide").choice(word(kSides), choicesOf(kSides)).value_or(s.dominant);
        s.setting = m_root.at("setting").choice(word(kSettings), choicesOf(kSettings)).value_or(s.setting);
        s.hasGlove = m_root.booleanOr("glove", false);
        const auto frame = m_root.at("framing");
        s.framing = {frame.at("x").number(), frame.at("y").number(), frame.at("width").numberIn(0.5, 9),
                     frame.at("height").numberIn(0.5, 9)};
        if (const auto held = m_root.find("implement"))
            s.implement = readImplement(*held);
        const auto base = readPoses(m_root.at("poses"), "", {});
        for (const auto& n : m_root.at("variants").items())
            s.variants.push_back(readVariant(n, base));
        for (const auto& n : m_root.at("schools").items())
            s.schools.push_back({n.at("id").text(), readChanges(n.find("change"), base)});
        for (const auto& n : m_root.at("faults").items()) {
            checkNames(n, {"id", "says", "disturbs", "change", "variants"});
            SimFault f{n.at("id").text(), n.at("says").text(), {}, readChanges(n.at("change"), base), {}};
            if (const auto variants = n.find("variants"))
                for (const auto& v : variants->items()) {
                    f.variants.push_back(v.text());
                    if (std::none_of(s.variants.begin(), s.variants.end(), [&](const auto& o) { return o.id == v.text(); }))
                        v.wrong("found \"" + v.text() + "\", expected one of the variants");
                }
            for (const auto& d : n.at("disturbs").items())
                f.disturbs.push_back(d.text());
            s.faults.push_back(std::move(f));
        }
        for (const char* list : {"variants", "schools"})
            if (m_root.at(list).items().empty())
                m_root.at(list).wrong("found none, expected at least one");
        return s;
    }

private:
    using Poses = std::vector<KeyPose>;

    static Implement readImplement(const JsonNode& n)
    {
        Implement i;
        i.kind = n.at("kind")
                     .choice(findImplementKind, "bat, tennis-racket, squash-racket, table-tennis-bat or stick")
                     .value_or(i.kind);
        i.length = n.at("length").numberIn(0.05, 1.5);
        const auto hands = n.at("hands");
        i.domHand = hands.at("dom").numberIn(0, i.length);
        if (const auto off = hands.find("off"))
            i.offHand = off->numberIn(0, i.length);
        return i;
    }

    static const KeyPose* findPose(const Poses& poses, const std::string& name)
    {
        const auto it = std::find_if(poses.begin(), poses.end(), [&](const KeyPose& k) { return k.keyPosition == name; });
        return it == poses.end() ? nullptr : &*it;
    }

    /// \param base  the skill's own poses; a pose without anything said is the one of the same name there
    Poses readPoses(const JsonNode& list, const std::string& variant, const Poses& base)
    {
        Poses poses;
        for (const auto& n : list.items()) {
            checkNames(n, {"at", "seconds", "like", "pose", "delay"});
            KeyPose k;
            const std::string name = n.textOr("at", "");
            if (const KeyPose* same = name.empty() ? nullptr : findPose(base, name))
                k = *same;
            if (const auto like = n.find("like")) {
                const std::string from = like->text();
                const bool isOwn = from.starts_with(variant + "/");
                const KeyPose* model = isOwn ? findPose(poses, from.substr(variant.size() + 1)) : nullptr;
                if (!model)
                    model = findPose(poses, from);
                if (!model)
                    model = findPose(base, from);
                if (model)
                    k.pose = model->pose;
                else
                    like->wrong("found \"" + from + "\", expected a pose that stands before this one");
            }
            k.keyPosition = name;
            k.seconds = n.numberOr("seconds", k.seconds);
            if (const auto pose = n.find("pose"))
                readPose(*pose, k.pose, {});
            if (const auto delay = n.find("delay"))
                k.delay = readDelay(*delay);
            if (!poses.empty() && k.seconds <= poses.back().seconds)
                n.wrong("found an instant that is not after the one before it");
            poses.push_back(std::move(k));
        }
        if (poses.size() < 2)
            list.wrong("found fewer than two poses");
        return poses;
    }

    static std::map<std::string, double> readDelay(const JsonNode& n)
    {
        std::map<std::string, double> delay;
        std::set<std::string> parts;
        Pose p;
        eachPart(p, [&](const char* name, auto&) { parts.insert(name); });
        checkNames(n, parts);
        for (const auto& [part, seconds] : n.members())
            delay[part] = seconds.numberIn(-1, 1);
        return delay;
    }

    SimVariant readVariant(const JsonNode& n, const Poses& base)
    {
        checkNames(n, {"id", "poses", "change", "ball"});
        SimVariant v;
        v.id = n.at("id").text();
        const auto own = n.find("poses");
        v.poses = own ? readPoses(*own, v.id, base) : base;
        apply(v.poses, readChanges(n.find("change"), base), 1);
        const auto ball = n.find("ball") ? n.at("ball") : m_root.at("ball");
        v.ballKind = ball.at("kind").choice(findBallKind, "a ball the simulator knows").value_or(v.ballKind);
        for (const auto& stage : ball.at("stages").items())
            v.ball.push_back(readStage(stage, v.poses));
        if (v.ball.empty() || !v.ball.back().until.empty())
            ball.wrong("expected a last stage without \"until\"");
        return v;
    }

    static BallStage readStage(const JsonNode& n, const Poses& poses)
    {
        checkNames(n, {"until", "held", "meets", "comes", "rolls", "flies", "spin"});
        BallStage s;
        if (const auto until = n.find("until")) {
            s.until = until->text();
            if (!findPose(poses, s.until))
                until->wrong("found \"" + s.until + "\", expected a key position");
        }
        const auto place = [](const JsonNode& p) {
            return p.choice(findBallPlace, "dom, off, both, face or blade").value_or(BallPlace::DomHand);
        };
        const auto vector = [](const JsonNode& p) {
            Vec3 v(0, 0, 0);
            PartReader{p}(v);
            return v;
        };
        if (const auto held = n.find("held")) {
            s.kind = BallStage::Kind::Held;
            s.place = place(*held);
        } else if (const auto flies = n.find("flies")) {
            s.kind = BallStage::Kind::Flies;
            s.velocity = vector(*flies);
        } else {
            s.place = place(n.at("meets"));
            s.kind = BallStage::Kind::Meets;
            if (const auto comes = n.find("comes")) {
                s.kind = BallStage::Kind::Comes;
                s.velocity = vector(*comes);
            } else if (const auto rolls = n.find("rolls")) {
                s.kind = BallStage::Kind::Rolls;
                s.velocity = vector(*rolls);
            }
        }
        if (const auto spin = n.find("spin"))
            s.spin = vector(*spin);
        return s;
    }

    static std::vector<PoseChange> readChanges(const std::optional<JsonNode>& node, const Poses& base)
    {
        std::vector<PoseChange> changes;
        if (!node)
            return changes;
        for (const auto& [where, n] : node->members()) {
            PoseChange c;
            const auto dots = where.find("..");
            c.first = where.substr(0, dots);
            c.last = dots == std::string::npos ? c.first : where.substr(dots + 2);
            for (const auto& name : {c.first, c.last})
                if (!findPose(base, name))
                    n.wrong("found \"" + name + "\", expected a key position");
            c.seconds = n.numberOr("seconds", 0);
            if (const auto delay = n.find("delay"))
                c.delay = readDelay(*delay);
            readPose(n, c.pose, {"seconds", "delay"});
            changes.push_back(std::move(c));
        }
        return changes;
    }

    JsonNode m_root;
};

} // namespace

Expected<SimSkill> parseSimSkill(const nlohmann::json& root, const std::string& file)
{
    if (auto e = checkFormat(root, "jolly-kestrel/motion", file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    SimSkill skill = SkillReader(root, problems).read();
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return skill;
}

Expected<SimSkill> loadSimSkill(const std::string& id)
{
    const auto ids = simSkillIds();
    if (std::find(ids.begin(), ids.end(), id) == ids.end()) {
        std::string known;
        for (const auto& i : ids)
            known += (known.empty() ? "" : ", ") + i;
        return fail(ErrorCode::NotFound, "The simulator knows no skill \"" + id + "\"; it knows " + known + ".");
    }
    const std::string file = shippedFolder("motions") + "/" + id + ".json";
    const auto root = loadJson(file);
    if (!root)
        return tl::unexpected(root.error());
    return parseSimSkill(*root, file);
}

} // namespace kestrel::sim
