#include "report/photo_sheet.h"

#include "look/drawing_overlays.h"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <cstdio>

namespace kestrel::report {

namespace {

constexpr double kRoom = 1.3;                      // of the athlete's own size
constexpr double kNarrowest = 0.6, kWidest = 1.35; // a picture's width over its height
constexpr int kCellHeight = 640;                   // pixels
constexpr double kLineUnit = 2.4;                  // cells are seen small: thick lines

/// Where the body is on a picture; null: not marked there.
QRectF bodyOn(const Marking& m, FrameIndex frame)
{
    QRectF box;
    for (const auto& mark : m.marks)
        if (mark.frame == frame && mark.landmark.part <= Part::Toe)
            box |= QRectF(mark.at.x - 0.5, mark.at.y - 0.5, 1, 1);
    return box;
}

/// The largest of what the athlete takes up at key positions, pixels.
QSizeF largestBody(const RepetitionFilm& film)
{
    QSizeF size(0, 0);
    for (const auto& e : film.marking.events)
        size = size.expandedTo(bodyOn(film.marking, e.frame.nearest()).size());
    return size;
}

class SheetMaker {
public:
    SheetMaker(const Pack& pack, const std::vector<SheetFilm>& films, const SheetOptions& options)
        : m_pack(pack), m_films(films), m_options(options)
    {
    }

    PhotoSheet make(const std::string& player)
    {
        m_sheet.title = player.empty() ? m_pack.name : player + ": " + m_pack.name;
        m_sheet.subtitle = "The key positions, in order. Times count from " + zeroName() + ".";
        chooseColumns();
        chooseCrops();
        for (std::size_t n = 0; n < m_films.size(); ++n)
            addRow(n);
        return std::move(m_sheet);
    }

private:
    std::string zeroName() const
    {
        const KeyPosition* zero = m_pack.findKeyPosition(m_pack.zero);
        return zero ? zero->name : "the film's beginning";
    }

    void chooseColumns()
    {
        std::string missing;
        for (const auto& k : m_pack.keyPositions) {
            const bool isPlaced = std::any_of(m_films.begin(), m_films.end(),
                                              [&](const SheetFilm& f) { return findEvent(f.film.marking, k.id) != nullptr; });
            if (isPlaced)
                m_columns.push_back(&k);
            else
                missing += (missing.empty() ? "" : ", ") + k.name;
        }
        if (!missing.empty())
            m_sheet.notes.push_back("Not placed, and left out: " + missing + ".");
    }

    /// One scale for all of a film's pictures, and for all films where each has a scale.
    void chooseCrops()
    {
        std::vector<double> metres;
        QSizeF largest(0, 0); // metres where all are known, else shares of the first film's body
        for (const auto& f : m_films) {
            const SceneFrame scene(f.film.marking.scene, f.film.marking.athlete.hand);
            metres.push_back(scene.hasScale() ? scene.metresPerPixel() : 0);
        }
        const bool isScaled = std::all_of(metres.begin(), metres.end(), [](double m) { return m > 0; });
        for (std::size_t n = 0; n < m_films.size(); ++n) {
            const QSizeF body = largestBody(m_films[n].film);
            const double unit = isScaled ? metres[n] : body.height() > 0 ? 1 / body.height() : 0;
            largest = largest.expandedTo(body * unit);
        }
        const double shape = largest.height() > 0 ? largest.width() / largest.height() : 1;
        m_sheet.shape = std::clamp(shape, kNarrowest, kWidest);
        const double high = kRoom * std::max(largest.height(), largest.width() / m_sheet.shape);
        for (std::size_t n = 0; n < m_films.size(); ++n) {
            const QSizeF body = largestBody(m_films[n].film);
            const double unit = isScaled ? metres[n] : body.height() > 0 ? 1 / body.height() : 0;
            m_heights.push_back(unit > 0 ? high / unit : 0);
        }
    }

