#include "media/film_check.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>

namespace kestrel::media {

namespace {

constexpr int kWidth = 320;              // pictures are looked at this wide
constexpr std::int64_t kWholeFilm = 480; // pictures; a longer film is looked at in parts
constexpr int kParts = 10;               // of the film
constexpr int kBlock = 8;                // pixels; of block matching
constexpr int kShakeReach = 5;
constexpr int kLeastContrast = 3; // grey levels from pixel to pixel; a flatter block cannot be found again
constexpr int kDetour = 12;       // grey levels a block has to fit better for each pixel it went further
constexpr int kMoves = 14;        // grey levels; less is noise
constexpr double kLeastSweep = 3; // see checkFilm

/// One grey picture, rows from the top.
struct Grey {
    int width = 0, height = 0;
    std::vector<std::uint8_t> at;
    const std::uint8_t* row(int y) const { return at.data() + static_cast<std::ptrdiff_t>(y) * width; }
};

Grey greyOf(const Picture& p)
{
    Grey g{p.size.width, p.size.height, {}};
    g.at.resize(static_cast<std::size_t>(g.width) * g.height);
    for (int y = 0; y < g.height; ++y) {
        const std::uint8_t* from = p.row(y);
        std::uint8_t* to = g.at.data() + static_cast<std::ptrdiff_t>(y) * g.width;
        for (int x = 0; x < g.width; ++x, from += 4)
            to[x] = static_cast<std::uint8_t>((29 * from[0] + 150 * from[1] + 77 * from[2]) >> 8);
    }
    return g;
}

int difference(const Grey& a, int ax, int ay, const Grey& b, int bx, int by, int limit)
{
    int sum = 0;
    for (int y = 0; y < kBlock && sum < limit; ++y) {
        const std::uint8_t* p = a.row(ay + y) + ax;
        const std::uint8_t* q = b.row(by + y) + bx;
        for (int x = 0; x < kBlock; ++x)
            sum += std::abs(p[x] - q[x]);
    }
    return sum;
}

/// Whether there was something in a block to hold on to, and whether it was found again.
enum class Match { Flat, Found, Lost };
struct Shift {
    int x = 0, y = 0;
    Match match = Match::Flat;
};

/// Where a block of \p a went in \p b.
Shift shiftOf(const Grey& a, int x, int y, const Grey& b, int reach)
{
    int contrast = 0;
    for (int dy = 0; dy < kBlock; ++dy)
        for (int dx = 0; dx + 1 < kBlock; ++dx)
            contrast += std::abs(a.row(y + dy)[x + dx] - a.row(y + dy)[x + dx + 1]);
    if (contrast < kLeastContrast * kBlock * kBlock)
        return {};
    const int unmoved = difference(a, x, y, b, x, y, 1 << 20);
    int best = unmoved, cost = unmoved;
    Shift shift{0, 0, Match::Found};
    for (int dy = -reach; dy <= reach; ++dy)
        for (int dx = -reach; dx <= reach; ++dx) {
            const int bx = x + dx, by = y + dy;
            if (bx < 0 || by < 0 || bx + kBlock > b.width || by + kBlock > b.height)
                continue;
            // along a straight edge many places fit: the nearest of them is meant
            const int detour = kDetour * (std::abs(dx) + std::abs(dy));
            if (detour >= cost)
                continue;
            if (const int d = difference(a, x, y, b, bx, by, cost - detour); d + detour < cost) {
                cost = d + detour;
                best = d;
                shift.x = dx;
                shift.y = dy;
            }
        }
    // most of what differs is explained by the move, or nothing moved
    shift.match = 10 * best < 6 * unmoved || unmoved < kBlock * kBlock * 2 ? Match::Found : Match::Lost;
    return shift;
}

/// What two neighbouring pictures tell.
struct Pair {
    std::int64_t second = 0;
    double meanChange = 0; ///< grey levels over the whole picture
    double moving = 0;     ///< share of the picture that changed
};

double median(std::vector<double> v)
{
    if (v.empty())
        return 0;
    std::nth_element(v.begin(), v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2), v.end());
    return v[v.size() / 2];
}

class Checker {
public:
    Checker(Film& film, const std::function<void(double)>& progress, std::stop_token stop)
        : m_film(film), m_progress(progress), m_stop(std::move(stop)), m_size(media::PixelSize{kWidth, 0})
    {
    }

