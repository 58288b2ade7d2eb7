#pragma once
// The ledge: one line at the bottom that opens. Findings that concern what is selected, else the first one, with
// what to do; and what was just refused.

#include "app/document/study_book.h"
#include "app/widgets/marks.h"
#include "core/model/finding.h"

#include <QWidget>

#include <vector>

class QLabel;
class QToolButton;
class QVBoxLayout;

namespace ts::app {

class Ledge : public QWidget {
    Q_OBJECT
public:
    Ledge(const Theme& theme, QWidget* parent);
    /// What the checks found, and how much of them was made.
    struct State {
        std::vector<Finding> findings;
        int checks = 0, open = 0; ///< registered; of these not made, or in part only
        bool isBehind = false; ///< something is still being worked out
        bool nothingChecked = true; ///< there is no function to check
    };
    void setState(State state);
    void take(const StudyBook& book, const Dossier& dossier);
    /// `tag`: of the selected device, may be empty.
    void setSelectedTag(const std::string& tag);
    /// Shown until something else happens.
    void say(const QString& text);
    QString line() const;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void refresh();
    std::vector<const Finding*> inOrder() const;

    const Theme& m_theme;
    State m_state;
    std::string m_tag;
    QString m_said;
    bool m_isOpen = false;
    QLabel* m_line;
    QToolButton* m_open;
    QLabel* m_list;
};

} // namespace ts::app
