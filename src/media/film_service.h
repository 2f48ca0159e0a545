#pragma once

#include "media/film.h"

#include <atomic>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <set>
#include <thread>

namespace kestrel::media {

/// A picture that was wished for.
struct Delivery {
    FrameIndex frame;
    Picture picture;
    bool isExact = true; ///< false: smaller, for the moment; the exact one follows
};

/// Decodes a film on threads of its own. Of several wishes only the newest is met. While nothing is wished for, pictures
/// ahead in the direction of travel and behind the playhead are decoded for later steps.
///
/// One thread decodes into the film's cache, another turns what is in the cache into pictures for the screen, so that
/// a step onto a cached picture never waits for the decoder. Methods may be called from any thread; handlers are called
/// on the service's threads and must not call back into the service.
class FilmService {
public:
    struct Handlers {
        std::function<void(double)> progress; ///< of indexing, 0 to 1
        /// The first picture, before the film is indexed.
        std::function<void(const Picture&)> firstPicture;
        std::function<void(const FilmInfo&, const std::string& indexBytes)> opened;
        std::function<void(const Delivery&)> delivered;
        /// Without a frame: the film could not be opened. With one: that picture could not be decoded.
        std::function<void(const Error&, std::optional<FrameIndex>)> failed;
    };

    explicit FilmService(std::size_t ceiling = defaultCeiling());
    ~FilmService();
    FilmService(const FilmService&) = delete;
    FilmService& operator=(const FilmService&) = delete;

    /// Closes the film and opens another; the handlers are the new film's, and those of the old one are not called
    /// once this returns. \param options  its stop token and handlers are replaced
    void open(const std::string& file, OpenOptions options, Handlers handlers);
    void close();

    /// \param largest  as for Film::frame
    void want(FrameIndex, PixelSize largest, Travel travel = Travel::Forward);

    /// How much decoded pictures may take, those in the codec's hands included. Default defaultCeiling().
    void setCeiling(std::size_t bytes);
    /// A quarter of the machine's free memory, at most 1 GiB, at least 64 MiB.
    static std::size_t defaultCeiling();

    std::size_t cachedBytes() const;
    std::int64_t decodedFrames() const { return m_decodedFrames; }

private:
    struct Wish {
        FrameIndex frame{0};
        PixelSize largest;
        Travel travel = Travel::Forward;
        std::uint64_t number = 0;
    };
    struct Opening {
        std::string file;
        OpenOptions options;
    };
    void decodeLoop(std::stop_token);
    void convertLoop(std::stop_token);
    void openFilm(Opening, std::uint64_t film);
    void decode(std::uint64_t film, FrameIndex, bool isWish, std::uint64_t wish);
    bool isGroupInMemory(const Film&, FrameIndex) const;
    std::optional<FrameIndex> nextAhead(const Film&, const Wish&) const;
    std::size_t ceilingFor(const Film&) const;
    bool isNewest(std::uint64_t wish) const;
    void tell(std::uint64_t film, const std::function<void(const Handlers&)>&);

    mutable std::mutex m_mutex;
    std::mutex m_telling; // held while a handler runs: open() waits for it
    std::condition_variable_any m_changed;
    Handlers m_handlers;
    std::optional<Opening> m_toOpen;
    bool m_toClose = false;
    std::shared_ptr<Film> m_film; // used by the decoding thread; the other one only uses its cache
    std::uint64_t m_filmNumber = 0;
    std::optional<Wish> m_wish;
    std::uint64_t m_wishNumber = 0;
    std::uint64_t m_failedWish = 0;       // the newest one that cannot be met
    std::set<std::int64_t> m_undecodable; // pictures of this film that never come
    std::uint64_t m_cacheVersion = 0;     // counts what came into the cache
    std::stop_source m_stopFilm;
    std::size_t m_ceiling;
    std::atomic<std::int64_t> m_decodedFrames = 0;
    std::jthread m_decoder, m_converter; // last: they use all of the above
};

} // namespace kestrel::media
