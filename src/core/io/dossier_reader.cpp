#include "core/edit/reliability_edits.h"
#include "core/io/dossier_text.h"
#include "core/io/fields.h"
#include "core/io/function_text.h"
#include "core/io/migration.h"
#include "core/io/reading.h"
#include "core/library/registry.h"
#include <algorithm>

#include <map>
#include <set>

namespace ts::io {
namespace {

/// Reads the dossier part by part; remembers where each device stands for errors that show later.
class DossierReader {
public:
    explicit DossierReader(Trouble& trouble)
        : m_trouble(trouble)
    {
    }

    void read(ObjectReader& r, Dossier& d)
    {
        r.object("machine", [&](ObjectReader& m) { readMachine(m, d.machine); });
        r.object("arithmetic", [&](ObjectReader& a) { d.arithmetic = readArithmetic(a); });
        r.object("circuit", [&](ObjectReader& c) { readCircuit(c, d.circuit); });
        r.each("functions", 500, [&](ObjectReader& f) {
            const FunctionId id{freshId(f)};
            d.functions.push_back(readFunction(f, id));
        });
        r.each("scenarios", 500, [&](ObjectReader& s) { readScenario(s, d); });
        r.each("exclusions", 2000, [&](ObjectReader& e) {
            d.exclusions.push_back({e.text("fault", true), e.text("reason", true)});
        });
    }
    int largestId() const { return m_largestId; }

    static void readParts(ObjectReader& r, std::vector<Part>& parts)
    {
        r.each("parts", kMostParts, [&](ObjectReader& p) {
            Part part;
            part.id = p.text("id", true);
            part.name = p.text("name");
            part.kind = p.text("kind", true);
            part.parameters = readParameters(p);
            part.reliability = readReliability(p);
            if (std::any_of(parts.begin(), parts.end(), [&](const Part& other) { return other.id == part.id; }))
                p.refuse(ErrorCode::Refused, message("file.duplicate_part", {part.id}), "id");
            parts.push_back(std::move(part));
        });
    }

private:
    int freshId(ObjectReader& r)
    {
        const int id = r.integer("id", 1, kLargestId);
        if (!m_trouble.any() && !m_ids.insert(id).second)
            r.refuse(ErrorCode::Refused, message("file.duplicate_id", {static_cast<long long>(id)}), "id");
        m_largestId = std::max(m_largestId, id);
        return id;
    }

    static ChosenWords readWords(ObjectReader& r, std::string_view key)
    {
        ChosenWords words;
        r.each(key, 500, [&](ObjectReader& w) {
            const std::string choice = w.text("choice", true), text = w.lines("text", true);
            if (!words.emplace(choice, text).second)
                w.refuse(ErrorCode::Refused, message("file.chosen_twice", {choice}), "choice");
        });
        return words;
    }

    static void readPlan(ObjectReader& r, PlannedMachine& plan)
    {
        plan.words = readWords(r, "words");
        r.each("starters", 20, [&](ObjectReader& s) {
            PlannedStarter starter{s.integer("number", 1, 20), readWords(s, "words")};
            if (!plan.starters.empty() && plan.starters.back().number >= starter.number)
                s.refuse(ErrorCode::Refused, message("file.starter_order"), "number");
            plan.starters.push_back(std::move(starter));
        });
        plan.reasons = readWords(r, "reasons");
    }

    static void readMachine(ObjectReader& r, Machine& m)
    {
        m.name = r.text("name", true);
        m.site = r.text("site");
        m.inUseSince = r.date("in_use_since");
        r.object("plan", [&](ObjectReader& p) { readPlan(p, m.plan); });
        r.object("duty", [&](ObjectReader& d) {
            m.duty.isEntered = d.find("days_per_year") || d.find("hours_per_day");
            if (m.duty.isEntered) {
                m.duty.daysPerYear = d.number("days_per_year", 0, 366);
                m.duty.hoursPerDay = d.number("hours_per_day", 0, 24);
            }
            d.each("scenarios", 1000, [&](ObjectReader& s) {
                const ScenarioId id{s.integer("scenario", 1, kLargestId)};
                m.duty.timesPerHour[id] = s.number("times_per_hour", 0, 3600);
            });
        });
    }

