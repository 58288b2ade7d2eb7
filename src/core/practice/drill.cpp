#include "core/practice/drill.h"

#include "core/finding/knowledge.h"

#include <algorithm>
#include <array>

namespace ts::practice {

using finding::Finder;
using finding::Knowledge;
using finding::Symptom;
using measuring::StandIn;
using measuring::Suspect;

namespace {

constexpr double kEasyBits = 3, kHardBits = 5;
constexpr int kTries = 300; ///< candidates that are drawn before it is given up

/// What somebody who works the machine would see first: at the first step of the plan of tests that shows anything,
/// everything that is not as it should be then.
Expected<std::vector<Symptom>> seenFirst(const Knowledge& k, StandIn& built, StandIn& right, std::stop_token stop)
{
    const auto live = k.live(stop);
    if (!live)
        return Unexpected{live.error()};
    const auto states = finding::statesSeenOn(k.plant());
    for (const measuring::TestStep& step : (*live)->steps) {
        if (step.look.with != measuring::Instrument::Eye || step.in.power != measuring::Power::On)
            continue;
        if (!right.bring(step.in) || !built.bring(step.in))
            return cancelled();
        std::vector<Symptom> seen;
        for (const auto& [tag, words] : states)
            for (const std::string& word : words) {
                const Symptom s{step.in, tag, word, false};
                const auto should = finding::isSeen(right.plant(), right.trail().back(), s);
                const auto is = finding::isSeen(built.plant(), built.trail().back(), s);
                if (should && is && !*should && *is)
                    seen.push_back(s);
            }
        if (!seen.empty())
            return seen;
    }
    return std::vector<Symptom>();
}

bool isOf(Difficulty difficulty, double bits, bool isTold)
{
    switch (difficulty) {
    case Difficulty::Easy:
        return isTold && bits < kEasyBits;
    case Difficulty::Hard:
        return isTold && bits >= kEasyBits && bits < kHardBits;
    case Difficulty::Masked:
        return !isTold || bits >= kHardBits;
    }
    return false;
}

Suspect suspectOf(const measuring::Deviation& d)
{
    return {d.id, d.isMistake ? std::optional(d.mistake) : std::nullopt};
}

/// Without the finder's own way, which is worked out once it is chosen.
struct Drawn {
    Drill drill;
    std::optional<Finder> finder;
};

Expected<Drawn> drawn(
    const Knowledge& k, const Finder& fresh, std::size_t candidate, unsigned seed, std::stop_token stop)
{
    const auto built = k.panel(candidate, stop), right = k.panel(k.asDrawn(), stop);
    if (!built)
        return failure(ErrorCode::NotFound, message("drill.none"));
    Drawn d{
        {k.circuit(), suspectOf(k.all()[candidate]), {}, {}, k.all()[candidate].touches, 0, seed, 0, 0, {}, {}}, fresh};
    for (const measuring::Deviation& x : k.all())
        if (!x.isHarmless && &x != &k.all()[k.asDrawn()])
            d.drill.everything.push_back(suspectOf(x));
    for (const std::size_t same : k.alike(candidate))
        d.drill.alike.push_back(suspectOf(k.all()[same]));
    auto told = seenFirst(k, *built, *right, stop);
    if (!told)
        return Unexpected{told.error()};
    d.drill.told = *std::move(told);
    if (!d.drill.told.empty())
        if (const auto ok = d.finder->tell(d.drill.told, stop); !ok)
            return Unexpected{ok.error()};
    d.drill.bitsLeft = d.finder->entropy();
    return d;
}

Expected<Drill> finished(const Knowledge& k, Drawn d, std::size_t candidate, std::stop_token stop)
{
    const auto built = k.panel(candidate, stop);
    const auto search = finding::searchOn(*std::move(d.finder), *built, stop);
    if (!search)
        return Unexpected{search.error()};
    d.drill.finderMeasurements = search->measurements.size();
    const double read = measuring::bandOf("read").low, operate = measuring::bandOf("operate").low;
    for (const finding::Measurement& m : search->measurements)
        d.drill.finderSeconds += read + static_cast<double>(m.taken.in.bring.size()) * operate;
    for (const finding::Class& c : search->finding.classes)
        if (std::any_of(
                c.candidates.begin(), c.candidates.end(), [&](const Suspect& s) { return s.id == d.drill.hidden.id; }))
            d.drill.sameClass = c.candidates;
    return std::move(d.drill);
}

using measuring::Deviation;
using measuring::MistakeKind;
using Kind = bool (*)(const Circuit&, const Deviation&);

template <MistakeKind kind> bool isMistake(const Circuit&, const Deviation& d)
{
    return d.isMistake && d.mistake.kind == kind;
}

bool touchesEarth(const Circuit& circuit, const Deviation& d)
{
    return std::any_of(d.mistake.wires.begin(), d.mistake.wires.end(), [&](const measuring::WireChange& c) {
        const Wire* w = circuit.wire(c.wire);
        return w && (w->from.marking == "PE" || w->to.marking == "PE");
    });
}

bool isMissingWire(const Circuit& circuit, const Deviation& d)
{
    return isMistake<MistakeKind::Missing>(circuit, d) && !touchesEarth(circuit, d);
}

bool isMissingEarth(const Circuit& circuit, const Deviation& d)
{
    return isMistake<MistakeKind::Missing>(circuit, d) && touchesEarth(circuit, d);
}

/// A fault by its word: "S1/11-12:welded".
bool isFault(const Deviation& d, std::string_view word)
{
    return !d.isMistake && d.id.ends_with(word);
}

bool isOpenPart(const Circuit&, const Deviation& d)
{
    return isFault(d, ":open");
}

bool isContactThatStaysOpen(const Circuit&, const Deviation& d)
{
    return isFault(d, ":does_not_close");
}

bool isWelded(const Circuit&, const Deviation& d)
{
    return isFault(d, ":welded");
}

bool isAnything(const Circuit&, const Deviation&)
{
    return true;
}

constexpr std::array<Kind, kLessons> kCourse{isMissingWire, isMistake<MistakeKind::Beside>,
    isMistake<MistakeKind::Exchanged>, isMistake<MistakeKind::OtherDevice>, isMistake<MistakeKind::Inverted>,
    isMistake<MistakeKind::CoilVoltage>, isOpenPart, isContactThatStaysOpen, isMistake<MistakeKind::LeftOut>, isWelded,
    isMissingEarth, isAnything};

/// The first of those that are drawn which is of that kind, and as it is wanted.
Expected<Drill> firstOf(const Circuit& circuit, const std::function<bool(const Circuit&, const Deviation&)>& isOfKind,
    const std::function<bool(const Drill&)>& isWanted, unsigned seed, std::stop_token stop)
{
    const auto k = Knowledge::of(circuit);
    if (!k)
        return Unexpected{k.error()};
    const auto fresh = Finder::of(*k);
    std::vector<std::size_t> candidates;
    for (const std::size_t c : (*k)->candidates())
        if (c != (*k)->asDrawn() && !(*k)->all()[c].isHarmless && isOfKind(circuit, (*k)->all()[c]))
            candidates.push_back(c);
    std::mt19937 random(seed);
    std::shuffle(candidates.begin(), candidates.end(), random);
    candidates.resize(std::min<std::size_t>(candidates.size(), kTries));
    for (const std::size_t c : candidates) {
        auto d = drawn(**k, fresh, c, seed, stop);
        if (!d && d.error().code == ErrorCode::Cancelled)
            return Unexpected{d.error()};
        if (d && isWanted(d->drill))
            return finished(**k, *std::move(d), c, stop);
    }
    return failure(ErrorCode::NotFound, message("drill.none"));
}

} // namespace

std::string_view wordOf(Difficulty difficulty)
{
    constexpr std::array<std::string_view, 3> words{"easy", "hard", "masked"};
    return words[static_cast<std::size_t>(difficulty)];
}

Expected<Drill> drillOf(const Circuit& circuit, Difficulty difficulty, unsigned seed, std::stop_token stop)
{
    const auto isHard = [difficulty](const Drill& d) { return isOf(difficulty, d.bitsLeft, !d.told.empty()); };
    return firstOf(circuit, isAnything, isHard, seed, stop);
}

Expected<Drill> lessonOf(const Circuit& circuit, int number, unsigned seed, std::stop_token stop)
{
    if (number < 1 || number > kLessons)
        return failure(ErrorCode::OutOfRange, message("drill.no_lesson", {number, kLessons}));
    const bool isLast = number == kLessons; // whatever it is, nothing of it is seen at first
    const auto isWanted = [isLast](const Drill& d) { return !isLast || d.told.empty(); };
    return firstOf(circuit, kCourse[static_cast<std::size_t>(number - 1)], isWanted, seed, stop);
}

Expected<Drill> drillWith(const Circuit& circuit, const std::string& id, unsigned seed, std::stop_token stop)
{
    const auto k = Knowledge::of(circuit);
    if (!k)
        return Unexpected{k.error()};
    const auto fresh = Finder::of(*k);
    for (const std::size_t c : (*k)->candidates())
        for (const std::size_t same : (*k)->alike(c))
            if ((*k)->all()[same].id == id) {
                auto d = drawn(**k, fresh, c, seed, stop);
                if (!d)
                    return Unexpected{d.error()};
                d->drill.hidden = suspectOf((*k)->all()[same]);
                return finished(**k, *std::move(d), c, stop);
            }
    return failure(ErrorCode::NotFound, message("mistake.unknown", {id}));
}

Expected<PracticePanel> panelOf(const Drill& drill, std::stop_token stop)
{
    const auto k = Knowledge::of(drill.circuit);
    if (!k)
        return Unexpected{k.error()};
    const auto live = (*k)->live(stop);
    if (!live)
        return Unexpected{live.error()};
    for (std::size_t d = 0; d < (*k)->all().size(); ++d)
        if ((*k)->all()[d].id == drill.hidden.id)
            if (auto built = (*k)->panel(d, stop))
                return PracticePanel(
                    std::make_shared<const Plant>((*k)->plant()), std::move(built), (*live)->stops, drill.seed);
    return failure(ErrorCode::NotFound, message("mistake.unknown", {drill.hidden.id}));
}

Score scoreOf(const Drill& drill, const PracticePanel& panel, const std::string& named)
{
    const auto isNamed = [&named](const Suspect& s) { return s.id == named; };
    return {drill.hidden.id == named || std::any_of(drill.alike.begin(), drill.alike.end(), isNamed),
        panel.measurements(), drill.finderMeasurements, panel.seconds(), drill.finderSeconds, panel.lapses()};
}

} // namespace ts::practice
