#pragma once
// Findings beside the things that they are about, on the drawing. What an edit has not yet been looked at for stays in
// sight as it was, under another mark.

#include "app/document/study_book.h"
#include "app/widgets/marks.h"
#include "core/checks/check.h"
#include "core/diagram/scene.h"

#include <map>

namespace ts::app {

class FoundMarks {
public:
    /// Of one device: the gravest of its findings, and all of them in words.
    struct Here {
        Mark mark = Mark::Open;
        std::string element; ///< beside which one, if any is named
        QStringList said;
        bool operator==(const Here&) const = default;
    };

    /// What the book knows by now. True if any mark is another one.
    bool take(const StudyBook& book, const Dossier& dossier);
    const std::map<DeviceId, Here>& all() const { return m_here; }
    /// Where the mark of a device stands in a drawing: behind the tag of the element that is named, else of its first
    /// symbol. Empty if it has none, or is not in it.
    QRectF boxOf(const diagram::Scene& scene, DeviceId device) const;

    void paint(QPainter& painter, const diagram::Scene& scene, const Theme& theme) const;
    /// What stands at a point of the drawing; null if nothing.
    const Here* at(const diagram::Scene& scene, diagram::Point p) const;

private:
    struct Known {
        Finding finding;
        bool isOld = false; ///< from before the last edit, its check not made again yet
    };
    void gather(const Dossier& dossier);

    std::vector<Known> m_known;
    std::map<DeviceId, Here> m_here;
};

} // namespace ts::app