    static ParameterMap readParameters(ObjectReader& r)
    {
        ParameterMap map;
        const JsonNode* node = r.find("parameters");
        if (!node)
            return map;
        if (node->type != JsonNode::Type::Object) {
            r.refuse(ErrorCode::Refused, message("file.not_an_object"), "parameters");
            return map;
        }
        for (const auto& [key, value] : node->members) {
            switch (value.type) {
            case JsonNode::Type::Boolean:
                map[key] = value.boolean;
                break;
            case JsonNode::Type::Number:
                map[key] = value.number;
                break;
            case JsonNode::Type::String:
                map[key] = plainText(value.text);
                break;
            case JsonNode::Type::Array: {
                std::vector<std::string> words;
                for (const JsonNode& item : value.items)
                    words.push_back(plainText(item.text));
                if (words.size() > 200)
                    r.trouble().note(
                        ErrorCode::Refused, message("file.too_many", {key, 200LL}), value, r.pointer("parameters"));
                map[key] = std::move(words);
                break;
            }
            default:
                r.trouble().note(
                    ErrorCode::Refused, message("file.not_text", {key}), value, r.pointer("parameters") + "/" + key);
            }
        }
        return map;
    }

    static std::optional<Reliability> readReliability(ObjectReader& owner)
    {
        std::optional<Reliability> result;
        owner.object("reliability", [&](ObjectReader& r) {
            Reliability v;
            for (const auto& field : kReliabilityNumbers)
                if (r.find(field.name))
                    v.*field.value = r.number(field.name, field.low, field.high);
            v.typicalPart = typicalIdFrom(r.text("typical_part"));
            v.performanceLevel = safety::levelNamed(r.word("performance_level", {"", "a", "b", "c", "d", "e"}, ""));
            v.category = safety::categoryNamed(r.word("category", {"", "B", "1", "2", "3", "4"}, ""));
            v.source = r.text("source");
            if (r.find(kDangerousShare.name))
                v.dangerousShare = r.number(kDangerousShare.name, kDangerousShare.low, kDangerousShare.high);
            if (const char* trouble = edit::troubleOf(v))
                r.refuse(ErrorCode::Refused, message(trouble));
            result = v;
        });
        return result;
    }

    void readCircuit(ObjectReader& r, Circuit& c)
    {
        readParts(r, c.parts);
        r.each("devices", kMostDevices, [&](ObjectReader& d) { readDevice(d, c); });
        r.each("routes", 1000, [&](ObjectReader& o) {
            Route route;
            route.id = {freshId(o)};
            route.name = o.text("name");
            route.kind = routeNamed(o.word(
                "kind", {"enclosure", "cable", "protected_cable", "shielded_cable", "moving_cable"}, "enclosure"));
            readFields(o, kRouteFields, route);
            c.routes.push_back(std::move(route));
        });
        if (!m_trouble.any())
            readBodies(c);
        r.each("wires", kMostWires, [&](ObjectReader& w) { readWire(w, c); });
        const auto deviceNamed = [&c](ObjectReader& o, const char* key) {
            const Device* device = c.device(o.text(key, true));
            if (!device)
                o.refuse(ErrorCode::NotFound, message("scenario.no_device", {o.text(key)}), key);
            return device ? device->id : DeviceId{};
        };
        r.each("interlocks", 100, [&](ObjectReader& i) {
            c.interlocks.push_back({deviceNamed(i, "first"), deviceNamed(i, "second")});
        });
        r.each("shafts", 100, [&](ObjectReader& s) {
            c.shafts.push_back({deviceNamed(s, "brake"), deviceNamed(s, "motor")});
        });
    }

