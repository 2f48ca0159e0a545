#pragma once

#include <QDateEdit>
#include <QLocale>

namespace kestrel::app {

/// A day, written as in "2 Dec 2026".
class DateField : public QDateEdit {
public:
    explicit DateField(QWidget* parent, const QDate& date = QDate::currentDate()) : QDateEdit(date, parent)
    {
        setLocale(QLocale(QLocale::English));
        setDisplayFormat(QStringLiteral("d MMM yyyy"));
    }
};

} // namespace kestrel::app
