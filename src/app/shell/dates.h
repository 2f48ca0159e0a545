#pragma once

#include "core/base/date.h"

#include <QDate>

/// Between the core's days and Qt's.
namespace kestrel::app {

/// \param date  valid
inline Date dateOf(const QDate& date)
{
    return *parseDate(date.toString(Qt::ISODate).toStdString());
}
inline QDate dateOf(Date date)
{
    return QDate::fromString(QString::fromStdString(kestrel::textOf(date)), Qt::ISODate);
}
inline Date dateOfToday()
{
    return dateOf(QDate::currentDate());
}

} // namespace kestrel::app
