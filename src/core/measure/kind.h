#pragma once

#include "core/base/unit.h"
#include "core/measure/figure.h"
#include "core/measure/verdict.h"
#include "core/scene/prepared_repetition.h"

#include <functional>
#include <span>
#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <vector>

namespace kestrel {

/// Why a measure has no value, as the verdict it leads to and a sentence.
struct NoReading {
    Verdict verdict = Verdict::NotMarked;
    std::string why;
};
using Outcome = tl::expected<double, NoReading>;

/// When a kind is evaluated: at one key position, or from one to another.
enum class When { At, Span };

/// What a formula may ask about one repetition: its operands' points and the instants, under one draw of the errors.
class MeasureInput {
public:
    /// \param from  equals \p to for a kind evaluated at one instant
    MeasureInput(const PreparedRepetition& repetition, std::span<const PointPath> operands, FramePosition from, FramePosition to);

    /// Another draw; the instants move by the given number of frames.
    MeasureInput under(ErrorSample sample, double fromShift, double toShift) const;

    /// The same span, cut off at an instant inside it.
    MeasureInput until(FramePosition) const;

    FramePosition at() const { return m_to; }
    FramePosition from() const { return m_from; }
    FramePosition to() const { return m_to; }
    /// Seconds of real time between the two instants, positive when `to` is later.
    double duration() const;
    ErrorSample sample() const { return m_draw; }
    const PreparedRepetition& repetition() const { return *m_repetition; }
    std::optional<double> heightMetres() const { return m_repetition->marking().athlete.heightMetres; }

    std::optional<BodyPoint> point(std::size_t operand) const { return pointAt(operand, m_to, m_nominalTo); }
    std::optional<BodyPoint> pointAtStart(std::size_t operand) const { return pointAt(operand, m_from, m_nominalFrom); }
    /// Calls \p visit(frame, point) for the start, every marked whole frame between and the end, in time order. Between the
    /// ends the way is smoothed where it is marked closely enough, so that the largest value of many is not the noise's.
    void alongSpan(std::size_t operand, const std::function<void(FramePosition, BodyPoint)>& visit) const;
    /// The marked whole frames of the span as they were marked: what rates are taken from.
    void eachMarked(std::size_t operand, const std::function<void(FramePosition, BodyPoint)>& visit) const;
    std::optional<BodyPoint> pointOn(std::size_t operand, FramePosition p) const { return m_operands[operand].markAt(p, m_draw); }

    std::optional<ImagePoint> image(std::size_t operand) const { return m_operands[operand].imageAt(m_to); }
    std::optional<ImagePoint> imageAtStart(std::size_t operand) const { return m_operands[operand].imageAt(m_from); }
    ImagePoint toImage(BodyPoint p) const { return m_repetition->scene().toImage(p); }

    /// NotMarked, naming the first operand that is missing at the end (or the start) of the span.
    NoReading missing() const;

private:
    /// At the shifted instant if the frames beside it are marked, else at the instant itself.
    std::optional<BodyPoint> pointAt(std::size_t operand, FramePosition shifted, FramePosition nominal) const;

    const PreparedRepetition* m_repetition;
    std::span<const PointPath> m_operands;
    FramePosition m_from, m_to, m_nominalFrom, m_nominalTo;
    ErrorSample m_draw;
};

/// One repetition filmed from a side and from the front or rear at once, each with its own marks, scale and key positions.
struct TwoViews {
    const MeasureInput& along;  ///< x toward the target
    const MeasureInput& across; ///< x toward the dominant side
    bool leadIsDom = false;     ///< of the pack
};

/// A kind of measure: what it needs, what it yields and its formula. A measure is a kind applied to points and key
/// positions, and is written in a pack.
struct MeasureKind {
    std::string_view id;
    std::string_view meaning; ///< one sentence with sign and zero
    Quantity quantity;
    int points; ///< number of operands
    When when;
    bool wraps;                  ///< an angle whose difference is taken modulo 360 degrees
    std::span<const View> views; ///< views in which the formula can hold; a pack may narrow them
    Outcome (*value)(const MeasureInput&);
    void (*figure)(const MeasureInput&, Figure&); ///< adds strokes; adds none when points are missing
    /// The true value from two views, where one camera only estimates it or cannot see it. Null: two are no better than one.
    /// Empty: points are missing.
    std::optional<double> (*fromTwo)(const TwoViews&) = nullptr;
};

/// Views in which lengths along the target line lie in the picture plane, across it, and any view.
std::span<const View> viewsAlong();
std::span<const View> viewsAcross();
std::span<const View> viewsAny();
/// From above only.
std::span<const View> viewsAbove();

/// Every kind there is. A new one is one file and one line in kinds.cpp.
std::span<const MeasureKind* const> measureKinds();
const MeasureKind* findMeasureKind(std::string_view id);

// Strokes several kinds share.
void addSegment(Figure&, std::initializer_list<std::optional<ImagePoint>>);
void addGuide(Figure&, ImagePoint from, ImagePoint to);
void addArc(Figure&, std::optional<ImagePoint> a, std::optional<ImagePoint> vertex, std::optional<ImagePoint> b);
void addDot(Figure&, std::optional<ImagePoint>);

} // namespace kestrel
