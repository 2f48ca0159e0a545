#pragma once

#include "sim/painter.h"
#include "sim/simulate.h"

namespace kestrel::sim {

/// Paints what was simulated, with all that can be wrong with a film. Outlived by what it was made for.
class FilmMaker {
public:
    explicit FilmMaker(const Simulated&);

    /// As the camera took it.
    QImage picture(std::size_t frame);
    /// One instant, without any fault of the film.
    QImage moment(double seconds);

private:
    double movement(double from, double to) const;
    QImage smeared(double seconds);
    QImage rolled(double seconds);
    void spoil(QImage&, std::size_t frame) const;

    const Simulated& m_s;
    const FilmFaults& m_film;
    ScenePainter m_painter;
    double m_heldUntil = -1e9; // seconds: the throwing hand is closed round the ball
};

} // namespace kestrel::sim
