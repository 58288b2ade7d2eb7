#include "core/io/migration.h"

#include "core/library/table.h"

#include <cctype>
#include <functional>

namespace ts::io {
namespace {

JsonNode* memberOf(JsonNode& node, std::string_view key)
{
    for (auto& [name, value] : node.members)
        if (name == key)
            return &value;
    return nullptr;
}

void forEach(JsonNode* list, const std::function<void(JsonNode&)>& change)
{
    if (list)
        for (JsonNode& item : list->items)
            change(item);
}

/// "11-12", "NC1-NC2": something before and after one dash, with a figure in it.
bool isContact(std::string_view word)
{
    const std::size_t dash = word.find('-');
    return dash != word.npos && dash > 0 && dash + 1 < word.size() && word.find('-', dash + 1) == word.npos
        && word.find_first_of("0123456789") != word.npos;
}

std::string elementFrom(const std::string& prose)
{
    std::string found, word;
    int contacts = 0;
    for (const char c : prose + " ") {
        if (std::isspace(static_cast<unsigned char>(c)) || c == ',' || c == ';') {
            if (isContact(word)) {
                found = word;
                ++contacts;
            }
            word.clear();
        } else {
            word += c;
        }
    }
    if (contacts > 0)
        return contacts == 1 ? found : std::string();
    if (prose.find("pole") != prose.npos)
        return "main";
    return prose.find("armature") != prose.npos ? "armature" : std::string();
}

/// The id of the row whose two columns stand in "a|b"; the text itself where no row has them, so that it is found fault
/// with.
std::string idFrom(const Table& table, const char* first, const char* second, const std::string& pair)
{
    for (std::size_t row = 0; row < table.rowCount(); ++row)
        if (std::string(table.cell(row, first)) + "|" + std::string(table.cell(row, second)) == pair)
            return std::string(table.cell(row, "id"));
    return pair;
}

void migrateParts(JsonNode* channel)
{
    if (!channel)
        return;
    forEach(memberOf(*channel, "parts"), [](JsonNode& part) {
        for (auto& [name, value] : part.members) {
            if (name == "role") {
                name = "element";
                value.text = elementFrom(value.text);
            } else if (name == "measure") {
                value.text = idFrom(dcMeasuresTable(), "stage", "measure", value.text);
            }
        }
    });
}

void migrateReliability(JsonNode& owner)
{
    JsonNode* reliability = memberOf(owner, "reliability");
    JsonNode* typical = reliability ? memberOf(*reliability, "typical_part") : nullptr;
    if (typical)
        typical->text = typicalIdFrom(typical->text);
}

} // namespace

std::string typicalIdFrom(const std::string& text)
{
    return idFrom(typicalReliabilityTable(), "part", "load", text);
}

void migrate1To2(JsonNode& root)
{
    JsonNode* dossier = memberOf(root, "dossier");
    if (!dossier)
        return;
    forEach(memberOf(*dossier, "functions"), [](JsonNode& function) {
        forEach(memberOf(function, "claim"), [](JsonNode& subsystem) {
            forEach(memberOf(subsystem, "channels"), [](JsonNode& channel) { migrateParts(&channel); });
            if (JsonNode* test = memberOf(subsystem, "test"))
                migrateParts(memberOf(*test, "equipment"));
        });
    });
    if (JsonNode* circuit = memberOf(*dossier, "circuit"))
        for (const char* list : {"devices", "parts"})
            forEach(memberOf(*circuit, list), migrateReliability);
    if (JsonNode* format = memberOf(root, "format"))
        format->text = "draft-2";
}

} // namespace ts::io
