#include "vision/network.h"

#include "vision/tflite_model.h"

#include <algorithm>
#include <array>
#include <map>
#include <xnnpack.h>

namespace kestrel::vision {

namespace {

struct DeleteSubgraph {
    void operator()(xnn_subgraph_t s) const { xnn_delete_subgraph(s); }
};
struct DeleteRuntime {
    void operator()(xnn_runtime_t r) const { xnn_delete_runtime(r); }
};
using Subgraph = std::unique_ptr<xnn_subgraph, DeleteSubgraph>;
using Runtime = std::unique_ptr<xnn_runtime, DeleteRuntime>;

constexpr std::size_t kSpare = XNN_EXTRA_BYTES / sizeof(float); // the library may read that far beyond the end

std::size_t countOf(const Tensor& t)
{
    std::size_t n = 1;
    for (const int d : t.shape)
        n *= static_cast<std::size_t>(d);
    return n;
}

/// What comes in from outside or goes out: one piece of memory.
struct Port {
    std::uint32_t id = 0;
    std::size_t size = 0;
    std::vector<float> values;
};

/// Builds the library's graph from the file's. A reshape changes nothing about the numbers and their order, so that its
/// result is the tensor before it; this version of the library cannot concatenate, so that an output which is put
/// together leaves in parts.
class Builder {
public:
    explicit Builder(const Model& model) : m_model(model)
    {
        for (const Node& n : model.nodes)
            if (n.op == Operator::Reshape)
                m_same[n.outputs.front()] = n.inputs.front();
        for (const int t : model.inputs)
            addPort(t);
        for (const int t : model.outputs) {
            std::vector<std::size_t> parts;
            for (const int part : partsOf(t))
                parts.push_back(addPort(resolve(part)));
            m_outputs.push_back(parts);
        }
    }

    bool build()
    {
        xnn_subgraph_t made = nullptr;
        if (xnn_create_subgraph(static_cast<std::uint32_t>(m_ports.size()), 0, &made) != xnn_status_success)
            return false;
        m_graph.reset(made);
        for (const Node& n : m_model.nodes)
            if (n.op != Operator::Reshape && n.op != Operator::Concatenate && !define(n))
                return false;
        xnn_runtime_t runtime = nullptr;
        if (xnn_create_runtime_v2(m_graph.get(), nullptr, 0, &runtime) != xnn_status_success)
            return false;
        m_runtime.reset(runtime);
        std::vector<xnn_external_value> external;
        for (Port& p : m_ports) {
            p.values.assign(p.size + kSpare, 0.0f);
            external.push_back({p.id, p.values.data()});
        }
        return xnn_setup_runtime(m_runtime.get(), external.size(), external.data()) == xnn_status_success;
    }

    Runtime takeRuntime() { return std::move(m_runtime); }
    std::vector<Port> takePorts() { return std::move(m_ports); }
    const std::vector<std::vector<std::size_t>>& outputs() const { return m_outputs; }

private:
    int resolve(int tensor) const
    {
        for (auto same = m_same.find(tensor); same != m_same.end(); same = m_same.find(tensor))
            tensor = same->second;
        return tensor;
    }

    std::vector<int> partsOf(int tensor) const
    {
        for (const Node& n : m_model.nodes)
            if (n.op == Operator::Concatenate && n.outputs.front() == tensor)
                return n.inputs;
        return {tensor};
    }

    std::size_t addPort(int tensor)
    {
        const auto known = m_portOf.find(tensor);
        if (known != m_portOf.end())
            return known->second;
        m_ports.push_back({static_cast<std::uint32_t>(m_ports.size()), countOf(m_model.tensors[tensor]), {}});
        return m_portOf[tensor] = m_ports.size() - 1;
    }

