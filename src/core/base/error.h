#pragma once

#include <string>
#include <tl/expected.hpp>

namespace kestrel {

/// What kind of thing went wrong; stable, so that callers and tests can tell cases apart.
enum class ErrorCode {
    CannotOpen,   ///< missing file, a folder, no permission
    NotAFilm,     ///< opened, but no picture stream can be read from it
    Damaged,      ///< a film of which this part cannot be decoded; a library whose file is broken
    NoSuchFrame,  ///< an ordinal outside the film
    NotJson,      ///< the text is not JSON
    WrongField,   ///< JSON, but a field is missing or has the wrong type or value
    WrongVersion, ///< a format or version this program does not read
    NotFound,     ///< an unknown name: skill, fault, school, row
    CannotWrite,  ///< full disk, read-only place
    ReadOnly,     ///< the library was opened without permission to change it
    Database,     ///< the library's database refused
    Cancelled,    ///< the user stopped it
    BadArgument,  ///< a value a person gave that makes no sense
};

/// A failure a person can act on: one clear sentence, the file it is about and the place inside it.
struct Error {
    ErrorCode code{};
    std::string message; ///< a whole sentence, without file and place
    std::string file;    ///< path as the user gave it; may be empty
    std::string place;   ///< JSON pointer, line and column, or frame; may be empty

    bool operator==(const Error&) const = default;

    /// "clip.json, /marks/3/x: found text, expected a number."
    std::string text() const
    {
        std::string where = file;
        if (!place.empty())
            where += (where.empty() ? "" : ", ") + place;
        return where.empty() ? message : where + ": " + message;
    }
};

template <class T> using Expected = tl::expected<T, Error>;

inline tl::unexpected<Error> fail(ErrorCode code, std::string message, std::string file = {}, std::string place = {})
{
    return tl::unexpected<Error>(Error{code, std::move(message), std::move(file), std::move(place)});
}

} // namespace kestrel
