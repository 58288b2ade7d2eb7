#include "app/frame/place.h"

#include "core/checks/check.h"

#include <algorithm>

namespace ts::app {

Place::Place(const QString& id, const QString& title, QWidget* parent)
    : QWidget(parent)
    , m_id(id)
    , m_title(title)
{
    setObjectName("place." + id);
}

Mark markWithoutFindings(const StudyBook& book, const Dossier& dossier, std::initializer_list<std::string_view> studies)
{
    if (dossier.functions.empty())
        return Mark::Untouched;
    bool isWorking = false, isMissing = false;
    const Results known = book.results();
    for (const std::string_view id : studies)
        for (const Subject& subject : subjectsOf(studyNamed(id)->about, dossier)) {
            isWorking |= book.isBusy(id, subject);
            isMissing |= !known.wasTried(id, subject) || known.trouble(id, subject);
        }
    return isWorking || (isMissing && book.isBehind()) ? Mark::Working : isMissing ? Mark::Claimed : Mark::InOrder;
}

std::optional<Mark> markOfFindings(const StudyBook& book, std::initializer_list<Target::Aspect> aspects)
{
    const auto checked = book.newest(kChecks);
    if (!checked)
        return std::nullopt;
    bool hasNote = false;
    for (const Finding& f : checked.value->findings)
        if (std::find(aspects.begin(), aspects.end(), f.target.aspect) != aspects.end()) {
            if (f.severity != Severity::Note)
                return checked.isFresh ? Mark::Wrong : Mark::Stale;
            hasNote = true;
        }
    return hasNote && checked.isFresh ? std::optional(Mark::Open) : std::nullopt;
}

} // namespace ts::app
