#pragma once
// A multimeter and insulation tester over lines as bench instruments understand them (IEEE 488.2 common commands, SCPI
// 1999 MEASure subsystem): short and long forms, any case, several commands on a line parted by semicolons.

#include "core/practice/practice_panel.h"

namespace ts::practice {

class ScpiMeter {
public:
    explicit ScpiMeter(PracticePanel& panel)
        : m_panel(panel)
    {
    }
    /// Without line ends. Nothing for commands that are no queries; errors wait in SYSTem:ERRor?.
    std::string answer(const std::string& line);

private:
    std::string answerOne(const std::string& command);
    std::string measured(measuring::Instrument with);
    std::string nextError();
    void fault(int number, const char* words);

    PracticePanel& m_panel;
    std::vector<std::string> m_errors;
    measuring::Instrument m_last = measuring::Instrument::Volts; ///< what READ? takes
};

} // namespace ts::practice
