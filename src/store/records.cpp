#include "store/records.h"

#include <QDate>

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

} // namespace kestrel::store
