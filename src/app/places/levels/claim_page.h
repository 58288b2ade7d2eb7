#pragma once
// A page of the level desk: the claim as sentences beside the drawing they are about. One subsystem at a time: its
// strand of the path, its category with what is not met, a sentence for each part, what its channels share; then what
// no arithmetic can show, and how the standard is read.

#include "app/document/document.h"
#include "app/document/study_book.h"
#include "app/widgets/figure_view.h"
#include "app/widgets/word_flow.h"
#include "core/safety/level.h"
#include "core/ways/function_path.h"

#include <QWidget>

#include <functional>

class QPushButton;
class QVBoxLayout;

namespace ts::app {

class ClaimPage : public QWidget {
    Q_OBJECT
public:
    ClaimPage(Document& document, StudyBook& book, const Theme& theme, QWidget* parent);
    void show(FunctionId function, const safety::FunctionLevel& level);

private:
    using Refresh = std::function<void(const SafetyFunction&)>;
    void rebuild(const SafetyFunction& function);
    void addStrand(QVBoxLayout* into);
    void showStrand(const SafetyFunction& function);
    void lookAt(DeviceId device);
    void addSubsystem(QVBoxLayout* into);
    void addParts(QVBoxLayout* into);
    void askReliability(DeviceId device);
    QWidget* chainRow();
    void fillMore();
    void readFromWiring();
    void addAnswers(QVBoxLayout* into);
    void answerEverywhere();
    void addConditions(const SafetyFunction& function);
    void addCounting();
    void addReadings();
    QWidget* section(QVBoxLayout* into, const QString& title);
    void change(const QString& label, const std::function<void(SafetyFunction&)>& what);
    void changeSubsystem(const QString& label, const std::function<void(ClaimedSubsystem&)>& what);
    QString conditionsText(const safety::SubsystemLevel& level) const;
    QString wiredText(const SafetyFunction& function, DeviceId device) const;
    QString builtText(const SafetyFunction& function, DeviceId device) const;

    Document& m_document;
    StudyBook& m_book;
    const Theme& m_theme;
    FunctionId m_function;
    std::size_t m_subsystem = 0;
    safety::FunctionLevel m_level;
    std::string m_shape; ///< what was built for: another one is built anew
    std::vector<Refresh> m_refresh;
    std::shared_ptr<const FunctionPath> m_path;
    std::vector<int> m_strandKnots; ///< of the drawing, each its place in the path
    FigureView* m_strand = nullptr;
    WordFlow* m_which = nullptr;
    ChoiceWord* m_subsystems = nullptr;
    TextWord* m_name = nullptr;
    QPushButton* m_more = nullptr;
    QPushButton* m_less = nullptr;
    QWidget* m_inside = nullptr;
    QVBoxLayout* m_column = nullptr;
};

} // namespace ts::app