    void addRow(std::size_t n)
    {
        const RepetitionFilm& film = m_films[n].film;
        SheetRow row{m_films[n].title, {}};
        const PreparedRepetition prepared(film.marking, film.clock);
        const Event* zero = m_pack.zero.empty() ? nullptr : findEvent(film.marking, m_pack.zero);
        const auto origin = film.clock.timeOf(zero ? zero->frame : FramePosition(film.repetition.first));
        for (const KeyPosition* k : m_columns) {
            SheetCell cell;
            cell.name = k->name;
            if (const Event* e = findEvent(film.marking, k->id)) {
                if (const auto time = film.clock.timeOf(e->frame); time && origin)
                    cell.time = secondsWords(*time - *origin);
                const Reading* reading = m_options.hasReadings ? readingAt(film, k->id) : nullptr;
                if (reading) {
                    const Measure* measure = m_pack.findMeasure(reading->measure);
                    cell.reading = (measure ? measure->name : reading->measure) + " " + withUnit(*reading->value, reading->unit);
                }
                cell.image = cutOut(m_films[n], prepared, e->frame.nearest(), reading, m_heights[n]);
            }
            row.cells.push_back(std::move(cell));
        }
        m_sheet.rows.push_back(std::move(row));
    }

    static std::string secondsWords(double seconds)
    {
        char text[32];
        std::snprintf(text, sizeof text, "%s%.2f s", seconds < -0.005 ? "\u2212" : "", std::abs(seconds));
        return text;
    }

    /// The one that was asked for, else what is furthest off, else the first that has a value.
    const Reading* readingAt(const RepetitionFilm& film, const std::string& keyPosition) const
    {
        const Reading* best = nullptr;
        for (const auto& r : film.readings) {
            if (r.keyPosition != keyPosition || !r.value || r.figure.isEmpty() || r.saysNothing() ||
                r.figure.frame.nearest() != findEvent(film.marking, keyPosition)->frame.nearest())
                continue;
            if (r.measure == m_options.measure)
                return &r;
            if (!best || (r.verdict == Verdict::Off && best->verdict != Verdict::Off))
                best = &r;
        }
        return best;
    }

    QImage cutOut(const SheetFilm& row, const PreparedRepetition& prepared, FrameIndex frame, const Reading* reading,
                  double height)
    {
        const QImage picture = row.picture ? row.picture(frame) : QImage();
        if (picture.isNull()) {
            m_sheet.notes.push_back("Picture " + std::to_string(frame.value) + " could not be read from the film.");
            return {};
        }
        const QRectF body = bodyOn(row.film.marking, frame);
        QRectF crop(QPointF(), QSizeF(picture.size()));
        if (height > 0 && !body.isNull()) {
            crop.setSize(QSizeF(height * m_sheet.shape, height));
            crop.moveCenter(body.center());
            // inside the picture as far as it goes
            const auto inside = [](double at, double size, double whole) {
                return size >= whole ? (whole - size) / 2 : std::clamp(at, 0.0, whole - size);
            };
            crop.moveTo(inside(crop.left(), crop.width(), picture.width()), inside(crop.top(), crop.height(), picture.height()));
        } else { // nothing says where the athlete is: all of it
            const double whole = std::max(picture.height() * 1.0, picture.width() / m_sheet.shape);
            crop.setSize(QSizeF(whole * m_sheet.shape, whole));
            crop.moveCenter(QPointF(picture.width() / 2.0, picture.height() / 2.0));
        }
        QImage image(qRound(kCellHeight * m_sheet.shape), kCellHeight, QImage::Format_RGB32);
        image.fill(QColor(0x20, 0x28, 0x2E));
        QPainter painter(&image);
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        QTransform toCell;
        toCell.scale(image.width() / crop.width(), image.height() / crop.height());
        toCell.translate(-crop.left(), -crop.top());
        painter.drawImage(toCell.mapRect(QRectF(picture.rect())), picture);
        std::vector<look::Overlay> overlays;
        if (m_options.hasDrawings)
            overlays = look::drawingOverlays(row.film.marking.drawings, prepared, row.film.repetition, frame);
        if (reading)
            overlays.emplace_back(look::readingOverlay(*reading, false)); // the number stands below
        look::paintOverlays(painter, overlays, toCell, look::lightPalette(), kLineUnit);
        return image;
    }

    const Pack& m_pack;
    const std::vector<SheetFilm>& m_films;
    const SheetOptions& m_options;
    std::vector<const KeyPosition*> m_columns;
    std::vector<double> m_heights; // of the crop, pixels of each film; 0: not known
    PhotoSheet m_sheet;
};

} // namespace

bool PhotoSheet::isEmpty() const
{
    for (const auto& row : rows)
        for (const auto& cell : row.cells)
            if (!cell.image.isNull())
                return false;
    return true;
}

PhotoSheet makeSheet(const Pack& pack, const std::vector<SheetFilm>& films, const std::string& player,
                     const SheetOptions& options)
{
    return SheetMaker(pack, films, options).make(player);
}

} // namespace kestrel::report
