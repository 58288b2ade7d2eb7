#include "core/practice/practice_panel.h"

#include "core/measuring/dead_looks.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace ts::practice {

using namespace measuring;

namespace {

constexpr double kMeterEndOhm = 40e6; ///< what a handheld meter still shows

Unexpected noLine(const std::string& line)
{
    return failure(ErrorCode::Syntax, message("drill.no_line", {line}));
}

std::string placeOf(const Situation& in, const std::string& a, const std::string& b, Instrument with)
{
    return stepId(in, {with, {std::min(a, b), std::max(a, b)}});
}

} // namespace

std::string_view wordOf(Lapse::Kind kind)
{
    constexpr std::array<std::string_view, 4> words{"ohms_on_live", "not_proved_dead", "fuse_under_load", "dangerous"};
    return words[static_cast<std::size_t>(kind)];
}

PracticePanel::PracticePanel(
    std::shared_ptr<const Plant> right, std::unique_ptr<StandIn> built, std::vector<std::string> stops, unsigned seed)
    : m_right(std::move(right))
    , m_built(std::move(built))
    , m_asDrawn(m_right)
    , m_stops(std::move(stops))
    , m_random(seed)
{
    (void)bring(m_in, {});
}

Expected<std::string> PracticePanel::operate(const std::string& line)
{
    const auto words = finding::wordsIn(line);
    const auto is = [&](std::string_view word, std::size_t count) { return words.size() == count && words[0] == word; };
    if (is("lock_off", 1)) {
        m_isProvedDead = false;
        m_seconds += bandOf("switch_over").low;
        return bring({Power::LockedOff, {}, {}, m_in.lifted}, line);
    }
    if (is("switch_on", 1)) {
        m_isProvedDead = false;
        m_seconds += bandOf("switch_over").low;
        return bring({Power::On, {}, {}, m_in.lifted}, line);
    }
    if (is("prove_dead", 1)) { // tester, lines, tester again
        m_seconds += 3 * bandOf("read").low;
        m_isProvedDead = !isLive();
        return m_isProvedDead ? Expected<std::string>("dead") : Expected<std::string>("live");
    }
    if (is("lift", 3) || is("refit", 3))
        return lift(words[1], words[2], words[0] == "refit");
    if (is("probe", 3))
        return probe(words[1], words[2]);
    if (is("look", 2))
        return look(words[1]);
    if (words.size() == 2)
        return act(words[0], words[1]);
    return noLine(line);
}

Unexpected PracticePanel::refused(Lapse::Kind kind, const std::string& line)
{
    m_lapses.push_back({kind, line});
    return failure(ErrorCode::Refused, message("drill." + std::string(wordOf(kind)), {line}));
}

bool PracticePanel::drivesSomething() const
{
    const auto& fed = m_built->trail().back().actuatorFed;
    return std::any_of(fed.begin(), fed.end(), [](std::uint8_t f) { return f != 0; });
}

/// What is held by a spring is held until it is let go: bring() takes it in the order of the lines.
Expected<std::string> PracticePanel::act(const std::string& action, const std::string& tag)
{
    const std::string line = action + " " + tag;
    const bool isPull = action == "pull" || action == "take_out";
    if (isPull && isLive() && drivesSomething())
        return refused(Lapse::Kind::FuseUnderLoad, line);
    if (!isLive() && !m_isProvedDead && action == "push_in")
        return refused(Lapse::Kind::NotProvedDead, line);
    Situation in = m_in;
    if (isPull && isLive())
        in.isolated.push_back(tag);
    else
        in.bring.push_back(tag + " " + action);
    m_seconds += bandOf("operate").low;
    return bring(std::move(in), line);
}

Expected<std::string> PracticePanel::bring(Situation in, const std::string& line)
{
    if (const auto right = m_asDrawn.bring(in); !right)
        return Unexpected{right.error()};
    if (const auto brought = m_built->bring(in); !brought)
        return Unexpected{brought.error()};
    m_in = std::move(in);
    m_red.clear();
    m_black.clear();
    if (isLive() && !line.empty())
        if (dangerIn(*m_built, *m_right, m_asDrawn.trail(), m_stops))
            m_lapses.push_back({Lapse::Kind::Dangerous, line});
    return std::string();
}

