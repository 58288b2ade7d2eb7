#include "core/practice/scpi.h"

#include <algorithm>
#include <cctype>
#include <cstdio>
#include <sstream>

namespace ts::practice {

using measuring::Instrument;

namespace {

constexpr std::size_t kMostErrors = 20; ///< IEEE 488.2: a queue that overflows says so

std::string trimmed(const std::string& text)
{
    const auto isSpace = [](unsigned char c) { return std::isspace(c) != 0; };
    const auto begin = std::find_if_not(text.begin(), text.end(), isSpace);
    const auto end = std::find_if_not(text.rbegin(), text.rend(), isSpace).base();
    return begin < end ? std::string(begin, end) : std::string();
}

/// "MEASure" is met by MEAS and MEASURE, in any case (SCPI 1999 vol. 1, 6.2.1).
bool isWord(const std::string& given, const std::string& word)
{
    std::string shortForm, longForm, upper;
    for (const char c : word) {
        if (std::isupper(static_cast<unsigned char>(c)) || c == '*' || c == '?')
            shortForm += c;
        longForm += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    }
    for (const char c : given)
        upper += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    return upper == shortForm || upper == longForm;
}

/// "MEASure:VOLTage:AC?": each part by its word.
bool is(const std::string& command, const std::string& header)
{
    std::istringstream given(command.front() == ':' ? command.substr(1) : command), known(header);
    std::string a, b;
    while (true) {
        const bool isMore = static_cast<bool>(std::getline(given, a, ':'));
        if (isMore != static_cast<bool>(std::getline(known, b, ':')))
            return false;
        if (!isMore)
            return true;
        if (!isWord(a, b))
            return false;
    }
}

struct Query {
    const char* header;
    Instrument with;
};
constexpr Query kQueries[]{{"MEASure:VOLTage:AC?", Instrument::Volts}, {"MEASure:VOLTage:DC?", Instrument::Volts},
    {"MEASure:VOLTage?", Instrument::Volts}, {"MEASure:RESistance?", Instrument::Ohms},
    {"MEASure:CONTinuity?", Instrument::Ohms}, {"MEASure:FRESistance?", Instrument::LowOhms},
    {"MEASure:CURRent:AC?", Instrument::Amperes}, {"MEASure:INSulation?", Instrument::Insulation}};

} // namespace

std::string ScpiMeter::answer(const std::string& line)
{
    std::istringstream commands(line);
    std::string answers;
    for (std::string one; std::getline(commands, one, ';');) {
        one = trimmed(one);
        if (one.empty())
            continue;
        const std::string said = answerOne(one);
        if (!said.empty())
            answers += (answers.empty() ? "" : ";") + said;
    }
    return answers;
}

std::string ScpiMeter::answerOne(const std::string& command)
{
    if (is(command, "*IDN?"))
        return "Larkspur,Practice meter,0,1"; // maker, model, serial number, version (IEEE 488.2, 10.14)
    if (is(command, "*RST") || is(command, "*CLS")) {
        m_errors.clear();
        return {};
    }
    if (is(command, "*OPC?"))
        return "1";
    if (is(command, "SYSTem:ERRor?"))
        return nextError();
    if (is(command, "READ?"))
        return measured(m_last);
    for (const Query& q : kQueries)
        if (is(command, q.header))
            return measured(q.with);
    fault(-113, "Undefined header");
    return {};
}

std::string ScpiMeter::measured(Instrument with)
{
    m_last = with;
    const auto value = m_panel.measure(with);
    if (!value)
        fault(-230, "Data corrupt or stale"); // no probes, or nobody measures that there
    char text[32];
    std::snprintf(text, sizeof text, "%+.6E", value ? *value : kOverload);
    return text;
}

std::string ScpiMeter::nextError()
{
    if (m_errors.empty())
        return "0,\"No error\"";
    const std::string first = m_errors.front();
    m_errors.erase(m_errors.begin());
    return first;
}

void ScpiMeter::fault(int number, const char* words)
{
    if (m_errors.size() < kMostErrors)
        m_errors.push_back(std::to_string(number) + ",\"" + words + "\"");
    else
        m_errors.back() = "-350,\"Queue overflow\"";
}

} // namespace ts::practice
