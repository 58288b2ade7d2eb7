#include "app/document/moment.h"

#include <QDateTime>

namespace ts::app {

std::string dayNow()
{
    return QDate::currentDate().toString(Qt::ISODate).toStdString();
}

std::string momentNow()
{
    const QDateTime now = QDateTime::currentDateTime();
    return now.toOffsetFromUtc(now.offsetFromUtc()).toString(Qt::ISODate).toStdString();
}

} // namespace ts::app