Expected<std::string> PracticePanel::lift(const std::string& number, const std::string& terminal, bool isBack)
{
    const std::string line = (isBack ? "refit " : "lift ") + number + " " + terminal;
    if (isLive() || !m_isProvedDead)
        return refused(Lapse::Kind::NotProvedDead, line);
    const auto wire = std::find_if(m_right->wires.begin(), m_right->wires.end(), [&](const PlantWire& w) {
        return w.number == number && (m_right->nameOfNode(w.p) == terminal || m_right->nameOfNode(w.q) == terminal);
    });
    if (wire == m_right->wires.end())
        return failure(ErrorCode::NotFound, message("test.unknown", {number + " " + terminal}));
    Situation in = m_in;
    std::erase(in.lifted, wire->id);
    if (!isBack)
        in.lifted.push_back(wire->id);
    m_seconds += bandOf("lift").low;
    return bring(std::move(in), {});
}

Expected<std::string> PracticePanel::probe(const std::string& colour, const std::string& terminal)
{
    if (colour != "red" && colour != "black")
        return noLine("probe " + colour + " " + terminal);
    if (const auto node = nodesOf(*m_right, terminal); !node)
        return Unexpected{node.error()};
    if (!isLive() && !m_isProvedDead)
        return refused(Lapse::Kind::NotProvedDead, "probe " + colour + " " + terminal);
    (colour == "red" ? m_red : m_black) = terminal;
    return std::string();
}

Expected<std::string> PracticePanel::look(const std::string& what)
{
    const bool isTerminal = what.find(':') != what.npos;
    if (isTerminal && isLive()) // a terminal is looked at with the covers off
        return refused(Lapse::Kind::NotProvedDead, "look " + what);
    m_seconds += bandOf("see").low;
    if (isTerminal) {
        const auto seen = m_built->look({Instrument::Eye, {what}});
        return seen ? Expected<std::string>(seen->word) : Unexpected{seen.error()};
    }
    const int device = m_built->plant().deviceIndex(what);
    if (device < 0)
        return failure(ErrorCode::NotFound, message("test.unknown", {what}));
    const State rest = initialState(m_built->plant());
    return lookOf(m_built->plant(), isLive() ? m_built->trail().back() : rest, device);
}

Expected<double> PracticePanel::measure(Instrument with)
{
    if (m_red.empty() || m_black.empty())
        return failure(ErrorCode::Refused, message("drill.no_probes"));
    if (isOhms(with) && isLive())
        return refused(Lapse::Kind::OhmsOnLive, "ohms " + m_red + " " + m_black);
    const std::string place = placeOf(m_in, m_red, m_black, with);
    const auto reading = m_built->look(
        {with, with == Instrument::Amperes ? std::vector{m_red} : std::vector{m_red, m_black}});
    ++m_measurements;
    m_seconds += bandOf("read").low;
    m_red.clear();
    m_black.clear();
    if (!reading)
        return Unexpected{reading.error()};
    const auto [known, isNew] = m_read.try_emplace(place, 0.0);
    if (isNew)
        known->second = within(*reading, with);
    return known->second;
}

/// One figure of what it can be: parts lie anywhere within their tolerances, leads and contacts add a little.
double PracticePanel::within(const Reading& range, Instrument with)
{
    const Reading shown = expectedBy(with, range);
    std::uniform_real_distribution<double> share(0.3, 0.7);
    if (isOhms(with)) {
        if (range.low > kMeterEndOhm)
            return kOverload;
        const double high = std::min(shown.high, std::max(2 * range.low, 10 * bandOf("beep").high));
        return range.high <= 0 ? shown.high * share(m_random) : range.low + (high - range.low) * share(m_random);
    }
    return range.low + (range.high - range.low) * share(m_random);
}

} // namespace ts::practice
