#include "core/drawing/drawn_shape.h"

#include "core/scene/ground_plane.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel {

namespace {

constexpr int kGridLines = 6;     // to either side of a grid that is not on the ground
constexpr double kGroundGrid = 1; // metres between two lines
constexpr int kMostGroundLines = 60;
constexpr double kGridShare = 0.1;   // of standing height between two lines
constexpr double kUsualShare = 0.35; // of the picture's height that somebody fills of whom nothing is known
constexpr int kHours = 12;
constexpr std::int64_t kTrailGap = 2; // pictures; over a longer one the dots are not joined

/// The place of a landmark on that very picture; null: not marked there.
const Mark* findMarkOn(const PreparedRepetition& r, const Landmark& landmark, FrameIndex frame)
{
    const auto& marks = r.marksOf(landmark);
    const auto it = std::lower_bound(marks.begin(), marks.end(), frame, [](const Mark& m, FrameIndex f) { return m.frame < f; });
    return it != marks.end() && it->frame == frame ? &*it : nullptr;
}

/// Works out one shape.
class ShapeMaker {
public:
    ShapeMaker(const Drawing& d, const PreparedRepetition& r, std::vector<ImagePoint> places) : m_drawing(d), m_repetition(r)
    {
        m_shape.ends = std::move(places);
        const ImageVector up = r.marking().scene.up;
        m_up = up * (1 / std::max(up.length(), 1e-9));
        m_right = {-m_up.y, m_up.x};
    }

    DrawnShape make(FrameRange range, FrameIndex now)
    {
        m_shape.figure.frame = FramePosition(now);
        const auto& p = m_shape.ends;
        switch (m_drawing.kind) {
        case DrawingKind::Line:
        case DrawingKind::Path:
            add(Stroke::Kind::Segment, p);
            break;
        case DrawingKind::Arrow:
            add(Stroke::Kind::Arrow, p);
            break;
        case DrawingKind::Circle:
            add(Stroke::Kind::Circle, {p[0], p[0] + m_right * m_drawing.radius});
            break;
        case DrawingKind::Box:
            add(Stroke::Kind::Segment, {p[0], {p[1].x, p[0].y}, p[1], {p[0].x, p[1].y}, p[0]});
            break;
        case DrawingKind::Angle:
            add(Stroke::Kind::Segment, p);
            add(Stroke::Kind::Arc, p);
            break;
        case DrawingKind::Wedge:
            add(Stroke::Kind::Segment, {p[0], p[1]});
            add(Stroke::Kind::Segment, {p[2], p[3]});
            break;
        case DrawingKind::Level:
            addAcross(Stroke::Kind::Segment, p[0], m_right);
            break;
        case DrawingKind::Plumb:
            addAcross(Stroke::Kind::Segment, p[0], m_up);
            break;
        case DrawingKind::Grid:
            addGrid(p[0]);
            break;
        case DrawingKind::Clock:
            addClock(p[0]);
            break;
        case DrawingKind::Label:
            break;
        case DrawingKind::Trail:
            addTrail(range.first, std::min(now, range.last));
            break;
        case DrawingKind::Strobe: // a picture, not a shape
            break;
        }
        if (m_drawing.hides)
            m_shape.words.emplace_back(p[0], "hidden when it leaves");
        if (hasRadius(m_drawing.kind))
            m_shape.ends.push_back(p[0] + m_right * m_drawing.radius);
        if (!m_drawing.text.empty() && !p.empty())
            m_shape.words.emplace_back(p[0], m_drawing.text);
        return std::move(m_shape);
    }

private:
    void add(Stroke::Kind kind, std::vector<ImagePoint> points) { m_shape.figure.strokes.push_back({kind, std::move(points)}); }

    /// A line from one edge of the picture to the other.
    void addAcross(Stroke::Kind kind, ImagePoint through, ImageVector along)
    {
        double low = -1e9, high = 1e9;
        const auto clip = [&](double at, double step, double size) {
            if (std::abs(step) < 1e-9)
                return at >= 0 && at <= size;
            const double a = -at / step, b = (size - at) / step;
            low = std::max(low, std::min(a, b));
            high = std::min(high, std::max(a, b));
            return true;
        };
        const auto& film = m_repetition.marking().film;
        if (clip(through.x, along.x, film.width) && clip(through.y, along.y, film.height) && low < high)
            add(kind, {through + along * low, through + along * high});
    }

