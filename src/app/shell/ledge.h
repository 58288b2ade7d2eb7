#pragma once
// The ledge: one line at the bottom that opens. Findings that concern what is selected, else the first one, with
// what to do; and what was just refused.

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
    /// `tag`: of the selected device, may be empty.
    void setFindings(std::vector<Finding> findings, bool isStale, bool nothingChecked);
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
    std::vector<Finding> m_findings;
    std::string m_tag;
    QString m_said;
    bool m_isStale = false, m_nothingChecked = true, m_isOpen = false;
    QLabel* m_line;
    QToolButton* m_open;
    QLabel* m_list;
};

} // namespace ts::app
