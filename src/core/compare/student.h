#pragma once

namespace kestrel {

/// Student's t distribution. \param freedom  degrees of freedom, > 0; need not be whole
/// Probability that |t| is larger than that, by the regularised incomplete beta function (Abramowitz and Stegun, 26.7).
double studentTwoSided(double t, double freedom);
/// The t for which |t| is larger with that probability. \param probability  in (0, 1)
double studentQuantile(double probability, double freedom);

} // namespace kestrel