    void addGrid(ImagePoint about)
    {
        if (const auto plane = GroundPlane::fit(m_repetition.marking().scene.ground)) {
            addGroundGrid(*plane);
            return;
        }
        const auto& m = m_repetition.marking();
        const double height = m_repetition.scene().hasScale() && m.athlete.heightMetres
                                  ? *m.athlete.heightMetres / m_repetition.scene().metresPerPixel()
                                  : kUsualShare * m.film.height;
        const bool isMeasured = m_repetition.scene().hasScale() && m.athlete.heightMetres;
        for (int n = -kGridLines; n <= kGridLines; ++n) {
            const auto kind = n == 0 ? Stroke::Kind::Segment : Stroke::Kind::Faint;
            addAcross(kind, about + m_up * (n * kGridShare * height), m_right);
            addAcross(kind, about + m_right * (n * kGridShare * height), m_up);
        }
        if (isMeasured) // so that a square means something
            m_shape.words.emplace_back(about + m_up * (-kGridLines * kGridShare * height),
                                       "each square 10 % of height"); // below the feet
    }

    /// A line each metre between the outermost marked places.
    void addGroundGrid(const GroundPlane& plane)
    {
        const auto& ground = m_repetition.marking().scene.ground;
        const auto [west, east] = std::minmax_element(ground.begin(), ground.end(), [](auto& a, auto& b) { return a.x < b.x; });
        const auto [near, far] = std::minmax_element(ground.begin(), ground.end(), [](auto& a, auto& b) { return a.y < b.y; });
        const auto join = [&](double x0, double y0, double x1, double y1) {
            const auto a = plane.imageOf(x0, y0), b = plane.imageOf(x1, y1);
            if (a && b)
                add(Stroke::Kind::Faint, {*a, *b});
        };
        constexpr double kSlack = 1e-6;
        for (int n = 0; n <= kMostGroundLines && west->x + n * kGroundGrid <= east->x + kSlack; ++n)
            join(west->x + n * kGroundGrid, near->y, west->x + n * kGroundGrid, far->y);
        for (int n = 0; n <= kMostGroundLines && near->y + n * kGroundGrid <= far->y + kSlack; ++n)
            join(west->x, near->y + n * kGroundGrid, east->x, near->y + n * kGroundGrid);
        if (const auto corner = plane.imageOf(west->x, near->y))
            m_shape.words.emplace_back(*corner, "each square 1 m on the ground");
    }

    void addClock(ImagePoint centre)
    {
        add(Stroke::Kind::Circle, {centre, centre + m_right * m_drawing.radius});
        const double turn = m_repetition.marking().athlete.hand == Hand::Left ? -1 : 1;
        for (int hour = 1; hour <= kHours; ++hour) {
            const double angle = turn * 2 * std::numbers::pi * hour / kHours;
            const ImageVector out = m_up * std::cos(angle) + m_right * std::sin(angle);
            add(Stroke::Kind::Segment, {centre + out * (0.9 * m_drawing.radius), centre + out * m_drawing.radius});
            if (hour % 3 == 0)
                m_shape.words.emplace_back(centre + out * (0.75 * m_drawing.radius), std::to_string(hour));
        }
    }

    void addTrail(FrameIndex first, FrameIndex last)
    {
        if (!m_drawing.at.front().landmark)
            return;
        std::vector<std::vector<ImagePoint>> ways;
        FrameIndex before;
        for (const auto& mark : m_repetition.marksOf(*m_drawing.at.front().landmark)) {
            if (mark.frame < first || mark.frame > last)
                continue;
            if (ways.empty() || mark.frame.value - before.value > kTrailGap)
                ways.emplace_back();
            ways.back().push_back(mark.at);
            before = mark.frame;
            add(Stroke::Kind::Dot, {mark.at});
        }
        for (auto& way : ways)
            add(Stroke::Kind::Faint, std::move(way));
    }

    const Drawing& m_drawing;
    const PreparedRepetition& m_repetition;
    ImageVector m_up, m_right;
    DrawnShape m_shape;
};

} // namespace

std::optional<FrameRange> rangeOf(const Lives& lives, const Marking& m, FrameRange repetition)
{
    switch (lives.on) {
    case Lives::On::Stretch:
        return lives.stretch;
    case Lives::On::Repetition:
        return repetition;
    case Lives::On::KeyPosition:
        if (const Event* e = findEvent(m, lives.keyPosition))
            return FrameRange{e->frame.nearest(), e->frame.nearest()};
    }
    return std::nullopt;
}

std::optional<std::vector<ImagePoint>> placesOf(const Drawing& d, const PreparedRepetition& r, FrameIndex frame)
{
    std::vector<ImagePoint> places;
    for (const auto& pin : d.at) {
        const Mark* mark = pin.landmark ? findMarkOn(r, *pin.landmark, frame) : nullptr;
        if (pin.landmark && !mark)
            return std::nullopt;
        places.push_back(mark ? mark->at : pin.at);
    }
    return places;
}

std::optional<DrawnShape> shapeOn(const Drawing& d, const PreparedRepetition& r, FrameRange range, FrameIndex frame)
{
    auto places = placesOf(d, r, frame);
    if (!places && d.kind == DrawingKind::Trail) // the ball is not seen on every picture
        places = {d.at.front().at};
    if (!places)
        return std::nullopt;
    return ShapeMaker(d, r, std::move(*places)).make(range, frame);
}

} // namespace kestrel
