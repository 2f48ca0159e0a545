#pragma once

#include "core/judge/review.h"
#include "core/pack/pack.h"
#include "core/scene/marking.h"
#include "sim/simulate.h"

#include <string>

namespace kestrel::test {

/// The shipped overhand-pitch pack.
const Pack& pitchPack();
/// Of every pack that comes with the program.
std::string packFolder();

/// A marking without marks: 100 frames at 100 per second, side view, target right, 1 m = 100 pixels, a right-hander of
/// 1.60 m. Body coordinates in metres then are x/100 and -y/100.
Marking plainMarking();
void place(Marking&, const std::string& keyPosition, double frame, double uncertaintyFrames = 0);
/// Exact (sigma 0) unless said otherwise.
void mark(Marking&, int frame, const std::string& landmark, double x, double y, double sigma = 0);

/// One measure "m": a kind applied to points at "a", or from "a" to "b"; schools "one" and "two".
Pack packOfOne(const char* kind, const std::vector<const char*>& points, Unit, bool isSpan, View, Band, double margin = 0);

/// A simulated pitch, or a failed test.
sim::Simulated simulated(const sim::SimulateOptions&);
/// Options of a pitch: view, and faults at full amount.
sim::SimulateOptions pitch(View view = View::Side, std::vector<std::string> faults = {});

/// Judged with the shipped pack.
Review reviewOf(const Marking&, const std::string& school = {});

/// What the file holds; empty when it cannot be read.
std::string contentOf(const std::string& file);
void writeFile(const std::string& file, const std::string& content);

} // namespace kestrel::test
