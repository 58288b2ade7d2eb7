#pragma once
// What has been worked out of one dossier so far, by study and subject. Values are shared: a copy is cheap. Which
// studies there are and how they are run: studies/study.h. Their names as types: study_ids.h.

#include "core/base/expected.h"
#include "core/results/study_ids.h"
#include "core/results/subject.h"
#include "core/results/value.h"

#include <map>
#include <string>
#include <string_view>

namespace ts {

class Results {
public:
    void put(std::string_view study, const Subject& subject, Expected<Value> result);
    /// Null: not worked out, or in vain.
    template <class T> std::shared_ptr<const T> find(StudyOf<T> study, const Subject& subject = {}) const
    {
        const Expected<Value>* result = look(study.id, subject);
        return result && *result ? (*result)->template as<T>() : nullptr;
    }
    /// Worked out, or tried in vain.
    bool wasTried(std::string_view study, const Subject& subject) const { return look(study, subject) != nullptr; }
    /// Why it came to nothing; null where it was not tried, or did come to something.
    const Error* trouble(std::string_view study, const Subject& subject) const;

private:
    const Expected<Value>* look(std::string_view study, const Subject& subject) const;
    std::map<std::pair<std::string, Subject>, Expected<Value>, std::less<>> m_results;
};

} // namespace ts
