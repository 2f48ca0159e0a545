#pragma once

#include "core/pack/pack.h"
#include "report/document.h"
#include "report/repetition_film.h"

#include <QImage>

#include <functional>
#include <string>
#include <vector>

namespace kestrel::report {

/// One repetition that gives a sheet's row.
struct SheetFilm {
    std::string title; ///< "2026-04-11", "repetition 2"; may be empty
    RepetitionFilm film;
    std::function<QImage(FrameIndex)> picture; ///< the upright film's; a null one when it cannot be had
};

struct SheetOptions {
    bool hasReadings = false; ///< a reading of each key position is drawn, with its number
    bool hasDrawings = true;
    std::string measure; ///< to be shown rather than others where it is read; may be empty
};

struct SheetCell {
    std::string name;    ///< of the key position
    std::string time;    ///< "−0.12 s"; empty: not placed
    std::string reading; ///< name and value; may be empty
    QImage image;        ///< null: not placed, or the film does not give it
};
struct SheetRow {
    std::string title;
    std::vector<SheetCell> cells; ///< as many as the sheet has columns
};

/// The key positions side by side, cut out about the athlete at one scale.
struct PhotoSheet {
    std::string title, subtitle;
    std::vector<SheetRow> rows;
    std::vector<std::string> notes; ///< what is left out, and pictures that could not be had
    double shape = 1;               ///< width of a picture over its height
    bool isEmpty() const;           ///< no picture at all
};

/// \param player  name; may be empty. Rows lie under each other: what is placed on none of the films gives no column.
PhotoSheet makeSheet(const Pack&, const std::vector<SheetFilm>&, const std::string& player, const SheetOptions&);

/// One side of A4, lying.
Document documentOf(const PhotoSheet&);

} // namespace kestrel::report
