// change FILE [WHAT]: what can be meant with a device, an element or a wire; and one of it done, with what it means.

#include "cli/commands.h"
#include "core/io/dossier_file.h"
#include "core/offers/consequence.h"
#include "core/offers/offer.h"
#include "wording/wording.h"

namespace ts::cli {
namespace {

/// "Q1", "Q1 21-22", "wire 17" (the id), or nothing.
Expected<offers::Picked> targetFrom(const Circuit& circuit, const std::string& text)
{
    offers::Picked target;
    if (text.empty())
        return target;
    const std::size_t blank = text.find(' ');
    const std::string first = text.substr(0, blank), rest = blank == text.npos ? std::string() : text.substr(blank + 1);
    if (first == "wire") {
        for (const Wire& w : circuit.wires)
            if (std::to_string(w.id.value) == rest)
                target.wire = w.id;
        if (!target.wire)
            return failure(ErrorCode::NotFound, message("edit.no_wire"));
        return target;
    }
    const Device* device = circuit.device(std::string_view(first));
    if (!device)
        return failure(ErrorCode::NotFound, message("scenario.no_device", {first}));
    target.device = device->id;
    target.role = rest;
    return target;
}

int listed(const Dossier& dossier, const offers::Picked& target, Session& s)
{
    for (const offers::Offer& offer : offers::offersFor(dossier, target)) {
        s.out << offer.id << "  " << wording::word("do." + offer.id) << '\n';
        for (const offers::Question& q : offer.questions) {
            s.out << "    " << q.id << "=" << q.preset << "  " << wording::word("question." + q.id) << '\n';
            for (const offers::Choice& c : q.choices)
                s.out << "        " << c.value << "  " << wording::sentence(c.text) << '\n';
        }
    }
    return kInOrder;
}

} // namespace

int change(const Request& r, Session& s)
{
    const auto file = io::loadDossier(r.file);
    if (!file)
        return fail(file.error(), s);
    const auto target = targetFrom(file->dossier.circuit, r.at);
    if (!target)
        return fail(target.error(), s);
    if (r.what.empty())
        return listed(file->dossier, *target, s);
    offers::Answers answers;
    for (const std::string& text : r.with) {
        const std::size_t equals = text.find('=');
        if (equals == text.npos)
            return fail(Error{ErrorCode::Syntax, message("parameter.no_equals", {text}), {}}, s);
        answers[text.substr(0, equals)] = text.substr(equals + 1);
    }
    const auto changed = offers::carriedOut(*file, *target, r.what, answers);
    if (!changed)
        return fail(changed.error(), s);
    const auto meanings = offers::meaningOf(file->dossier.circuit, changed->dossier.circuit);
    if (!meanings)
        return fail(meanings.error(), s);
    for (const offers::Meaning& m : *meanings)
        s.out << (m.weight == offers::Meaning::Weight::Loss ? "! " : "  ") << wording::sentence(m.text) << '\n';
    if (r.output.empty())
        return kInOrder;
    const auto saved = io::saveDossier(r.output, *changed);
    return saved ? kInOrder : fail(saved.error(), s);
}

} // namespace ts::cli
