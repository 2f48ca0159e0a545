#include "look/drawing_overlays.h"

#include "core/drawing/drawing_value.h"

namespace kestrel::look {

std::vector<Overlay> drawingOverlays(const std::vector<Drawing>& drawings, const PreparedRepetition& prepared,
                                     FrameRange repetition, FrameIndex frame, const Strobes& strobes)
{
    std::vector<Overlay> overlays;
    for (const auto& [drawing, strobe] : strobes) // under everything else
        if (const auto range = rangeOf(drawing.lives, prepared.marking(), repetition); range && range->contains(frame))
            addStrobe(strobe, frame, overlays);
    for (const auto& d : drawings) {
        const auto range = rangeOf(d.lives, prepared.marking(), repetition);
        if (!range || !range->contains(frame) || d.hides)
            continue;
        auto shape = shapeOn(d, prepared, *range, frame);
        if (!shape)
            continue;
        DrawingOverlay overlay;
        overlay.shape = std::move(*shape);
        overlay.isThick = d.isThick;
        overlay.label = QString::fromStdString(wordsOn(d, prepared, *range, frame));
        overlays.emplace_back(std::move(overlay));
    }
    return overlays;
}

Expected<Strobes> makeStrobes(media::Film& film, const std::vector<Drawing>& drawings, const Marking& marking,
                              FrameRange repetition, const HidePicture& hide, std::stop_token stop)
{
    Strobes strobes;
    for (const auto& d : drawings) {
        const auto range = d.kind == DrawingKind::Strobe ? rangeOf(d.lives, marking, repetition) : std::nullopt;
        if (!range)
            continue;
        auto strobe = makeStrobe(film, d, *range, hide, stop);
        if (!strobe)
            return tl::unexpected(strobe.error());
        strobes.emplace_back(d, std::move(*strobe));
    }
    return strobes;
}

FigureOverlay readingOverlay(const Reading& r, bool hasNumber)
{
    QString label;
    if (hasNumber && r.value && r.uncertainty && !r.saysNothing())
        label = QString::fromStdString(withUnit(*r.value, r.unit) + " " + plusMinus(kWhisker * *r.uncertainty, r.unit));
    return {r.figure, label};
}

} // namespace kestrel::look