    /// The library's number of a tensor; invalid when it cannot be defined.
    std::uint32_t id(int tensor)
    {
        tensor = resolve(tensor);
        const auto known = m_ids.find(tensor);
        if (known != m_ids.end())
            return known->second;
        const Tensor& t = m_model.tensors[tensor];
        const std::vector<std::size_t> shape(t.shape.begin(), t.shape.end());
        const auto port = m_portOf.find(tensor);
        const bool isPort = port != m_portOf.end();
        const bool isInput = isPort && std::count(m_model.inputs.begin(), m_model.inputs.end(), tensor) > 0;
        std::uint32_t made = XNN_INVALID_VALUE_ID;
        const auto status = xnn_define_tensor_value(m_graph.get(), xnn_datatype_fp32, shape.size(), shape.data(),
                                                    t.values.empty() ? nullptr : t.values.data(),
                                                    isPort ? m_ports[port->second].id : XNN_INVALID_VALUE_ID,
                                                    isInput  ? XNN_VALUE_FLAG_EXTERNAL_INPUT
                                                    : isPort ? XNN_VALUE_FLAG_EXTERNAL_OUTPUT
                                                             : 0,
                                                    &made);
        return m_ids[tensor] = status == xnn_status_success ? made : XNN_INVALID_VALUE_ID;
    }

    const Tensor& tensor(const Node& n, std::size_t input) const
    {
        static const Tensor kNone;
        return input < n.inputs.size() ? m_model.tensors[n.inputs[input]] : kNone;
    }
    /// The extent of an operand along one dimension; 0 when it has none.
    std::uint32_t extent(const Node& n, std::size_t input, std::size_t dimension) const
    {
        const auto& shape = tensor(n, input).shape;
        return dimension < shape.size() ? static_cast<std::uint32_t>(shape[dimension]) : 0;
    }

    bool define(const Node& n)
    {
        const auto in = id(n.inputs.front()), out = id(n.outputs.front());
        const std::uint32_t same = n.isSame ? XNN_FLAG_TENSORFLOW_SAME_PADDING : 0;
        const auto strideX = static_cast<std::uint32_t>(n.strideX), strideY = static_cast<std::uint32_t>(n.strideY);
        xnn_subgraph_t g = m_graph.get();
        xnn_status status = xnn_status_invalid_parameter;
        switch (n.op) {
        case Operator::Add:
            if (n.inputs.size() == 2)
                status = xnn_define_add2(g, n.least, n.most, in, id(n.inputs[1]), out, 0);
            break;
        case Operator::Convolve:
            if (n.inputs.size() == 3)
                status = xnn_define_convolution_2d(g, 0, 0, 0, 0, extent(n, 1, 1), extent(n, 1, 2), strideY, strideX, 1, 1, 1,
                                                   extent(n, 1, 3), extent(n, 1, 0), n.least, n.most, in, id(n.inputs[1]),
                                                   id(n.inputs[2]), out, same);
            break;
        case Operator::ConvolveDepthwise:
            if (n.inputs.size() == 3)
                status = xnn_define_depthwise_convolution_2d(g, 0, 0, 0, 0, extent(n, 1, 1), extent(n, 1, 2), strideY, strideX, 1,
                                                             1, 1, extent(n, 1, 3), n.least, n.most, in, id(n.inputs[1]),
                                                             id(n.inputs[2]), out, same);
            break;
        case Operator::DepthToSpace:
            status = xnn_define_depth_to_space(g, in, out, static_cast<std::uint32_t>(n.blockSize), 0);
            break;
        case Operator::Logistic:
            status = xnn_define_sigmoid(g, in, out, 0);
            break;
        case Operator::MaxPool:
            status = xnn_define_max_pooling_2d(g, 0, 0, 0, 0, static_cast<std::uint32_t>(n.filterY),
                                               static_cast<std::uint32_t>(n.filterX), strideY, strideX, 1, 1, n.least, n.most, in,
                                               out, same);
            break;
        case Operator::Pad:
            status = definePad(n, in, out);
            break;
        case Operator::ResizeBilinear: {
            const auto& shape = m_model.tensors[n.outputs.front()].shape;
            if (shape.size() == 4)
                status = xnn_define_static_resize_bilinear_2d(g, static_cast<std::size_t>(shape[1]),
                                                              static_cast<std::size_t>(shape[2]), in, out, 0);
            break;
        }
        case Operator::Reshape:
        case Operator::Concatenate:
            return true;
        }
        return status == xnn_status_success;
    }

