#pragma once
// The report as PDF: the text of its HTML over A4 pages, then its figures and drawings, all with the same foot. The
// pictures inside the HTML are left out of the text, because the text engine cannot paint them, and are painted from
// their own values.

#include "core/figures/figure.h"
#include "print/drawing_pages.h"

namespace ts::print {

struct TitledFigure {
    QString title;
    figures::Figure figure;
};

/// False if the file cannot be written.
bool writeReportPdf(const QString& path, const QString& html, const std::vector<TitledFigure>& figures,
    const std::vector<Drawing>& drawings, const PageFoot& foot, const app::Theme& theme);

} // namespace ts::print