    Expected<FilmCheck> run()
    {
        const std::int64_t frames = m_film.info().frames();
        const bool isWhole = frames <= kWholeFilm;
        const int parts = static_cast<int>(std::clamp<std::int64_t>(frames / 8, 1, kParts));
        const std::int64_t each = isWhole ? frames : kWholeFilm;
        std::int64_t done = 0;
        for (int part = 0; part < parts; ++part) {
            const std::int64_t first = frames * part / parts, end = frames * (part + 1) / parts;
            const std::int64_t length = isWhole ? end - first : kWholeFilm / parts;
            const std::int64_t begin = first + (end - first - length) / 2;
            if (!isWhole)
                m_last.at.clear(); // the pictures before were not looked at
            startStretch(FrameIndex(begin), FrameIndex(begin + length - 1));
            for (std::int64_t n = begin; n < begin + length; ++n) {
                if (m_stop.stop_requested())
                    return fail(ErrorCode::Cancelled, "The film check was stopped.", m_film.file());
                const auto picture = m_film.frame(FrameIndex(n), m_size, m_stop);
                if (picture)
                    take(n, *picture);
                else if (picture.error().code == ErrorCode::Cancelled)
                    return tl::unexpected(picture.error());
                else
                    m_last.at.clear();
                if (m_progress)
                    m_progress(static_cast<double>(++done) / static_cast<double>(std::max<std::int64_t>(1, each)));
            }
            endStretch();
        }
        if (m_check.examined == 0)
            return fail(ErrorCode::Damaged, "No picture of this film can be decoded.", m_film.file());
        conclude();
        return std::move(m_check);
    }

private:
    void startStretch(FrameIndex first, FrameIndex last)
    {
        m_stretch = {first, last, 0, 0, 0};
        m_stretchPictures = 0;
        m_stretchSharp.clear();
    }

    void take(std::int64_t n, const Picture& picture)
    {
        Grey grey = greyOf(picture);
        ++m_check.examined;
        ++m_stretchPictures;
        double sum = 0, clipped = 0;
        for (const std::uint8_t v : grey.at) {
            sum += v;
            clipped += v < 4 || v > 251;
        }
        const auto size = static_cast<double>(std::max<std::size_t>(1, grey.at.size()));
        m_stretch.brightness += sum / size / 255;
        m_stretch.clipped += clipped / size;
        if (m_energy.empty())
            m_energy.assign(grey.at.size(), 0);
        if (m_last.at.size() == grey.at.size())
            compare(n, grey);
        m_last = std::move(grey);
    }

    void compare(std::int64_t n, const Grey& grey)
    {
        Pair pair{n, 0, 0};
        double sharpMoving = 0, movingCount = 0;
        for (std::size_t i = 0; i < grey.at.size(); ++i) {
            const int d = std::abs(grey.at[i] - m_last.at[i]);
            pair.meanChange += d;
            if (d > kMoves) {
                ++movingCount;
                m_energy[i] += 1;
            }
        }
        pair.meanChange /= static_cast<double>(grey.at.size());
        pair.moving = movingCount / static_cast<double>(grey.at.size());
        // how steep the edges are where something moves
        for (int y = 1; y + 1 < grey.height; ++y)
            for (int x = 1; x + 1 < grey.width; ++x) {
                const std::size_t i = static_cast<std::size_t>(y) * grey.width + x;
                if (std::abs(grey.at[i] - m_last.at[i]) > kMoves)
                    sharpMoving += std::abs(4 * grey.at[i] - grey.at[i - 1] - grey.at[i + 1] - grey.at[i - grey.width] -
                                            grey.at[i + grey.width]);
            }
        if (movingCount > 40)
            m_stretchSharp.push_back(sharpMoving / movingCount);
        m_pairs.push_back(pair);
        estimateShake(grey);
    }

    /// As a median over the whole picture, so that the athlete, who covers little of it, does not count.
    void estimateShake(const Grey& grey)
    {
        std::vector<double> xs, ys;
        for (int y = 2; y + kBlock + 2 < grey.height; y += 2 * kBlock)
            for (int x = 2; x + kBlock + 2 < grey.width; x += 2 * kBlock)
                if (const Shift s = shiftOf(m_last, x, y, grey, kShakeReach); s.match == Match::Found) {
                    xs.push_back(s.x);
                    ys.push_back(s.y);
                }
        if (xs.size() >= 8)
            m_shake.push_back(std::hypot(median(xs), median(ys)));
    }

    void endStretch()
    {
        if (m_stretchPictures > 0) {
            m_stretch.brightness /= m_stretchPictures;
            m_stretch.clipped /= m_stretchPictures;
        }
        m_stretch.sharpness = median(m_stretchSharp); // against the sharpest stretch in conclude()
        m_check.stretches.push_back(m_stretch);
    }

