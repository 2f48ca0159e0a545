#include "core/scene/drawing.h"

#include "core/base/word_table.h"

#include <algorithm>

namespace kestrel {

namespace {

constexpr WordRow<DrawingKind> kKinds[] = {
    {DrawingKind::Line, "line"},   {DrawingKind::Arrow, "arrow"},  {DrawingKind::Path, "path"},   {DrawingKind::Circle, "circle"},
    {DrawingKind::Box, "box"},     {DrawingKind::Angle, "angle"},  {DrawingKind::Wedge, "wedge"}, {DrawingKind::Level, "level"},
    {DrawingKind::Plumb, "plumb"}, {DrawingKind::Grid, "grid"},    {DrawingKind::Clock, "clock"}, {DrawingKind::Label, "label"},
    {DrawingKind::Trail, "trail"}, {DrawingKind::Strobe, "strobe"}};

} // namespace

PinCount pinCountOf(DrawingKind kind)
{
    switch (kind) {
    case DrawingKind::Line:
    case DrawingKind::Arrow:
    case DrawingKind::Box:
        return {2, 2};
    case DrawingKind::Path:
        return {2, kMostPins};
    case DrawingKind::Angle:
        return {3, 3};
    case DrawingKind::Wedge:
        return {4, 4};
    case DrawingKind::Strobe:
        return {0, 0};
    default:
        return {1, 1};
    }
}

bool isMeasured(DrawingKind kind)
{
    return kind == DrawingKind::Line || kind == DrawingKind::Arrow || kind == DrawingKind::Angle || kind == DrawingKind::Wedge;
}

bool hasRadius(DrawingKind kind)
{
    return kind == DrawingKind::Circle || kind == DrawingKind::Clock;
}

bool isShared(const Drawing& d)
{
    return d.lives.on == Lives::On::KeyPosition && !d.at.empty() &&
           std::all_of(d.at.begin(), d.at.end(), [](const Pin& pin) { return pin.landmark.has_value(); });
}

std::string_view wordOf(DrawingKind kind)
{
    return wordIn(kKinds, kind);
}

std::optional<DrawingKind> findDrawingKind(std::string_view word)
{
    return findIn(kKinds, word);
}

} // namespace kestrel
