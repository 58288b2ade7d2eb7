// tall-sentry-shots [--dark] FILE FOLDER: the pictures of the documentation. A tool beside the product.

#include "app/shell/asker.h"
#include "app/shell/main_window.h"
#include "shots/pictures.h"

#include <QApplication>

#include <clocale>
#include <cstdio>

int main(int argc, char** argv)
{
    QApplication app(argc, argv);
    std::setlocale(LC_NUMERIC, "C");
    QStringList arguments = QApplication::arguments();
    ts::app::Theme theme;
    theme.setDark(arguments.removeAll(QStringLiteral("--dark")) > 0);
    if (arguments.size() != 3) {
        std::fprintf(stderr, "usage: tall-sentry-shots [--dark] FILE FOLDER\n");
        return 2;
    }
    ts::app::loadFonts();
    theme.applyTo(app);
    ts::app::MainWindow window(theme, {}, ts::io::systemFiles());
    window.setAsker(std::make_unique<ts::app::ConsoleAsker>());
    window.show();
    if (!window.open(arguments[1]))
        return 2;
    return ts::app::writeShots(window, arguments[2]) ? 0 : 1;
}
