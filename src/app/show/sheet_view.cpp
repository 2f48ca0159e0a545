#include "app/show/sheet_view.h"

#include "app/workspace/day_films.h"

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kThisRepetition = 0, kEveryRepetition = -1; // else the id of another day
constexpr std::size_t kMostRows = 6;

report::SheetFilm sheetFilm(const report::RepetitionFilm& film, const std::string& title, FilmPictures& pictures)
{
    return {title, film, [&film, &pictures](FrameIndex f) { return pictures.picture(film, f); }};
}

/// The repetition of another day that shows the most key positions. Empty: none is placed.
Expected<std::optional<report::RepetitionFilm>> bestOfDay(const store::Library& library, const Pack& pack, store::DayId day)
{
    return filmsOf(library, pack, day).map([](std::vector<report::RepetitionFilm> films) {
        const auto best = std::max_element(films.begin(), films.end(), [](const auto& a, const auto& b) {
            return a.marking.events.size() < b.marking.events.size();
        });
        return best == films.end() ? std::nullopt : std::optional(std::move(*best));
    });
}

} // namespace

SheetView::SheetView(Workspace& workspace, Bench& bench, QWidget* parent)
    : DocumentLeaf(workspace, bench, QStringLiteral("sheet"), parent)
{
    m_rows = new QComboBox(this);
    m_rows->setObjectName(QStringLiteral("sheetRows"));
    m_rows->setToolTip(tr("What stands in the rows"));
    m_readings = new QCheckBox(tr("readings"), this);
    m_readings->setObjectName(QStringLiteral("sheetReadings"));
    m_readings->setToolTip(tr("Draw a reading on each key position"));
    m_drawings = new QCheckBox(tr("drawings"), this);
    m_drawings->setToolTip(tr("What is drawn on the film, where it is seen"));
    m_drawings->setChecked(true);
    for (QWidget* w : {static_cast<QWidget*>(m_rows), static_cast<QWidget*>(m_readings), static_cast<QWidget*>(m_drawings)})
        choices()->addWidget(w);
    connect(m_rows, &QComboBox::activated, this, &SheetView::outdate);
    connect(m_readings, &QCheckBox::toggled, this, &SheetView::outdate);
    connect(m_drawings, &QCheckBox::toggled, this, &SheetView::outdate);
}

/// Other days of the same skill, latest first.
void SheetView::fillRows()
{
    const auto& context = bench().context;
    const QVariant chosen = m_rows->currentData();
    const bool isSame = context.day().id == m_day;
    m_day = context.day().id;
    m_rows->clear();
    m_rows->addItem(tr("this repetition"), kThisRepetition);
    m_rows->addItem(tr("every repetition of the day"), kEveryRepetition);
    auto days = workspace().valueOr(workspace().library().days().of(context.athlete().id));
    std::sort(days.begin(), days.end(), [](const auto& a, const auto& b) { return a.date > b.date; });
    for (const auto& day : days)
        if (day.skill == context.day().skill && day.id != context.day().id)
            m_rows->addItem(tr("with %1 below").arg(QString::fromStdString(day.date)), qlonglong(day.id.value));
    m_rows->setCurrentIndex(isSame ? std::max(0, m_rows->findData(chosen)) : 0);
}

DocumentLeaf::Maker SheetView::maker()
{
    fillRows();
    report::SheetOptions options;
    options.hasReadings = m_readings->isChecked();
    options.hasDrawings = m_drawings->isChecked();
    options.measure = bench().review.selectedReading();
    const auto rows = m_rows->currentData().toLongLong();
    return [this, options, rows](const store::Library& library, const ShownDay& day, std::stop_token stop) -> Expected<Made> {
        FilmPictures pictures(stop, day.hidesFaces);
        std::vector<report::RepetitionFilm> more;
        std::vector<report::SheetFilm> films;
        std::vector<std::string> warnings;
        if (rows == kEveryRepetition) {
            for (std::size_t n = 0; n < std::min(day.films.size(), kMostRows); ++n)
                films.push_back(sheetFilm(day.films[n], day.names[n], pictures));
            if (day.films.size() > kMostRows)
                warnings.push_back("The first " + std::to_string(kMostRows) + " of " + std::to_string(day.films.size()) +
                                   " repetitions are shown.");
        } else if (!day.films.empty()) {
            films.push_back(
                sheetFilm(day.films[day.onBench], rows == kThisRepetition ? std::string() : day.facts.date, pictures));
        }
        if (rows > 0) {
            auto other = bestOfDay(library, day.pack, store::DayId(rows));
            if (!other)
                return tl::unexpected(other.error());
            const auto date = library.days().find(store::DayId(rows));
            if (*other && date) {
                more.push_back(std::move(**other));
                films.insert(films.begin(), sheetFilm(more.front(), date->date, pictures)); // the earlier one above
                if (date->date > day.facts.date)
                    std::swap(films[0], films[1]);
            } else {
                warnings.emplace_back("On the other day no key position is placed yet.");
            }
        }
        report::PhotoSheet sheet = report::makeSheet(day.pack, films, day.facts.player, options);
        if (sheet.isEmpty() && warnings.empty())
            warnings.emplace_back("No key position is placed yet: press its number on the Bench, or let the program mark.");
        for (const auto& said : pictures.warnings())
            warnings.insert(warnings.begin(), said);
        return Made{report::documentOf(sheet), std::move(warnings), [this, sheet] { m_sheet = sheet; }};
    };
}

} // namespace kestrel::app
