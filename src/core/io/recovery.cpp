#include "core/io/recovery.h"

#include "core/io/dossier_text.h"
#include "core/io/json_tree.h"
#include "core/io/reading.h"

#include <nlohmann/json.hpp>

namespace ts::io {
namespace {
constexpr int kMostEdits = 1000000;
} // namespace

std::string printRecovery(const RecoveryCopy& copy)
{
    const nlohmann::json head{{"path", plainText(copy.path).size() > kLongestText ? std::string() : copy.path},
        {"last_edit", copy.lastEdit}, {"edits", copy.edits}, {"when", copy.when}};
    return head.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace) + "\n" + printDossier(copy.file);
}

Expected<RecoveryCopy> parseRecovery(std::string_view text)
{
    const std::size_t line = text.find('\n');
    const auto head = parseJson(text.substr(0, line));
    if (!head)
        return Unexpected{head.error()};
    RecoveryCopy copy;
    Trouble trouble;
    ObjectReader r(*head, "", trouble);
    copy.path = r.text("path");
    copy.lastEdit = r.text("last_edit");
    copy.edits = r.integer("edits", 0, kMostEdits, 0);
    copy.when = r.text("when");
    r.finish();
    if (trouble.any())
        return Unexpected{trouble.error()};
    auto file = parseDossier(line == std::string_view::npos ? std::string_view{} : text.substr(line + 1));
    if (!file)
        return Unexpected{file.error()};
    copy.file = std::move(*file);
    return copy;
}

} // namespace ts::io
