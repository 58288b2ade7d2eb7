#include "app/shell/file_desk.h"
#include "app/shell/main_window.h"
#include "app/shell/picture.h"
#include "app/words/words.h"
#include "core/base/check.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QStandardPaths>

#include <clocale>
#include <cstdio>
#include <cstdlib>

namespace {

ts::app::Document* g_document = nullptr; ///< for the last resort only

/// A broken invariant: what is open is written beside its file, then the program stops.
void stopWithRecoveryCopy(const char* condition, const char* file, int line)
{
    ts::installCheckFailed(nullptr); // a second failure on the way stops at once
    std::fprintf(stderr, "internal error: %s (%s:%d)\n", condition, file, line);
    if (g_document && g_document->isModified()) {
        const QString path = (g_document->path().isEmpty() ? QStringLiteral("unnamed.sentry") : g_document->path())
            + QStringLiteral(".recovered");
        if (g_document->writeCopy(path))
            std::fprintf(stderr, "your work is in %s\n", qPrintable(path));
    }
    std::abort();
}

} // namespace

int main(int argc, char** argv)
{
    QApplication app(argc, argv);
    std::setlocale(LC_NUMERIC, "C"); // numbers in files have points, whatever the machine's language is
    QApplication::setApplicationName(QStringLiteral("tall-sentry"));
    QApplication::setOrganizationName(QStringLiteral("tall-sentry"));
    QCommandLineParser parser;
    ts::app::words::install();
    parser.setApplicationDescription(ts::app::words::word("caution.text"));
    parser.addHelpOption();
    parser.addPositionalArgument(QStringLiteral("FILE"), QStringLiteral("dossier to open"));
    const QCommandLineOption picture(QStringLiteral("picture"),
        QStringLiteral("run the machine for a moment, write a picture of the window and quit"), QStringLiteral("FILE"));
    const QCommandLineOption power(QStringLiteral("power"), QStringLiteral("the picture shows the power circuit"));
    const QCommandLineOption place(QStringLiteral("place"),
        QStringLiteral("the picture shows this place: skyline, functions, levels.reach ..."), QStringLiteral("NAME"));
    parser.addOptions({picture, power, place});
    parser.process(app);

    ts::app::Theme theme;
    const ts::app::Settings settings = parser.isSet(picture) ? ts::app::Settings{} : ts::app::Settings::load();
    if (!ts::app::loadFonts())
        std::fprintf(stderr, "a font that comes with the program could not be loaded\n");
    theme.setDark(settings.darkTheme);
    theme.applyTo(app);
    const bool isForPictures = parser.isSet(picture); // from the file alone, never from what is remembered
    const QString results = isForPictures
        ? QString()
        : QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + QStringLiteral("/results");
    const QString safekeeping = isForPictures
        ? QString()
        : QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + QStringLiteral("/safekeeping");
    ts::app::MainWindow window(
        theme, settings, ts::io::systemFiles(), {.results = results.toStdString(), .safekeeping = safekeeping});
    if (isForPictures)
        window.setAsker(std::make_unique<ts::app::ConsoleAsker>());
    g_document = &window.document();
    ts::installCheckFailed(stopWithRecoveryCopy);
    const QStringList files = parser.positionalArguments();
    if (files.isEmpty())
        window.showStart();
    window.show();
    if (!files.isEmpty() && !window.open(files.first()) && isForPictures)
        return 2;
    if (isForPictures)
        return ts::app::writePicture(window, parser.value(picture),
                   parser.isSet(power) ? QStringLiteral("bench.power") : parser.value(place))
            ? 0
            : 1;
    window.desk().offerLeftovers();
    return QApplication::exec();
}
