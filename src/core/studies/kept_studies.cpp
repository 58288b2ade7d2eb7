#include "core/studies/kept_studies.h"

#include "core/keeping/kept_sweep.h"

namespace ts {

std::optional<Value> recalled(const Study& study, const std::string& key, const Dossier& dossier,
    const Subject& subject, const io::ResultStore& store)
{
    if (!study.fromText)
        return std::nullopt;
    const auto text = store.find(keptName(study.id, key));
    return text ? study.fromText(*text, dossier, subject) : std::nullopt;
}

void keep(const Study& study, const std::string& key, const Value& value, const io::ResultStore& store)
{
    if (study.textOf)
        store.keep(keptName(study.id, key), study.textOf(value));
}

} // namespace ts
