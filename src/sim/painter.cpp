#include "sim/painter.h"

#include "sim/figure.h"
#include "sim/setting.h"

namespace kestrel::sim {

namespace {

constexpr float kShadow = 0.38F;

/// The sun stands on the side the chest faces at address.
Light lightFor(const Build& build)
{
    Light light;
    if (build.isMirrored())
        light.toLight.z() *= -1;
    return light;
}

bool isSame(const Camera& a, const Camera& b)
{
    return a.eye() == b.eye() && a.forward() == b.forward() && a.up() == b.up() && a.focal() == b.focal() && a.size() == b.size();
}

} // namespace

ScenePainter::ScenePainter(const SimSkill& skill, const Build& build, BallKind ball, const Look& look)
    : m_setting(skill.setting), m_hasGlove(skill.hasGlove), m_build(build), m_ball(ball), m_look(look)
{
}

void ScenePainter::paintStill(const Camera& camera)
{
    if (m_stillFrom && isSame(*m_stillFrom, camera))
        return;
    m_stillFrom = camera;
    const Surroundings around = surroundingsOf(m_setting, m_build.isMirrored(), camera.eye());
    m_still.emplace(camera.size());
    m_still->fill(camera, around.beyond);
    m_still->draw(around.mesh, camera, lightFor(m_build));
    m_stillPicture = m_still->developed();
    m_moving.emplace(*m_still);
    m_moving->restart(*m_still); // nothing has been drawn yet
}

QImage ScenePainter::paint(const Camera& camera, const Skeleton& body, const std::optional<BallPath::Place>& ball, bool holdsBall)
{
    paintStill(camera);
    m_moving->restart(*m_still);
    const Mesh figure = figureOf(body, m_build, m_look, m_hasGlove, holdsBall);
    const Light light = lightFor(m_build);
    m_moving->drawShadow(figure, camera, light, kShadow);
    m_moving->draw(figure, camera, light);
    if (ball && camera.depthOf(ball->centre) > 0.3)
        m_moving->draw(ballMesh(m_ball, ball->centre, ball->turned), camera, light);
    QImage picture = m_stillPicture;
    m_moving->develop(picture);
    return picture;
}

} // namespace kestrel::sim