    void readDevice(ObjectReader& r, Circuit& c)
    {
        Device d;
        d.id = {freshId(r)};
        d.tag = r.text("tag", true);
        d.kind = r.text("kind", true);
        d.part = r.text("part");
        d.label = r.text("label");
        d.place = r.word("place", {"", "door", "plate", "field"}, "");
        d.rank = r.integer("rank", -1'000'000, 1'000'000, 0);
        d.parameters = readParameters(r);
        d.reliability = readReliability(r);
        d.remark = r.text("remark");
        const bool tagOk = !d.tag.empty() && d.tag.size() <= 24 && d.tag.find_first_of(":/+. \t\n") == std::string::npos
            && d.tag != "wire";
        if (!tagOk)
            r.refuse(ErrorCode::Refused, message("file.bad_tag", {d.tag}), "tag");
        if (!m_tags.insert(d.tag).second)
            r.refuse(ErrorCode::Refused, message("file.duplicate_tag", {d.tag}), "tag");
        m_deviceNodes.emplace_back(&r.node(), r.pointer("parameters"));
        c.devices.push_back(std::move(d));
    }

    /// Every device's body once: kinds and parameters are checked, terminals become known.
    void readBodies(const Circuit& c)
    {
        for (std::size_t i = 0; i < c.devices.size(); ++i) {
            const auto body = bodyOf(c, c.devices[i]);
            if (!body) {
                m_trouble.note(
                    body.error().code, body.error().message, *m_deviceNodes[i].first, m_deviceNodes[i].second);
                return;
            }
            for (const TerminalSpec& t : body->terminals)
                if (!t.inner)
                    m_terminals.emplace(c.devices[i].id.value, t.marking);
        }
    }

    TerminalRef readTerminal(ObjectReader& r, const Circuit& c, const char* key)
    {
        const std::string text = r.text(key, true);
        const std::size_t colon = text.find(':');
        const Device* device = colon == std::string::npos ? nullptr : c.device(std::string_view(text).substr(0, colon));
        TerminalRef ref;
        if (device)
            ref = {device->id, text.substr(colon + 1)};
        if (!device || !m_terminals.contains({ref.device.value, ref.marking}))
            r.refuse(ErrorCode::NotFound, message("wire.no_terminal", {r.text("number"), text}), key);
        return ref;
    }

    void readWire(ObjectReader& r, Circuit& c)
    {
        Wire w;
        w.id = {freshId(r)};
        w.number = r.text("number");
        w.from = readTerminal(r, c, "from");
        w.to = readTerminal(r, c, "to");
        readFields(r, kWireFields, w);
        w.route = {r.integer("route", 0, kLargestId, 0)};
        if (w.route && !c.route(w.route))
            r.refuse(ErrorCode::NotFound, message("wire.no_route", {w.number, static_cast<long long>(w.route.value)}),
                "route");
        c.wires.push_back(std::move(w));
    }

    void readScenario(ObjectReader& r, Dossier& d)
    {
        Scenario s;
        s.id = {freshId(r)};
        s.name = r.text("name", true);
        s.lengthS = r.number("length_s", 0.001, kLongestScenarioS, 5.0);
        r.each("steps", 1000, [&](ObjectReader& t) {
            s.steps.push_back({t.number("at_s", 0, kLongestScenarioS), t.text("action", true), t.text("target", true),
                t.number("value", 0, 3600, 0.0)});
        });
        r.each("expect", 1000, [&](ObjectReader& e) {
            s.expectations.push_back(
                {e.number("at_s", 0, kLongestScenarioS), e.text("subject", true), e.text("state", true)});
        });
        d.scenarios.push_back(std::move(s));
    }

