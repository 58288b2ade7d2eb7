#pragma once
// Drawings on paper: each as large as the page takes it, but never smaller than can be read; what does not fit goes on
// over further pages. For the printer and for PDF. Everything stands as without power.

#include "app/widgets/theme.h"
#include "core/diagram/scene.h"

#include <QString>

#include <vector>

class QPagedPaintDevice;
class QPainter;

namespace ts::print {

struct Drawing {
    QString title;
    diagram::Scene scene;
};

/// What stands at the foot of each page. The date is given, never read from a clock.
struct PageFoot {
    QString machine, site, file, date;
};

/// How a drawing goes over pages with that much room in millimetres, as large as can be.
struct Tiling {
    double scale = 1; ///< of the drawing on paper
    int across = 1, down = 1;
};
Tiling tilingOf(const diagram::Scene& scene, const QSizeF& roomMm);
/// One part of it, cut to the room. The painter's unit is a millimetre, its origin the corner of the room.
void paintTile(QPainter& painter, const Drawing& drawing, const Tiling& tiling, const QSizeF& roomMm, int column,
    int row, const app::Theme& theme);
/// The title of that part: "control circuit, part 2 of 3".
QString titleOf(const Drawing& drawing, const Tiling& tiling, int column, int row);

/// Pages a drawing needs on a sheet of that size in millimetres, margins and foot taken off.
int pagesFor(const diagram::Scene& scene, double widthMm, double heightMm);

/// Every contact as it stands without power; in the scene's own pixels.
void paintWithoutPower(QPainter& painter, const diagram::Scene& scene, const app::Theme& theme);

/// Paints all pages. False if the device cannot be painted on.
bool paintDrawings(
    QPagedPaintDevice& device, const std::vector<Drawing>& drawings, const PageFoot& foot, const app::Theme& theme);

/// The same into a PDF file on A3 across. False if it cannot be written.
bool writePdf(const QString& path, const std::vector<Drawing>& drawings, const PageFoot& foot, const app::Theme& theme);

} // namespace ts::print
