#include "vision/tflite_model.h"

#include <algorithm>
#include <bit>
#include <cstring>
#include <fstream>
#include <limits>
#include <optional>
#include <sstream>

namespace kestrel::vision {

namespace {

/// Thrown where the file contradicts itself, and caught by loadTfliteModel.
struct Damage {
    ErrorCode code = ErrorCode::Damaged;
    std::string message = "This network's file is damaged.";
};

/// The file's bytes; every access is checked.
class Bytes {
public:
    explicit Bytes(std::string content) : m_content(std::move(content)) {}
    template <class T> T at(std::size_t offset) const
    {
        check(offset, sizeof(T));
        T value;
        std::memcpy(&value, m_content.data() + offset, sizeof(T));
        return value;
    }
    template <class T> std::vector<T> all(std::size_t offset, std::size_t count) const
    {
        check(offset, count * sizeof(T));
        std::vector<T> values(count);
        if (count > 0)
            std::memcpy(values.data(), m_content.data() + offset, count * sizeof(T));
        return values;
    }

private:
    void check(std::size_t offset, std::size_t size) const
    {
        if (size > m_content.size() || offset > m_content.size() - size)
            throw Damage{};
    }

    std::string m_content;
};

/// The place of something the file refers to by a distance from the reference itself.
std::size_t follow(const Bytes& bytes, std::size_t reference)
{
    return reference + bytes.at<std::uint32_t>(reference);
}

/// A list in the file: its length, then its elements.
class List {
public:
    List() = default;
    List(const Bytes& bytes, std::size_t at) : m_bytes(&bytes), m_first(at + 4), m_size(bytes.at<std::uint32_t>(at)) {}
    std::size_t size() const { return m_size; }
    template <class T> T at(std::size_t n) const
    {
        if (n >= m_size)
            throw Damage{};
        return m_bytes->at<T>(m_first + n * sizeof(T));
    }
    template <class T> std::vector<T> all() const { return first<T>(m_size); }
    template <class T> std::vector<T> first(std::size_t count) const
    {
        return m_bytes ? m_bytes->all<T>(m_first, count) : std::vector<T>();
    }
    /// Of a list of tables.
    std::size_t placeOf(std::size_t n) const
    {
        if (n >= m_size)
            throw Damage{};
        return follow(*m_bytes, m_first + 4 * n);
    }

private:
    const Bytes* m_bytes = nullptr;
    std::size_t m_first = 0, m_size = 0;
};

/// A record of numbered fields, of which any may be absent.
class Table {
public:
    Table(const Bytes& bytes, std::size_t at) : m_bytes(&bytes), m_at(at), m_fields(at - bytes.at<std::int32_t>(at)) {}
    template <class T> T number(int field, T absent) const
    {
        const auto place = find(field);
        return place ? m_bytes->at<T>(*place) : absent;
    }
    List list(int field) const
    {
        const auto place = find(field);
        return place ? List(*m_bytes, follow(*m_bytes, *place)) : List();
    }
    std::optional<Table> table(int field) const
    {
        const auto place = find(field);
        return place ? std::optional(Table(*m_bytes, follow(*m_bytes, *place))) : std::nullopt;
    }
    std::vector<Table> tables(int field) const
    {
        const List places = list(field);
        std::vector<Table> all;
        for (std::size_t n = 0; n < places.size(); ++n)
            all.emplace_back(*m_bytes, places.placeOf(n));
        return all;
    }

private:
    std::optional<std::size_t> find(int field) const
    {
        const std::size_t entry = 4 + 2 * static_cast<std::size_t>(field);
        if (entry + 2 > m_bytes->at<std::uint16_t>(m_fields))
            return std::nullopt;
        const auto offset = m_bytes->at<std::uint16_t>(m_fields + entry);
        return offset ? std::optional(m_at + offset) : std::nullopt;
    }

