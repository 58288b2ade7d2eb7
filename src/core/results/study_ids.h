#pragma once
// The name of each study with the type of what it yields, so that nobody asks for the wrong one. The types are known by
// name only: who reads a result includes its header. One line here for each study.

#include <string_view>

namespace ts {

template <class T> struct StudyOf {
    std::string_view id; ///< the word on the command line
};

struct Analysis;
struct FaultAnalysis;
struct StopStudy;
struct OtherTriggers;
struct ScenarioOutcomes;
struct Checked;
struct OnRecord;
struct FunctionPath;
namespace faults {
struct Sweep;
}
namespace sizing {
struct Sized;
}
namespace measuring {
struct TestPlan;
}
namespace exploration {
struct Explored;
struct Directed;
struct Trials;
} // namespace exploration

inline constexpr StudyOf<Analysis> kLevels{"levels"};
inline constexpr StudyOf<FunctionPath> kPath{"path"};
inline constexpr StudyOf<ScenarioOutcomes> kScenarios{"scenarios"};
inline constexpr StudyOf<faults::Sweep> kSingleFaults{"faults"};
inline constexpr StudyOf<faults::Sweep> kSecondFaults{"pairs"};
inline constexpr StudyOf<FaultAnalysis> kBuilt{"built"};
inline constexpr StudyOf<exploration::Explored> kOrders{"orders"};
inline constexpr StudyOf<exploration::Directed> kDirected{"directed"};
inline constexpr StudyOf<exploration::Trials> kTrials{"trials"};
inline constexpr StudyOf<sizing::Sized> kSizing{"sizing"};
inline constexpr StudyOf<StopStudy> kWorstStop{"stop"};
inline constexpr StudyOf<OtherTriggers> kOtherTriggers{"triggers"};
inline constexpr StudyOf<measuring::TestPlan> kTests{"tests"};
inline constexpr StudyOf<Checked> kChecks{"checks"};
/// No study: given, not worked out (on_record.h).
inline constexpr StudyOf<OnRecord> kOnRecord{"record"};

} // namespace ts
