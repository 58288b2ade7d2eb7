#pragma once
// Against common cause: a picture of what the two channels share by the file, and beside it the questions, each with
// where its answer can be seen. Source: ISO 13849-1 annex F.

#include "app/widgets/figure_view.h"
#include "app/widgets/word_flow.h"
#include "core/model/dossier.h"

#include <QWidget>

#include <functional>

namespace ts::app {

class CommonCause : public QWidget {
    Q_OBJECT
public:
    using Change = std::function<void(const QString& label, const std::function<void(ClaimedSubsystem&)>&)>;
    CommonCause(const Theme& theme, Change change, QWidget* parent);
    void show(const Circuit& circuit, const ClaimedSubsystem& subsystem);

signals:
    /// The same answers for every subsystem.
    void everywhereWanted();

private:
    struct Question {
        std::string id;
        ToggleWord* answer = nullptr;
        TextWord* evidence = nullptr;
    };
    Change m_change;
    FigureView* m_drawing = nullptr;
    std::vector<Question> m_questions;
};

} // namespace ts::app
