#pragma once

#include "core/base/error.h"

#include <memory>
#include <span>
#include <string>
#include <vector>

namespace kestrel::vision {

/// A neural network made ready to compute on one thread of this processor. For use from one thread at a time; several
/// threads take one each.
class Network {
public:
    /// \param wanted  positions of the results that are wanted, which then are all it has; empty: all. What only the others need
    /// is
    ///                not computed.
    /// Errors: those of loadTfliteModel; BadArgument when the file asks for what the library cannot do, or lacks such a result.
    static Expected<Network> load(const std::string& file, std::span<const std::size_t> wanted = {});
    /// The same once more, for another thread: what was read from the file is shared, which takes about half as long.
    Expected<Network> another() const;

    Network(Network&&) noexcept;
    Network& operator=(Network&&) noexcept;
    ~Network();

    /// To be filled before run(): rows, columns, channels.
    std::span<float> input();
    /// False: the library refused, which it does not once a network was loaded.
    bool run();
    /// The n-th result of the last run, in the wanted or else the file's order; zeros before the first.
    std::span<const float> output(std::size_t n) const;
    std::size_t outputs() const;

private:
    class Impl;
    explicit Network(std::unique_ptr<Impl>);
    std::unique_ptr<Impl> m_impl;
};

} // namespace kestrel::vision