    const Bytes* m_bytes;
    std::size_t m_at, m_fields;
};

/// Without branches, so that the compiler converts several at once.
float fromHalf(std::uint16_t h)
{
    const std::uint32_t exponent = h & 0x7c00u, wide = (h & 0x7fffu) << 13;
    const float small = static_cast<float>(static_cast<std::int32_t>(h & 0x3ffu)) * 0x1p-24f; // no leading one
    const std::uint32_t bits = exponent == 0         ? std::bit_cast<std::uint32_t>(small)
                               : exponent == 0x7c00u ? wide | 0x7f800000u
                                                     : wide + (112u << 23);
    return std::bit_cast<float>(bits | (h & 0x8000u) << 16);
}

// Numbers of fields, types and operators, from the format's schema.
enum ModelField { kOperatorCodes = 1, kSubgraphs = 2, kBuffers = 4 };
enum GraphField { kTensors = 0, kInputs = 1, kOutputs = 2, kOperators = 3 };
enum TensorField { kShape = 0, kType = 1, kBuffer = 2, kSparsity = 6 };
enum OperatorField { kCode = 0, kNodeInputs = 1, kNodeOutputs = 2, kOptions = 4 };
enum TensorType { kFloat32 = 0, kFloat16 = 1, kInt32 = 2 };
enum Code {
    kAdd = 0,
    kConcatenation = 2,
    kConv2d = 3,
    kDepthwiseConv2d = 4,
    kDepthToSpace = 5,
    kDequantize = 6,
    kLogistic = 14,
    kMaxPool2d = 17,
    kReshape = 22,
    kResizeBilinear = 23,
    kPad = 34,
    kDensify = 124
};

std::size_t countOf(const std::vector<int>& shape)
{
    std::size_t count = 1;
    for (const int n : shape) {
        if (n <= 0 || count > (std::size_t(1) << 28) / static_cast<std::size_t>(n))
            throw Damage{};
        count *= static_cast<std::size_t>(n);
    }
    return count;
}

/// Integers kept in a table of one list: 32, 16 or 8 bits wide, as its kind says.
std::vector<std::int32_t> indexList(const Table& dimension, int kindField)
{
    const auto kind = dimension.number<std::uint8_t>(kindField, 0);
    const auto table = dimension.table(kindField + 1);
    std::vector<std::int32_t> values;
    if (!table)
        return values;
    const List list = table->list(0);
    for (std::size_t n = 0; n < list.size(); ++n)
        values.push_back(kind == 1 ? list.at<std::int32_t>(n) : kind == 2 ? list.at<std::uint16_t>(n) : list.at<std::uint8_t>(n));
    return values;
}

/// Sparse along the last dimension: for each row where its entries begin, and for each entry its column.
std::vector<float> dense(const std::vector<float>& entries, const Table& sparsity, const std::vector<int>& shape)
{
    const auto dimensions = sparsity.tables(2);
    if (dimensions.size() != shape.size() || shape.empty() || sparsity.list(1).size() > 0)
        throw Damage{ErrorCode::BadArgument, "This network's sparse weights are laid out in a way that is not understood."};
    const auto starts = indexList(dimensions.back(), 2), columns = indexList(dimensions.back(), 4);
    std::vector<float> values(countOf(shape));
    const auto width = static_cast<std::size_t>(shape.back());
    if (starts.size() != values.size() / width + 1 || columns.size() != entries.size())
        throw Damage{};
    for (std::size_t row = 0; row + 1 < starts.size(); ++row)
        for (int n = starts[row]; n < starts[row + 1]; ++n) {
            if (n < 0 || static_cast<std::size_t>(n) >= entries.size() || columns[n] < 0 ||
                static_cast<std::size_t>(columns[n]) >= width)
                throw Damage{};
            values[row * width + static_cast<std::size_t>(columns[n])] = entries[static_cast<std::size_t>(n)];
        }
    return values;
}

Tensor readTensor(const Table& tensor, const std::vector<Table>& buffers)
{
    Tensor t;
    for (const auto n : tensor.list(kShape).all<std::int32_t>())
        t.shape.push_back(n);
    const auto buffer = tensor.number<std::uint32_t>(kBuffer, 0);
    if (buffer >= buffers.size())
        throw Damage{};
    const List data = buffers[buffer].list(0);
    if (data.size() == 0)
        return t;
    switch (tensor.number<std::int8_t>(kType, 0)) {
    case kFloat32:
        t.values = data.first<float>(data.size() / 4); // these lists count bytes
        break;
    case kFloat16: {
        const auto halves = data.first<std::uint16_t>(data.size() / 2);
        t.values.resize(halves.size());
        std::transform(halves.begin(), halves.end(), t.values.begin(), fromHalf);
        break;
    }
    case kInt32:
        t.integers = data.first<std::int32_t>(data.size() / 4);
        return t;
    default:
        throw Damage{ErrorCode::BadArgument, "This network holds numbers of a kind that is not understood."};
    }
    if (const auto sparsity = tensor.table(kSparsity))
        t.values = dense(t.values, *sparsity, t.shape);
    if (t.values.size() != countOf(t.shape))
        throw Damage{};
    return t;
}

void holdWithin(Node& node, std::int8_t activation)
{
    constexpr float kInfinity = std::numeric_limits<float>::infinity();
    node.least = activation == 1 || activation == 3 ? 0.0f : activation == 2 ? -1.0f : -kInfinity;
    node.most = activation == 3 ? 6.0f : activation == 2 ? 1.0f : kInfinity;
    if (activation < 0 || activation > 3)
        throw Damage{ErrorCode::BadArgument, "This network uses an activation that is not understood."};
}

void readStrides(Node& node, const Table& options)
{
    node.isSame = options.number<std::int8_t>(0, 0) == 0;
    node.strideX = options.number<std::int32_t>(1, 0);
    node.strideY = options.number<std::int32_t>(2, 0);
    if (node.strideX < 1 || node.strideY < 1)
        throw Damage{};
}

Node readNode(const Table& op, int code)
{
    Node node;
    for (const auto n : op.list(kNodeInputs).all<std::int32_t>())
        node.inputs.push_back(n);
    for (const auto n : op.list(kNodeOutputs).all<std::int32_t>())
        node.outputs.push_back(n);
    if (node.inputs.empty() || node.outputs.size() != 1)
        throw Damage{};
    holdWithin(node, 0);
    const auto options = op.table(kOptions);
    const auto needOptions = [&]() -> const Table& {
        if (!options)
            throw Damage{};
        return *options;
    };
    switch (code) {
    case kAdd:
        node.op = Operator::Add;
        if (options)
            holdWithin(node, options->number<std::int8_t>(0, 0));
        break;
    case kConcatenation:
        node.op = Operator::Concatenate;
        break;
    case kConv2d:
        node.op = Operator::Convolve;
        readStrides(node, needOptions());
        holdWithin(node, options->number<std::int8_t>(3, 0));
        break;
    case kDepthwiseConv2d:
        node.op = Operator::ConvolveDepthwise;
        readStrides(node, needOptions());
        holdWithin(node, options->number<std::int8_t>(4, 0));
        break;
    case kDepthToSpace:
        node.op = Operator::DepthToSpace;
        node.blockSize = needOptions().number<std::int32_t>(0, 0);
        break;
    case kLogistic:
        node.op = Operator::Logistic;
        break;
    case kMaxPool2d:
        node.op = Operator::MaxPool;
        readStrides(node, needOptions());
        node.filterX = options->number<std::int32_t>(3, 0);
        node.filterY = options->number<std::int32_t>(4, 0);
        holdWithin(node, options->number<std::int8_t>(5, 0));
        break;
    case kReshape:
        node.op = Operator::Reshape;
        break;
    case kResizeBilinear:
        node.op = Operator::ResizeBilinear;
        if (needOptions().number<std::uint8_t>(2, 0) != 0 || options->number<std::uint8_t>(3, 0) == 0)
            throw Damage{ErrorCode::BadArgument, "This network enlarges pictures in a way that is not understood."};
        break;
    case kPad:
        node.op = Operator::Pad;
        break;
    default:
        throw Damage{ErrorCode::BadArgument,
                     "This network uses the operator " + std::to_string(code) + ", which is not understood."};
    }
    return node;
}

/// Indices of tensors; an absent one (-1) may follow in a node's inputs.
void checkIndices(const std::vector<int>& indices, std::size_t tensors)
{
    for (const int n : indices)
        if (n < 0 || static_cast<std::size_t>(n) >= tensors)
            throw Damage{};
}

Model readModel(const Bytes& bytes)
{
    const Table root(bytes, follow(bytes, 0));
    std::vector<int> codes;
    for (const Table& c : root.tables(kOperatorCodes))
        codes.push_back(std::max<int>(c.number<std::int8_t>(0, 0), c.number<std::int32_t>(3, 0)));
    const auto graphs = root.tables(kSubgraphs);
    if (graphs.size() != 1)
        throw Damage{};
    const Table& graph = graphs.front();
    const auto buffers = root.tables(kBuffers);
    Model model;
    for (const Table& t : graph.tables(kTensors))
        model.tensors.push_back(readTensor(t, buffers));
    for (const auto n : graph.list(kInputs).all<std::int32_t>())
        model.inputs.push_back(n);
    for (const auto n : graph.list(kOutputs).all<std::int32_t>())
        model.outputs.push_back(n);
    checkIndices(model.inputs, model.tensors.size());
    checkIndices(model.outputs, model.tensors.size());
    for (const Table& op : graph.tables(kOperators)) {
        const auto code = op.number<std::uint32_t>(kCode, 0);
        if (code >= codes.size())
            throw Damage{};
        if (codes[code] == kDequantize || codes[code] == kDensify) { // constants: all of them are wide and dense here already
            const auto from = op.list(kNodeInputs).at<std::int32_t>(0), to = op.list(kNodeOutputs).at<std::int32_t>(0);
            checkIndices({from, to}, model.tensors.size());
            model.tensors[to].values = model.tensors[from].values;
            continue;
        }
        model.nodes.push_back(readNode(op, codes[code]));
        checkIndices(model.nodes.back().inputs, model.tensors.size());
        checkIndices(model.nodes.back().outputs, model.tensors.size());
    }
    return model;
}

} // namespace

Expected<Model> loadTfliteModel(const std::string& file)
{
    std::ifstream stream(file, std::ios::binary);
    if (!stream)
        return fail(ErrorCode::CannotOpen, "This network's file cannot be read.", file);
    std::ostringstream content; // as a whole: byte by byte it takes longer than all the rest of reading
    content << stream.rdbuf();
    const Bytes bytes(std::move(content).str());
    try {
        constexpr std::uint32_t kTfl3 = 0x334c4654; // "TFL3"
        if (bytes.at<std::uint32_t>(4) != kTfl3)
            return fail(ErrorCode::WrongVersion, "This is no network: it does not begin as one.", file);
        return readModel(bytes);
    } catch (const Damage& d) {
        return fail(d.code, d.message, file);
    }
}

bool keepOutputs(Model& model, std::span<const std::size_t> wanted)
{
    std::vector<int> outputs;
    std::vector<bool> isNeeded(model.tensors.size(), false);
    for (const std::size_t n : wanted) {
        if (n >= model.outputs.size())
            return false;
        outputs.push_back(model.outputs[n]);
        isNeeded[static_cast<std::size_t>(outputs.back())] = true;
    }
    std::vector<Node> nodes;
    for (auto node = model.nodes.rbegin(); node != model.nodes.rend(); ++node) {
        const bool isOfUse = std::any_of(node->outputs.begin(), node->outputs.end(), [&](int t) { return isNeeded[t]; });
        if (!isOfUse)
            continue;
        for (const int t : node->inputs)
            if (t >= 0) // else an operand that is left out
                isNeeded[t] = true;
        nodes.push_back(std::move(*node));
    }
    std::reverse(nodes.begin(), nodes.end());
    model.nodes = std::move(nodes);
    model.outputs = std::move(outputs);
    return true;
}

} // namespace kestrel::vision