    Trouble& m_trouble;
    std::set<int> m_ids;
    std::set<std::string> m_tags;
    std::set<std::pair<int, std::string>> m_terminals;
    std::vector<std::pair<const JsonNode*, std::string>> m_deviceNodes;
    int m_largestId = 0;
};

TakenReading takenReading(ObjectReader& r)
{
    constexpr double kMost = 1e15;
    const auto number = [&r](const char* key) {
        return r.find(key) ? std::optional(r.number(key, -kMost, kMost)) : std::nullopt;
    };
    TakenReading t;
    t.value = number("value");
    t.word = r.text("word");
    t.unit = r.text("unit");
    t.low = number("low");
    t.high = number("high");
    t.expected = r.text("expected");
    t.instrument = r.text("instrument");
    t.calibratedUntil = r.date("calibrated_until");
    t.uncertainty = r.number("uncertainty", 0, 1);
    t.covers = r.texts("covers");
    return t;
}

/// The present format is read, older ones are migrated before; "draft-7" or "3" is newer; anything else is not ours.
/// Whether its hashes fit is record::firstBroken's to say: what does not is still somebody's entry.
RecordEntry recordEntry(ObjectReader& r)
{
    RecordEntry e;
    e.date = r.text("date", true);
    e.who = r.text("who", true);
    e.text = r.lines("text", true);
    if (r.find("kind"))
        e.kind = r.word("kind", kRecordKinds, {});
    if (e.isChained())
        e.role = r.word("role", kRecordRoles, {});
    e.subject = r.text("subject");
    e.said = r.text("said");
    e.state = r.text("state");
    e.before = r.texts("before");
    r.object("reading", [&e](ObjectReader& reading) { e.reading = takenReading(reading); });
    r.object("bypass", [&e](ObjectReader& b) {
        e.bypass.emplace();
        e.bypass->from = b.text("from", true);
        e.bypass->to = b.text("to", true);
        e.bypass->owner = b.text("owner", true);
        e.bypass->until = b.date("until");
    });
    return e;
}

void checkFormat(ObjectReader& r)
{
    const std::string format = r.text("format", true);
    if (r.trouble().any() || format == kFormat)
        return;
    std::string digits = format.starts_with("draft-") ? format.substr(6) : format;
    const bool newer = !digits.empty() && digits.size() < 9
        && digits.find_first_not_of("0123456789") == std::string::npos;
    if (newer)
        r.refuse(ErrorCode::Newer, message("file.newer", {format, std::string(kFormat)}), "format");
    else
        r.refuse(ErrorCode::Refused, message("file.unknown_format", {format}), "format");
}

/// As it is printed: nothing depends on the order in which a file happens to list things.
void sortById(Dossier& d)
{
    const auto sort = [](auto& list) {
        std::sort(list.begin(), list.end(), [](const auto& a, const auto& b) { return a.id < b.id; });
    };
    sort(d.circuit.devices);
    sort(d.circuit.wires);
    sort(d.circuit.routes);
    sort(d.circuit.parts);
    sort(d.functions);
    sort(d.scenarios);
}

} // namespace

Expected<DossierFile> parseDossier(std::string_view text)
{
    auto root = parseJson(text);
    if (!root)
        return Unexpected{root.error()};
    if (const JsonNode* format = root->member("format"); format && format->text == "draft-1")
        migrate1To2(*root);
    Trouble trouble;
    DossierFile file;
    ObjectReader r(*root, "", trouble);
    DossierReader reader(trouble);
    if (!trouble.any())
        checkFormat(r);
    if (!trouble.any()) {
        file.nextId = r.integer("nextId", 1, kLargestId, 1);
        (void)r.find("dossier", true);
        r.object("dossier", [&](ObjectReader& d) { reader.read(d, file.dossier); });
        r.each("record", 100000, [&](ObjectReader& e) { file.record.push_back(recordEntry(e)); });
        r.finish();
    }
    if (trouble.any())
        return Unexpected{trouble.error()};
    file.nextId = std::max(file.nextId, reader.largestId() + 1);
    sortById(file.dossier);
    return file;
}

Expected<std::vector<Part>> parseParts(std::string_view text)
{
    auto root = parseJson(text);
    if (!root)
        return Unexpected{root.error()};
    Trouble trouble;
    std::vector<Part> parts;
    JsonNode wrapped;
    wrapped.type = JsonNode::Type::Object;
    wrapped.members.emplace_back("parts", std::move(*root));
    ObjectReader r(wrapped, "", trouble);
    DossierReader(trouble).readParts(r, parts);
    if (trouble.any())
        return Unexpected{trouble.error()};
    return parts;
}

} // namespace ts::io