    xnn_status definePad(const Node& n, std::uint32_t in, std::uint32_t out)
    {
        const auto& pads = tensor(n, 1).integers; // before and after, for each dimension
        const std::size_t dimensions = tensor(n, 0).shape.size();
        if (pads.size() != 2 * dimensions || dimensions > XNN_MAX_TENSOR_DIMS)
            return xnn_status_invalid_parameter;
        std::array<std::size_t, XNN_MAX_TENSOR_DIMS> before{}, after{};
        for (std::size_t d = 0; d < dimensions; ++d) {
            if (pads[2 * d] < 0 || pads[2 * d + 1] < 0)
                return xnn_status_invalid_parameter;
            before[d] = static_cast<std::size_t>(pads[2 * d]);
            after[d] = static_cast<std::size_t>(pads[2 * d + 1]);
        }
        return xnn_define_static_constant_pad(m_graph.get(), before.data(), after.data(), 0, in, out, 0);
    }

    const Model& m_model;
    Subgraph m_graph;
    Runtime m_runtime;
    std::map<int, int> m_same;           // a reshape's result -> what it is made of
    std::map<int, std::size_t> m_portOf; // tensor -> position in m_ports
    std::map<int, std::uint32_t> m_ids;  // tensor -> the library's number
    std::vector<Port> m_ports;           // the input first
    std::vector<std::vector<std::size_t>> m_outputs;
};

} // namespace

class Network::Impl {
public:
    std::shared_ptr<const Model> model; // the library keeps pointers to the weights
    Runtime runtime;
    std::vector<Port> ports;
    /// Each output is a port, or is put together from several after each run.
    struct Output {
        std::vector<std::size_t> parts;
        std::vector<float> joined;
    };
    std::vector<Output> outputs;

    /// Null: it cannot be built.
    static std::unique_ptr<Impl> make(std::shared_ptr<const Model> model)
    {
        Builder builder(*model);
        if (!builder.build())
            return nullptr;
        auto impl = std::make_unique<Impl>();
        impl->model = std::move(model);
        impl->runtime = builder.takeRuntime();
        impl->ports = builder.takePorts();
        for (const auto& parts : builder.outputs())
            impl->outputs.push_back({parts, impl->joined(parts)});
        return impl;
    }

    std::vector<float> joined(const std::vector<std::size_t>& parts) const
    {
        std::vector<float> all;
        if (parts.size() > 1)
            for (const auto part : parts)
                all.insert(all.end(), ports[part].values.begin(),
                           ports[part].values.begin() + static_cast<std::ptrdiff_t>(ports[part].size));
        return all;
    }
};

Network::Network(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
Network::Network(Network&&) noexcept = default;
Network& Network::operator=(Network&&) noexcept = default;
Network::~Network() = default;

Expected<Network> Network::load(const std::string& file, std::span<const std::size_t> wanted)
{
    auto model = loadTfliteModel(file);
    if (!model)
        return tl::unexpected(model.error());
    if (xnn_initialize(nullptr) != xnn_status_success)
        return fail(ErrorCode::BadArgument, "This processor cannot run networks.", file);
    if (model->inputs.size() != 1)
        return fail(ErrorCode::BadArgument, "This network takes other inputs than one picture.", file);
    if (!wanted.empty() && !keepOutputs(*model, wanted))
        return fail(ErrorCode::BadArgument, "This network gives fewer results than are needed.", file);
    auto impl = Impl::make(std::make_shared<const Model>(std::move(*model)));
    if (!impl)
        return fail(ErrorCode::BadArgument, "This network asks for what cannot be computed here.", file);
    return Network(std::move(impl));
}

Expected<Network> Network::another() const
{
    auto impl = Impl::make(m_impl->model);
    if (!impl)
        return fail(ErrorCode::BadArgument, "There is not enough memory for another network.");
    return Network(std::move(impl));
}

std::span<float> Network::input()
{
    Port& p = m_impl->ports.front();
    return {p.values.data(), p.size};
}

bool Network::run()
{
    if (xnn_invoke_runtime(m_impl->runtime.get()) != xnn_status_success)
        return false;
    for (auto& o : m_impl->outputs)
        o.joined = m_impl->joined(o.parts);
    return true;
}

std::span<const float> Network::output(std::size_t n) const
{
    const auto& o = m_impl->outputs[n];
    if (o.parts.size() > 1)
        return o.joined;
    const Port& p = m_impl->ports[o.parts.front()];
    return {p.values.data(), p.size};
}

std::size_t Network::outputs() const
{
    return m_impl->outputs.size();
}

} // namespace kestrel::vision
