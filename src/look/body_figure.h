#pragma once

#include "core/scene/marking.h"

#include "look/palette.h"

#include <QRectF>

#include <map>
#include <optional>
#include <vector>

class QPainter;

namespace kestrel::look {

/// A body drawn from its marked points: the lead side solid, the trail side dashed, the dominant arm in its own tone.
class BodyFigure {
public:
    /// The marks on one frame. Too few marks give an empty figure.
    BodyFigure(const Marking&, FrameIndex);
    /// A standing body for the guide, seen from the athlete's chest side.
    static BodyFigure standing(Hand);

    /// Without head, shoulder and hip there is no figure.
    bool isEmpty() const;
    /// Pixels of the film from the top of the body to its lowest point.
    double height() const;

    /// Into the box, standing on its lower edge. \param scale  widget pixels per film pixel; 0: as fits
    /// \param t  colours
    /// \param highlighted  drawn as a ring in the eye-ring tone
    void paint(QPainter&, const QRectF& box, double scale, const Palette& t,
               const std::optional<Landmark>& highlighted = {}) const;

    /// The lines of the body between its points, in pixels of the film.
    std::vector<std::vector<ImagePoint>> lines() const;

private:
    BodyFigure() = default;
    /// One line of the body.
    struct Limb {
        enum class Tone { Trunk, Leg, DominantArm, OtherArm } tone;
        std::vector<ImagePoint> points; ///< two or more
        bool isTrailLeg = false;
    };
    std::vector<Limb> limbs() const;
    std::optional<ImagePoint> find(Part, BodySide) const;
    std::optional<ImagePoint> middle(Part) const; ///< of both sides; of the one that is marked
    std::map<Landmark, ImagePoint> m_points;
    Hand m_hand = Hand::Right;
};

} // namespace kestrel::look
