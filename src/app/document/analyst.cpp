#include "app/document/analyst.h"

namespace ts::app {

Analyst::Analyst(QObject* parent)
    : QObject(parent)
    , m_work(this)
{
}

void Analyst::analyse(Snapshot snapshot)
{
    using Shared = std::shared_ptr<const Analysis>;
    const auto work = [snapshot](std::stop_token stop) -> std::optional<Shared> {
        auto analysis = ts::analyse(*snapshot, stop);
        if (analysis)
            return std::make_shared<const Analysis>(std::move(*analysis));
        return analysis.error().code == ErrorCode::Cancelled ? std::nullopt : std::optional(Shared());
    };
    m_work.run(work, [this, snapshot](const std::shared_ptr<const Shared>& result) {
        m_result = *result;
        m_resultOf = snapshot;
        emit finished();
    });
}

} // namespace ts::app
