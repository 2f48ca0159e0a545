#include "store/records.h"

#include <QDate>

#include <algorithm>

namespace kestrel::store {

std::optional<double> ageOn(const std::string& birthDate, const std::string& day)
{
    const QDate born = QDate::fromString(QString::fromStdString(birthDate), Qt::ISODate);
    const QDate on = QDate::fromString(QString::fromStdString(day), Qt::ISODate);
    if (!born.isValid() || !on.isValid() || on < born)
        return std::nullopt;
    int years = on.year() - born.year();
    if (born.addYears(years) > on)
        --years;
    const QDate last = born.addYears(years);
    return years + static_cast<double>(last.daysTo(on)) / static_cast<double>(last.daysTo(born.addYears(years + 1)));
}

AthleteFacts athleteOn(const Athlete& athlete, const FilmingDay& day)
{
    const Hand usual = day.handUse == HandUse::Batting ? athlete.batHand : athlete.hand;
    return {day.side.value_or(usual), heightOn(athlete.heights, day.date), ageOn(athlete.birthDate, day.date)};
}

std::optional<double> heightOn(const std::vector<Height>& heights, const std::string& day)
{
    if (heights.empty())
        return std::nullopt;
    const auto dateOf = [](const std::string& s) { return QDate::fromString(QString::fromStdString(s), Qt::ISODate); };
    const auto after = std::find_if(heights.begin(), heights.end(), [&](const Height& h) { return h.date > day; });
    if (after == heights.begin())
        return heights.front().metres;
    const Height& before = *std::prev(after);
    if (after == heights.end() || !dateOf(before.date).isValid() || !dateOf(after->date).isValid() || !dateOf(day).isValid())
        return before.metres;
    const auto whole = static_cast<double>(dateOf(before.date).daysTo(dateOf(after->date)));
    const auto part = static_cast<double>(dateOf(before.date).daysTo(dateOf(day)));
    return before.metres + (after->metres - before.metres) * part / whole;
}

} // namespace kestrel::store
