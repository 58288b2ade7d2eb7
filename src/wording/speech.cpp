#include "wording/speech.h"

#include "wording/event_text.h"
#include "wording/wording.h"

namespace ts::wording {

Speech speech()
{
    return {[](const Message& m) { return sentence(m).toStdString(); }, [](std::string_view id) { return word(id).toStdString(); },
        [](double si, std::string_view unit) { return number(si, unit).toStdString(); },
        [](const Plant& plant, const Event& event) { return eventText(plant, event).toStdString(); }};
}

} // namespace ts::wording
