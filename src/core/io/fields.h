#pragma once
// Fields of flat records in files (library/fields.h), and the numbers of a reliability, once: name (with its unit) and
// range. The JSON reader and printer and the lists read these tables; a test holds the schemas of docs/formats against
// them.

#include "core/io/json_cells.h"
#include "core/io/reading.h"
#include "core/library/fields.h"

#include <array>

namespace ts::io {

template <class Record> struct OptionalField {
    const char* name;
    double low, high;
    std::optional<double> Record::*value;
};
/// Of these, a reliability has exactly one, or a typical part instead.
inline constexpr std::array kReliabilityNumbers{
    OptionalField<Reliability>{"b10d_cycles", 1, 1e12, &Reliability::b10dCycles},
    OptionalField<Reliability>{"b10_cycles", 1, 1e12, &Reliability::b10Cycles},
    OptionalField<Reliability>{"mttfd_years", 1e-3, 1e6, &Reliability::mttfdYears},
    OptionalField<Reliability>{"mttf_years", 1e-3, 1e6, &Reliability::mttfYears},
    OptionalField<Reliability>{"fit_dangerous", 1e-6, 1e9, &Reliability::fitDangerous},
    OptionalField<Reliability>{"pfhd_per_hour", 1e-14, 1, &Reliability::pfhdPerHour},
};
inline constexpr OptionalField<Reliability> kDangerousShare{"dangerous_share", 0.001, 1, &Reliability::dangerousShare};

/// Fields of library/fields.h out of a file; an array of fields.
template <class Record, std::size_t n>
void readFields(ObjectReader& r, const std::array<Field<Record>, n>& all, Record& record)
{
    for (const Field<Record>& f : all) {
        if (const auto* number = std::get_if<double Record::*>(&f.value)) {
            const auto fallback = f.isRequired ? std::nullopt : std::optional(record.*(*number));
            record.*(*number) = r.number(f.name, f.low, f.high, fallback);
        } else if (const auto* count = std::get_if<int Record::*>(&f.value)) {
            record.*(*count) = r.integer(f.name, static_cast<int>(f.low), static_cast<int>(f.high), 0);
        } else {
            auto words = fields::wordsIn(f.words);
            words.emplace_back();
            record.*(*std::get_if<std::string Record::*>(&f.value)) = words.size() == 1 ? r.text(f.name)
                                                                                        : r.word(f.name, words, "");
        }
    }
}

/// What must be there, and what is other than by default.
template <class Record, std::size_t n>
void putFields(nlohmann::ordered_json& json, const std::array<Field<Record>, n>& all, const Record& record)
{
    const Record fresh;
    for (const Field<Record>& f : all)
        std::visit(
            [&](auto member) {
                if (!f.isRequired && record.*member == fresh.*member)
                    return;
                if constexpr (std::is_same_v<decltype(member), double Record::*>)
                    json[std::string(f.name)] = numberOf(record.*member);
                else
                    json[std::string(f.name)] = record.*member;
            },
            f.value);
}

} // namespace ts::io