    double scale() const { return m_last.width > 0 ? static_cast<double>(m_film.info().size.width) / m_last.width : 1; }

    void conclude()
    {
        double sharpest = 0;
        for (const auto& s : m_check.stretches)
            sharpest = std::max(sharpest, s.sharpness);
        for (auto& s : m_check.stretches) // a stretch where nothing moves is as sharp as any
            s.sharpness = s.sharpness > 0 && sharpest > 0 ? s.sharpness / sharpest : 1;
        double sum = 0;
        for (const double s : m_shake)
            sum += s * s;
        m_check.shakePixels = m_shake.empty() ? 0 : scale() * std::sqrt(sum / static_cast<double>(m_shake.size()));
        countDuplicates();
        measureAthlete();
        measureSweep();
        putIntoWords();
    }

    /// A picture that repeats the one before while its neighbours move on.
    void countDuplicates()
    {
        for (std::size_t i = 1; i + 1 < m_pairs.size(); ++i) {
            const double around = std::min(m_pairs[i - 1].meanChange, m_pairs[i + 1].meanChange);
            if (m_pairs[i].second == m_pairs[i - 1].second + 1 && around > 0.15 && m_pairs[i].meanChange < 0.1 * around)
                ++m_check.duplicates;
        }
    }

    /// From the rows in which something moved; the outermost hundredths are left out as noise.
    void measureAthlete()
    {
        std::vector<double> rows(static_cast<std::size_t>(m_last.height), 0);
        double all = 0;
        for (int y = 0; y < m_last.height; ++y)
            for (int x = 0; x < m_last.width; ++x) {
                const double e = m_energy[static_cast<std::size_t>(y) * m_last.width + x];
                rows[static_cast<std::size_t>(y)] += e;
                all += e;
            }
        if (all < 200)
            return;
        const auto rowAt = [&](double share) {
            double sum = 0;
            for (std::size_t y = 0; y < rows.size(); ++y)
                if ((sum += rows[y]) >= share * all)
                    return static_cast<double>(y);
            return static_cast<double>(rows.size());
        };
        m_check.athletePixels = scale() * (rowAt(0.99) - rowAt(0.01) + 1);
    }

    void measureSweep()
    {
        const double tall = m_check.athletePixels / scale();
        if (tall < 3 * kBlock || m_pairs.size() < 20)
            return;
        std::vector<double> areas;
        for (const auto& p : m_pairs)
            areas.push_back(p.moving);
        std::sort(areas.begin(), areas.end());
        const double area = areas[areas.size() * 98 / 100] * m_last.width * m_last.height / (tall * tall);
        m_check.sweep = area * m_film.info().frameRate;
        m_check.looksSlow = m_check.sweep < kLeastSweep;
    }

    void putIntoWords()
    {
        auto& say = m_check.findings;
        if (m_check.athletePixels == 0)
            say.push_back("Nothing moves on this film.");
        std::size_t dark = 0, bright = 0, smeared = 0;
        for (const auto& s : m_check.stretches) {
            dark += s.brightness < 0.15;
            bright += s.brightness > 0.85 || s.clipped > 0.25;
            smeared += s.sharpness < 0.5;
        }
        if (dark > 0)
            say.push_back("Parts of the film are very dark; more light also makes the pictures sharper.");
        if (bright > 0)
            say.push_back("Parts of the film are blown out or black without detail; points there are hard to see.");
        if (smeared > 0)
            say.push_back("In " + std::to_string(smeared) + " of " + std::to_string(m_check.stretches.size()) +
                          " stretches what moves is smeared; film in more light or with a shorter exposure.");
        if (m_check.shakePixels > 0.004 * m_film.info().size.width)
            say.push_back("The camera moves. Distances from one picture to another cannot be trusted; use a stand.");
        if (m_check.duplicates * 50 >= m_check.examined) // one in fifty: not a chance likeness
            say.push_back(std::to_string(m_check.duplicates) + " of " + std::to_string(m_check.examined) +
                          " pictures repeat the one before: the camera filmed at a lower rate than the file says.");
    }

    Film& m_film;
    const std::function<void(double)>& m_progress;
    std::stop_token m_stop;
    PixelSize m_size;
    FilmCheck m_check;
    RangeQuality m_stretch;
    int m_stretchPictures = 0;
    std::vector<double> m_stretchSharp, m_shake, m_energy;
    std::vector<Pair> m_pairs;
    Grey m_last;
};

} // namespace

Expected<FilmCheck> checkFilm(Film& film, const std::function<void(double)>& progress, std::stop_token stop)
{
    return Checker(film, progress, std::move(stop)).run();
}

} // namespace kestrel::media
