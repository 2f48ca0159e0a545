#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace kestrel {

/// One row of the table that ties an enumeration to the words used in files.
template <class E> struct WordRow {
    E value;
    std::string_view word;
};

template <class E, std::size_t N> constexpr std::string_view wordIn(const WordRow<E> (&rows)[N], E value)
{
    for (const auto& r : rows)
        if (r.value == value)
            return r.word;
    return {};
}

template <class E, std::size_t N> constexpr std::optional<E> findIn(const WordRow<E> (&rows)[N], std::string_view word)
{
    for (const auto& r : rows)
        if (r.word == word)
            return r.value;
    return std::nullopt;
}

/// "side, rear or front": for messages that say what was expected.
template <class E, std::size_t N> std::string choicesOf(const WordRow<E> (&rows)[N])
{
    std::string text;
    for (std::size_t i = 0; i < N; ++i)
        text += (i == 0 ? "" : i + 1 == N ? " or " : ", ") + std::string(rows[i].word);
    return text;
}

} // namespace kestrel
