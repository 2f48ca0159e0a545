#pragma once

namespace kestrel {

/// The calling thread, and those it starts from now on, give way to the others: a person waits for the window.
/// Once for each thread; asking again changes nothing.
void standBack();

} // namespace kestrel
