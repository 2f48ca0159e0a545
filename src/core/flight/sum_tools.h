#pragma once

#include "core/flight/flight.h"
#include "core/flight/sum.h"

#include <string>

/// What the cards share.
namespace kestrel::sums {

/// A number of the input.
double get(const SumInput&, const char* variable);
/// How well it is known, one standard deviation: by the film where the number is from one, else as usual.
double sigmaOf(const SumInput&, const SumVariable&);
/// Short: three digits at most.
std::string text(double);
/// "5.1 to 6.3 degrees"
std::string range(const SumResult&);

/// Results by name, of exact numbers.
using Values = std::vector<std::pair<std::string, double>>;
/// The model of a flight with the input's ball and air. \param backspin  turns a minute
FlightModel model(const SumInput&, double backspin);

/// How far the results move when what is uncertain moves: variables by their standard deviations, the ball's drag over the range
/// that papers give. Fixed samples (a Halton sequence), so that the same input has the same range: the 5th and the 95th
/// hundredth. A sample without an answer is left out. \param names  what a result is called, and its unit
struct ResultName {
    const char *name, *unit, *words;
};
Expected<std::vector<SumResult>> withRanges(const SumCard&, const SumInput&, const std::vector<ResultName>& names,
                                            const std::function<Expected<Values>(const SumInput&)>& exact, int samples = 32);

/// "baseball: 0.145 kg, 73.7 mm, drag coefficient 0.35 (papers 0.30 to 0.42)", the air, gravity.
std::vector<std::string> assumptions(const SumInput&);

/// The path of a flight as a line.
SumPicture::Line lineOf(const std::vector<FlightState>&, SumPicture::Line::Kind, std::string label = {});
SumPicture::Line lineOf(std::initializer_list<SumPicture::Point>, SumPicture::Line::Kind, std::string label = {});

// the cards, by what they are about
std::vector<SumCard> pitchingCards(); ///< pitch plane, flight time, swing, release further out, leaning back
std::vector<SumCard> courtCards();    ///< serve window, a step in, jump shot
std::vector<SumCard> filmCards();     ///< spin, pictures needed, ball speed, repetitions needed
std::vector<SumCard> bodyCards();     ///< pull, growth

} // namespace kestrel::sums
