// Runs window tests with the program's own fonts and theme on the offscreen platform.

#include "app/widgets/theme.h"

#include <QApplication>

#include <gtest/gtest.h>

#include <clocale>

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM",
        qEnvironmentVariableIsSet("QT_QPA_PLATFORM") ? qgetenv("QT_QPA_PLATFORM") : QByteArray("offscreen"));
    ::testing::InitGoogleTest(&argc, argv);
    QApplication app(argc, argv);
    std::setlocale(LC_NUMERIC, "C");
    QApplication::setOrganizationName(QStringLiteral("tall-sentry-test"));
    QApplication::setAttribute(Qt::AA_DontUseNativeDialogs);
    ts::app::loadFonts();
    ts::app::Theme theme;
    theme.applyTo(app);
    return RUN_ALL_TESTS();
}
