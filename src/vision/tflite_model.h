#pragma once

#include "core/base/error.h"

#include <span>
#include <string>
#include <vector>

namespace kestrel::vision {

/// The operators the pose networks are made of.
enum class Operator {
    Add,
    Concatenate,
    Convolve,
    ConvolveDepthwise,
    DepthToSpace,
    Logistic,
    MaxPool,
    Pad,
    Reshape,
    ResizeBilinear
};

/// Shape in the order batch, rows, columns, channels.
struct Tensor {
    std::vector<int> shape;
    std::vector<float> values;          ///< of a constant; empty: computed
    std::vector<std::int32_t> integers; ///< of an integer constant
};

struct Node {
    Operator op{};
    std::vector<int> inputs, outputs; ///< positions in Model::tensors
    int strideX = 1, strideY = 1;
    int filterX = 1, filterY = 1; ///< of a pool
    int blockSize = 1;            ///< of DepthToSpace
    bool isSame = false;          ///< padded so that the size is that of the input over the stride
    float least = 0, most = 0;    ///< what the results are held within; -inf and inf: not held
};

/// A network as its file describes it, with all weights turned into 32-bit numbers.
struct Model {
    std::vector<Tensor> tensors;
    std::vector<Node> nodes; ///< in the order to compute them
    std::vector<int> inputs, outputs;
};

/// Reads a .tflite file: a flat buffer with the identifier TFL3. Only what the pose networks use is understood: half
/// precision weights, dense or sparse along the last dimension. Every offset is checked.
/// Errors: CannotOpen; WrongVersion when it is no such file; Damaged; BadArgument for an operator not listed above.
Expected<Model> loadTfliteModel(const std::string& file);

/// Leaves of its outputs those at the given positions, in that order, and of its nodes what they are computed from.
/// False: there is no such output.
bool keepOutputs(Model&, std::span<const std::size_t> wanted);

} // namespace kestrel::vision
