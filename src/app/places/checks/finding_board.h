#pragma once
// All findings by what a person does next about them, and what was not looked at. One at a time is unfolded where it
// stands: what may happen, what to do, what it rests on, and who has accepted it why.

#include "app/document/study_book.h"
#include "app/widgets/tall_column.h"
#include "app/widgets/theme.h"
#include "core/checks/check.h"
#include "core/record/record.h"

class QVBoxLayout;

namespace ts::app {

class FindingLine;

class FindingBoard : public TallColumn {
    Q_OBJECT
public:
    FindingBoard(const Theme& theme, QWidget* parent);
    /// What can be played of a finding is told by `canPlay`.
    void show(std::shared_ptr<const Checked> checked, const Dossier& dossier, const std::vector<RecordEntry>& record,
        const std::function<bool(const Finding&)>& canPlay);
    /// Nothing was checked yet, and why.
    void showNothing(const QString& why);
    /// The one that is unfolded; null: none.
    const Finding* opened() const;
    void open(const std::string& key);

signals:
    void openedChanged();
    void showWanted(const ts::Target& target);
    void playWanted(const ts::Finding& finding);
    void acceptWanted(const ts::Finding& finding, const QString& who, const QString& role, const QString& why);
    void withdrawWanted(const ts::Finding& finding, const QString& who, const QString& role, const QString& why);
    void runWanted(const QString& study, const ts::Subject& subject);

protected:
    void keyPressEvent(QKeyEvent*) override;

private:
    void clear();
    void buildSoon();
    void build();
    void addGroup(Remedy remedy);
    void addFinding(const Finding& finding);
    QWidget* sheetOf(const Finding& finding);
    QWidget* acceptanceOf(const Finding& finding, QWidget* parent);
    void addMissing();
    QString missingText(const NotLookedAt& n) const;

    const Theme& m_theme;
    QVBoxLayout* m_column;
    std::vector<QWidget*> m_rows;
    std::vector<FindingLine*> m_lines;
    std::shared_ptr<const Checked> m_checked;
    Dossier m_dossier;
    std::vector<RecordEntry> m_record;
    std::function<bool(const Finding&)> m_canPlay;
    std::string m_opened; ///< key of the finding
    bool m_isDue = false; ///< to be built
    QString m_who, m_role; ///< of the last entry here
};

} // namespace ts::app
