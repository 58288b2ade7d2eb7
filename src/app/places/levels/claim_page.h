#pragma once
// A page of the level desk: the claim as questions. One subsystem at a time with its category and conditions, its parts
// with the measure that is claimed, the answers against common cause with their evidence; then what no arithmetic can
// show, and how the standard is read.

#include "app/document/document.h"
#include "app/document/study_book.h"
#include "app/widgets/theme.h"
#include "core/safety/level.h"

#include <QWidget>

#include <functional>

class QComboBox;
class QFormLayout;
class QGridLayout;
class QLabel;
class QLineEdit;
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
    void addSubsystem(const SafetyFunction& function);
    void addParts();
    void askReliability(DeviceId device);
    QWidget* chainRow();
    void fillMore();
    void readFromWiring();
    void addAnswers();
    void answerEverywhere();
    void addConditions(const SafetyFunction& function);
    void addCounting();
    void addReadings();
    QWidget* section(const QString& title);
    void change(const QString& label, const std::function<void(SafetyFunction&)>& what);
    void changeSubsystem(const QString& label, const std::function<void(ClaimedSubsystem&)>& what);
    QString conditionsText(const safety::SubsystemLevel& level) const;
    QString builtText(const SafetyFunction& function, DeviceId device) const;

    Document& m_document;
    StudyBook& m_book;
    const Theme& m_theme;
    FunctionId m_function;
    std::size_t m_subsystem = 0;
    safety::FunctionLevel m_level;
    std::string m_shape; ///< what was built for: another one is built anew
    std::vector<Refresh> m_refresh;
    QComboBox* m_subsystems = nullptr;
    QLabel* m_called = nullptr;
    QLineEdit* m_name = nullptr;
    QPushButton* m_more = nullptr;
    QPushButton* m_less = nullptr;
    QWidget* m_inside = nullptr;
    QVBoxLayout* m_column = nullptr;
};

} // namespace ts::app
