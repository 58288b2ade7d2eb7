#pragma once
// Where an answer can be seen, by what it answers; and how a line shows a text without that being an edit.

#include <QLineEdit>

#include <map>
#include <string>

namespace ts::app {

inline std::string evidenceOf(const std::map<std::string, std::string>& all, const std::string& about)
{
    const auto found = all.find(about);
    return found == all.end() ? std::string() : found->second;
}

inline void setEvidence(std::map<std::string, std::string>& all, const std::string& about, const std::string& seen)
{
    if (seen.empty())
        all.erase(about);
    else
        all[about] = seen;
}

/// What the line shows is put there only if it differs.
inline void putWords(QLineEdit* line, const std::string& text)
{
    if (line->hasFocus() || line->text().toStdString() == text)
        return;
    line->setText(QString::fromStdString(text));
    line->setCursorPosition(0);
}

} // namespace ts::app
